package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

import java.nio.charset.StandardCharsets;
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
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * A copy that is masked where it stands holds, row by row, what a run loads into an empty database:
 * by plain queries of both. Its keys, indexes and triggers are what they were, and whenever it is
 * killed, the next one goes on. As often as {@code yemble.kills} says; without it once, on MariaDB,
 * and an undo on SQLite.
 */
class RewriteIT {
  private static final List<String> TABLES =
      List.of(
          "CREATE TABLE log (id INTEGER PRIMARY KEY, words VARCHAR(100))",
          "CREATE TABLE port (id INTEGER PRIMARY KEY, name VARCHAR(40))",
          "CREATE TABLE person (id INTEGER PRIMARY KEY, name VARCHAR(60) NOT NULL,"
              + " email VARCHAR(80), code VARCHAR(2) NOT NULL, boss_id INTEGER, port_id INTEGER,"
              + " UNIQUE (email), UNIQUE (code), FOREIGN KEY (port_id) REFERENCES port (id))",
          "CREATE TABLE account (username VARCHAR(60) PRIMARY KEY, person_id INTEGER,"
              + " secret VARCHAR(40), FOREIGN KEY (person_id) REFERENCES person (id))",
          "CREATE TABLE login (username VARCHAR(60), no INTEGER, at VARCHAR(20),"
              + " PRIMARY KEY (username, no),"
              + " FOREIGN KEY (username) REFERENCES account (username))",
          "CREATE INDEX login_at ON login (at)",
          "CREATE TABLE newsletter (email VARCHAR(80), name VARCHAR(60))",
          "CREATE TABLE note (id INTEGER PRIMARY KEY, person_id INTEGER, body VARCHAR(200),"
              + " FOREIGN KEY (person_id) REFERENCES person (id))");
  private static final List<String> NAMES =
      List.of("log", "port", "person", "account", "login", "newsletter", "note", "token");
  private static final String REGISTER =
      """
      column,type,kind,decision
      log.id,,,keep
      log.words,,,keep
      port.id,,,keep
      port.name,,,keep
      person.id,,,keep
      person.name,,full-name,mask
      person.email,,email,mask
      person.code,,,mask
      person.boss_id,,,keep
      person.port_id,,,keep
      account.username,,username,mask
      account.person_id,,,keep
      account.secret,,,mask
      login.username,,username,mask
      login.no,,,keep
      login.at,,,keep
      newsletter.email,,email,mask
      newsletter.name,,full-name,mask
      note.id,,,keep
      note.person_id,,,keep
      note.body,,note,mask
      token.id,,,keep
      token.owner,,full-name,mask
      token.touched,,,keep
      """;
  private static final int PEOPLE = 200;

  @TempDir Path folder;
  private String engine;
  private Sandbox files;

  private Connection connect(String side) throws SQLException {
    return engine.equals("sqlite")
        ? DriverManager.getConnection("jdbc:sqlite:" + files.file(side + ".db"))
        : Servers.of(engine).connect("rewrite_" + side);
  }

