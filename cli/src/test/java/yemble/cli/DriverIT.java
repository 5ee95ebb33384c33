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
import org.h2.Driver;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The program on a database that it has no code for, by a driver that the user drops in. */
class DriverIT {
  @TempDir Path folder;
  private String mode = "REGULAR";

  private Sandbox sandbox(String ofTarget) throws Exception {
    Sandbox sandbox = new Sandbox(folder);
    Path jar = Path.of(Driver.class.getProtectionDomain().getCodeSource().getLocation().toURI());
    Files.createDirectories(folder.resolve("drivers"));
    Files.copy(jar, folder.resolve("drivers/any-name.jar"));
    sql(
        "live",
        "CREATE TABLE person (id INTEGER PRIMARY KEY, name VARCHAR(60) NOT NULL,"
            + " email VARCHAR(60) UNIQUE, boss_id INTEGER REFERENCES person (id))",
        "CREATE TABLE purchase (person_id INTEGER NOT NULL REFERENCES person (id), no INTEGER,"
            + " note VARCHAR(20), PRIMARY KEY (person_id, no))",
        "CREATE TABLE reader (email VARCHAR(60))",
        "INSERT INTO person VALUES (1, 'Orla Tidewick', 'orla.tidewick@a.example', NULL),"
            + " (2, 'Tavin Skerrack', 'tavin@a.example', 1), (3, 'Mirel Vennask', NULL, 2),"
            + " (4, 'Orla Tidewick', 'orla2@b.example', NULL)",
        "INSERT INTO purchase VALUES (1, 1, 'x'), (1, 2, 'y'), (2, 1, 'z'), (3, 1, NULL)",
        "INSERT INTO reader VALUES ('orla.tidewick@a.example'), ('tavin@a.example'),"
            + " ('someone@c.example'), ('someone@c.example')");
    sandbox.write(
        "yemble.yaml",
        "version: 1\ndatabases:\n  live:\n    url: "
            + url("live")
            + "\n    user: sa\n  dev:\n    url: "
            + ofTarget
            + "\n    user: sa\n    environment: test\njobs:\n  small:\n    from: live\n"
            + "    into: dev\n    load: replace\n");
    sandbox.key(Sandbox.KEY);
    StringBuilder register = new StringBuilder("column,type,kind,decision\n");
    for (String[] column :
        new String[][] {
          {"person.id", ""}, {"person.name", "full-name"}, {"person.email", "email"},
          {"person.boss_id", ""}, {"purchase.person_id", ""}, {"purchase.no", ""},
          {"purchase.note", ""}, {"reader.email", "email"}
        }) {
      register.append(column[0]).append(",,").append(column[1]);
      register.append(column[1].isEmpty() ? ",keep\n" : ",mask\n");
    }
    sandbox.write("register.csv", register.toString());
    return sandbox;
  }

  private String url(String name) {
    return "jdbc:h2:" + folder.resolve(name) + ";MODE=" + mode + ";DATABASE_TO_LOWER=TRUE";
  }

