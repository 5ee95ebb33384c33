package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import yemble.core.project.Project;

/** A folder with a small project: a source, a register, a key, all made by the test. */
final class Sandbox {
  static final String KEY = "b3JsaXNheS1mZXJyaWVzLWRlbW8ta2V5LTAwMDAwMDE";
  static final String PROJECT =
      """
      version: 1
      databases:
        live: { url: "jdbc:sqlite:live.db", environment: production }
        dev: { url: "jdbc:sqlite:dev.db", environment: test }
      jobs:
        small:
          from: live
          into: dev
          load: replace
      """;

  final Path folder;
  private boolean quick;

  Sandbox(Path folder) {
    this.folder = folder;
  }

  Path file(String name) {
    return folder.resolve(name);
  }

  /** A sandbox with everything in place: people, their orders, and a list without a key. */
  static Sandbox ready(Path folder) throws IOException, SQLException {
    Sandbox sandbox = new Sandbox(folder);
    sandbox.sql(
        "live.db",
        "CREATE TABLE person (id INTEGER PRIMARY KEY, name TEXT NOT NULL, email TEXT UNIQUE,"
            + " boss_id INTEGER REFERENCES person (id))",
        "CREATE TABLE purchase (person_id INTEGER NOT NULL REFERENCES person (id), no INTEGER,"
            + " note TEXT, PRIMARY KEY (person_id, no)) WITHOUT ROWID",
        "CREATE TABLE reader (email TEXT)",
        "INSERT INTO person VALUES (1, 'Orla Tidewick', 'orla.tidewick@a.example', NULL),"
            + " (2, 'Tavin Skerrack', 'tavin@a.example', 1), (3, 'Mirel Vennask', NULL, 2),"
            + " (4, 'Orla Tidewick', 'orla2@b.example', NULL), (5, '', '', NULL)",
        "INSERT INTO purchase VALUES (1, 1, 'x'), (1, 2, 'y'), (2, 1, 'z'), (3, 1, NULL)",
        "INSERT INTO reader VALUES ('orla.tidewick@a.example'), ('tavin@a.example'),"
            + " ('someone@c.example'), ('someone@c.example')");
    sandbox.write("yemble.yaml", PROJECT);
    sandbox.key(KEY);
    sandbox.register(
        "live.db",
        Map.of("person.name", "full-name", "person.email", "email", "reader.email", "email"));
    return sandbox;
  }

  /** The same folder once more, somewhere else: what was made there need not be made again. */
  Sandbox copy(Path to) throws IOException {
    try (Stream<Path> files = Files.walk(folder)) {
      for (Path file : files.toList()) {
        Path there = to.resolve(folder.relativize(file).toString());
        if (Files.isDirectory(file)) {
          Files.createDirectories(there);
        } else {
          Files.copy(file, there, StandardCopyOption.COPY_ATTRIBUTES);
        }
      }
    }
    return new Sandbox(to);
  }

  void key(String key) throws IOException {
    write("yemble.key", key + "\n");
    Files.setPosixFilePermissions(file("yemble.key"), PosixFilePermissions.fromString("rw-------"));
  }

  void write(String name, String text) throws IOException {
    Files.createDirectories(file(name).getParent());
    Files.writeString(file(name), text);
  }

  String read(String name) throws IOException {
    return Files.readString(file(name));
  }

  /** Writes a register in which the columns of a map are masked and all others kept. */
  void register(String database, Map<String, String> masked) throws IOException, SQLException {
    StringBuilder text = new StringBuilder("column,type,kind,decision\n");
    for (List<Object> row :
        query(
            database,
            "SELECT l.name || '.' || c.name, c.type FROM pragma_table_list l"
                + " JOIN pragma_table_xinfo(l.name) c WHERE l.type = 'table'"
                + " AND l.name NOT LIKE 'sqlite%' ORDER BY 1")) {
      String kind = masked.get(row.get(0));
      text.append(row.get(0)).append(',').append(row.get(1)).append(',');
      text.append(kind == null ? ",keep\n" : kind + ",mask\n");
    }
    masked.forEach(
        (name, kind) -> {
          if (name.contains(" $")) {
            text.append(name).append(",,").append(kind).append(",mask\n");
          }
        });
    write("register.csv", text.toString());
  }

  void sql(String database, String... statements) throws SQLException {
    try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file(database));
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  List<List<Object>> query(String database, String sql) throws SQLException {
    return query(database, "SELECT 1", sql);
  }

  /** The rows of a query, after a first statement on the same connection. */
  List<List<Object>> query(String database, String first, String sql) throws SQLException {
    List<List<Object>> rows = new ArrayList<>();
    try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file(database));
        Statement statement = connection.createStatement()) {
      statement.execute(first);
      try (ResultSet result = statement.executeQuery(sql)) {
        while (result.next()) {
          List<Object> row = new ArrayList<>();
          for (int i = 1; i <= result.getMetaData().getColumnCount(); i++) {
            row.add(result.getObject(i));
          }
          rows.add(row);
        }
      }
    }
    return rows;
  }

  Object one(String database, String sql) throws SQLException {
    return query(database, sql).get(0).get(0);
  }

  /** The same, whose commands run in this process: for what has nothing to do with processes. */
  Sandbox quick() {
    quick = true;
    return this;
  }

  /** A command in this process, with something on standard input. */
  Program.Result reading(String input, String... args) {
    List<String> words = new ArrayList<>(List.of(args));
    words.addAll(List.of("--project", folder.toString()));
    Captured told = Captured.reading(input, words.toArray(new String[0]));
    return new Program.Result(told.exitCode(), told.out(), told.err());
  }

  Program.Result yemble(String... args) {
    Program.Result result = quick ? inThisProcess(args) : Program.run(folder, args);
    if (result.exitCode() == 0 && Files.exists(file(Project.FILE))) {
      validProject();
    }
    return result;
  }

  private Program.Result inThisProcess(String... args) {
    List<String> words = new ArrayList<>(List.of(args));
    words.addAll(List.of("--project", folder.toString()));
    Captured told = Captured.of(words.toArray(new String[0]));
    return new Program.Result(told.exitCode(), told.out(), told.err());
  }

  /** What the program takes is valid by the schema that editors check by. */
  private void validProject() {
    try {
      String text = read(Project.FILE);
      assertThat(Schemas.faults("yemble", Schemas.yaml(text))).as(text).isEmpty();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
