package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Scripts, loaded by the engines' own clients and proved against the source. */
class ScriptIT {
  private static final AtomicInteger NUMBER = new AtomicInteger();

  /** Texts that a client could take for something else. */
  private static final List<String> TEXTS =
      List.of(
          "",
          " ",
          "\\.",
          "\\N",
          "a\\",
          "it's \"so\" `called`",
          "cr\r\nlf\n\r",
          ".print no\n.quit\n/\ngo\n;\n",
          "DELIMITER //\n//\n$$\n",
          "; -- not /* the end */",
          "$yemble$ :name :'name' \\q",
          "\ttab\t",
          "\u001a\u007f",
          "sélection ⛴ \ud83d\udea2 \u240d\u2400\ue000");

  @TempDir Path folder;
  private final int number = NUMBER.incrementAndGet();
  private Sandbox sandbox;
  private String from;
  private String into;

  private String name(String side) {
    return "script_" + side + number;
  }

  private String database(String engine, String side) throws SQLException {
    if (engine.equals("sqlite")) {
      return "{ url: 'jdbc:sqlite:" + side + ".db'";
    }
    Client.renew(engine, name(side));
    return "{ url: '"
        + Servers.of(engine).url(name(side))
        + "', user: "
        + Servers.of(engine).user();
  }

  private Connection connect(String engine, String side) throws SQLException {
    return engine.equals("sqlite")
        ? DriverManager.getConnection("jdbc:sqlite:" + folder.resolve(side + ".db"))
        : Servers.of(engine).connect(name(side));
  }

  private void project(String fromEngine, String intoEngine) throws Exception {
    this.from = fromEngine;
    this.into = intoEngine;
    assumeTrue(Client.knows(into), "there is no client for " + into + " on this machine");
    sandbox = new Sandbox(folder).quick();
    sandbox.key(Sandbox.KEY);
    sandbox.write(
        "yemble.yaml",
        "version: 1\ndatabases:\n  live: "
            + database(from, "live")
            + " }\n  dev: "
            + database(into, "dev")
            + ", environment: test }\njobs: { all: { from: live, into: dev, load: replace } }\n");
  }

