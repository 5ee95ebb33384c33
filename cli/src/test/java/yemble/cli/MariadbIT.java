package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yemble.demo.MariadbServer;

/** The program on MariaDB: the job, the guard, tables that are there already, and faults. */
class MariadbIT {
  private static final AtomicInteger NUMBER = new AtomicInteger();
  @TempDir static Path servers;
  @TempDir Path folder;
  private static MariadbServer server;
  private Sandbox files;
  private String live;
  private String dev;

  @BeforeAll
  static void start() throws Exception {
    server = MariadbServer.start(servers.resolve("server"));
  }

  @AfterAll
  static void stop() throws Exception {
    server.close();
  }

  @BeforeEach
  void ready() throws Exception {
    files = new Sandbox(folder).quick();
    int number = NUMBER.incrementAndGet();
    live = "live_" + number;
    dev = "dev_" + number;
    server.create(live);
    server.create(dev);
    sql(
        live,
        "CREATE TABLE person (id INT AUTO_INCREMENT PRIMARY KEY, name VARCHAR(60) NOT NULL,"
            + " email VARCHAR(60) UNIQUE, boss_id INT,"
            + " CONSTRAINT boss FOREIGN KEY (boss_id) REFERENCES person (id))",
        "CREATE TABLE purchase (person_id INT NOT NULL REFERENCES person (id), no INT, note TEXT,"
            + " PRIMARY KEY (person_id, no))",
        "CREATE TABLE reader (email VARCHAR(60) CHARACTER SET latin1)",
        "INSERT INTO person VALUES (1, 'Orla Tidewick', 'orla.tidewick@a.example', NULL),"
            + " (2, 'Tavin Skerrack', 'tavin@a.example', 1), (3, 'Mirel Vennask', NULL, 2),"
            + " (4, 'Orla Tidewick', 'orla2@b.example', NULL), (5, '', '', NULL)",
        "INSERT INTO purchase VALUES (1, 1, 'x'), (1, 2, 'y'), (2, 1, 'z'), (3, 1, NULL)",
        "INSERT INTO reader VALUES ('orla.tidewick@a.example'), ('tavin@a.example'),"
            + " ('someone@c.example'), ('someone@c.example')",
        "CREATE VIEW bosses AS SELECT DISTINCT boss_id FROM person",
        "CREATE TRIGGER logged AFTER INSERT ON person FOR EACH ROW INSERT INTO reader VALUES"
            + " ('trigger')");
    files.key(Sandbox.KEY);
    files.write(
        "register.csv",
        "column,type,kind,decision\nperson.id,,,keep\nperson.name,,full-name,mask\n"
            + "person.email,,email,mask\nperson.boss_id,,,keep\npurchase.person_id,,,keep\n"
            + "purchase.no,,,keep\npurchase.note,,,keep\nreader.email,,email,mask\n");
    project(server.url(live), server.url(dev), "", "");
  }

  private void project(String from, String into, String ofTarget, String ofJob) throws Exception {
    String user = "\n    user: demo\n";
    files.write(
        "yemble.yaml",
        "version: 1\ndatabases:\n  live:\n    url: "
            + from
            + user
            + "  dev:\n    url: "
            + into
            + user
            + "    environment: test\n"
            + (ofTarget.isEmpty() ? "" : "    " + ofTarget + "\n")
            + "jobs:\n  small:\n    from: live\n    into: dev\n    load: replace\n"
            + (ofJob.isEmpty() ? "" : "    " + ofJob + "\n"));
  }

