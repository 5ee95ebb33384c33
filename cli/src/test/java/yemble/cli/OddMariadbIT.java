package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yemble.demo.MariadbServer;

/** What MariaDB may hold, odd as it is, arrives as it is, or is refused with what to do. */
class OddMariadbIT {
  private static final AtomicInteger NUMBER = new AtomicInteger();
  @TempDir Path folder;
  private static final MariadbServer SERVER = Servers.mariadb();
  private Sandbox files;
  private String live;
  private String dev;

  @BeforeEach
  void project() throws Exception {
    files = new Sandbox(folder).quick();
    int number = NUMBER.incrementAndGet();
    live = "odd_live_" + number;
    dev = "odd_dev_" + number;
    SERVER.create(live);
    SERVER.create(dev);
    files.key(Sandbox.KEY);
    files.write(
        "yemble.yaml",
        "version: 1\ndatabases:\n  live: { url: '"
            + SERVER.url(live)
            + "', user: demo }\n  dev: { url: '"
            + SERVER.url(dev)
            + "', user: demo, environment: test }\n"
            + "jobs: { small: { from: live, into: dev, load: replace } }\n");
  }

  private static void sql(String database, String... statements) throws SQLException {
    try (Connection connection = SERVER.connect(database);
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private static List<List<String>> rows(String database, String sql) throws SQLException {
    List<List<String>> rows = new ArrayList<>();
    try (Connection connection = SERVER.connect(database);
        Statement statement = connection.createStatement();
        ResultSet result = statement.executeQuery(sql)) {
      while (result.next()) {
        List<String> row = new ArrayList<>();
        for (int i = 1; i <= result.getMetaData().getColumnCount(); i++) {
          row.add(result.getString(i));
        }
        rows.add(row);
      }
    }
    return rows;
  }

  private Program.Result good(String... args) {
    Program.Result result = files.yemble(args);
    assertThat(result.exitCode()).as(result.all()).isZero();
    return result;
  }

  private void decideAndRun() {
    good("survey");
    good("register", "keep", "--open", "--reason", "a test");
    good("run", "--yes", "--debug");
    good("verify", "--unchanged");
  }

  private void same(String query) throws SQLException {
    assertThat(rows(dev, query)).isEqualTo(rows(live, query)).isNotEmpty();
  }

  @Test
  void grantsAreCarriedWhereTheyAreAskedFor() throws Exception {
    sql(
        live,
        "CREATE TABLE open_one (id INT PRIMARY KEY, v INT)",
        "CREATE OR REPLACE USER 'looks on'@'%'",
        "GRANT EXECUTE ON " + live + ".* TO 'looks on'@'%'",
        "GRANT SELECT ON open_one TO 'looks on'@'%' WITH GRANT OPTION",
        "GRANT UPDATE (v) ON open_one TO 'looks on'@'%'");
    String asked =
        "SELECT privilege_type, is_grantable FROM information_schema.table_privileges"
            + " WHERE table_schema = '%1$s' AND grantee LIKE '%%looks on%%' UNION ALL"
            + " SELECT privilege_type, column_name FROM information_schema.column_privileges"
            + " WHERE table_schema = '%1$s' UNION ALL SELECT privilege_type, is_grantable"
            + " FROM information_schema.schema_privileges WHERE table_schema = '%1$s'"
            + " AND grantee LIKE '%%looks on%%' ORDER BY 1";
    decideAndRun();
    assertThat(rows(dev, asked.formatted(dev))).isEmpty();
    files.write(
        "yemble.yaml",
        files.read("yemble.yaml").replace("environment: test", "environment: test, grants: true"));
    good("run", "--yes");
    assertThat(rows(dev, asked.formatted(dev)))
        .hasSize(3)
        .isEqualTo(rows(live, asked.formatted(live)));
    sql(live, "DROP USER 'looks on'@'%'");
  }

  @Test
  void sequencesGoOnWhereTheyStandAndTablesThatUseThemUseTheCopys() throws Exception {
    sql(
        live,
        "CREATE SEQUENCE `odd ``seq` START WITH 5 INCREMENT BY 3 NOCACHE",
        "CREATE TABLE numbered (id INT PRIMARY KEY DEFAULT (NEXT VALUE FOR `odd ``seq`), v INT)",
        "INSERT INTO numbered (v) VALUES (1), (2)");
    decideAndRun();
    sql(dev, "INSERT INTO numbered (v) VALUES (3)");
    assertThat(rows(dev, "SELECT id FROM numbered ORDER BY v").toString())
        .isEqualTo("[[5], [8], [11]]");
    assertThat(rows(live, "SELECT next_not_cached_value FROM `odd ``seq`").toString())
        .as("the source's was not moved")
        .isEqualTo("[[11]]");
    good("run", "--yes");
    sql(dev, "INSERT INTO numbered (v) VALUES (3)");
    assertThat(rows(dev, "SELECT max(id) FROM numbered").toString()).isEqualTo("[[11]]");
  }

  @Test
  void countersBeyondSignedNumbersGoOn() throws Exception {
    sql(
        live,
        "CREATE TABLE big (id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY, v INT)"
            + " AUTO_INCREMENT = 9223372036854775809",
        "INSERT INTO big (v) VALUES (1), (2)");
    decideAndRun();
    same("SELECT * FROM big ORDER BY id");
    sql(dev, "INSERT INTO big (v) VALUES (3)");
    assertThat(rows(dev, "SELECT max(id) FROM big").get(0)).containsExactly("9223372036854775811");
  }

  @Test
  void theLabelOfNumberZeroArrives() throws Exception {
    sql(
        live,
        "SET SESSION sql_mode = ''",
        "CREATE TABLE e (id INT PRIMARY KEY, m ENUM('a', 'b') NOT NULL)",
        "INSERT INTO e VALUES (1, 'a')");
    try (Connection connection = SERVER.connect(live);
        Statement statement = connection.createStatement()) {
      statement.execute("SET SESSION sql_mode = ''");
      statement.execute("INSERT INTO e VALUES (2, 'zzz')");
    }
    decideAndRun();
    same("SELECT id, m, m + 0 FROM e ORDER BY id");
  }

  @Test
  void versionedTablesWithNamedTimesArrive() throws Exception {
    sql(
        live,
        "CREATE TABLE v (id INT PRIMARY KEY, x INT,"
            + " since TIMESTAMP(6) GENERATED ALWAYS AS ROW START,"
            + " until TIMESTAMP(6) GENERATED ALWAYS AS ROW END,"
            + " PERIOD FOR SYSTEM_TIME (since, until)) WITH SYSTEM VERSIONING",
        "INSERT INTO v (id, x) VALUES (1, 5), (2, 6)",
        "UPDATE v SET x = 7 WHERE id = 1");
    decideAndRun();
    same("SELECT id, x FROM v ORDER BY id");
  }

  @Test
  void tablesWithLineFeedsInTheirNamesAreTheirOwn() throws Exception {
    sql(
        live,
        "CREATE TABLE `two\nlines` (id INT PRIMARY KEY, `a\nb` VARCHAR(9))",
        "INSERT INTO `two\nlines` VALUES (1, 'x')",
        "CREATE TABLE child (id INT PRIMARY KEY, p INT, CONSTRAINT `fk\n1` FOREIGN KEY (p)"
            + " REFERENCES `two\nlines` (id))",
        "INSERT INTO child VALUES (1, 1)");
    decideAndRun();
    good("run", "--yes");
    same("SELECT * FROM `two\nlines`");
    same("SELECT * FROM child");
  }

  /** The commonest key there is, two counters, a generated key, names that differ by case alone. */
  @Test
  void keysOfUnsignedNumbersAndMoreCrossIntoAFile() throws Exception {
    sql(
        live,
        "CREATE TABLE k (id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY, v INT)",
        "INSERT INTO k VALUES (1, 1), (7, 2)",
        "CREATE TABLE child (id INT UNSIGNED AUTO_INCREMENT PRIMARY KEY, k_id BIGINT UNSIGNED,"
            + " FOREIGN KEY (k_id) REFERENCES k (id))",
        "INSERT INTO child VALUES (1, 7)",
        "CREATE TABLE g (id INT PRIMARY KEY, b VARCHAR(9),"
            + " up VARCHAR(9) GENERATED ALWAYS AS (upper(b)) STORED UNIQUE)",
        "INSERT INTO g (id, b) VALUES (1, 'x'), (2, 'y')",
        "CREATE TABLE flag (id INT PRIMARY KEY, f TINYINT(1))",
        "INSERT INTO flag VALUES (1, 0), (2, 1), (3, 2), (4, -128)",
        "CREATE TABLE `" + "n".repeat(64) + "` (id INT PRIMARY KEY)");
    files.write(
        "yemble.yaml",
        files
            .read("yemble.yaml")
            .replaceFirst(
                "dev: \\{.*\\}", "dev: { url: 'jdbc:sqlite:dev.db', environment: test }"));
    decideAndRun();
    assertThat(files.query("dev.db", "SELECT id, v FROM k ORDER BY id"))
        .isEqualTo(List.of(List.of(1, 1), List.of(7, 2)));
    files.sql("dev.db", "INSERT INTO k (v) VALUES (3)");
    assertThat(files.one("dev.db", "SELECT max(id) FROM k")).isEqualTo(8);
    assertThat(files.query("dev.db", "SELECT f FROM flag ORDER BY id"))
        .isEqualTo(List.of(List.of(0), List.of(1), List.of(2), List.of(-128)));
    assertThat(files.query("dev.db", "SELECT b FROM g ORDER BY id")).hasSize(2);
  }

  @Test
  void aCutLinkIsClearedEvenWhereItHoldsAnEmptyText() throws Exception {
    sql(
        live,
        "CREATE TABLE parent (code VARCHAR(9) PRIMARY KEY)",
        "CREATE TABLE child (id INT PRIMARY KEY, code VARCHAR(9),"
            + " FOREIGN KEY (code) REFERENCES parent (code))",
        "INSERT INTO parent VALUES (''), ('x')",
        "INSERT INTO child VALUES (1, ''), (2, 'x'), (3, NULL)");
    files.write(
        "yemble.yaml",
        files.read("yemble.yaml").replace("load: replace", "load: replace, empty: [parent]")
            + "links: { child.code: { cut: true } }\n");
    decideAndRun();
    assertThat(rows(dev, "SELECT count(code) FROM child").get(0)).containsExactly("0");
  }
}
