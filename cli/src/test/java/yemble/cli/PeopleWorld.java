package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * People with accounts, sessions, payments and notes, on one of the three engines: what stand-ins
 * and tokens are tried on. Its sides are {@code live}, {@code dev}, {@code other} and {@code
 * store}.
 */
final class PeopleWorld {
  static final int PEOPLE = 60;
  static final String PASSWORD_LIKE = "ab".repeat(32);

  private static final List<String> TABLES =
      List.of(
          "CREATE TABLE person (id INTEGER PRIMARY KEY, name VARCHAR(60) NOT NULL,"
              + " national_id VARCHAR(20))",
          "CREATE TABLE account (username VARCHAR(60) PRIMARY KEY, person_id INTEGER,"
              + " secret VARCHAR(80), FOREIGN KEY (person_id) REFERENCES person (id))",
          "CREATE TABLE login (no INTEGER PRIMARY KEY, username VARCHAR(60),"
              + " FOREIGN KEY (username) REFERENCES account (username))",
          "CREATE TABLE payment (id INTEGER PRIMARY KEY, person_id INTEGER, card_no VARCHAR(20),"
              + " FOREIGN KEY (person_id) REFERENCES person (id))",
          "CREATE TABLE note (id INTEGER PRIMARY KEY, person_id INTEGER, body VARCHAR(200),"
              + " FOREIGN KEY (person_id) REFERENCES person (id))");
  private static final List<String> NAMES =
      List.of("person", "account", "login", "payment", "note");
  private static final String REGISTER =
      """
      column,type,kind,decision
      person.id,,,keep
      person.name,,full-name,mask
      person.national_id,,national-id,mask
      account.username,,username,mask
      account.person_id,,,keep
      account.secret,,password-hash,mask
      login.no,,,keep
      login.username,,username,mask
      payment.id,,,keep
      payment.person_id,,,keep
      payment.card_no,,card-number,mask
      note.id,,,keep
      note.person_id,,,keep
      note.body,,note,mask
      """;

  final Sandbox files;
  private final String engine;
  private final Path folder;
  private String more = "";
  private String confirmed = "";

  PeopleWorld(String engine, Path folder) throws Exception {
    this.engine = engine;
    this.folder = folder;
    this.files = new Sandbox(folder).quick();
    files.key(Sandbox.KEY);
    files.write("register.csv", REGISTER);
    if (!engine.equals("sqlite")) {
      for (String side : List.of("live", "dev", "other", "store")) {
        Client.renew(engine, "people_" + side);
      }
    }
    sql("live", TABLES);
    for (int i = 0; i < PEOPLE; i++) {
      add(i, "Tavin" + (char) ('a' + i % 26) + " Gullane" + (char) ('a' + i / 26));
    }
  }

  /** One more person, with all that belongs to one. */
  void add(int i, String name) throws SQLException {
    sql(
        "live",
        List.of(
            "INSERT INTO person VALUES (" + i + ", '" + name + "', '" + nationalId(i) + "')",
            "INSERT INTO account VALUES ('tgullane" + i + "', " + i + ", '" + PASSWORD_LIKE + "')",
            "INSERT INTO login VALUES (" + i + ", 'tgullane" + i + "')",
            "INSERT INTO payment VALUES (" + i + ", " + i + ", '" + card(i) + "')",
            "INSERT INTO note VALUES (" + i + ", " + i + ", 'Rang " + name + " about the cabin')"));
  }

  static String nationalId(int i) {
    return String.format("OR%08d", 10_000_000 + i * 7919);
  }

  static String card(int i) {
    return String.format("40000000%08d", i * 104_729);
  }

  void sql(String side, List<String> statements) throws SQLException {
    try (Connection connection = connect(side);
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private Connection connect(String side) throws SQLException {
    return engine.equals("sqlite")
        ? DriverManager.getConnection("jdbc:sqlite:" + folder.resolve(side + ".db"))
        : Servers.of(engine).connect("people_" + side);
  }

  List<String> rows(String side, String query) throws SQLException {
    List<String> rows = new ArrayList<>();
    try (Connection connection = connect(side);
        Statement statement = connection.createStatement();
        ResultSet result = statement.executeQuery(query)) {
      while (result.next()) {
        StringBuilder row = new StringBuilder();
        for (int i = 1; i <= result.getMetaData().getColumnCount(); i++) {
          row.append(i > 1 ? "|" : "").append(result.getString(i));
        }
        rows.add(row.toString());
      }
    }
    Collections.sort(rows);
    return rows;
  }

  String one(String side, String query) throws SQLException {
    List<String> rows = rows(side, query);
    assertThat(rows).as(query).hasSize(1);
    return rows.get(0);
  }

  Map<String, List<String>> content(String side) throws SQLException {
    Map<String, List<String>> content = new TreeMap<>();
    for (String table : NAMES) {
      content.put(table, rows(side, "SELECT * FROM " + table));
    }
    return content;
  }

  /** Address and sign-in of a side, as a project file has them. */
  String url(String side) {
    return engine.equals("sqlite")
        ? "url: 'jdbc:sqlite:" + side + ".db'"
        : "url: '"
            + Servers.of(engine).url("people_" + side)
            + "', user: "
            + Servers.of(engine).user();
  }

  /** The project with further words at its end. */
  void project(String words) throws Exception {
    more = words;
    files.write(
        "yemble.yaml",
        "version: 1\ndatabases:\n  live: { "
            + url("live")
            + ", environment: copy, rewrite: true"
            + confirmed
            + " }\n  dev: { "
            + url("dev")
            + ", environment: test }\n  other: { "
            + url("other")
            + ", environment: test }\n"
            + "jobs:\n  all: { from: live, into: dev, load: replace }\n"
            + words);
  }

  /** Writes what a person writes after confirmed:, out of the refusal that asks for it. */
  void confirm() throws Exception {
    Program.Result refused = files.yemble("rewrite");
    assertThat(refused.err()).contains("target-unconfirmed");
    confirmed =
        ", confirmed: '" + refused.err().replaceAll("(?s).*confirmed: ([^\n]*)\n.*", "$1") + "'";
    project(more);
  }

  Program.Result yemble(int exitCode, String... args) {
    Program.Result result = files.yemble(args);
    assertThat(result.exitCode())
        .as(String.join(" ", args) + "\n" + result.all())
        .isEqualTo(exitCode);
    return result;
  }

  /** All that lies in the project's folder, but for the databases of an engine of files. */
  List<Path> written() throws Exception {
    try (var files = Files.walk(folder)) {
      return files
          .filter(Files::isRegularFile)
          .filter(file -> !file.toString().endsWith("live.db"))
          .toList();
    }
  }
}
