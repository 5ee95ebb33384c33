package yemble.bench;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Locale;
import yemble.demo.DemoProject;
import yemble.demo.DemoServer;
import yemble.demo.MariadbServer;
import yemble.demo.PostgresqlServer;

/**
 * Agreed stand-ins and tokens: the same masked copy with a stand-in for every row, and with a token
 * in every row, against the one without; how many tokens a second a store takes.
 *
 * <p>Arguments: postgresql, mariadb or sqlite; the rows in thousands (default 1000); the heap
 * (default 1g, since the list of stand-ins is held in memory); the folder to work in; {@code
 * tokens} for tokens alone.
 */
public final class AgreedBench {
  private static final String PINS =
      "pins: { people: { file: people.csv, by: contract.iban, gives: { contract.given_name: given,"
          + " contract.family_name: family } } }\n";

  private final Path folder;
  private final Yemble yemble;
  private final String engine;
  private final boolean tokensAlone;

  private AgreedBench(Path folder, String heap, String engine, boolean tokensAlone) {
    this.tokensAlone = tokensAlone;
    this.folder = folder;
    this.yemble = new Yemble(folder, heap);
    this.engine = engine;
  }

  public static void main(String[] args) throws Exception {
    String engine = args.length > 0 ? args[0] : "";
    int thousands = args.length > 1 ? Integer.parseInt(args[1]) : 1_000;
    String heap = args.length > 2 ? args[2] : "1g";
    Path folder = args.length > 3 ? Path.of(args[3]) : Files.createTempDirectory("yemble-bench");
    Files.createDirectories(folder);
    AgreedBench bench =
        new AgreedBench(folder, heap, engine, args.length > 4 && args[4].equals("tokens"));
    switch (engine) {
      case "postgresql" -> {
        try (PostgresqlServer server = PostgresqlServer.start(folder.resolve("server"), true)) {
          bench.server(server, PostgresqlBench.source(thousands));
        }
      }
      case "mariadb" -> {
        try (MariadbServer server = MariadbServer.start(folder.resolve("server"), true)) {
          bench.server(server, MariadbBench.source(thousands));
        }
      }
      case "sqlite" -> {
        bench.sql("jdbc:sqlite:" + folder.resolve("live.db"), "", SqliteContract.source(thousands));
        bench.measure("jdbc:sqlite:SIDE.db", "", "jdbc:sqlite:store.tokens");
      }
      default -> throw new IllegalArgumentException("postgresql, mariadb or sqlite");
    }
  }

  private void server(DemoServer server, List<String> source) throws Exception {
    for (String name : List.of("live", "dev", "store")) {
      server.create(name);
    }
    sql(server.url("live"), server.user(), source);
    String url = server.url("live").replace("/live", "/SIDE");
    measure(url, server.user(), url.replace("SIDE", "store"));
  }

  private void sql(String url, String user, List<String> statements) throws SQLException {
    try (Connection connection = DriverManager.getConnection(url, user, "");
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private void project(String url, String user, String more) throws IOException {
    Path key = folder.resolve("yemble.key");
    Files.writeString(key, DemoProject.key().reveal() + "\n");
    Files.setPosixFilePermissions(key, PosixFilePermissions.fromString("rw-------"));
    String who = user.isEmpty() ? "" : ", user: " + user;
    Files.writeString(
        folder.resolve("yemble.yaml"),
        "version: 1\ndatabases:\n  live: { url: '"
            + url.replace("SIDE", "live")
            + "'"
            + who
            + ", environment: production }\n  dev: { url: '"
            + url.replace("SIDE", "dev")
            + "'"
            + who
            + ", environment: test }\njobs:\n  all: { from: live, into: dev, load: replace }\n"
            + more);
    Contract.register(folder);
  }

  private void measure(String url, String user, String store) throws Exception {
    if (!tokensAlone) {
      standIns(url, user);
    }
    String who = user.isEmpty() ? "" : ", user: " + user;
    project(
        url,
        user,
        "stores: { ibans: { url: '"
            + store
            + "'"
            + who
            + ", key: '${file:store.key}' } }\n"
            + "columns: { contract.iban: { token: { store: ibans, like: 'QO14ORLI[0-9]{13}' } } }\n");
    yemble.run("key", "new", "store");
    yemble.run("tokens", "begin", "ibans");
    JsonNode first = yemble.run("run", "all", "--yes").get("tokens").get(0);
    JsonNode again = yemble.run("run", "all", "--yes").get("tokens").get(0);
    System.out.printf(
        Locale.ROOT,
        "%s: of %,d tokens a second into the store %,.0f, where all are there %,.0f%n",
        engine,
        first.get("values").asLong(),
        rate(first),
        rate(again));
  }

  private void standIns(String url, String user) throws Exception {
    project(url, user, "");
    yemble.run("run", "all", "--yes"); // The caches are as warm for the first as for the last.
    JsonNode plain = yemble.run("run", "all", "--yes");
    project(url, user, PINS);
    long filling = System.nanoTime();
    long people = yemble.run("pins", "fill", "people").get("added").asLong();
    double filled = Yemble.since(filling);
    JsonNode pinned = yemble.run("run", "all", "--yes");
    System.out.printf(
        Locale.ROOT,
        "%s, %,d rows, a stand-in for each: load with / without %.2f (%.1f s, %.1f s), whole job"
            + " %.2f (%.1f s, %.1f s), CPU-seconds a million rows %.0f and %.0f; filled in %.1f s%n",
        engine,
        people,
        Yemble.seconds(pinned, "loading") / Yemble.seconds(plain, "loading"),
        Yemble.seconds(pinned, "loading"),
        Yemble.seconds(plain, "loading"),
        Yemble.seconds(pinned, "took") / Yemble.seconds(plain, "took"),
        Yemble.seconds(pinned, "took"),
        Yemble.seconds(plain, "took"),
        Yemble.cpuPerMillion(pinned),
        Yemble.cpuPerMillion(plain),
        filled);
  }

  private static double rate(JsonNode kept) {
    return kept.get("values").asLong() / Yemble.seconds(kept, "keeping");
  }
}
