package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yemble.demo.PostgresqlServer;

/** What PostgreSQL may hold, odd as it is, arrives as it is, or is refused with what to do. */
class OddPostgresqlIT {
  @TempDir static Path servers;
  @TempDir Path folder;
  private static PostgresqlServer server;
  private PostgresqlSandbox sandbox;

  @BeforeAll
  static void start() throws Exception {
    server = PostgresqlServer.start(servers.resolve("server"));
  }

  @AfterAll
  static void stop() throws Exception {
    server.close();
  }

  @BeforeEach
  void project() throws Exception {
    sandbox = new PostgresqlSandbox(server, folder);
    sandbox.files.quick();
  }

  private Program.Result good(String... args) {
    Program.Result result = sandbox.yemble(args);
    assertThat(result.exitCode()).as(result.all()).isZero();
    return result;
  }

  private void decideAndRun() throws Exception {
    sandbox.register(Map.of());
    good("run", "--yes");
    good("verify", "--unchanged");
  }

  private void same(String query) throws Exception {
    List<List<String>> there = sandbox.rows(sandbox.dev, query);
    assertThat(there).isEqualTo(sandbox.rows(sandbox.live, query)).isNotEmpty();
  }

  @Test
  void namesThatLookLikePathsAndTablesOfTheSameNameAreTheirOwn() throws Exception {
    sandbox.sql(
        sandbox.live,
        "CREATE TABLE odd (id integer PRIMARY KEY, \"price $\" integer, \"a.b\" text)",
        "INSERT INTO odd VALUES (1, 2, 'x')",
        "CREATE SCHEMA a",
        "CREATE TABLE item (id integer PRIMARY KEY)",
        "CREATE TABLE a.item (id integer PRIMARY KEY, v text)",
        "INSERT INTO item VALUES (1), (2)",
        "INSERT INTO a.item VALUES (7, 'x')");
    good("survey");
    good("register", "keep", "--open", "--reason", "a test");
    good("run", "--yes");
    same("SELECT * FROM odd");
    same("SELECT * FROM item ORDER BY 1");
    same("SELECT * FROM a.item");
    sandbox.project("", "pick: { item: { where: id = 1 } }");
    good("run", "--yes");
    assertThat(sandbox.one(sandbox.dev, "SELECT count(*) FROM item")).isEqualTo("1");
  }

  @Test
  void rowsThatBreakAnUnprovenCheckArriveAndChecksMayReadOtherTables() throws Exception {
    sandbox.sql(
        sandbox.live,
        "CREATE TABLE zone (id integer PRIMARY KEY)",
        "INSERT INTO zone VALUES (1), (2)",
        "CREATE FUNCTION known(integer) RETURNS boolean LANGUAGE sql STABLE AS"
            + " 'SELECT EXISTS (SELECT 1 FROM zone WHERE id = $1)'",
        "CREATE TABLE area (id integer PRIMARY KEY, zone_id integer CHECK (known(zone_id)))",
        "INSERT INTO area VALUES (1, 1), (2, 2)",
        "CREATE TABLE tariff (id integer PRIMARY KEY, price integer)",
        "INSERT INTO tariff VALUES (1, -5), (2, 5)",
        "ALTER TABLE tariff ADD CONSTRAINT positive CHECK (price > 0) NOT VALID");
    decideAndRun();
    same("SELECT * FROM area ORDER BY 1");
    same("SELECT * FROM tariff ORDER BY 1");
    same("SELECT conname, convalidated FROM pg_constraint WHERE contype = 'c' ORDER BY 1");
  }