  private void source(String... statements) throws SQLException {
    try (Connection connection = connect(from, "live");
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private Captured yemble(String... args) {
    List<String> words = new ArrayList<>(List.of(args));
    words.addAll(List.of("--project", folder.toString()));
    Captured captured = Captured.of(words.toArray(new String[0]));
    assertThat(captured.exitCode()).as(captured.err() + captured.out()).isZero();
    return captured;
  }

  private String target(String side) {
    return into.equals("sqlite") ? folder.resolve(side + ".db").toString() : name(side);
  }

  /** Packs, writes the script, loads it with the client, and proves it against the source. */
  private void scripted() throws Exception {
    yemble("survey");
    yemble("register", "keep", "--open", "--reason", "a test");
    yemble("pack");
    yemble("script", "all", "--to", folder.resolve("sql").toString());
    Client.loads(into, folder.resolve("sql"), target("dev"));
    assertThat(yemble("verify", "--unchanged").out())
        .contains("holds        as loaded", "exactly those that the rules ask for");
  }

  private String one(String sql) throws SQLException {
    try (Connection connection = connect(into, "dev");
        Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(sql)) {
      assertThat(row.next()).isTrue();
      return row.getString(1);
    }
  }

  @ParameterizedTest
  @CsvSource({
    "sqlite, sqlite", "sqlite, postgresql", "sqlite, mariadb",
    "postgresql, sqlite", "postgresql, postgresql", "postgresql, mariadb",
    "mariadb, sqlite", "mariadb, postgresql", "mariadb, mariadb"
  })
  void oddValuesAndNamesArriveAsTheyAre(String fromEngine, String intoEngine) throws Exception {
    project(fromEngine, intoEngine);
    String quote = from.equals("mariadb") ? "`" : "\"";
    String table = quote + "it's; a -- \\ t" + quote;
    boolean server = !from.equals("sqlite");
    source(
        "CREATE TABLE "
            + table
            + " (id BIGINT PRIMARY KEY, "
            + quote
            + "se;lect"
            + quote
            + " TEXT, d "
            + (server ? "DOUBLE PRECISION" : "REAL")
            + ", b "
            + (from.equals("postgresql") ? "bytea" : "BLOB")
            + ")",
        "CREATE TABLE child (id INT PRIMARY KEY, parent BIGINT REFERENCES " + table + " (id))");
    double[] numbers = {0.1, -1.5, 1e300, 2.5e-300, 1.7976931348623157E308, 123456789.123456789};
    try (Connection connection = connect(from, "live");
        PreparedStatement insert =
            connection.prepareStatement("INSERT INTO " + table + " VALUES (?, ?, ?, ?)")) {
      long[] ids = {Long.MIN_VALUE, Long.MAX_VALUE};
      for (int i = 0; i < TEXTS.size(); i++) {
        insert.setLong(1, i < ids.length ? ids[i] : i);
        insert.setString(2, TEXTS.get(i));
        insert.setObject(3, i % 3 == 2 ? null : numbers[i % numbers.length]);
        insert.setBytes(4, new byte[] {0, '\r', '\n', '\'', '\\', (byte) 0xff, (byte) i});
        insert.executeUpdate();
      }
    }
    source("INSERT INTO child VALUES (1, 5), (2, NULL)");
    scripted();
    assertThat(one("SELECT count(*) FROM child")).isEqualTo("2");
  }

  @Test
  void whatPostgresqlAloneHas() throws Exception {
    project("postgresql", "postgresql");
    source(
        "CREATE SCHEMA \"Far; off\"",
        "CREATE TYPE mood AS ENUM ('calm', 'it''s rough')",
        "CREATE TABLE \"Far; off\".t (id serial PRIMARY KEY, m mood, a text[], j jsonb, r int4range)",
        "INSERT INTO \"Far; off\".t (m, a, j, r) VALUES ('it''s rough', '{\"a,b\",NULL,\"\\\\\"}',"
            + " '{\"k\": [1, null]}', '[1,5)'), (NULL, '{}', 'null', 'empty')",
        "CREATE TABLE hollow ()",
        "INSERT INTO hollow DEFAULT VALUES",
        "CREATE TABLE parts (k int, v text) PARTITION BY LIST (k)",
        "CREATE TABLE parts_1 PARTITION OF parts FOR VALUES IN (1)",
        "INSERT INTO parts VALUES (1, 'x')",
        "CREATE SEQUENCE apart INCREMENT 5 START 10",
        "SELECT nextval('apart')",
        "CREATE FUNCTION twice(x int) RETURNS int LANGUAGE sql AS $$ SELECT 2 * x; $$",
        "CREATE VIEW a_view AS SELECT id, twice(id) AS two FROM \"Far; off\".t",
        "CREATE MATERIALIZED VIEW \"Kept; view\" AS SELECT two FROM a_view",
        "COMMENT ON TABLE parts IS 'a -- comment; $yemble$'",
        "CREATE TABLE refers (t int REFERENCES \"Far; off\".t (id) ON DELETE CASCADE)",
        "INSERT INTO refers VALUES (2)");
    scripted();
    assertThat(one("SELECT sum(two) FROM \"Kept; view\"")).isEqualTo("6");
    assertThat(one("SELECT nextval('apart')")).isEqualTo("15");
    assertThat(one("INSERT INTO \"Far; off\".t DEFAULT VALUES RETURNING id")).isEqualTo("3");
    assertThat(one("SELECT obj_description('parts'::regclass)"))
        .isEqualTo("a -- comment; $yemble$");
    // A run may take the place of what the script has made.
    assertThat(yemble("run", "--yes").out()).contains("Done: ");
  }

  @Test
  void whatMariadbAloneHas() throws Exception {
    project("mariadb", "mariadb");
    source(
        "CREATE TABLE t (id INT AUTO_INCREMENT PRIMARY KEY, bits BIT(9), p POINT, f FLOAT,"
            + " l VARCHAR(20) CHARACTER SET latin1, e ENUM('a', 'it''s'), u BIGINT UNSIGNED,"
            + " n TEXT) AUTO_INCREMENT = 70",
        "INSERT INTO t VALUES (1, b'101010101', ST_GeomFromText('POINT(1.25 -2)', 4326), 0.1,"
            + " 'caf\u00e9', 'it''s', 18446744073709551615, 'a\\0b')",
        "CREATE TABLE c (t INT, CONSTRAINT `a;b` FOREIGN KEY (t) REFERENCES t (id))",
        "INSERT INTO c VALUES (1)",
        "CREATE FUNCTION f(x INT) RETURNS INT DETERMINISTIC BEGIN DECLARE y INT; SET y = x * 2;"
            + " RETURN y; -- // and /// and $$ /\n END",
        "CREATE VIEW z AS SELECT id, f(id) AS two FROM t",
        "CREATE VIEW a AS SELECT two FROM z",
        "CREATE TRIGGER seen BEFORE INSERT ON c FOR EACH ROW BEGIN SET @seen = 1; END",
        "CREATE SEQUENCE s START WITH 40");
    scripted();
    assertThat(one("SELECT sum(two) FROM a")).isEqualTo("2");
    assertThat(one("SELECT NEXTVAL(s)")).isEqualTo("40");
    assertThat(one("SELECT l = 'caf\u00e9' AND hex(CONVERT(l USING latin1)) = '636166E9' FROM t"))
        .isEqualTo("1");
    assertThat(
            one(
                "SELECT auto_increment FROM information_schema.tables WHERE table_name = 't'"
                    + " AND table_schema = database()"))
        .isEqualTo("70");
    assertThat(
            one(
                "SELECT count(*) FROM information_schema.tables"
                    + " WHERE table_schema = database() AND table_name LIKE 'yemble%'"))
        .isEqualTo("1");
    assertThat(yemble("run", "--yes").out()).contains("Done: ");
  }

  /** Rows that no statement can hold lie beside, and a half-read one is noticed. */
  @Test
  void rowsThatAreLongerThanAStatement() throws Exception {
    project("mariadb", "mariadb");
    source(
        "CREATE TABLE t (id INT PRIMARY KEY, n LONGTEXT CHARACTER SET latin1, b LONGBLOB)",
        "INSERT INTO t VALUES (1, REPEAT('caf\u00e9\\\\\\r\\n', 700000), NULL), (2, 'short', 'x'),"
            + " (3, NULL, REPEAT(x'0009ff0a', 1200000))");
    scripted();
    assertThat(Files.list(folder.resolve("sql")).map(f -> f.getFileName().toString()))
        .containsExactlyInAnyOrder("load.sql", "rows");
    assertThat(one("SELECT sum(length(n)) FROM t")).isEqualTo("4900005");
    Path rows = Files.list(folder.resolve("sql/rows")).findFirst().orElseThrow();
    Files.write(rows, java.util.Arrays.copyOf(Files.readAllBytes(rows), 1000));
    Client.renew(into, name("dev"));
    Program.Result cut = Client.load(into, folder.resolve("sql"), name("dev"));
    assertThat(cut.exitCode()).isNotZero();
    assertThat(cut.err()).contains("stopped: ");
    assertThat(
            one(
                "SELECT count(*) FROM information_schema.tables"
                    + " WHERE table_schema = database() AND table_name NOT LIKE 'yemble%'"))
        .isEqualTo("0");
  }

  /**
   * MariaDB sorts what comes into an empty table without checks, and never ends with a row of more
   * than about 80 MB: such a row must come with checks, by load and by script.
   */
  @ParameterizedTest
  @ValueSource(strings = {"mariadb", "postgresql", "sqlite"})
  @Tag("thorough")
  void aTextOfAHundredMegabytes(String engine) throws Exception {
    project("sqlite", engine);
    source(
        "CREATE TABLE t (id INTEGER PRIMARY KEY, n TEXT)",
        "INSERT INTO t VALUES (1, 'short'), (2, replace(hex(zeroblob(5500000)), '00',"
            + " 'ab\\' || char(13) || char(10) || 'xyz'' 01234567')), (3, 'after')");
    scripted();
    assertThat(one("SELECT max(length(n)) FROM t")).isEqualTo("99000000");
    yemble("load", "all", "--into", "dev", "--yes");
    assertThat(yemble("verify", "--unchanged").out()).contains("holds        as loaded");
  }

  /** Every number comes out as it went in, whatever SQLite makes of digits. */
  @ParameterizedTest
  @ValueSource(strings = {"UTF-8", "UTF-16be"})
  void whatSqliteAloneHas(String encoding) throws Exception {
    project("sqlite", "sqlite");
    try (Connection connection = connect(from, "live");
        Statement statement = connection.createStatement()) {
      statement.execute("PRAGMA encoding = '" + encoding + "'");
      statement.execute("PRAGMA user_version = 7");
      statement.execute("CREATE TABLE n (d REAL, x, t TEXT)");
      statement.execute("CREATE TABLE counted (id INTEGER PRIMARY KEY AUTOINCREMENT, x)");
      statement.execute("INSERT INTO counted VALUES (40, 1)");
      statement.execute("DELETE FROM counted");
      statement.execute("CREATE VIEW v AS SELECT 'a;b' AS c -- c\n");
      statement.execute("CREATE TRIGGER tr AFTER INSERT ON n BEGIN SELECT 1; SELECT ';END;'; END");
      connection.setAutoCommit(false);
      Random random = new Random(20);
      try (PreparedStatement insert =
          connection.prepareStatement("INSERT INTO n VALUES (?, ?, ?)")) {
        for (int i = 0; i < 20_000; i++) {
          double d = Double.longBitsToDouble(random.nextLong());
          insert.setDouble(1, Double.isNaN(d) ? 0.3 : d);
          insert.setObject(2, i % 2 == 0 ? (Object) random.nextLong() : Math.rint(d / 1e280));
          insert.setString(3, TEXTS.get(i % TEXTS.size()) + (i % 7 == 0 ? "\0\r" : ""));
          insert.executeUpdate();
        }
        insert.setDouble(1, Double.NEGATIVE_INFINITY);
        insert.setObject(2, 1e15);
        insert.executeUpdate();
      }
      connection.commit();
    }
    scripted();
    assertThat(one("PRAGMA encoding")).isEqualTo(encoding);
    assertThat(one("PRAGMA user_version")).isEqualTo("7");
    assertThat(one("SELECT seq FROM sqlite_sequence WHERE name = 'counted'")).isEqualTo("40");
    assertThat(one("SELECT typeof(x) FROM n WHERE x = 1e15")).isEqualTo("real");
    try (Connection connection = connect(into, "dev");
        Statement statement = connection.createStatement()) {
      statement.execute("ATTACH '" + folder.resolve("live.db") + "' AS live");
      String rows = "SELECT printf('%!.26g', d), typeof(x), quote(x), hex(t) FROM ";
      ResultSet others =
          statement.executeQuery(
              "SELECT count(*) FROM (" + rows + "main.n EXCEPT " + rows + "live.n)");
      assertThat(others.getInt(1)).isZero();
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void itStopsInTheSourceAndWhereSomethingIsInTheWay(String engine) throws Exception {
    project(engine, engine);
    source("CREATE TABLE t (id INT PRIMARY KEY)", "INSERT INTO t VALUES (1), (2)");
    scripted();
    Program.Result again = Client.load(into, folder.resolve("sql"), target("dev"));
    assertThat(again.exitCode()).isNotZero();
    assertThat(again.err()).contains("stopped: ");
    assertThat(one("SELECT count(*) FROM t")).isEqualTo("2");
    Program.Result source = Client.load(into, folder.resolve("sql"), target("live"));
    assertThat(source.exitCode()).isNotZero();
    assertThat(source.err())
        .contains(engine.equals("sqlite") ? "stopped: " : "stopped: this is live (production)");
    try (Connection connection = connect(from, "live");
        Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery("SELECT count(*) FROM t")) {
      row.next();
      assertThat(row.getInt(1)).isEqualTo(2);
    }
    assertThat(yemble("verify", "--unchanged").exitCode()).isZero();
  }

  /** A script that lacks rows makes nothing. */
  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void nothingIsSeenUnlessAllRowsAreIn(String engine) throws Exception {
    project(engine, engine);
    source("CREATE TABLE t (id INT PRIMARY KEY)", "INSERT INTO t VALUES (101), (102), (103)");
    scripted();
    Path file = folder.resolve("sql/load.sql");
    String script = Files.readString(file);
    String fewer = script.replaceFirst(engine.equals("postgresql") ? "102\n" : "\\(102\\),\n?", "");
    assertThat(fewer).hasSizeLessThan(script.length());
    Files.writeString(file, fewer);
    if (engine.equals("sqlite")) {
      Files.delete(folder.resolve("dev.db"));
    } else {
      Client.renew(engine, name("dev"));
    }
    Program.Result result = Client.load(into, folder.resolve("sql"), target("dev"));
    assertThat(result.exitCode()).isNotZero();
    assertThat(result.err()).contains("stopped: rows are missing");
    String tables =
        switch (engine) {
          case "sqlite" -> "SELECT count(*) FROM sqlite_master";
          case "postgresql" -> "SELECT count(*) FROM pg_tables WHERE schemaname = 'public'";
          default ->
              "SELECT count(*) FROM information_schema.tables WHERE table_schema = database()"
                  + " AND table_name NOT LIKE 'yemble%'";
        };
    assertThat(one(tables)).isEqualTo("0");
  }

  /** What a killed program leaves is a whole script or none, and holds no original. */
  @Test
  void aKilledProgramLeavesNoHalfScript() throws Exception {
    Sandbox files = Sandbox.ready(folder);
    Program.Result pack = files.yemble("pack");
    assertThat(pack.exitCode()).as(pack.all()).isZero();
    Random random = new Random(7);
    for (int i = 0; i < 8; i++) {
      Process process =
          new ProcessBuilder(Program.command("script", "small", "--to", "sql" + i))
              .directory(folder.toFile())
              .redirectErrorStream(true)
              .redirectOutput(folder.resolve("said.txt").toFile())
              .start();
      Thread.sleep(200 + random.nextInt(500));
      process.destroyForcibly().waitFor();
      Path script = folder.resolve("sql" + i);
      if (Files.exists(script)) {
        assertThat(Files.readString(script.resolve("load.sql"))).endsWith(" loaded'\n");
      }
    }
    Program.Result whole = files.yemble("script", "small", "--to", "whole");
    assertThat(whole.exitCode()).as(whole.all()).isZero();
    List<String> names =
        files.query("live.db", "SELECT name FROM person").stream()
            .map(row -> String.valueOf(row.get(0)))
            .filter(name -> !name.isBlank())
            .toList();
    assertThat(names).isNotEmpty();
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path file : all.filter(f -> f.toString().endsWith(".sql")).toList()) {
        assertThat(names).noneMatch(Files.readString(file)::contains);
      }
    }
  }
}
