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
import yemble.demo.MariadbServer;
import yemble.demo.ServerPrograms;

/**
 * Parcels: what {@code pack} takes against the load of a run, how large a parcel is against a
 * compressed dump, and what {@code load} takes against the database's own restore of the same
 * masked rows; all in one run.
 *
 * <p>Arguments: postgresql, mariadb or sqlite; the rows in thousands (default 1000); the heap
 * (default 256m); the folder to work in. Wants an installed PostgreSQL with its clients for the
 * first, {@code sqlite3} for the last; MariaDB's clients come with the server.
 */
public final class ParcelBench {
  private static final int TIMES = 3;
  private static final int ONCE_FROM = 1_000;

  private final Path folder;
  private final Yemble yemble;
  private final int thousands;

  /** How the engine's own tools dump the target, compress the dump, and restore it. */
  private record Own(String dump, String packed, String renew, String restore) {}

  private ParcelBench(Path folder, String heap, int thousands) {
    this.folder = folder;
    this.yemble = new Yemble(folder, heap);
    this.thousands = thousands;
  }

  public static void main(String[] args) throws Exception {
    int thousands = args.length > 1 ? Integer.parseInt(args[1]) : 1_000;
    String heap = args.length > 2 ? args[2] : "256m";
    Path folder = args.length > 3 ? Path.of(args[3]) : Files.createTempDirectory("yemble-bench");
    Files.createDirectories(folder);
    ParcelBench bench = new ParcelBench(folder, heap, thousands);
    switch (args.length > 0 ? args[0] : "") {
      case "postgresql" -> bench.postgresql();
      case "mariadb" -> bench.mariadb();
      case "sqlite" -> bench.sqlite();
      default -> throw new IllegalArgumentException("postgresql, mariadb or sqlite");
    }
  }

  private void postgresql() throws Exception {
    // Where the user postgres may go, too, whoever runs this.
    Path place = Files.createTempDirectory(Path.of("/tmp"), "yemble-bench-server");
    Files.setPosixFilePermissions(place, PosixFilePermissions.fromString("rwxr-xr-x"));
    try (InstalledPostgresql server = InstalledPostgresql.start(place.resolve("server"))) {
      sql(server.url("postgres"), InstalledPostgresql.USER, names("CREATE DATABASE "));
      sql(server.url("live"), InstalledPostgresql.USER, PostgresqlBench.source(thousands));
      String user = ", user: " + InstalledPostgresql.USER;
      project(server.url("live"), server.url("dev"), user);
      String bin = server.programs() + "/";
      measure(
          new Own(
              bin + "pg_dump" + server.client() + "-Fc -N yemble -f own.dump dev",
              "own.dump",
              "psql -q"
                  + server.client()
                  + "postgres -c 'DROP DATABASE IF EXISTS plain' -c 'CREATE DATABASE plain'",
              bin + "pg_restore" + server.client() + "-1 -d plain own.dump"));
    }
  }

  private void mariadb() throws Exception {
    try (MariadbServer server = MariadbServer.start(folder.resolve("server"), true)) {
      sql(server.url(""), MariadbServer.USER, names("CREATE DATABASE "));
      sql(server.url("live"), MariadbServer.USER, MariadbBench.source(thousands));
      project(server.url("live"), server.url("dev"), ", user: " + MariadbServer.USER);
      String client =
          " --no-defaults --skip-ssl -h 127.0.0.1 -P "
              + server.port()
              + " -u "
              + server.user()
              + " ";
      String bin = ServerPrograms.folder().resolve("mariadb/bin") + "/";
      measure(
          new Own(
              bin + "mariadb-dump" + client + "--ignore-table=dev.yemble_mark dev > own.sql",
              "",
              bin
                  + "mariadb"
                  + client
                  + "-e 'DROP DATABASE IF EXISTS plain; CREATE DATABASE plain'",
              bin + "mariadb" + client + "plain < own.sql"));
    }
  }

  private void sqlite() throws Exception {
    sql("jdbc:sqlite:" + folder.resolve("live.db"), "", SqliteContract.source(thousands));
    project("jdbc:sqlite:live.db", "jdbc:sqlite:dev.db", "");
    measure(
        new Own(
            "sqlite3 dev.db .dump > own.sql", "", "rm -f plain.db", "sqlite3 plain.db < own.sql"));
  }

  private static List<String> names(String lead) {
    return List.of(lead + "live", lead + "dev", lead + "plain");
  }

  private static void sql(String url, String user, List<String> statements) throws SQLException {
    try (Connection connection = DriverManager.getConnection(url, user, "");
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private void project(String live, String dev, String user) throws IOException {
    Path key = folder.resolve("yemble.key");
    Files.writeString(key, DemoProject.key().reveal() + "\n");
    Files.setPosixFilePermissions(key, PosixFilePermissions.fromString("rw-------"));
    Files.writeString(
        folder.resolve("yemble.yaml"),
        "version: 1\ndatabases:\n  live: { url: '"
            + live
            + "'"
            + user
            + " }\n  dev: { url: '"
            + dev
            + "'"
            + user
            + ", environment: test }\njobs:\n"
            + "  whole: { from: live, into: dev, load: replace, empty: [line] }\n");
    Contract.register(folder);
  }

  private double shell(String command) throws IOException, InterruptedException {
    long start = System.nanoTime();
    int code =
        new ProcessBuilder("sh", "-c", command)
            .directory(folder.toFile())
            .inheritIO()
            .start()
            .waitFor();
    if (code != 0) {
      throw new IllegalStateException("it ends with " + code + ": " + command);
    }
    return Yemble.since(start);
  }

  private void measure(Own own) throws Exception {
    Path parcel = folder.resolve("whole.parcel");
    int times = thousands < ONCE_FROM ? TIMES : 1;
    for (int i = 0; i < times; i++) {
      JsonNode run = yemble.run("run", "whole", "--yes");
      JsonNode pack = yemble.run("pack", "whole", "--to", parcel.toString(), "--overwrite");
      shell(own.dump());
      if (own.packed().isEmpty()) {
        shell("gzip -6 -k -f own.sql");
      }
      long dump = Files.size(folder.resolve(own.packed().isEmpty() ? "own.sql.gz" : own.packed()));
      shell(own.renew());
      double restored = shell(own.restore());
      JsonNode loaded = yemble.run("load", parcel.toString(), "--into", "dev", "--yes");
      JsonNode load = loaded.get("targets").get(0);
      double loading = Yemble.seconds(load, "loading");
      double packing = Yemble.seconds(pack, "packing");
      System.out.printf(
          Locale.ROOT,
          "%,d rows: pack %.1f s + proof %.1f s, run's load %.1f s, pack / load %.2f;"
              + " parcel %.1f MB, compressed dump %.1f MB, %.2f;"
              + " load %.1f s + proof %.1f s, restore %.1f s, load / restore %.2f;"
              + " CPU-seconds a million rows, proofs included: run %.0f, pack %.0f, load %.0f%n",
          run.get("rows").asLong(),
          packing,
          Yemble.seconds(pack, "verifying"),
          Yemble.seconds(run, "loading"),
          packing / Yemble.seconds(run, "loading"),
          Files.size(parcel) / 1e6,
          dump / 1e6,
          Files.size(parcel) / (double) dump,
          loading,
          Yemble.seconds(load, "verifying"),
          restored,
          loading / restored,
          Yemble.cpuPerMillion(run),
          Yemble.cpuPerMillion(pack),
          Yemble.cpuPerMillion(loaded));
    }
  }
}
