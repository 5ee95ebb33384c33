package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yemble.demo.DemoServer;

/**
 * What another engine has no counterpart for is left out, or becomes something else, and is named.
 */
class OddPairsIT {
  private static final AtomicInteger NUMBER = new AtomicInteger();
  @TempDir Path folder;
  private final int number = NUMBER.incrementAndGet();
  private String into;

  private String database(String engine, String side) throws SQLException {
    if (engine.equals("sqlite")) {
      return "{ url: 'jdbc:sqlite:" + side + ".db'";
    }
    DemoServer server = Servers.of(engine);
    String name = "odd_" + side + number;
    server.create(name);
    return "{ url: '" + server.url(name) + "', user: " + server.user();
  }

  private Connection connect(String engine, String side) throws SQLException {
    return engine.equals("sqlite")
        ? DriverManager.getConnection("jdbc:sqlite:" + folder.resolve(side + ".db"))
        : Servers.of(engine).connect("odd_" + side + number);
  }

  private Captured yemble(String... args) {
    String[] words = java.util.Arrays.copyOf(args, args.length + 2);
    words[args.length] = "--project";
    words[args.length + 1] = folder.toString();
    Captured captured = Captured.of(words);
    assertThat(captured.exitCode()).as(captured.err() + captured.out()).isZero();
    return captured;
  }

  /** Carries a source, and gives what the run says. */
  private String carried(String from, String into, String... statements) throws Exception {
    prepare(from, into, statements);
    String said = yemble("run", "--yes").out();
    yemble("verify", "--unchanged");
    yemble("run", "--yes");
    assertThat(Files.exists(folder.resolve("yemble.yaml"))).isTrue();
    return said;
  }

  private void prepare(String from, String into, String... statements) throws Exception {
    this.into = into;
    Sandbox sandbox = new Sandbox(folder).quick();
    sandbox.key(Sandbox.KEY);
    sandbox.write(
        "yemble.yaml",
        "version: 1\ndatabases:\n  live: "
            + database(from, "live")
            + " }\n  dev: "
            + database(into, "dev")
            + ", environment: test }\njobs: { all: { from: live, into: dev, load: replace } }\n");
    try (Connection connection = connect(from, "live");
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
    yemble("survey");
    yemble("register", "keep", "--open", "--reason", "a test");
  }

  private String one(String sql) throws SQLException {
    try (Connection connection = connect(into, "dev");
        Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(sql)) {
      assertThat(row.next()).isTrue();
      return row.getString(1);
    }
  }

  @Test
  void foreignKeysToWhatIsNotUniqueAreLeftOut() throws Exception {
    String said =
        carried(
            "mariadb",
            "postgresql",
            "CREATE TABLE p (id INT PRIMARY KEY, c INT, KEY (c))",
            "CREATE TABLE k (c INT, FOREIGN KEY (c) REFERENCES p (c))",
            "INSERT INTO p VALUES (1, 7), (2, 7)",
            "INSERT INTO k VALUES (7)");
    assertThat(said).contains("foreign key k.c -> p.c: what it refers to is not unique");
    assertThat(one("SELECT count(*) FROM k")).isEqualTo("1");
  }

  @Test
  void aColumnForBytesThatHoldsTextsAloneIsOneOfTexts() throws Exception {
    carried(
        "sqlite",
        "postgresql",
        "CREATE TABLE b (texts BLOB, bytes BLOB, none BLOB)",
        "INSERT INTO b VALUES ('one', x'00ff', NULL), (NULL, NULL, NULL)");
    assertThat(one("SELECT texts || octet_length(bytes) FROM b WHERE texts IS NOT NULL"))
        .isEqualTo("one2");
    assertThat(
            one(
                "SELECT string_agg(data_type, ' ' ORDER BY column_name)"
                    + " FROM information_schema.columns WHERE table_name = 'b'"))
        .isEqualTo("bytea bytea text");
  }

  @Test
  void aTableWithoutColumnsKeepsItsRows() throws Exception {
    String said =
        carried(
            "postgresql",
            "sqlite",
            "CREATE TABLE hollow ()",
            "INSERT INTO hollow DEFAULT VALUES",
            "INSERT INTO hollow DEFAULT VALUES");
    assertThat(said).contains("table hollow without columns: it has one there that stays empty");
    assertThat(one("SELECT count(*) FROM hollow")).isEqualTo("2");
  }

  @Test
  void columnsThatDifferByCaseAloneGetNamesOfTheirOwn() throws Exception {
    String said =
        carried(
            "postgresql",
            "mariadb",
            "CREATE TABLE x (a text, \"A\" text PRIMARY KEY, \"\ud83d\udea2\" int, b numeric(3,5))",
            "CREATE UNIQUE INDEX ux ON x (lower(a))",
            "INSERT INTO x VALUES ('one', 'two', 3, 0.001)");
    assertThat(said)
        .contains("the name of column x.A: it is A_2 there", "it is _ there")
        .contains("index ux of x: equal values are let in there");
    assertThat(one("SELECT concat(a, A_2, `_`, b) FROM x")).isEqualTo("onetwo30.00100");
  }

  @Test
  void aDefaultOfBytesAndAKeyWithABackquoteArrive() throws Exception {
    carried(
        "mariadb",
        "mariadb",
        "CREATE TABLE `p``q` (id INT PRIMARY KEY, b BINARY(4) DEFAULT x'ff00ff27',"
            + " v VARBINARY(9) DEFAULT 'it''s \\\\')",
        "CREATE TABLE `k``l` (p INT, FOREIGN KEY (p) REFERENCES `p``q` (id))",
        "INSERT INTO `p``q` (id) VALUES (1)",
        "INSERT INTO `k``l` VALUES (1)");
    try (Connection connection = connect("mariadb", "dev");
        Statement statement = connection.createStatement()) {
      statement.execute("INSERT INTO `p``q` (id) VALUES (2)");
    }
    assertThat(one("SELECT concat(hex(b), v) FROM `p``q` WHERE id = 2"))
        .isEqualTo("FF00FF27it's \\");
  }

  @Test
  void truthsThatAreOneThereAreSaidBeforeTheTargetRefusesThem() throws Exception {
    prepare(
        "sqlite",
        "mariadb",
        "CREATE TABLE t (id BOOLEAN PRIMARY KEY, x TEXT)",
        "INSERT INTO t VALUES ('true', 'a'), (1, 'b'), (0, 'c')");
    Captured run = Captured.of("run", "--yes", "--project", folder.toString());
    assertThat(run.exitCode()).isEqualTo(2);
    assertThat(run.err())
        .contains("source-unfit", "t.id: 1 value, the same truth as another row's");
  }
}
