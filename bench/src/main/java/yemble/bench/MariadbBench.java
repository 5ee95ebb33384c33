package yemble.bench;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Locale;
import yemble.demo.DemoProject;
import yemble.demo.MariadbServer;

/**
 * Measures {@code yemble run} from MariaDB to MariaDB against the server's own way for the same
 * rows, {@code SELECT … INTO OUTFILE} and {@code LOAD DATA}, in the same run, both on one server of
 * the benchmark's own. Arguments: thousands of rows, Java's heap, a folder.
 */
final class MariadbBench {
  private static final int TIMES = 3;
  private static final int ONCE_FROM = 5_000_000;

  private final Path folder;
  private final MariadbServer server;
  private final Yemble yemble;

  private MariadbBench(Path folder, String heap) throws IOException {
    this.folder = folder;
    this.server = MariadbServer.start(folder.resolve("server"), true);
    this.yemble = new Yemble(folder, heap);
  }

  public static void main(String[] args) throws Exception {
    int thousands = args.length > 0 ? Integer.parseInt(args[0]) : 1_000;
    String heap = args.length > 1 ? args[1] : "256m";
    Path folder = args.length > 2 ? Path.of(args[2]) : Files.createTempDirectory("yemble-bench");
    Files.createDirectories(folder);
    MariadbBench bench = new MariadbBench(folder, heap);
    try {
      bench.run(thousands);
    } finally {
      bench.server.close();
    }
  }

  private void run(int thousands) throws Exception {
    long start = System.nanoTime();
    for (String name : List.of("live", "dev", "plain")) {
      server.create(name);
    }
    make(thousands);
    project();
    System.out.printf(
        Locale.ROOT,
        "%,d rows and as many children, made in %.1f s; yemble runs under -Xmx%s%n",
        thousands * 1_000L,
        Yemble.since(start),
        yemble.heap());
    int times = thousands * 1_000L < ONCE_FROM ? TIMES : 1;
    measure(times, "whole", "", List.of("contract"));
    measure(times, "subset", " WHERE id % 100 = 7", List.of("contract", "line"));
  }

