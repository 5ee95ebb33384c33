package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What SQLite files may hold, odd as it is, arrives as it is, or is refused with what to do. */
class OddSqliteIT {
  @TempDir Path folder;
  private Sandbox sandbox;

  @BeforeEach
  void project() throws IOException {
    sandbox = new Sandbox(folder).quick();
    sandbox.write("yemble.yaml", Sandbox.PROJECT);
    sandbox.key(Sandbox.KEY);
  }

  private void run(Map<String, String> masked) throws IOException, SQLException {
    sandbox.register("live.db", masked);
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    Program.Result verify = sandbox.yemble("verify", "--unchanged");
    assertThat(verify.exitCode()).as(verify.all()).isZero();
  }

  private void same(String query) throws SQLException {
    assertThat(sandbox.query("dev.db", query)).isEqualTo(sandbox.query("live.db", query));
  }

  @Test
  void aDatabaseWithStatisticsIsCopied() throws Exception {
    sandbox.sql(
        "live.db",
        "CREATE TABLE a (id INTEGER PRIMARY KEY, v TEXT)",
        "CREATE INDEX i ON a (v)",
        "INSERT INTO a VALUES (1, 'x'), (2, 'y')",
        "ANALYZE");
    run(Map.of());
    same("SELECT * FROM a");
    same("SELECT tbl, idx FROM sqlite_stat1");
  }

  @Test
  void aRowThatBreaksItsCheckArrivesAndAMaskedOneDoesNot() throws Exception {
    sandbox.sql(
        "live.db",
        "CREATE TABLE tariff (id INTEGER PRIMARY KEY, price INTEGER CHECK (price > 0))",
        "CREATE TABLE code (v TEXT CHECK (v LIKE 'A%'), w INTEGER)",
        "PRAGMA ignore_check_constraints = ON",
        "INSERT INTO tariff VALUES (1, 5), (2, -1), (3, NULL)");
    run(Map.of());
    same("SELECT * FROM tariff");
    sandbox.sql("live.db", "INSERT INTO code VALUES ('A1', 1), ('A2', 2)");
    sandbox.register("live.db", Map.of("code.v", "given-name"));
    sandbox.write("yemble.yaml", Sandbox.PROJECT + "columns: { code.v: { fixed: B } }\n");
    Program.Result refused = sandbox.yemble("run", "--yes");
    assertThat(refused.exitCode()).as(refused.all()).isEqualTo(2);
    assertThat(refused.err()).contains("code.v");
  }

  @Test
  void aTableThatHidesTheNumbersOfItsRowsIsReadInTheirOrder() throws Exception {
    sandbox.sql(
        "live.db",
        "CREATE TABLE keyed (rowid TEXT PRIMARY KEY NOT NULL, _rowid_ TEXT, oid TEXT)",
        "CREATE TABLE bare (rowid TEXT, _rowid_ TEXT, oid TEXT)",
        "CREATE TABLE plain (id INTEGER PRIMARY KEY, v TEXT)",
        "INSERT INTO keyed VALUES ('a', 'b', 'c'), ('d', 'e', NULL)",
        "INSERT INTO bare VALUES ('a', 'b', 'Orla'), ('a', 'b', 'Orla'), ('x', NULL, 'Mirel')",
        "INSERT INTO plain VALUES (1, 'x')");
    run(Map.of("bare.oid", "given-name"));
    same("SELECT * FROM keyed");
    same("SELECT * FROM plain");
    same("SELECT rowid, _rowid_ FROM bare");
    sandbox.write(
        "yemble.yaml", Sandbox.PROJECT + "    pick: { bare: { where: \"rowid = 'x'\" } }\n");
    run(Map.of());
    same("SELECT * FROM bare WHERE rowid = 'x'");
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM bare")).isEqualTo(1);
    sandbox.write("yemble.yaml", Sandbox.PROJECT + "    empty: [bare]\n");
    run(Map.of());
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM bare")).isEqualTo(0);
  }