  @Test
  void whoMayNotReadSequencesGetsCountersBehindTheGreatestKey() throws Exception {
    sandbox.sql(
        sandbox.live,
        "CREATE TABLE counted (id serial PRIMARY KEY, v text)",
        "INSERT INTO counted (v) SELECT 'x' FROM generate_series(1, 30)",
        "DROP ROLE IF EXISTS nosequence",
        "CREATE ROLE nosequence LOGIN",
        "GRANT SELECT ON ALL TABLES IN SCHEMA public TO nosequence");
    sandbox.files.write(
        "yemble.yaml",
        sandbox.files.read("yemble.yaml").replaceFirst("user: postgres", "user: nosequence"));
    decideAndRun();
    sandbox.sql(sandbox.dev, "INSERT INTO counted (v) VALUES ('next')");
    assertThat(sandbox.one(sandbox.dev, "SELECT max(id) FROM counted")).isEqualTo("31");
    sandbox.sql(sandbox.live, "DROP OWNED BY nosequence", "DROP ROLE nosequence");
  }

  @Test
  void aRowIsFoundByItsWholeNameAlone() throws Exception {
    sandbox.sql(
        sandbox.live,
        "CREATE TABLE coded (code varchar(3), n numeric(5,2), PRIMARY KEY (code, n))",
        "INSERT INTO coded VALUES ('abc', 1.23)");
    good("survey");
    good("register", "keep", "--open", "--reason", "a test");
    assertThat(good("why", "coded", "abc", "1.23").out()).contains("is in");
    for (String other : new String[] {"abcd 1.23", "abc 1.234"}) {
      Program.Result result = sandbox.yemble(("why coded " + other).split(" "));
      assertThat(result.exitCode()).as(result.all()).isEqualTo(2);
      assertThat(result.err()).contains("no such row of coded");
    }
  }

  @Test
  void aTableThatCannotBeReadEndsItsOwnSurveyAlone() throws Exception {
    sandbox.sql(
        sandbox.live,
        "CREATE TABLE closed (id integer PRIMARY KEY, email text)",
        "CREATE TABLE reader (id integer PRIMARY KEY, email text)",
        "INSERT INTO reader VALUES (1, 'orla@a.example'), (2, 'tavin@b.example')",
        "DROP ROLE IF EXISTS half",
        "CREATE ROLE half LOGIN",
        "GRANT SELECT ON reader TO half");
    sandbox.files.write(
        "yemble.yaml",
        sandbox.files.read("yemble.yaml").replaceFirst("user: postgres", "user: half"));
    Program.Result survey = sandbox.yemble("survey");
    assertThat(survey.exitCode()).as(survey.all()).isZero();
    assertThat(survey.err()).contains("closed cannot be read", "stay undecided", "grant it");
    assertThat(sandbox.files.read("register.csv"))
        .contains("reader.email,text,email,mask")
        .contains("closed.email,text,,undecided,,not looked at: its table cannot be read");
    sandbox.sql(sandbox.live, "DROP OWNED BY half", "DROP ROLE half");
  }

  @Test
  void aMaskedLabelIsBlamedOnItsOwnColumn() throws Exception {
    sandbox.sql(
        sandbox.live,
        "CREATE TYPE mood AS ENUM ('good', 'bad')",
        "CREATE TABLE p (id integer PRIMARY KEY, m mood, born date CHECK (born > '1800-01-01'))",
        "INSERT INTO p VALUES (1, 'good', '1990-04-05'), (2, 'bad', '1980-05-06')");
    sandbox.register(Map.of("p.m", "religion", "p.born", "birth-date"));
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isEqualTo(2);
    assertThat(run.err()).contains("p.m, masked by").doesNotContain("born");
  }

  @Test
  void searchVectorsAreRefusedBeforeTheLoadIfTheyAreMasked() throws Exception {
    sandbox.sql(
        sandbox.live,
        "CREATE TABLE d (id integer PRIMARY KEY, words tsvector)",
        "INSERT INTO d VALUES (1, to_tsvector('simple', 'orla tidewick called'))");
    sandbox.register(Map.of("d.words", "note"));
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isEqualTo(2);
    assertThat(run.err()).contains("d.words", "do:");
    sandbox.files.write(
        "yemble.yaml",
        sandbox.files.read("yemble.yaml") + "columns: { d.words: { clear: true } }\n");
    good("run", "--yes");
  }