  private void sql(String database, String... statements) throws SQLException {
    try (Connection connection = server.connect(database);
        Statement statement = connection.createStatement()) {
      statement.execute("SET unique_checks = 0, foreign_key_checks = 0");
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private static final String CONTRACT =
      "CREATE TABLE contract (id BIGINT PRIMARY KEY, given_name VARCHAR(60) NOT NULL,"
          + " family_name VARCHAR(60) NOT NULL, email VARCHAR(120), phone VARCHAR(30),"
          + " birth_date DATE, iban VARCHAR(40), made_at DATETIME NOT NULL, cents INT NOT NULL,"
          + " rate DECIMAL(8,4), state VARCHAR(10) NOT NULL, weight DOUBLE, reference CHAR(32),"
          + " open BOOLEAN, KEY contract_name (family_name, given_name))";
  private static final String LINE =
      "CREATE TABLE line (contract_id BIGINT, no INT, cents INT NOT NULL, what VARCHAR(20),"
          + " PRIMARY KEY (contract_id, no),"
          + " FOREIGN KEY (contract_id) REFERENCES contract (id))";

  private static String one(String of, String index) {
    return "ELT(1 + " + index + ", " + of + ")";
  }

  private void make(int thousands) throws SQLException {
    sql("live", source(thousands).toArray(new String[0]));
  }

  /** What makes the source. */
  static List<String> source(int thousands) {
    String given =
        "CONCAT("
            + one("'Ba','Be','Bo','Da','De','Do','La','Le','Lo','Ma','Mi','Mo'", "i % 12")
            + ", "
            + one("'ra','ri','ro','na','ni','no','sa','si','so'", "i DIV 12 % 9")
            + ", "
            + one("'','n','l','s','m'", "i DIV 108 % 5")
            + ")";
    String family =
        "CONCAT("
            + one("'Tar','Ter','Tor','Ker','Kar','Ver','Var','Ser'", "i % 8 * 7 % 8")
            + ", "
            + one("'ing','ell','ow','and','ick','ard'", "i DIV 8 % 6")
            + ", "
            + one("'ton','sen','ley','wick','by','ford','dale'", "i DIV 48 % 7")
            + ")";
    return List.of(
        CONTRACT,
        LINE,
        "INSERT INTO contract SELECT i, g, f, LOWER(CONCAT(g, '.', f, i, '@mail', i % 50,"
            + " '.example')), CONCAT('+44 7700 ', LPAD(i % 1000000, 6, '0')),"
            + " DATE '1940-01-01' + INTERVAL (i % 100000 * 7919) % 25000 DAY,"
            + " CONCAT('QO14ORLI', LPAD(i, 13, '0')),"
            + " TIMESTAMP '2020-01-01 00:00:00' + INTERVAL (i % 1000000) MINUTE,"
            + " (i % 100000 * 31) % 100000, (i % 9999) / 7.0, ELT(1 + i % 3, 'new', 'active',"
            + " 'ended'), i / 3e0, MD5(i), i % 2 = 0 FROM (SELECT seq AS i, "
            + given.replace("i ", "seq ")
            + " AS g, "
            + family.replace("i ", "seq ")
            + " AS f FROM seq_1_to_"
            + thousands * 1_000L
            + ") n",
        "INSERT INTO line SELECT id, 1, cents, 'crossing' FROM contract",
        "ANALYZE TABLE contract, line");
  }

  private void project() throws IOException {
    Path key = folder.resolve("yemble.key");
    Files.writeString(key, DemoProject.key().reveal() + "\n");
    Files.setPosixFilePermissions(key, PosixFilePermissions.fromString("rw-------"));
    String user = "\n    user: " + MariadbServer.USER + "\n";
    Files.writeString(
        folder.resolve("yemble.yaml"),
        "version: 1\ndatabases:\n  live:\n    url: "
            + server.url("live")
            + user
            + "  dev:\n    url: "
            + server.url("dev")
            + user
            + "    environment: test\njobs:\n"
            + "  whole: { from: live, into: dev, load: replace, empty: [line] }\n"
            + "  subset:\n    from: live\n    into: dev\n    load: replace\n"
            + "    pick: { contract: { where: 'id % 100 = 7' } }\n");
    Contract.register(folder);
  }

  private void measure(int times, String job, String condition, List<String> tables)
      throws Exception {
    for (int i = 0; i < times; i++) {
      JsonNode result = yemble.run("run", job, "--yes");
      double selecting = Yemble.seconds(result, "selecting");
      double loading = Yemble.seconds(result, "loading");
      double[] plain = plain(condition, tables);
      System.out.printf(
          Locale.ROOT,
          "%-6s %,10d rows: select %.1f s, load %.1f s, verify %.1f s; OUTFILE %.1f s + LOAD DATA"
              + " %.1f s; (select + load) / plain = %.2f%n",
          job,
          result.get("rows").asLong(),
          selecting,
          loading,
          Yemble.seconds(result, "verifying"),
          plain[0],
          plain[1],
          (selecting + loading) / (plain[0] + plain[1]));
    }
  }

  /** The same rows by the server: the seconds for writing them to files, and for reading these. */
  private double[] plain(String condition, List<String> tables) throws SQLException, IOException {
    sql("plain", "DROP TABLE IF EXISTS line, contract");
    double out = 0;
    double in = 0;
    for (String table : tables) {
      Path file = folder.resolve(table + ".tsv");
      Files.deleteIfExists(file);
      String where =
          condition.isEmpty() || table.equals("contract")
              ? condition
              : condition.replace("id %", "contract_id %");
      long start = System.nanoTime();
      sql("live", "SELECT * FROM " + table + where + " INTO OUTFILE '" + file + "'");
      out += Yemble.since(start);
      start = System.nanoTime();
      sql(
          "plain",
          table.equals("contract") ? CONTRACT : LINE,
          "LOAD DATA INFILE '" + file + "' INTO TABLE " + table,
          "ANALYZE TABLE " + table);
      in += Yemble.since(start);
      Files.deleteIfExists(file);
    }
    return new double[] {out, in};
  }
}