  private void sql(String side, List<String> statements) throws SQLException {
    try (Connection connection = connect(side);
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private List<String> rows(String side, String query) throws SQLException {
    List<String> rows = new ArrayList<>();
    try (Connection connection = connect(side);
        Statement statement = connection.createStatement();
        ResultSet result = statement.executeQuery(query)) {
      while (result.next()) {
        StringBuilder row = new StringBuilder();
        for (int i = 1; i <= result.getMetaData().getColumnCount(); i++) {
          row.append(result.getString(i)).append('|');
        }
        rows.add(row.toString());
      }
    }
    Collections.sort(rows);
    return rows;
  }

  private Map<String, List<String>> content(String side) throws SQLException {
    Map<String, List<String>> content = new TreeMap<>();
    for (String table : NAMES) {
      content.put(table, rows(side, "SELECT * FROM " + table));
    }
    if (engine.equals("postgresql")) {
      content.put("named", rows(side, "SELECT * FROM named"));
    }
    return content;
  }

  /** Keys, indexes, triggers, and which tables there are at all. */
  private List<String> catalog(String side) throws SQLException {
    return switch (engine) {
      case "sqlite" ->
          rows(side, "SELECT type, name, sql FROM sqlite_master WHERE name <> 'yemble_mark'");
      case "postgresql" ->
          rows(
              side,
              "SELECT 'c', conrelid::regclass::text, pg_get_constraintdef(oid) FROM pg_constraint"
                  + " UNION ALL SELECT 'i', indexdef, '' FROM pg_indexes"
                  + " WHERE schemaname = 'public'"
                  + " UNION ALL SELECT 't', tgname, tgenabled::text FROM pg_trigger"
                  + " WHERE NOT tgisinternal UNION ALL SELECT 'r', relname, '' FROM pg_class c"
                  + " JOIN pg_namespace n ON n.oid = relnamespace AND nspname = 'yemble'"
                  + " WHERE relname <> 'mark'");
      default ->
          rows(
              side,
              "SELECT 'k', table_name, column_name, constraint_name FROM"
                  + " information_schema.key_column_usage WHERE table_schema = database()"
                  + " UNION ALL SELECT 'i', table_name, index_name, column_name FROM"
                  + " information_schema.statistics WHERE table_schema = database()"
                  + " UNION ALL SELECT 't', trigger_name, action_statement, '' FROM"
                  + " information_schema.triggers WHERE trigger_schema = database()"
                  + " UNION ALL SELECT 'r', table_name, '', '' FROM information_schema.tables"
                  + " WHERE table_schema = database() AND table_name <> 'yemble_mark'");
    };
  }

  private String trigger() {
    String insert = "INSERT INTO log VALUES (100000 + NEW.id, 'changed')";
    return switch (engine) {
      case "sqlite" -> "CREATE TRIGGER changed AFTER UPDATE ON person BEGIN " + insert + "; END";
      case "mariadb" -> "CREATE TRIGGER changed AFTER UPDATE ON person FOR EACH ROW " + insert;
      default ->
          "CREATE FUNCTION changed() RETURNS trigger LANGUAGE plpgsql AS $$BEGIN "
              + insert
              + "; RETURN NEW; END$$; CREATE TRIGGER changed AFTER UPDATE ON person FOR EACH ROW"
              + " EXECUTE FUNCTION changed()";
    };
  }

  /** A restored copy, as it is before. */
  private void restore() throws Exception {
    if (engine.equals("sqlite")) {
      Files.deleteIfExists(files.file("copy.db"));
      Files.deleteIfExists(files.file("copy.db.yemble-rewrite"));
    }
    List<String> statements = new ArrayList<>();
    if (engine.equals("postgresql")) {
      statements.add("DROP SCHEMA IF EXISTS yemble CASCADE");
      statements.add("DROP SCHEMA public CASCADE");
      statements.add("CREATE SCHEMA public");
    } else if (engine.equals("mariadb")) {
      statements.add("DROP DATABASE rewrite_copy");
      statements.add("CREATE DATABASE rewrite_copy CHARACTER SET utf8mb4");
      statements.add("USE rewrite_copy");
    }
    statements.addAll(TABLES);
    statements.add(
        "CREATE TABLE token (id "
            + (engine.equals("sqlite") ? "TEXT" : "UUID")
            + " PRIMARY KEY, owner VARCHAR(60), touched TIMESTAMP NULL"
            + (engine.equals("mariadb") ? " ON UPDATE CURRENT_TIMESTAMP" : "")
            + ")");
    statements.add("INSERT INTO port VALUES (1, 'Skerra'), (2, 'Orlisay')");
    statements.add("INSERT INTO log VALUES (1, 'Corvan Gullane came aboard')");
    List<String> people = new ArrayList<>();
    List<String> accounts = new ArrayList<>();
    List<String> logins = new ArrayList<>();
    List<String> letters = new ArrayList<>();
    List<String> notes = new ArrayList<>();
    List<String> tokens = new ArrayList<>();
    for (int i = 0; i < PEOPLE; i++) {
      String name = "Tavin" + (char) ('a' + i % 26) + " Gullane" + (char) ('a' + i / 26);
      String mail = i % 17 == 3 ? "NULL" : "'tavin.gullane" + i + "@orlisay.example'";
      String code = "'" + (char) ('A' + i / 10) + i % 10 + "'";
      people.add(
          "("
              + i
              + ", '"
              + name
              + "', "
              + mail
              + ", "
              + code
              + ", "
              + (i > 0 ? i / 2 : "NULL")
              + ", "
              + (i % 2 + 1)
              + ")");
      accounts.add("('tgullane" + i + "', " + i + ", 'secret-" + i + "')");
      logins.add("('tgullane" + i + "', 1, '2026-01-01'), ('tgullane" + i + "', 2, NULL)");
      letters.add("(" + mail + ", '" + name + "')");
      String id = String.format("%08x-1111-4111-8111-0123456789ab", i * 7919 % 1000003);
      tokens.add("('" + id + "', '" + name + "', '2026-02-03 04:05:06')");
      notes.add("(" + i + ", " + i + ", 'Rang " + name + " about the cabin')");
    }
    statements.add("INSERT INTO person VALUES " + String.join(", ", people));
    statements.add("INSERT INTO account VALUES " + String.join(", ", accounts));
    statements.add("INSERT INTO login VALUES " + String.join(", ", logins));
    statements.add("INSERT INTO newsletter VALUES " + String.join(", ", letters));
    statements.add("INSERT INTO note VALUES " + String.join(", ", notes));
    statements.add("INSERT INTO token VALUES " + String.join(", ", tokens));
    statements.add(trigger());
    if (engine.equals("postgresql")) {
      statements.add("CREATE MATERIALIZED VIEW named AS SELECT id, name FROM person");
    }
    sql("copy", statements);
  }

  private String url(String side) {
    return engine.equals("sqlite")
        ? "url: 'jdbc:sqlite:" + side + ".db'"
        : "url: '"
            + Servers.of(engine).url("rewrite_" + side)
            + "', user: "
            + Servers.of(engine).user();
  }

  private void project(String more, String job) throws Exception {
    files.write(
        "yemble.yaml",
        "version: 1\ndatabases:\n  copy: { "
            + url("copy")
            + ", environment: copy"
            + more
            + " }\n  dev: { "
            + url("dev")
            + ", environment: test }\n"
            + "links: { person.boss_id -> person.id: {} }\n"
            + "jobs:\n  all: { from: copy, into: dev, load: replace, empty: [log]"
            + job
            + " }\n");
  }

  /** What a person writes after confirmed:, out of the refusal that asks for it. */
  private String confirmed() throws Exception {
    project(", rewrite: true", "");
    Program.Result refused = files.yemble("rewrite");
    assertThat(refused.exitCode()).as(refused.all()).isEqualTo(3);
    assertThat(refused.err()).contains("target-unconfirmed");
    return refused.err().replaceAll("(?s).*confirmed: ([^\n]*)\n.*", "$1");
  }

  private void prepare(String with) throws Exception {
    engine = with;
    files = new Sandbox(folder).quick();
    files.key(Sandbox.KEY);
    files.write("register.csv", REGISTER);
    if (!engine.equals("sqlite")) {
      Client.renew(engine, "rewrite_copy");
      Client.renew(engine, "rewrite_dev");
    }
    restore();
    project(", rewrite: true, confirmed: '" + confirmed() + "'", "");
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void isWhatARunLoads(String with) throws Exception {
    prepare(with);
    Program.Result run = files.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    Map<String, List<String>> before = content("copy");
    Map<String, List<String>> wanted = content("dev");
    List<String> catalog = catalog("copy");

    Program.Result dry = files.yemble("rewrite", "--dry");
    assertThat(dry.exitCode()).as(dry.all()).isZero();
    assertThat(dry.out())
        .contains("whole: key masked", "whole: no key", "emptied", "by key (or whole)")
        .contains("Dry: nothing was written.");
    assertThat(content("copy")).isEqualTo(before);

    Program.Result rewrite = files.yemble("rewrite", "--batch", "30");
    assertThat(rewrite.exitCode()).as(rewrite.all()).isZero();
    assertThat(rewrite.out())
        .contains("holds        rewritten")
        .contains("holds        absence")
        .doesNotContain("fails");
    assertThat(content("copy")).isEqualTo(wanted);
    assertThat(catalog("copy")).isEqualTo(catalog);
    assertThat(wanted.get("log")).isEmpty();
    for (Path file : dataFiles()) {
      String bytes = Files.readString(file, StandardCharsets.ISO_8859_1);
      assertThat(List.of("Gullane", "gullane", "Corvan", "secret-"))
          .as("left in " + file)
          .noneMatch(bytes::contains);
    }
    assertThat(folder.toFile().list()).noneMatch(name -> name.contains("yemble-"));

    nothingIsNew();
    assertThat(content("copy")).isEqualTo(wanted);
  }

  private static String[] and(String[] some, String... more) {
    return Stream.concat(Stream.of(some), Stream.of(more)).toArray(String[]::new);
  }

  private void nothingIsNew() throws Exception {
    Program.Result again = files.yemble("rewrite");
    assertThat(again.exitCode()).as(again.all()).isZero();
    assertThat(again.out()).contains("Rewritten before by", "Nothing is new");
  }

  /**
   * What came since, and what was decided since, becomes what it would be if it had been there from
   * the beginning; what was masked before stays, whoever bears its names.
   */
  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void whatIsNewIsMaskedLater(String with) throws Exception {
    prepare(with);
    assertThat(files.yemble("run", "--yes").exitCode()).isZero();
    String standIn = rows("dev", "SELECT name FROM person WHERE id = 7").get(0).replace("|", "");
    String letters = "INSERT INTO newsletter VALUES ('new@orlisay.example', 'Tavin Gullanez')";
    List<String> come =
        List.of(
            "INSERT INTO person VALUES (900, 'Tavin Gullanez', 'new@orlisay.example', '1A', 7, 1),"
                + " (901, '"
                + standIn
                + "', NULL, '2B', 900, 2)",
            "INSERT INTO account VALUES ('tgullanez', 900, 'secret-new')",
            "DELETE FROM log",
            letters);
    sql("copy", come);
    String later = REGISTER.replace("port.name,,,keep", "port.name,,,mask");
    files.write("register.csv", later);
    assertThat(files.yemble("run", "--yes").exitCode()).isZero();
    Map<String, List<String>> wanted = content("dev");
    List<String> person = rows("dev", "SELECT name FROM person WHERE id IN (7, 901)");
    assertThat(person).hasSize(2).doesNotHaveDuplicates();

    restore();
    files.write("register.csv", REGISTER);
    assertThat(files.yemble("rewrite").exitCode()).isZero();
    Map<String, List<String>> first = content("copy");
    sql("copy", come);
    if (engine.equals("postgresql")) {
      sql("copy", List.of("REFRESH MATERIALIZED VIEW named"));
    }
    Map<String, List<String>> before = content("copy");
    files.write("register.csv", later);
    Program.Result untold = files.yemble("rewrite");
    assertThat(untold.exitCode()).as(untold.all()).isEqualTo(3);
    assertThat(untold.err())
        .contains(
            "nobody can tell which rows are new", "newsletter", "--rows \"TABLE: CONDITION\"");
    String[] rewrite = {
      "rewrite",
      "--rows",
      "newsletter: email = 'new@orlisay.example'",
      "--rows",
      "account: username = 'tgullanez'"
    };
    assertThat(files.yemble(and(rewrite, "--dry")).out())
        .contains(engine.equals("mariadb") ? "`id` > 199" : "\"id\" > 199", "11 cells in 6 rows");
    assertThat(content("copy")).isEqualTo(before);

    files.yemble("key", "new", "undo");
    Program.Result second = files.yemble(and(rewrite, "--undo", "1h"));
    assertThat(second.exitCode()).as(second.all()).isZero();
    assertThat(content("copy")).isEqualTo(wanted);
    assertThat(files.yemble("rewrite").err()).contains("originals are kept of an earlier rewrite");
    Program.Result undo = files.yemble("undo");
    assertThat(undo.exitCode()).as(undo.all()).isZero();
    assertThat(content("copy")).isEqualTo(before);
    Path script = Files.createDirectories(files.file("sql"));
    if (!engine.equals("mariadb")) {
      assertThat(files.yemble(and(rewrite, "--to", script + "/load.sql")).exitCode()).isZero();
      Client.loads(
          engine,
          script,
          engine.equals("sqlite") ? files.file("copy.db").toString() : "rewrite_copy");
    } else {
      assertThat(files.yemble(rewrite).exitCode()).isZero();
    }
    assertThat(content("copy")).isEqualTo(wanted);
    nothingIsNew();

    // What cannot be known: texts that name who is gone, links to who has another key by now.
    sql("copy", List.of("INSERT INTO note VALUES (900, 7, 'Rang Taviny Gullanez')"));
    Program.Result text = files.yemble("rewrite");
    assertThat(text.exitCode()).isEqualTo(3);
    assertThat(text.err())
        .contains("note.body may hold originals of person.", "note.body: { filler: true }");
    sql("copy", List.of("DELETE FROM note WHERE id = 900"));
    sql(
        "copy",
        List.of("INSERT INTO login SELECT username, 77, NULL FROM account WHERE person_id = 7"));
    assertThat(files.yemble("rewrite", "--rows", "login: no = 77").err())
        .contains("rows came whose references nobody can follow", "login.username");
    sql("copy", List.of("DELETE FROM login WHERE no = 77"));
    String other = "UPDATE person SET name = 'Somebody Else', email = NULL, code = '3C'";
    sql("copy", List.of(other + " WHERE id = 3"));
    Program.Result changed = files.yemble("rewrite");
    assertThat(changed.exitCode()).as(changed.all()).isEqualTo(3);
    assertThat(changed.err()).contains("nothing counts its keys");
    Program.Result said = files.yemble("rewrite", "--rows", "person: id = 3");
    assertThat(said.exitCode()).as(said.all()).isZero();
    assertThat(one("SELECT name FROM person WHERE id = 3")).isNotEqualTo("Somebody Else");
    assertThat(first.get("port")).isNotEqualTo(wanted.get("port"));
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void whatWasKeptIsPutBack(String with) throws Exception {
    prepare(with);
    Map<String, List<String>> before = content("copy");
    List<String> catalog = catalog("copy");
    assertThat(files.yemble("rewrite", "--undo", "2h").err()).contains("yemble key new undo");
    assertThat(files.yemble("key", "new", "undo").exitCode()).isZero();
    Program.Result rewrite = files.yemble("rewrite", "--undo", "2h");
    assertThat(rewrite.exitCode()).as(rewrite.all()).isZero();
    assertThat(rewrite.out()).contains("originals can be put back: yemble undo all");
    for (Path file : dataFiles()) {
      assertThat(Files.readString(file, StandardCharsets.ISO_8859_1))
          .as("in " + file)
          .doesNotContain("Gullane", "gullane");
    }
    assertThat(files.yemble("undo", "--list").out()).contains("copy", ".undo");
    Program.Result verify = files.yemble("verify", "--into", "copy", "--unchanged");
    assertThat(verify.exitCode()).as(verify.all()).isZero();
    assertThat(verify.out())
        .contains("the tables held after the rewrite", "way back", "originals are kept until");
    // Somebody works with it: two rows by key, a whole table without one.
    sql(
        "copy",
        List.of(
            "UPDATE person SET name = 'Ours' WHERE id = 7",
            "UPDATE note SET body = 'Ours' WHERE id = 3",
            "DELETE FROM note WHERE id = 4",
            "INSERT INTO newsletter VALUES ('ours@dev.example', 'Ours')",
            "DELETE FROM log"));
    Map<String, List<String>> edited = content("copy");
    Program.Result undo = files.yemble("undo", "--batch", "30", "--show-values");
    assertThat(undo.exitCode()).as(undo.all()).isZero();
    assertThat(undo.out())
        .contains("warning: newsletter was changed since", "holds        put back")
        .containsPattern("note +2  3  4");
    Map<String, List<String>> after = content("copy");
    for (String table : List.of("account", "login", "port", "log", "token")) {
      assertThat(after.get(table)).as(table).isEqualTo(before.get(table));
    }
    // Its new codes meet old ones, so that it goes back whole or not at all.
    assertThat(undo.out()).containsPattern("person +1  so the whole table");
    assertThat(after.get("person")).isEqualTo(edited.get("person"));
    assertThat(after.get("newsletter")).isEqualTo(edited.get("newsletter"));
    List<String> back = new ArrayList<>(after.get("note"));
    back.removeAll(before.get("note"));
    assertThat(back).containsExactly("3|3|Ours|");
    assertThat(after.get("note")).hasSize(PEOPLE - 1);
    assertThat(catalog("copy")).isEqualTo(catalog);
    assertThat(files.yemble("undo", "--list").out()).contains("nothing can be taken back");
    assertThat(files.yemble("undo").exitCode()).isEqualTo(2);
    files.write(".yemble/undo/copy.until-20200101T000000Z.undo", "its time is over");
    files.yemble("undo", "--list");
    assertThat(files.file(".yemble/undo/copy.until-20200101T000000Z.undo")).doesNotExist();
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void aScriptDoesTheSameAnotherDay(String with) throws Exception {
    assumeThat(Client.knows(with)).isTrue();
    prepare(with);
    if (engine.equals("mariadb")) {
      Program.Result fires = files.yemble("rewrite", "--to", "sql/load.sql");
      assertThat(fires.exitCode()).as(fires.all()).isNotZero();
      sql("copy", List.of("DROP TRIGGER changed"));
    }
    assertThat(files.yemble("run", "--yes").exitCode()).isZero();
    Map<String, List<String>> wanted = content("dev");
    Map<String, List<String>> before = content("copy");
    List<String> catalog = catalog("copy");
    Path script = Files.createDirectories(files.file("sql"));
    String target = engine.equals("sqlite") ? files.file("copy.db").toString() : "rewrite_copy";
    String[] write = {"rewrite", "--batch", "50", "--overwrite", "--to", script + "/load.sql"};
    Program.Result written = files.yemble(write);
    assertThat(written.exitCode()).as(written.all()).isZero();
    assertThat(content("copy")).isEqualTo(before);
    assertThat(catalog("copy")).isEqualTo(catalog);
    String text = files.read("sql/load.sql");
    assertThat(text)
        .contains("-- batch 2", "UPDATE ", " WHERE ")
        .doesNotContain("Gullane", "gullane");
    Client.loads(engine, script, target);
    assertThat(content("copy")).isEqualTo(wanted);
    assertThat(catalog("copy")).isEqualTo(catalog);
    nothingIsNew();

    // A row that has changed since stops it there.
    restore();
    if (engine.equals("mariadb")) {
      sql("copy", List.of("DROP TRIGGER changed"));
    }
    assertThat(files.yemble(write).exitCode()).isZero();
    sql(
        "copy",
        List.of(
            engine.equals("sqlite")
                ? "DELETE FROM note WHERE id = 3"
                : "UPDATE note SET body = 'Ours' WHERE id = 3"));
    Map<String, List<String>> edited = content("copy");
    Program.Result stopped = Client.load(engine, script, target);
    assertThat(stopped.exitCode()).as(stopped.all()).isNotZero();
    assertThat(stopped.all()).containsPattern("rows.have.changed|rows_are_as_they_were");
    if (engine.equals("sqlite")) {
      assertThat(content("copy")).isEqualTo(edited);
    }
    assertThat(content("copy").get("note")).isEqualTo(edited.get("note"));
  }

  @Test
  void aRoleThatMaySwitchNothingOffDoesItAtOnce() throws Exception {
    prepare("postgresql");
    List<String> mine = new ArrayList<>();
    if (rows("copy", "SELECT 1 FROM pg_roles WHERE rolname = 'clerk'").isEmpty()) {
      mine.add("CREATE ROLE clerk LOGIN");
    }
    mine.add("GRANT CREATE ON DATABASE rewrite_copy TO clerk");
    mine.add("ALTER SCHEMA public OWNER TO clerk");
    NAMES.forEach(table -> mine.add("ALTER TABLE " + table + " OWNER TO clerk"));
    mine.add("ALTER FUNCTION changed() OWNER TO clerk");
    mine.add("CREATE MATERIALIZED VIEW mails AS SELECT email FROM person");
    mine.add("ALTER MATERIALIZED VIEW mails OWNER TO clerk");
    mine.add("ALTER MATERIALIZED VIEW named OWNER TO clerk");
    sql("copy", mine);
    List<String> catalog = catalog("copy");
    files.write(
        "yemble.yaml",
        files
            .read("yemble.yaml")
            .replaceFirst("user: " + Servers.of(engine).user(), "user: clerk"));
    Program.Result rewrite = files.yemble("rewrite", "--batch", "30");
    assertThat(rewrite.exitCode()).as(rewrite.all()).isZero();
    assertThat(rewrite.out())
        .contains("removed  dead rows", "yours    planner statistics: made again; the old ones");
    assertThat(catalog("copy")).isEqualTo(catalog);
    assertThat(rows("copy", "SELECT * FROM log")).isEmpty();
    assertThat(rows("copy", "SELECT email FROM mails WHERE email LIKE '%gullane%'")).isEmpty();
    assertThat(rows("copy", "SELECT email FROM person WHERE email LIKE '%gullane%'")).isEmpty();
  }

  /** Where the copy's rows lie, and all that is kept of the project. */
  private List<Path> dataFiles() throws Exception {
    List<Path> all = new ArrayList<>();
    Path home = files.file("copy.db");
    if (engine.equals("postgresql")) {
      sql("copy", List.of("CHECKPOINT"));
      String database = "SELECT oid FROM pg_database WHERE datname = current_database()";
      home = Path.of(one("SHOW data_directory"), "base", one(database));
    } else if (engine.equals("mariadb")) {
      home = Path.of(one("SELECT @@datadir"), "rewrite_copy");
    }
    for (Path folder : List.of(home, files.file(".yemble"))) {
      try (Stream<Path> files = Files.walk(folder)) {
        files.filter(Files::isRegularFile).forEach(all::add);
      }
    }
    assertThat(all).isNotEmpty();
    return all;
  }

  private String one(String query) throws SQLException {
    return rows("copy", query).get(0).replaceFirst("\\|$", "");
  }

  @Test
  void whoIsNotOfTheJobStays() throws Exception {
    prepare("sqlite");
    Map<String, List<String>> before = content("copy");
    String confirmed = ", rewrite: true, confirmed: '" + files.file("copy.db") + "'";
    project(confirmed, ", pick: { note: { where: \"id < 5\" } }");
    Program.Result keyless = files.yemble("rewrite");
    assertThat(keyless.exitCode()).isEqualTo(2);
    assertThat(keyless.err()).contains("rewritten all, or none", "whole: [");
    String some =
        ", pick: { note: { where: \"id < 5\" } }, whole: [account, login, newsletter],"
            + " links: { account.person_id: { cut: true } }";
    project(confirmed, some);
    Program.Result meets = files.yemble("rewrite");
    assertThat(meets.exitCode()).as(meets.all()).isEqualTo(2);
    assertThat(meets.err()).contains("person.code", "rows would get what others hold");
    assertThat(content("copy")).isEqualTo(before);
    files.write("register.csv", REGISTER.replace("person.code,,,mask", "person.code,,,keep"));
    Program.Result rewrite = files.yemble("rewrite");
    assertThat(rewrite.exitCode()).as(rewrite.all()).isZero();
    assertThat(rewrite.out()).contains("not checked  rows of the job alone", "unmasked");
    Map<String, List<String>> after = content("copy");
    assertThat(after.get("note")).hasSize(PEOPLE);
    List<String> changed = new ArrayList<>(after.get("note"));
    changed.removeAll(before.get("note"));
    assertThat(changed).hasSize(5);
    assertThat(rows("copy", "SELECT name FROM person WHERE name LIKE 'Tavin%'"))
        .hasSizeBetween(PEOPLE - 10, PEOPLE - 5);
  }

  /** A new row that the job does not take stays, is said to be unmasked, and is not forgotten. */
  @Test
  void whatIsNewAndNotOfTheJobStays() throws Exception {
    prepare("sqlite");
    files.write("register.csv", REGISTER.replace("port.name,,,keep", "port.name,,,mask"));
    assertThat(files.yemble("rewrite").exitCode()).isZero();
    sql("copy", List.of("INSERT INTO port VALUES (3, 'Brinnay'), (4, 'Vastholm')"));
    project(
        ", rewrite: true, confirmed: '" + files.file("copy.db") + "'",
        ", pick: { port: { where: \"id = 3\" } },"
            + " whole: [person, account, login, newsletter, note, token]");
    Program.Result some = files.yemble("rewrite");
    assertThat(some.exitCode()).as(some.all()).isZero();
    assertThat(some.out()).contains("not checked  rows of the job alone", "1 rows of copy (copy)");
    assertThat(rows("copy", "SELECT name FROM port WHERE id > 2"))
        .hasSize(2)
        .contains("Vastholm|")
        .doesNotContain("Brinnay|");
    Program.Result again = files.yemble("rewrite");
    assertThat(again.exitCode()).as(again.all()).isEqualTo(3);
    assertThat(again.err()).contains("nobody can tell which rows are new", "port: ");
  }

  @Test
  void whoDoesNotMeetTheConditionOfAMaskStays() throws Exception {
    prepare("sqlite");
    files.write(
        "yemble.yaml",
        files.read("yemble.yaml")
            + "proof: { accept: [token.owner] }\ncolumns:\n  token.owner: { as: full-name, when: \"id < '0008'\" }\n");
    List<String> before = content("copy").get("token");
    long meet = before.stream().filter(row -> row.compareTo("0008") < 0).count();
    assertThat(meet).isBetween(1L, PEOPLE - 1L);
    assertThat(files.yemble("rewrite", "--dry").out())
        .containsPattern("token.owner +full-name; when id < '0008' +" + meet + "\n");
    assertThat(files.yemble("rewrite").exitCode()).isZero();
    List<String> after = new ArrayList<>(content("copy").get("token"));
    after.removeAll(before);
    assertThat(after).hasSize((int) meet).allMatch(row -> row.compareTo("0008") < 0);
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void wheneverItIsKilledTheNextGoesOn(String with) throws Exception {
    assumeThat(Integer.getInteger("yemble.kills") != null || with.equals("mariadb")).isTrue();
    prepare(with);
    assertThat(files.yemble("run", "--yes").exitCode()).isZero();
    Map<String, List<String>> before = content("copy");
    Map<String, List<String>> wanted = content("dev");
    List<String> catalog = catalog("copy");
    Random random = new Random(Long.getLong("yemble.seed", with.length()));
    long start = System.nanoTime();
    assertThat(started("rewrite").waitFor()).as(files.read("rewrite.out")).isZero();
    double milliseconds = (System.nanoTime() - start) / 1e6;
    int begun = 0;
    int kills = Integer.getInteger("yemble.kills", 1);
    for (int i = 0; i < kills; i++) {
      restore();
      double part = 0.5 + 0.6 * random.nextDouble();
      Process process = started("rewrite");
      process.waitFor((long) (part * milliseconds), TimeUnit.MILLISECONDS);
      process.destroyForcibly().waitFor();
      String as = "killed at " + part + " of " + milliseconds + " ms";
      Map<String, List<String>> found = content("copy");
      begun += found.equals(before) || found.equals(wanted) ? 0 : 1;
      milliseconds *= found.equals(before) ? 1.05 : found.equals(wanted) ? 0.92 : 1;
      Program.Result next = goneOn("rewrite");
      assertThat(next.err()).as(as).doesNotContain("bug");
      assertThat(next.exitCode()).as(as + next.all()).isZero();
      assertThat(content("copy")).as(as).isEqualTo(wanted);
      assertThat(files.yemble("doctor", "--mend").exitCode()).as(as).isLessThan(2);
      assertThat(catalog("copy")).as(as).isEqualTo(catalog);
    }
    System.out.printf("RewriteIT: %s; begun and gone on with %d of %d times%n", with, begun, kills);
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void wheneverAnUndoIsKilledTheNextGoesOn(String with) throws Exception {
    assumeThat(Integer.getInteger("yemble.kills") != null || with.equals("sqlite")).isTrue();
    prepare(with);
    files.yemble("key", "new", "undo");
    Map<String, List<String>> before = content("copy");
    List<String> catalog = catalog("copy");
    Random random = new Random(Long.getLong("yemble.seed", with.length()));
    double milliseconds = 1500;
    int begun = 0;
    int kills = Integer.getInteger("yemble.kills", 1);
    for (int i = 0; i < kills; i++) {
      restore();
      Program.Result rewrite = files.yemble("rewrite", "--undo", "1h");
      assertThat(rewrite.exitCode()).as(rewrite.all()).isZero();
      Map<String, List<String>> written = content("copy");
      Process process = started("undo");
      double part = 0.5 + 0.6 * random.nextDouble();
      process.waitFor((long) (part * milliseconds), TimeUnit.MILLISECONDS);
      process.destroyForcibly().waitFor();
      Map<String, List<String>> found = content("copy");
      begun += found.equals(before) || found.equals(written) ? 0 : 1;
      milliseconds *= found.equals(written) ? 1.05 : found.equals(before) ? 0.92 : 1;
      Program.Result next = goneOn("undo");
      String as = "killed at " + part + " of " + milliseconds + " ms\n" + next.all();
      assertThat(next.exitCode() == 0 || next.err().contains("nothing-found")).as(as).isTrue();
      assertThat(content("copy")).as(as).isEqualTo(before);
      assertThat(files.yemble("doctor", "--mend").exitCode()).as(as).isLessThan(2);
      assertThat(catalog("copy")).as(as).isEqualTo(catalog);
      files.yemble("undo", "--forget", "--yes");
    }
    System.out.printf(
        "RewriteIT: undo %s; begun and gone on with %d of %d times%n", with, begun, kills);
  }

  /** A server may need a moment to see that somebody is gone. */
  private Program.Result goneOn(String command) throws Exception {
    Program.Result next = files.yemble(command, "--batch", "7");
    for (int i = 0; i < 50 && next.err().matches("(?s).*(copy-in-use|another-run).*"); i++) {
      TimeUnit.MILLISECONDS.sleep(200);
      next = files.yemble(command, "--batch", "7");
    }
    return next;
  }

  private Process started(String command) throws Exception {
    return new ProcessBuilder(Program.command(command, "--batch", "4"))
        .directory(folder.toFile())
        .redirectInput(ProcessBuilder.Redirect.from(Path.of("/dev/null").toFile()))
        .redirectErrorStream(true)
        .redirectOutput(files.file("rewrite.out").toFile())
        .start();
  }
}