  private void sql(String database, String... statements) throws SQLException {
    try (Connection connection = DriverManager.getConnection(url(database), "sa", "");
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private List<String> rows(String database, String sql) throws SQLException {
    List<String> rows = new ArrayList<>();
    try (Connection connection = DriverManager.getConnection(url(database), "sa", "");
        Statement statement = connection.createStatement();
        ResultSet found = statement.executeQuery(sql)) {
      while (found.next()) {
        rows.add(found.getString(1));
      }
    }
    return rows;
  }

  @ParameterizedTest
  @ValueSource(strings = {"Oracle", "DB2", "Derby", "MySQL"})
  @Tag("thorough")
  void theWholeJobRunsTwiceAndVerifiesAsOthersDo(String imitated) throws Exception {
    theWholeJobRunsTwiceAndVerifies(imitated);
  }

  @ParameterizedTest
  @ValueSource(strings = {"REGULAR", "MSSQLServer"})
  void theWholeJobRunsTwiceAndVerifies(String imitated) throws Exception {
    mode = imitated;
    Sandbox sandbox = sandbox(url("dev"));
    Program.Result doctor = sandbox.yemble("doctor");
    assertThat(doctor.exitCode()).as(doctor.all()).isZero();
    assertThat(doctor.out()).contains("H2", "known by its driver alone", "read only");
    for (int i = 0; i < 2; i++) {
      Program.Result run = sandbox.yemble("run", "--yes");
      assertThat(run.exitCode()).as(run.all()).isZero();
      assertThat(run.out()).contains("Done: 12 rows in 3 tables");
    }
    assertThat(sandbox.yemble("verify").exitCode()).isZero();
    assertThat(rows("dev", "SELECT name FROM person"))
        .hasSize(4)
        .noneMatch(n -> n.contains("Orla"));
    assertThat(rows("dev", "SELECT count(*) FROM person p JOIN reader r ON r.email = p.email"))
        .as("unlinked columns agree")
        .containsExactly("2");
    assertThat(rows("dev", "SELECT count(*) FROM information_schema.referential_constraints"))
        .containsExactly("2");
  }

  @Test
  void itsRowsGoIntoAnotherEngine() throws Exception {
    Sandbox sandbox = sandbox("jdbc:sqlite:dev.db");
    sandbox.write(
        "yemble.yaml",
        sandbox
            .read("yemble.yaml")
            .replace(
                "jobs:",
                "links:\n  reader.email -> person.email: { if: \"REGEXP_LIKE(email, 'a@')\" }\njobs:"));
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(run.out())
        .contains("drivers do not tell of them", "understand its condition: reader.email");
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM purchase")).isEqualTo(4);
    assertThat(sandbox.yemble("verify").exitCode()).isZero();
  }

  @Test
  void aBrokenLoadIsFoundAndMended() throws Exception {
    Sandbox sandbox = sandbox(url("dev"));
    sql("dev", "CREATE TABLE yemble_new_1 (x INTEGER)");
    Program.Result doctor = sandbox.yemble("doctor");
    assertThat(doctor.exitCode()).isEqualTo(1);
    assertThat(doctor.out()).contains("leftover", "yemble doctor --mend");
    assertThat(sandbox.yemble("doctor", "--mend").all()).contains("removed 1 table");
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
    // As if the load had been cut off while it was put in place, its first step done.
    sql(
        "dev",
        "CREATE TABLE yemble_swapped (x INTEGER)",
        "CREATE TABLE yemble_load (n INTEGER PRIMARY KEY, content VARCHAR(30000))",
        "INSERT INTO yemble_load VALUES (1, 'DROP TABLE \"gone\"'),"
            + " (3, 'CREATE INDEX \"late\" ON \"person\" (\"name\")')");
    assertThat(sandbox.yemble("doctor", "--mend").all()).contains("completed");
    assertThat(
            rows(
                "dev", "SELECT count(*) FROM information_schema.indexes WHERE index_name = 'late'"))
        .containsExactly("1");
    assertThat(sandbox.yemble("verify").exitCode()).isZero();
  }

  @Test
  void withoutADriverTheMessageSaysWhereToPutIt() throws Exception {
    Sandbox sandbox = sandbox(url("dev"));
    Files.delete(folder.resolve("drivers/any-name.jar"));
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).isEqualTo(2);
    assertThat(run.err()).contains("no driver is known", "drivers", "driver: FILE.jar");
  }

  @Test
  void theSourceItselfIsNoTargetAndACopyOfItMustBeConfirmed() throws Exception {
    Sandbox sandbox = sandbox(url("live"));
    Program.Result same = sandbox.yemble("run", "--yes");
    assertThat(same.exitCode()).as(same.all()).isEqualTo(3);
    sql("dev", "CREATE TABLE person (id INTEGER)");
    sandbox.write(
        "yemble.yaml",
        sandbox
            .read("yemble.yaml")
            .replace(
                url("live") + "\n    user: sa\n    env", url("dev") + "\n    user: sa\n    env"));
    Program.Result twin = sandbox.yemble("run", "--yes");
    assertThat(twin.exitCode()).as(twin.all()).isEqualTo(3);
    assertThat(twin.err()).contains("confirmed:");
  }
}
