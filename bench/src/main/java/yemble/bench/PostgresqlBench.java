package yemble.bench;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import yemble.demo.DemoProject;
import yemble.demo.PostgresqlServer;

/**
 * PostgreSQL: a whole copy of a table of 14 columns, 6 of them masked, and a subset of it with its
 * children, by the built program under a fixed heap, against {@code psql COPY TO | psql COPY FROM}
 * of the same rows into the same structure, whose keys and indexes come after the rows there, too.
 *
 * <p>Arguments: the rows in thousands (default 2000), the heap (default 256m), the folder to work
 * in. Wants {@code psql} on the path.
 */
public final class PostgresqlBench {
  private static final int TIMES = 3;
  private static final int ONCE_FROM = 5_000_000;

  private final Path folder;
  private final PostgresqlServer server;
  private final Yemble yemble;

  private PostgresqlBench(Path folder, String heap) throws IOException {
    this.folder = folder;
    this.server = PostgresqlServer.start(folder.resolve("server"), true);
    this.yemble = new Yemble(folder, heap);
  }

  public static void main(String[] args) throws Exception {
    int thousands = args.length > 0 ? Integer.parseInt(args[0]) : 2_000;
    String heap = args.length > 1 ? args[1] : "256m";
    Path folder = args.length > 2 ? Path.of(args[2]) : Files.createTempDirectory("yemble-bench");
    Files.createDirectories(folder);
    PostgresqlBench bench = new PostgresqlBench(folder, heap);
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
    for (String job : List.of("out", "back")) {
      JsonNode result = yemble.run("run", job, "--yes");
      System.out.printf(
          Locale.ROOT,
          "%-6s %,10d rows %s SQLite: select %.1f s, load %.1f s, verify %.1f s%n",
          job,
          result.get("rows").asLong(),
          job.equals("out") ? "into" : "from",
          Yemble.seconds(result, "selecting"),
          Yemble.seconds(result, "loading"),
          Yemble.seconds(result, "verifying"));
    }
  }

