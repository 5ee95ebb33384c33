package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Steps of one's own: accounts that survive, triggers, commands, and what fails. */
class StepsIT {
  @TempDir Path folder;
  private Sandbox files;
  private String engine;

  private Connection connect() throws SQLException {
    return engine.equals("sqlite")
        ? DriverManager.getConnection("jdbc:sqlite:" + files.file("dev.db"))
        : Servers.of(engine).connect("steps");
  }

  private String one(String sql) throws SQLException {
    try (Connection connection = connect();
        Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(sql)) {
      return row.next() ? row.getString(1) : null;
    }
  }

  private void sql(String sql) throws SQLException {
    try (Connection connection = connect();
        Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  private void prepare(String with, String load) throws Exception {
    engine = with;
    files = Sandbox.ready(folder).quick();
    String project = files.read("yemble.yaml").replace("load: replace", "load: " + load);
    if (!engine.equals("sqlite")) {
      Client.renew(engine, "steps");
      String url = Servers.of(engine).url("steps");
      project =
          project.replace(
              "\"jdbc:sqlite:dev.db\"", "'" + url + "', user: " + Servers.of(engine).user());
    }
    files.write(
        "yemble.yaml",
        project
            + """
                empty: [reader]
                before: [sql/keep.sql]
                after:
                  - { sql: sql/accounts.sql, values: { who: "it's ${file:who.txt}" } }
                  - sql/rights.sql
                  - { command: "echo $YEMBLE_JOB into $YEMBLE_INTO > said.txt", name: tell }
            """);
    files.write("who.txt", "Orla; DROP TABLE person");
    files.write("sql/keep.sql", "SELECT 1;\n");
    files.write("sql/accounts.sql", "SELECT 1; -- ; :who\n");
    files.write("sql/rights.sql", "SELECT 1;\n");
  }

  private Program.Result run(int exit, String... more) {
    String[] words = new String[more.length + 2];
    words[0] = "run";
    words[1] = "--yes";
    System.arraycopy(more, 0, words, 2, more.length);
    Program.Result run = files.yemble(words);
    assertThat(run.exitCode()).as(run.all()).isEqualTo(exit);
    return run;
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void accountsOfTheTeamSurvive(String with) throws Exception {
    prepare(with, "replace");
    files.write("sql/accounts.sql", "SELECT :who;\n");
    run(0);
    assertThat(files.read("said.txt")).isEqualTo("small into dev\n");
    sql("INSERT INTO person (id, name, email) VALUES (900, 'Ours', 'ours@dev.example')");
    files.write(
        "sql/keep.sql",
        "CREATE TEMPORARY TABLE kept AS SELECT * FROM person WHERE id >= 900; -- they; wait\n");
    files.write(
        "sql/accounts.sql",
        "INSERT INTO person SELECT * FROM kept;\n"
            + "\n/* ; */ INSERT INTO person (id, name) VALUES (901, :who);\n");
    String trigger =
        switch (with) {
          case "sqlite" ->
              "CREATE TRIGGER ours AFTER INSERT ON person BEGIN SELECT CASE WHEN 1 THEN ';' END;"
                  + " SELECT 2; END;\n";
          case "mariadb" ->
              "DELIMITER //\nCREATE TRIGGER ours BEFORE INSERT ON person FOR EACH ROW BEGIN"
                  + " SET @a = ';'; SET @b = 1; END//\nDELIMITER ;\n";
          default ->
              "CREATE OR REPLACE FUNCTION ours() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN"
                  + " PERFORM ';'; RETURN NEW; END $$;\nCREATE TRIGGER ours BEFORE INSERT ON person"
                  + " FOR EACH ROW EXECUTE FUNCTION ours();\n";
        };
    files.write("sql/rights.sql", trigger);
    Program.Result run = run(0);
    assertThat(run.out())
        .containsPattern("keep +before +1")
        .containsPattern("accounts +after +2 +2");
    assertThat(one("SELECT count(*) FROM person")).isEqualTo("7");
    assertThat(one("SELECT name FROM person WHERE id = 901"))
        .isEqualTo("it's Orla; DROP TABLE person");
    // What a step adds is told apart later.
    assertThat(files.yemble("verify").out()).contains("2 rows in 1 table");
    files.write("sql/rights.sql", "UPDATE person SET name = 'Alone' WHERE id = 900;\n");
    Program.Result alone = run(0, "--only-step", "rights");
    assertThat(alone.out()).containsPattern("rights +after +1 +1");
    assertThat(one("SELECT name FROM person WHERE id = 900")).isEqualTo("Alone");
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql"})
  void oneThatFailsLeavesTheTargetAsItWas(String with) throws Exception {
    prepare(with, "replace");
    files.write("sql/accounts.sql", "SELECT :who;\n");
    run(0);
    String rows = one("SELECT count(*) FROM purchase");
    files.write("sql/keep.sql", "DELETE FROM purchase;\n");
    files.write("sql/rights.sql", "SELECT 1;\n\nINSERT INTO nowhere VALUES ('secret');\n");
    Program.Result run = run(4);
    assertThat(run.err()).contains("statement 2 failed", "where: sql/rights.sql:3", "step-failed");
    assertThat(run.err()).contains("nowhere").doesNotContain("secret");
    assertThat(one("SELECT count(*) FROM purchase")).isEqualTo(rows);
    files.write("sql/keep.sql", "DELETE FROM purchase;\nUPDATE person SET id = 2 WHERE id = 1;\n");
    assertThat(run(4).err()).contains("where: sql/keep.sql:2").doesNotContain("Orla");
    assertThat(one("SELECT count(*) FROM purchase")).isEqualTo(rows);
    assertThat(files.file("dev.db.yemble-part")).doesNotExist();
  }

  @Test
  void mariadbSaysThatTheRowsAreIn() throws Exception {
    prepare("mariadb", "replace");
    files.write("sql/rights.sql", "DELETE FROM purchase;\nINSERT INTO nowhere VALUES (1);\n");
    files.write("sql/accounts.sql", "SELECT :who;\n");
    Program.Result run = run(4);
    assertThat(run.err()).contains("where: sql/rights.sql:2", "the load is in place", "nowhere");
    assertThat(one("SELECT count(*) FROM person")).isEqualTo("5");
    assertThat(one("SELECT count(*) FROM purchase")).isEqualTo("4");
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void withRowsBesideOthersToo(String with) throws Exception {
    prepare(with, "replace");
    files.write("sql/accounts.sql", "SELECT :who;\n");
    run(0);
    files.write("yemble.yaml", files.read("yemble.yaml").replace("load: replace", "load: update"));
    files.write("sql/keep.sql", "DELETE FROM purchase WHERE person_id = 1;\n");
    files.write("sql/rights.sql", "UPDATE purchase SET note = 'seen';\n");
    Program.Result run = run(0);
    assertThat(run.out())
        .contains("2 rows inserted", "7 left")
        .containsPattern("keep +before +1 +2");
    assertThat(one("SELECT count(*) FROM purchase WHERE note = 'seen'")).isEqualTo("4");
    Program.Result pack = files.yemble("pack");
    assertThat(pack.exitCode()).as(pack.all()).isZero();
    files.write("sql/rights.sql", "UPDATE purchase SET note = 'loaded';\n");
    Program.Result load = files.yemble("load", "small", "--into", "dev", "--yes");
    assertThat(load.exitCode()).as(load.all()).isZero();
    assertThat(one("SELECT count(*) FROM purchase WHERE note = 'loaded'")).isEqualTo("4");
  }

  @Test
  void aCopyMayBeActedOnAndProductionNever() throws Exception {
    prepare("sqlite", "replace");
    files.write("sql/accounts.sql", "SELECT :who;\n");
    String project = files.read("yemble.yaml");
    files.write(
        "yemble.yaml", project.replace("[sql/keep.sql]", "[{ sql: sql/keep.sql, on: source }]"));
    files.write("sql/keep.sql", "UPDATE person SET name = 'Everybody' WHERE id = 3;\n");
    Program.Result refused = run(3);
    assertThat(refused.err()).contains("would act on live (production)", "step-refused");
    assertThat(files.one("live.db", "SELECT count(*) FROM person WHERE name = 'Everybody'"))
        .isEqualTo(0);
    files.write(
        "yemble.yaml",
        files.read("yemble.yaml").replace("environment: production", "environment: copy"));
    run(0);
    assertThat(files.one("live.db", "SELECT count(*) FROM person WHERE name = 'Everybody'"))
        .isEqualTo(1);
  }
}