  @Test
  void columnsWithoutANameAndWithSpacesAndSignsAreColumns() throws Exception {
    sandbox.sql(
        "live.db",
        "CREATE TABLE odd (\"\" TEXT, \"price $\" TEXT, \"a.b\" TEXT, \"say \"\"x\"\"\" TEXT)",
        "INSERT INTO odd VALUES ('Orla', 'p', 'q', 's')");
    sandbox.yemble("survey");
    Program.Result kept = sandbox.yemble("register", "keep", "--open", "--reason", "a test");
    assertThat(kept.exitCode()).as(kept.all()).isZero();
    Program.Result masked = sandbox.yemble("register", "mask", "odd.\"\"", "--as", "given-name");
    assertThat(masked.exitCode()).as(masked.all()).isZero();
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    same("SELECT \"price $\", \"a.b\", \"say \"\"x\"\"\" FROM odd");
    assertThat(sandbox.one("dev.db", "SELECT \"\" FROM odd")).isNotEqualTo("Orla");
  }

  @Test
  void noiseOnNumericColumnsIsProved() throws Exception {
    sandbox.sql(
        "live.db",
        "CREATE TABLE pay (id INTEGER PRIMARY KEY, bonus NUMERIC, rate REAL, n INTEGER)",
        "INSERT INTO pay WITH RECURSIVE c(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM c"
            + " WHERE i < 400) SELECT i, i * 1.25, i * 0.5, i FROM c");
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT
            + "columns: { pay.bonus: { noise: 500 }, pay.rate: { range: [1, 90] },"
            + " pay.n: { noise: 10 } }\n");
    run(Map.of("pay.bonus", "salary", "pay.rate", "salary", "pay.n", "salary"));
  }

  @Test
  void aConditionThatFailsWhileItIsAskedIsAMistakeOfTheProject() throws Exception {
    sandbox.sql(
        "live.db",
        "CREATE TABLE a (id INTEGER PRIMARY KEY, v TEXT)",
        "INSERT INTO a VALUES (1, 'x'), (2, 'y')");
    sandbox.register("live.db", Map.of());
    for (String where :
        new String[] {"abs(-9223372036854775808) > id", "json_extract(v, '$') = id"}) {
      sandbox.write(
          "yemble.yaml", Sandbox.PROJECT + "    pick: { a: { where: \"" + where + "\" } }\n");
      Program.Result run = sandbox.yemble("run", "--yes");
      assertThat(run.exitCode()).as(run.all()).isEqualTo(2);
      assertThat(run.err()).contains("yemble.yaml:", "do:");
    }
  }

  @Test
  void aCutLinkIsClearedEvenWhereItHoldsAnEmptyText() throws Exception {
    sandbox.sql(
        "live.db",
        "CREATE TABLE parent (code TEXT PRIMARY KEY NOT NULL)",
        "CREATE TABLE child (id INTEGER PRIMARY KEY, code TEXT REFERENCES parent (code))",
        "INSERT INTO parent VALUES (''), ('x')",
        "INSERT INTO child VALUES (1, ''), (2, 'x'), (3, NULL)");
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT + "    empty: [parent]\nlinks: { child.code: { cut: true } }\n");
    run(Map.of());
    assertThat(sandbox.one("dev.db", "SELECT count(code) FROM child")).isEqualTo(0);
  }

  /** What fills empty cells makes all of them the same, which a unique column does not take. */
  @Test
  void fillingEmptyCellsOfAUniqueColumnIsRefusedBeforeTheLoad() throws Exception {
    sandbox.sql(
        "live.db",
        "CREATE TABLE p (id INTEGER PRIMARY KEY, nick TEXT UNIQUE)",
        "INSERT INTO p VALUES (1, 'a'), (2, NULL), (3, NULL)");
    sandbox.register("live.db", Map.of("p.nick", "username"));
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT + "columns: { p.nick: { pattern: '[a-z]{8}', also: [null] } }\n");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isEqualTo(2);
    assertThat(run.err()).contains("p.nick", "unique");
  }

  /** Rows of another source's load that break a check are none of this load's business. */
  @Test
  void brokenChecksOfOtherTablesInTheTargetDoNotStopALoad() throws Exception {
    sandbox.sql("live.db", "CREATE TABLE a (id INTEGER PRIMARY KEY)", "INSERT INTO a VALUES (1)");
    sandbox.sql(
        "dev.db",
        "CREATE TABLE other (x INTEGER CHECK (x > 0))",
        "PRAGMA ignore_check_constraints = ON",
        "INSERT INTO other VALUES (-1)");
    sandbox.register("live.db", Map.of());
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    same("SELECT * FROM a");
    assertThat(sandbox.one("dev.db", "SELECT x FROM other")).isEqualTo(-1);
  }
}
