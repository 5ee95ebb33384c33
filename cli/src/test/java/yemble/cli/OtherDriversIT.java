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
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Databases that this program has no code for, each by its own driver, with its own gaps. */
class OtherDriversIT {
  @TempDir Path folder;

  /** A database by its driver. */
  enum Other {
    HSQLDB(List.of("org.hsqldb.jdbc.JDBCDriver"), "sa") {
      @Override
      String url(Path file) {
        return "jdbc:hsqldb:file:" + file;
      }
    },
    DERBY(
        List.of(
            "org.apache.derby.iapi.jdbc.AutoloadedDriver",
            "org.apache.derby.shared.common.error.StandardException"),
        "") {
      @Override
      String url(Path file) {
        return "jdbc:derby:" + file;
      }
    },
    DUCKDB(List.of("org.duckdb.DuckDBDriver"), "") {
      @Override
      String url(Path file) {
        return "jdbc:duckdb:" + file;
      }
    };

    private final List<String> classes;
    private final String user;

    Other(List<String> classes, String user) {
      this.classes = classes;
      this.user = user;
    }

    abstract String url(Path file);
  }

  private String url(Other other, String name) {
    return other.url(folder.resolve(name));
  }

  private Connection connect(Other other, String name) throws SQLException {
    String url = url(other, name);
    return other == Other.DERBY
        ? DriverManager.getConnection(url + ";create=true")
        : DriverManager.getConnection(url, other.user, "");
  }

  private void sql(Other other, String name, String... statements) throws SQLException {
    try (Connection connection = connect(other, name);
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
      if (other == Other.HSQLDB) {
        statement.execute("SHUTDOWN");
      }
    }
    if (other == Other.DERBY) {
      try {
        DriverManager.getConnection(url(other, name) + ";shutdown=true");
      } catch (SQLException over) {
        assertThat(over.getSQLState()).isEqualTo("08006");
      }
    }
  }

  private List<String> rows(Other other, String name, String sql) throws SQLException {
    List<String> rows = new ArrayList<>();
    try (Connection connection = connect(other, name);
        Statement statement = connection.createStatement();
        ResultSet found = statement.executeQuery(sql)) {
      while (found.next()) {
        rows.add(found.getString(1));
      }
    }
    sql(other, name);
    return rows;
  }

  private Sandbox project(Other other, String target) throws Exception {
    Sandbox sandbox = new Sandbox(folder).quick();
    Files.createDirectories(folder.resolve("drivers"));
    for (String name : other.classes) {
      Path jar =
          Path.of(Class.forName(name).getProtectionDomain().getCodeSource().getLocation().toURI());
      Files.copy(jar, folder.resolve("drivers").resolve(jar.getFileName()));
    }
    sql(
        other,
        "live",
        "CREATE TABLE person (id INTEGER PRIMARY KEY, name VARCHAR(60) NOT NULL,"
            + " email VARCHAR(60) UNIQUE, born DATE, seen TIMESTAMP, pay DECIMAL(9,2))",
        "CREATE TABLE trip (day DATE NOT NULL, nr INTEGER NOT NULL, person_id INTEGER"
            + " REFERENCES person (id), note VARCHAR(20), PRIMARY KEY (day, nr))",
        "CREATE TABLE reader (email VARCHAR(60), day DATE)",
        "INSERT INTO person VALUES"
            + " (1, 'Orla Tidewick', 'orla.tidewick@a.example', CAST('1980-02-29' AS DATE),"
            + " CAST('2024-02-29 10:11:12' AS TIMESTAMP), 10.50),"
            + " (2, 'Tavin Skerrack', 'tavin@a.example', NULL, NULL, NULL),"
            + " (3, 'Mirel Vennask', NULL, CAST('1999-12-31' AS DATE), NULL, 0)",
        "INSERT INTO trip VALUES (CAST('2024-05-01' AS DATE), 1, 1, 'x'),"
            + " (CAST('2024-05-01' AS DATE), 2, 2, 'y'), (CAST('2024-05-02' AS DATE), 1, 1, NULL)",
        "INSERT INTO reader VALUES ('orla.tidewick@a.example', CAST('2024-05-01' AS DATE)),"
            + " ('someone@c.example', NULL), ('someone@c.example', NULL)");
    String user = other.user.isEmpty() ? "" : ", user: " + other.user;
    sandbox.write(
        "yemble.yaml",
        "version: 1\ndatabases:\n  live: { url: '"
            + url(other, "live")
            + "'"
            + user
            + " }\n  dev: { url: '"
            + target
            + "'"
            + (target.startsWith("jdbc:sqlite") ? "" : user)
            + ", environment: test }\njobs:\n  few:\n    from: live\n    into: dev\n"
            + "    load: replace\n    pick: { trip: { where: 'nr = 1' }, reader: {} }\n");
    if (other == Other.DUCKDB) { // Its driver does not tell of foreign keys.
      sandbox.write(
          "yemble.yaml",
          sandbox.read("yemble.yaml") + "links:\n  trip.person_id -> person.id: {}\n");
    }
    sandbox.key(Sandbox.KEY);
    return sandbox;
  }

  private static Program.Result good(Sandbox sandbox, String... args) {
    Program.Result result = sandbox.yemble(args);
    assertThat(result.exitCode()).as(String.join(" ", args) + ": " + result.all()).isZero();
    return result;
  }

  @ParameterizedTest
  @EnumSource
  void itsRowsGoIntoAnotherEngine(Other other) throws Exception {
    Sandbox sandbox = project(other, "jdbc:sqlite:dev.db");
    assertThat(good(sandbox, "doctor").out())
        .contains("known by its driver alone", "read only")
        .contains(other == Other.DUCKDB ? "name the links in the project file" : "foreign keys");
    good(sandbox, "survey");
    good(sandbox, "register", "accept", "--all");
    good(sandbox, "register", "keep", "--open", "--reason", "a test");
    good(sandbox, "gauge");
    assertThat(sandbox.yemble("why", "TRIP", "2024-05-01,1").all()).contains("is in, picked");
    good(sandbox, "run", "--yes");
    good(sandbox, "verify");
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM trip")).isEqualTo(2);
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM reader")).isEqualTo(3);
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM person WHERE name LIKE 'Orla%'"))
        .isEqualTo(0);
    assertThat(
            sandbox.one(
                "dev.db", "SELECT count(*) FROM person p JOIN reader r ON r.email = p.email"))
        .isEqualTo(1);
  }

  @ParameterizedTest
  @EnumSource(names = "HSQLDB")
  void itIsLoadedTwiceAndVerified(Other other) throws Exception {
    Sandbox sandbox = project(other, url(other, "dev"));
    sql(other, "dev");
    good(sandbox, "survey");
    good(sandbox, "register", "accept", "--all");
    good(sandbox, "register", "keep", "--open", "--reason", "a test");
    good(sandbox, "run", "--yes");
    good(sandbox, "run", "--yes");
    good(sandbox, "verify");
    assertThat(rows(other, "dev", "SELECT count(*) FROM trip")).containsExactly("2");
    assertThat(rows(other, "dev", "SELECT count(*) FROM person WHERE name LIKE 'Orla%'"))
        .containsExactly("0");
  }
}