  private static void sql(String database, String... statements) throws SQLException {
    try (Connection connection = server.connect(database);
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private static String one(String database, String sql) throws SQLException {
    try (Connection connection = server.connect(database);
        Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(sql)) {
      return row.next() ? row.getString(1) : null;
    }
  }

  private Program.Result run() {
    return files.yemble("run", "--yes");
  }

  @Test
  void theWholeJobRunsTwiceAndVerifies() throws Exception {
    for (int i = 0; i < 2; i++) {
      Program.Result run = run();
      assertThat(run.exitCode()).as(run.all()).isZero();
      assertThat(run.out()).contains("Done: 13 rows in 3 tables", "dev (test)");
    }
    assertThat(one(dev, "SELECT group_concat(name) FROM person")).doesNotContain("Orla", "Tavin");
    assertThat(one(dev, "SELECT count(DISTINCT email) FROM reader")).isEqualTo("3");
    assertThat(one(dev, "SELECT count(*) FROM person p JOIN reader r ON p.email = r.email"))
        .as("unlinked columns agree")
        .isEqualTo("2");
    assertThat(one(dev, "SELECT count(*) FROM bosses")).isEqualTo("3");
    assertThat(files.yemble("verify").exitCode()).isZero();
    assertThat(files.yemble("doctor").exitCode()).isZero();
    sql(dev, "INSERT INTO person (name) VALUES ('next')");
    assertThat(one(dev, "SELECT max(id) FROM person")).isEqualTo("6");
    assertThat(one(dev, "SELECT count(*) FROM reader WHERE email = 'trigger'")).isEqualTo("1");
    sql(dev, "UPDATE person SET name = 'Orla Tidewick' WHERE id = 1");
    assertThat(files.yemble("verify").exitCode()).isEqualTo(1);
    sql(dev, "UPDATE person SET name = 'Some Tester' WHERE id = 1");
    Program.Result changed = files.yemble("verify");
    assertThat(changed.exitCode()).as(changed.all()).isZero();
    assertThat(changed.out()).contains("person: 1 changed").doesNotContain("source since");
  }

  @Test
  void theSameDatabaseUnderAnotherUrlIsRefused() throws Exception {
    project(server.url(live), server.url(live).replace("localhost", "127.0.0.1"), "", "");
    sql(
        "mysql",
        "CREATE USER IF NOT EXISTS demo@'127.0.0.1'",
        "GRANT ALL ON *.* TO demo@'127.0.0.1'");
    Program.Result refused = run();
    assertThat(refused.exitCode()).as(refused.all()).isEqualTo(3);
    assertThat(refused.err()).contains("is the same database as live (production)");
    assertThat(one(live, "SELECT count(*) FROM person")).isEqualTo("5");
  }

  @Test
  void whatYembleDidNotMakeIsNotReplaced() throws Exception {
    sql(dev, "CREATE TABLE person (mine INT)", "CREATE TABLE other (x INT)");
    Program.Result refused = run();
    assertThat(refused.exitCode()).isEqualTo(3);
    assertThat(refused.err())
        .contains("person is in the way", "confirmed: ")
        .doesNotContain("other is");
    assertThat(
            one(
                dev,
                "SELECT count(*) FROM information_schema.tables WHERE table_schema = '"
                    + dev
                    + "'"))
        .isEqualTo("2");
  }

  @Test
  void tablesThatAreThereAreFilledAndKeepWhatIsTheirs() throws Exception {
    sql(
        dev,
        "CREATE TABLE person (id BIGINT AUTO_INCREMENT PRIMARY KEY, name VARCHAR(80) NOT NULL,"
            + " email VARCHAR(80) UNIQUE, boss_id BIGINT, added DATETIME DEFAULT now(),"
            + " CONSTRAINT mine FOREIGN KEY (boss_id) REFERENCES person (id) ON DELETE SET NULL)",
        "CREATE TABLE purchase (person_id BIGINT NOT NULL REFERENCES person (id), no INT,"
            + " note TEXT, PRIMARY KEY (person_id, no))",
        "CREATE TABLE reader (email VARCHAR(60))",
        "CREATE TABLE extra (person_id BIGINT REFERENCES person (id))",
        "CREATE TRIGGER fires BEFORE INSERT ON person FOR EACH ROW SIGNAL SQLSTATE '45000'");
    project(server.url(live), server.url(dev), "structure: existing", "");
    String before = one(dev, "SHOW CREATE TABLE person");
    Program.Result run = run();
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(one(dev, "SELECT count(*) FROM person WHERE added IS NOT NULL")).isEqualTo("5");
    assertThat(one(dev, "SHOW CREATE TABLE person")).isEqualTo(before);
    assertThat(
            one(
                dev,
                "SELECT count(*) FROM information_schema.triggers WHERE trigger_schema = '"
                    + dev
                    + "'"))
        .isEqualTo("1");
    assertThat(run().exitCode()).as("the mark knows its rows").isZero();
    sql(dev, "ALTER TABLE reader DROP COLUMN email, ADD x INT");
    Program.Result refused = run();
    assertThat(refused.exitCode()).isEqualTo(3);
    assertThat(refused.err()).contains("reader.email is missing");
  }

  @Test
  void everythingIsReadAsItWasAtOneMoment() throws Exception {
    sql(
        live,
        "INSERT INTO purchase SELECT 1, seq + 10, 'x' FROM seq_1_to_10000",
        "CREATE TABLE zz (n INT PRIMARY KEY)",
        "INSERT INTO zz SELECT seq FROM seq_1_to_10000");
    files.write("register.csv", files.read("register.csv") + "zz.n,,,keep\n");
    AtomicBoolean stop = new AtomicBoolean();
    Thread writer =
        new Thread(
            () -> {
              try (Connection connection = server.connect(live);
                  Statement statement = connection.createStatement()) {
                connection.setAutoCommit(false);
                for (int i = 50_000; !stop.get(); i++) {
                  statement.execute("INSERT INTO purchase VALUES (1, " + i + ", 'new')");
                  statement.execute("INSERT INTO zz VALUES (" + i + ")");
                  connection.commit();
                }
              } catch (SQLException e) {
                throw new IllegalStateException(e);
              }
            });
    writer.start();
    try {
      Program.Result run = run();
      assertThat(run.exitCode()).as(run.all()).isZero();
    } finally {
      stop.set(true);
      writer.join();
    }
    assertThat(one(dev, "SELECT count(*) FROM purchase WHERE no > 10"))
        .isEqualTo(one(dev, "SELECT count(*) FROM zz"));
  }

  @Test
  void whatMasksBreakIsRefusedAndNothingIsLeft() throws Exception {
    sql(
        live,
        "ALTER TABLE person ADD CONSTRAINT real_name CHECK (name = '' OR name IN"
            + " ('Orla Tidewick', 'Tavin Skerrack', 'Mirel Vennask'))");
    Program.Result run = run();
    assertThat(run.exitCode()).isEqualTo(2);
    assertThat(run.err())
        .contains("person.name", "break a condition of the table")
        .doesNotContain("Orla", "Exception");
    assertThat(
            one(
                dev,
                "SELECT count(*) FROM information_schema.tables WHERE table_schema = '"
                    + dev
                    + "'"))
        .isEqualTo("0");
  }

  @Test
  void faultsAreSaidInOneMessage() throws Exception {
    String good = server.url(live);
    project("jdbc:mariadb://localhost:1/x", server.url(dev), "", "");
    assertThat(run().err()).contains("cannot be reached").doesNotContain("Exception");
    project("jdbc:mariadb://localhost:123456/x", server.url(dev), "", "");
    assertThat(run().err()).contains("cannot be read", "HOST:PORT").doesNotContain("bug of ours");
    project("jdbc:mariadb://no-such-host/x", server.url(dev), "", "");
    assertThat(run().exitCode()).isEqualTo(4);
    project(server.url("none"), server.url(dev), "", "");
    assertThat(run().err()).contains("no such database");
    project(good + "?password=secret", server.url(dev), "", "");
    Program.Result secret = run();
    assertThat(secret.exitCode()).isEqualTo(2);
    assertThat(secret.err()).contains("holds a password").doesNotContain("secret");
    project(good.replaceFirst("/live.*", "/"), server.url(dev), "", "");
    assertThat(run().err()).contains("names no database");
    project(good, server.url(dev), "", "pick: { person: { where: \"nmae = 'x'\" } }");
    Program.Result column = run();
    assertThat(column.exitCode()).isEqualTo(2);
    assertThat(column.err()).contains("refuses this condition", "yemble.yaml:");
    sql(
        "mysql",
        "CREATE OR REPLACE USER poor@localhost IDENTIFIED BY 'right'",
        "GRANT SELECT ON " + live + ".reader TO poor@localhost");
    files.write(
        "yemble.yaml",
        files
            .read("yemble.yaml")
            .replaceFirst("user: demo", "user: poor\n    password: \\${env:PW}"));
    Program.Result wrong =
        Program.run(folder, java.util.Map.of("PW", "wrong"), Program.command("run", "--yes"));
    assertThat(wrong.exitCode()).isEqualTo(4);
    assertThat(wrong.err()).contains("does not let this user in").doesNotContain("wrong");
  }

  @Test
  void aServerThatForbidsLoadDataIsFilledByInsert() throws Exception {
    sql("mysql", "SET GLOBAL local_infile = 0");
    try {
      Program.Result run = run();
      assertThat(run.exitCode()).as(run.all()).isZero();
      assertThat(files.yemble("doctor").out()).contains("the server forbids LOAD DATA LOCAL");
    } finally {
      sql("mysql", "SET GLOBAL local_infile = 1");
    }
  }

  @Test
  void eventsAndTablesOfOtherServersStayBehindAndAreNamed() throws Exception {
    sql(
        live,
        "CREATE EVENT nightly ON SCHEDULE EVERY 1 DAY DO DELETE FROM reader",
        "CREATE SEQUENCE s");
    Program.Result run = run();
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(run.out()).contains("event nightly").doesNotContain("sequence s");
    assertThat(
            one(
                dev,
                "SELECT count(*) FROM information_schema.events WHERE event_schema = '"
                    + dev
                    + "'"))
        .isEqualTo("0");
  }

  @Test
  void valuesThatAnotherEngineCannotHoldAreNamedShownOnRequestAndSettled() throws Exception {
    sql(
        live,
        "SET SESSION sql_mode = ''",
        "CREATE TABLE mood (id INT PRIMARY KEY, m ENUM('calm', 'rough') NOT NULL)",
        "INSERT INTO mood VALUES (1, 'calm'), (7, 'stormy')");
    files.write("register.csv", files.read("register.csv") + "mood.id,,,keep\nmood.m,,,keep\n");
    project(server.url(live), "jdbc:sqlite:dev.db", "", "");
    Program.Result refused = run();
    assertThat(refused.exitCode()).isEqualTo(2);
    assertThat(refused.err()).contains("mood.m: 1 value, none of the labels", "unfit:");
    assertThat(files.file("dev.db")).doesNotExist();
    assertThat(files.yemble("run", "--dry").exitCode()).isEqualTo(2);
    assertThat(files.yemble("run", "--yes", "--show-values").out())
        .containsPattern("mood\\.m +7 +none of the labels");
    project(server.url(live), "jdbc:sqlite:dev.db", "", "unfit: { mood.m: clear }");
    assertThat(run().err()).contains("mood.m cannot become NULL", "yemble.yaml:");
    project(server.url(live), "jdbc:sqlite:dev.db", "", "unfit: { mood.m: { value: rough } }");
    Program.Result settled = run();
    assertThat(settled.exitCode()).as(settled.all()).isZero();
    assertThat(files.one("dev.db", "SELECT m FROM mood WHERE id = 7")).isEqualTo("rough");
    assertThat(files.yemble("verify").exitCode()).isZero();
  }

  @Test
  void initSurveyAndTheServersDatabases() throws Exception {
    Sandbox fresh = new Sandbox(java.nio.file.Files.createDirectory(folder.resolve("fresh")));
    Program.Result init = fresh.yemble("init", server.url(live), "--user", "demo");
    assertThat(init.exitCode()).as(init.all()).isZero();
    assertThat(fresh.read("yemble.yaml")).contains("jdbc:mariadb://localhost/dev");
    assertThat(fresh.yemble("survey").out()).contains("email");
    Program.Result list = files.yemble("doctor", "--server", server.url(""), "--user", "demo");
    assertThat(list.out()).contains(live, dev);
  }
}