  private void sql(String database, String... statements) throws SQLException {
    try (Connection connection = server.connect(database);
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private static final String CONTRACT =
      "CREATE TABLE contract (id bigint, given_name text NOT NULL, family_name text NOT NULL,"
          + " email varchar(120), phone varchar(30), birth_date date, iban varchar(40),"
          + " made_at timestamptz NOT NULL, cents integer NOT NULL, rate numeric(8,4),"
          + " state text NOT NULL, weight double precision, reference uuid, open boolean)";
  private static final String LINE =
      "CREATE TABLE line (contract_id bigint, no integer, cents integer NOT NULL, what text)";
  private static final List<String> CONTRACT_KEYS =
      List.of(
          "ALTER TABLE contract ADD PRIMARY KEY (id)",
          "CREATE INDEX contract_name ON contract (family_name, given_name)");
  private static final List<String> LINE_KEYS =
      List.of(
          "ALTER TABLE line ADD PRIMARY KEY (contract_id, no)",
          "ALTER TABLE line ADD FOREIGN KEY (contract_id) REFERENCES contract (id)");

  private void make(int thousands) throws SQLException {
    sql("live", source(thousands).toArray(new String[0]));
  }

  /** What makes the source. */
  static List<String> source(int thousands) {
    List<String> statements = new ArrayList<>();
    Collections.addAll(
        statements,
        CONTRACT,
        LINE,
        "INSERT INTO contract SELECT i, initcap(g), initcap(f), g || '.' || f || i"
            + " || '@mail' || i % 50 || '.example', '+44 7700 ' || lpad((i % 1000000)::text, 6, '0'),"
            + " DATE '1940-01-01' + (i % 100000 * 7919) % 25000, 'QO14ORLI' || lpad(i::text, 13, '0'),"
            + " TIMESTAMPTZ '2020-01-01 00:00+00' + (i % 1000000) * INTERVAL '1 minute', (i % 100000 * 31) % 100000,"
            + " (i % 9999) / 7.0, (ARRAY['new', 'active', 'ended'])[1 + i % 3],"
            + " i / 3.0::double precision, md5(i::text)::uuid, i % 2 = 0"
            + " FROM (SELECT i, (ARRAY['ba','be','bo','da','de','do','la','le','lo','ma','mi','mo'])"
            + "[1 + i % 12] || (ARRAY['ra','ri','ro','na','ni','no','sa','si','so'])[1 + i / 12 % 9]"
            + " || (ARRAY['','n','l','s','m'])[1 + i / 108 % 5] AS g,"
            + " (ARRAY['tar','ter','tor','ker','kar','ver','var','ser'])[1 + (i % 8 * 7) % 8]"
            + " || (ARRAY['ing','ell','ow','and','ick','ard'])[1 + i / 8 % 6]"
            + " || (ARRAY['ton','sen','ley','wick','by','ford','dale'])[1 + i / 48 % 7] AS f"
            + " FROM generate_series(1, "
            + thousands * 1_000L
            + ") i) n",
        "INSERT INTO line SELECT id, 1, cents, 'crossing' FROM contract");
    statements.addAll(CONTRACT_KEYS);
    statements.addAll(LINE_KEYS);
    statements.add("VACUUM ANALYZE");
    return statements;
  }

  private void project() throws IOException {
    Path key = folder.resolve("yemble.key");
    Files.writeString(key, DemoProject.key().reveal() + "\n");
    Files.setPosixFilePermissions(key, PosixFilePermissions.fromString("rw-------"));
    String user = "\n    user: " + PostgresqlServer.USER + "\n";
    Files.writeString(
        folder.resolve("yemble.yaml"),
        "version: 1\ndatabases:\n  live:\n    url: "
            + server.url("live")
            + user
            + "  dev:\n    url: "
            + server.url("dev")
            + user
            + "    environment: test\n  lite: { url: 'jdbc:sqlite:lite.db', environment: test }\n"
            + "jobs:\n"
            + "  whole: { from: live, into: dev, load: replace, empty: [line] }\n"
            + "  subset:\n    from: live\n    into: dev\n    load: replace\n"
            + "    pick: { contract: { where: 'id % 100 = 7' } }\n"
            + "  out: { from: live, into: lite, load: replace, empty: [line] }\n"
            + "  back: { from: lite, into: dev, load: replace }\n");
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
          "%-6s %,10d rows: select %.1f s, load %.1f s, verify %.1f s; psql | psql %.1f s + keys %.1f s;"
              + " (select + load) / plain = %.2f%n",
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

  /** The same rows by psql: the seconds for the rows, and for keys, indexes and statistics. */
  private double[] plain(String condition, List<String> tables)
      throws SQLException, IOException, InterruptedException {
    sql("plain", "DROP TABLE IF EXISTS line", "DROP TABLE IF EXISTS contract");
    long start = System.nanoTime();
    sql("plain", CONTRACT, LINE);
    for (String table : tables) {
      String query =
          condition.isEmpty()
              ? table
              : table.equals("contract")
                  ? "(SELECT * FROM contract" + condition + ")"
                  : "(SELECT l.* FROM line l JOIN contract c ON c.id = l.contract_id"
                      + condition.replace("id %", "c.id %")
                      + ")";
      String psql = "psql -q -h localhost -p " + server.port() + " -U " + PostgresqlServer.USER;
      int code =
          new ProcessBuilder(
                  "sh",
                  "-c",
                  psql
                      + " live -c 'COPY "
                      + query
                      + " TO STDOUT' | "
                      + psql
                      + " plain -c 'COPY "
                      + table
                      + " FROM STDIN'")
              .inheritIO()
              .start()
              .waitFor();
      if (code != 0) {
        throw new IllegalStateException("psql ends with " + code);
      }
    }
    double rows = Yemble.since(start);
    long keys = System.nanoTime();
    sql("plain", CONTRACT_KEYS.toArray(new String[0]));
    sql("plain", LINE_KEYS.toArray(new String[0]));
    sql("plain", "ANALYZE contract", "ANALYZE line");
    return new double[] {rows, Yemble.since(keys)};
  }
}
