package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.demo.DemoServer;

/**
 * Rows that are copied within the engine, and rows that are handed over one by one, are the same
 * cell by cell, whatever a column holds and whatever becomes of it.
 */
class BothWaysIT {
  private static final String[] VALUES = {
    null,
    "",
    "value",
    "Orla Tidewick",
    "it's \"odd\" \\ \n\t 100% \u00e9\u8868\ud83d\udea2 \\N",
    "  "
  };

  @TempDir static Path folder;

  private static Connection connect(String engine, Path project, String name) throws SQLException {
    return switch (engine) {
      case "sqlite" -> DriverManager.getConnection("jdbc:sqlite:" + project.resolve(name + ".db"));
      default -> Servers.of(engine).connect("both_" + name);
    };
  }

  private static String database(String engine, String name) throws SQLException {
    if (engine.equals("sqlite")) {
      return "{ url: 'jdbc:sqlite:" + name + ".db'";
    }
    DemoServer server = Servers.of(engine);
    server.create("both_" + name);
    return "{ url: '" + server.url("both_" + name) + "', user: " + server.user();
  }

  private static void source(String engine, Path project) throws SQLException {
    String key = engine.equals("mariadb") ? "VARCHAR(60)" : "TEXT";
    try (Connection connection = connect(engine, project, "live");
        Statement statement = connection.createStatement()) {
      if (engine.equals("mariadb")) {
        statement.execute("SET foreign_key_checks = 0");
      }
      statement.execute("CREATE TABLE base (code " + key + " PRIMARY KEY)");
      // The link that is cut is declared; the one that is broken is the project's.
      statement.execute(
          "CREATE TABLE thing (id INTEGER PRIMARY KEY, kept TEXT, cleared TEXT, masked TEXT,"
              + " also_empty TEXT, shaped TEXT, cut_code "
              + key
              + ", broken_code "
              + key
              + ", z TEXT)");
      try (PreparedStatement base = connection.prepareStatement("INSERT INTO base VALUES (?)");
          PreparedStatement thing =
              connection.prepareStatement(
                  "INSERT INTO thing VALUES (?, ?, ?, ?, ?, ?, ?, ?, 'z')")) {
        base.setString(1, "value");
        base.execute();
        base.setString(1, "");
        base.execute();
        int id = 0;
        for (int shift = 0; shift < VALUES.length; shift++) {
          for (int row = 0; row < VALUES.length; row++) {
            thing.setInt(1, ++id);
            for (int column = 0; column < 7; column++) {
              thing.setString(2 + column, VALUES[(row + column * shift) % VALUES.length]);
            }
            thing.execute();
          }
        }
      }
    }
  }

  private static List<String> rows(String engine, Path project, String name) throws SQLException {
    List<String> rows = new ArrayList<>();
    try (Connection connection = connect(engine, project, name);
        Statement statement = connection.createStatement();
        ResultSet result = statement.executeQuery("SELECT * FROM thing ORDER BY id")) {
      while (result.next()) {
        StringBuilder row = new StringBuilder();
        for (int i = 1; i <= 9; i++) {
          String value = result.getString(i);
          row.append(value == null ? "NULL" : '\'' + value + '\'').append(" | ");
        }
        rows.add(row.toString());
      }
    }
    return rows;
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void blocksAndRowsComeToTheSame(String engine) throws Exception {
    Path project = java.nio.file.Files.createDirectory(folder.resolve("project-" + engine));
    Sandbox sandbox = new Sandbox(project).quick();
    sandbox.key(Sandbox.KEY);
    String live = database(engine, "live");
    source(engine, project);
    List<List<String>> targets = new ArrayList<>();
    for (String way : List.of("by_blocks", "by_rows")) {
      sandbox.write(
          "yemble.yaml",
          "version: 1\ndatabases:\n  live: "
              + live
              + " }\n  dev: "
              + database(engine, way)
              + ", environment: test }\nlinks:\n"
              + "  thing.cut_code -> base.code: { cut: true }\n"
              + "  thing.broken_code -> base.code: { broken: null }\n"
              + "columns:\n  thing.cleared: clear\n"
              + "  thing.masked: full-name\n"
              + "  thing.also_empty: { fixed: filled, also: [null, empty] }\n"
              + "  thing.shaped: shape\n"
              // A rule that reads the row sends the whole table row by row.
              + "  thing.z: { fixed: q"
              + (way.equals("by_rows") ? ", when: '1 = 1'" : "")
              + " }\nproof: { accept: [thing.kept, thing.shaped] }\n"
              + "jobs:\n  all: { from: live, into: dev }\n");
      sandbox.write(
          "register.csv",
          "column,type,kind,decision,reason\nbase.code,,,keep,x\nthing.id,,,keep,x\n"
              + "thing.kept,,,keep,x\nthing.cleared,,note,mask,\nthing.masked,,full-name,mask,\n"
              + "thing.also_empty,,note,mask,\nthing.shaped,,note,mask,\nthing.cut_code,,,keep,x\n"
              + "thing.broken_code,,,keep,x\nthing.z,,note,mask,\n");
      Captured run = Captured.of("run", "--yes", "--project", project.toString());
      assertThat(run.exitCode()).as(run.err() + run.out()).isZero();
      targets.add(rows(engine, project, way));
    }
    Golden.database("every cell, " + engine, java.util.Map.of("thing", targets.get(0)));
    assertThat(targets.get(1)).isEqualTo(targets.get(0)).hasSize(VALUES.length * VALUES.length);
    assertThat(targets.get(0))
        .allMatch(row -> row.endsWith("'q' | "))
        .noneMatch(row -> row.split(" \\| ", -1)[3].contains("Orla"))
        .allMatch(row -> row.split(" \\| ", -1)[6].equals("NULL") || row.contains("\n"));
  }
}
