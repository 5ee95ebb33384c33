package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Tables are replaced to which one refers that stays. */
class ReferrersStayIT {
  @TempDir Path folder;
  private String engine;
  private Sandbox files;

  private Connection connect() throws SQLException {
    return engine.equals("sqlite")
        ? DriverManager.getConnection("jdbc:sqlite:" + files.file("dev.db"))
        : Servers.of(engine).connect("stay");
  }

  private void sql(String... statements) throws SQLException {
    try (Connection connection = connect();
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private String one(String sql) throws SQLException {
    try (Connection connection = connect();
        Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(sql)) {
      return row.next() ? row.getString(1) : null;
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void asLongAsTheyFindWhatTheyReferTo(String with) throws Exception {
    engine = with;
    files = Sandbox.ready(folder).quick();
    if (!engine.equals("sqlite")) {
      Client.renew(engine, "stay");
      files.write(
          "yemble.yaml",
          files
              .read("yemble.yaml")
              .replace(
                  "\"jdbc:sqlite:dev.db\"",
                  "'" + Servers.of(engine).url("stay") + "', user: " + Servers.of(engine).user()));
    }
    Program.Result first = files.yemble("run", "--yes");
    assertThat(first.exitCode()).as(first.all()).isZero();
    String number = engine.equals("sqlite") ? "INTEGER" : "BIGINT";
    sql(
        "CREATE TABLE memo (id INTEGER PRIMARY KEY, person_id "
            + number
            + ", CONSTRAINT memo_of FOREIGN KEY (person_id) REFERENCES person (id))",
        "INSERT INTO memo VALUES (1, 1), (2, NULL)");
    Program.Result again = files.yemble("run", "--yes");
    assertThat(again.exitCode()).as(again.all()).isZero();
    assertThat(one("SELECT count(*) FROM memo JOIN person p ON p.id = memo.person_id"))
        .isEqualTo("1");
    if (!engine.equals("sqlite")) {
      assertThat(
              one(
                  "SELECT count(*) FROM information_schema.table_constraints"
                      + " WHERE constraint_name = 'memo_of'"))
          .isEqualTo("1");
    }
    sql("INSERT INTO person (id, name) VALUES (77, 'Ours')", "INSERT INTO memo VALUES (3, 77)");
    Program.Result refused = files.yemble("run", "--yes");
    assertThat(refused.exitCode()).as(refused.all()).isEqualTo(3);
    assertThat(refused.err())
        .contains("refers to what would be replaced", "1 of its rows would refer to nothing");
    assertThat(one("SELECT name FROM person WHERE id = 77")).isEqualTo("Ours");
    assertThat(one("SELECT count(*) FROM memo")).isEqualTo("3");
  }
}
