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

/** Some tables are loaded or replaced, and others refer to them. */
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

  private void prepare() throws Exception {
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
  void aPartIsNeverTakenForTheWhole(String with) throws Exception {
    engine = with;
    prepare();
    Program.Result part = files.yemble("run", "--only", "purchase", "--yes");
    assertThat(part.exitCode()).as(part.all()).isZero();
    assertThat(part.out()).contains("A part: only purchase of the job", "4 rows in 1 table");
    assertThat(one("SELECT count(*) FROM purchase")).isEqualTo("4");
    assertThat(one("SELECT count(*) FROM person")).isEqualTo("0");
    Program.Result verify = files.yemble("verify");
    assertThat(verify.exitCode()).as(verify.all()).isZero();
    assertThat(verify.out())
        .containsPattern("not checked +the whole job +only purchase was loaded")
        .contains("4 rows in 1 tables are what was loaded");
    assertThat(files.yemble("verify", "--into", "dev").out()).contains("the whole job");
    assertThat(files.yemble("doctor").out()).contains("a part (purchase) of job small");
    Program.Result unknown = files.yemble("run", "--only", "purchases", "--yes");
    assertThat(unknown.exitCode()).isEqualTo(2);
    Program.Result whole = files.yemble("run", "--yes");
    assertThat(whole.exitCode()).as(whole.all()).isZero();
    assertThat(files.yemble("verify").out()).doesNotContain("the whole job");
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void asLongAsTheyFindWhatTheyReferTo(String with) throws Exception {
    engine = with;
    prepare();
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