  @Test
  void rangesBringTheirOwnCastsAndNothingIsSaidOfThem() throws Exception {
    sandbox.sql(
        sandbox.live,
        "CREATE TYPE span AS RANGE (subtype = integer)",
        "CREATE TABLE r (id integer PRIMARY KEY, s span)",
        "INSERT INTO r VALUES (1, '[1,5)')");
    sandbox.register(Map.of());
    assertThat(good("run", "--yes").all()).doesNotContain("Not carried");
    same("SELECT * FROM r");
  }

  /** What no column there can hold is found before the load, and settled column by column. */
  @Test
  void oddValuesOfAFileAreFoundAndSettled() throws Exception {
    sandbox.files.sql(
        "live.db",
        "CREATE TABLE a (id INTEGER PRIMARY KEY, v)",
        "INSERT INTO a VALUES (1, 9e999), (2, -9e999), (3, x'00ff'), (4, 'x'), (5, 7), (6, 1.5)",
        "CREATE TABLE t (id INTEGER PRIMARY KEY, v TEXT)",
        "INSERT INTO t VALUES (1, cast(x'ff' as text)), (2, cast(x'fe' as text)), (3, 'Grüße')",
        "CREATE TABLE d (id INTEGER PRIMARY KEY, z DECIMAL(5,5), r REAL, j JSON)",
        "INSERT INTO d VALUES (1, 0, -0.0, '{\"v\":1e2}'), (2, 0.5, 0.0, '{\"v\":100}')",
        "CREATE TABLE n (k TEXT PRIMARY KEY, v TEXT)",
        "INSERT INTO n VALUES ('a', 'x'), (NULL, 'y')",
        "CREATE TABLE \"" + "long name ".repeat(8) + "\" (id INTEGER PRIMARY KEY)",
        "CREATE TABLE \"" + "long name ".repeat(8) + "2\" (id INTEGER PRIMARY KEY)");
    String project =
        sandbox
            .files
            .read("yemble.yaml")
            .replaceFirst(
                "url: jdbc:postgresql:.*\\n    user: postgres", "url: jdbc:sqlite:live.db");
    sandbox.files.write("yemble.yaml", project);
    good("survey");
    good("register", "keep", "--open", "--reason", "a test");
    Program.Result refused = sandbox.yemble("run", "--yes");
    assertThat(refused.exitCode()).as(refused.all()).isEqualTo(2);
    assertThat(refused.err()).contains("a.v", "t.v", "n.k", "unfit:");
    sandbox.files.write(
        "yemble.yaml", project + "    unfit: { a.v: clear, t.v: clear, n.k: { value: none } }\n");
    good("run", "--yes");
    good("verify", "--unchanged");
    assertThat(sandbox.rows(sandbox.dev, "SELECT id FROM t WHERE v IS NULL ORDER BY 1"))
        .isEqualTo(List.of(List.of("1"), List.of("2")));
    assertThat(sandbox.one(sandbox.dev, "SELECT count(*) FROM n WHERE k = 'none'")).isEqualTo("1");
    assertThat(sandbox.one(sandbox.dev, "SELECT string_agg(z::text, ' ' ORDER BY id) FROM d"))
        .isEqualTo("0.00000 0.50000");
  }

  @Test
  void aCutLinkIsClearedEvenWhereItHoldsAnEmptyText() throws Exception {
    sandbox.sql(
        sandbox.live,
        "CREATE TABLE parent (code text PRIMARY KEY)",
        "CREATE TABLE child (id integer PRIMARY KEY, code text REFERENCES parent)",
        "INSERT INTO parent VALUES (''), ('x')",
        "INSERT INTO child VALUES (1, ''), (2, 'x'), (3, NULL)");
    sandbox.project("", "empty: [parent]");
    sandbox.files.write(
        "yemble.yaml",
        sandbox.files.read("yemble.yaml") + "links: { child.code: { cut: true } }\n");
    decideAndRun();
    assertThat(sandbox.one(sandbox.dev, "SELECT count(code) FROM child")).isEqualTo("0");
  }
}
