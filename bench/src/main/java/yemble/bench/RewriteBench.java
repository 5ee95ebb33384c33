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
 * A copy masked where it stands, 6 of its 14 columns, against the same columns updated by hand: on
 * servers out of a table that has the new values already, {@code UPDATE … FROM mapping}, on SQLite
 * by functions; the same rows, in the same run.
 *
 * <p>Arguments: postgresql, mariadb or sqlite; the rows in thousands (default 1000); the heap
 * (default 256m); the folder to work in.
 */
public final class RewriteBench {
  private static final List<String> MASKED =
      List.of("given_name", "family_name", "email", "phone", "birth_date", "iban");

  private final Path folder;
  private final Yemble yemble;
  private final String engine;

  private RewriteBench(Path folder, String heap, String engine) {
    this.folder = folder;
    this.yemble = new Yemble(folder, heap);
    this.engine = engine;
  }

  public static void main(String[] args) throws Exception {
    String engine = args.length > 0 ? args[0] : "";
    int thousands = args.length > 1 ? Integer.parseInt(args[1]) : 1_000;
    String heap = args.length > 2 ? args[2] : "256m";
    Path folder = args.length > 3 ? Path.of(args[3]) : Files.createTempDirectory("yemble-bench");
    Files.createDirectories(folder);
    RewriteBench bench = new RewriteBench(folder, heap, engine);
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
      case "sqlite" -> bench.sqlite(SqliteContract.source(thousands));
      default -> throw new IllegalArgumentException("postgresql, mariadb or sqlite");
    }
  }

  private void server(DemoServer server, List<String> source) throws Exception {
    for (String name : List.of("copy", "plain", "kept")) {
      server.create(name);
      sql(server.url(name), server.user(), source);
    }
    String copy = server.url("copy");
    measure(copy, server.user(), copy.replace("/copy", "/plain"), copy.replace("/copy", "/kept"));
  }

  private void sqlite(List<String> source) throws Exception {
    for (String name : List.of("copy", "plain", "kept")) {
      sql("jdbc:sqlite:" + folder.resolve(name + ".db"), "", source);
    }
    measure(
        "jdbc:sqlite:" + folder.resolve("copy.db"),
        "",
        "jdbc:sqlite:" + folder.resolve("plain.db"),
        "jdbc:sqlite:" + folder.resolve("kept.db"));
  }

  private static void sql(String url, String user, List<String> statements) throws SQLException {
    try (Connection connection = DriverManager.getConnection(url, user, "");
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private void project(String url, String user, String confirmed) throws IOException {
    Path key = folder.resolve("yemble.key");
    Files.writeString(key, DemoProject.key().reveal() + "\n");
    Files.setPosixFilePermissions(key, PosixFilePermissions.fromString("rw-------"));
    Files.writeString(
        folder.resolve("yemble.yaml"),
        "version: 1\ndatabases:\n  copy: { url: '"
            + url
            + "'"
            + (user.isEmpty() ? "" : ", user: " + user)
            + ", environment: copy, rewrite: true, confirmed: '"
            + confirmed
            + "' }\njobs:\n  whole: { from: copy }\n");
    Contract.register(folder);
  }

  /** What the guard wants to have confirmed, out of its refusal. */
  private String identity() throws Exception {
    Process refused =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-jar",
                System.getProperty("yemble.jar", "cli/target/yemble.jar"),
                "rewrite",
                "--project",
                folder.toString())
            .redirectErrorStream(true)
            .redirectInput(ProcessBuilder.Redirect.from(Path.of("/dev/null").toFile()))
            .start();
    String said = new String(refused.getInputStream().readAllBytes());
    refused.waitFor();
    return said.replaceAll("(?s).*this one is ([^\n]*)\n.*", "$1");
  }

  private void measure(String copy, String user, String plain, String kept) throws Exception {
    project(kept, user, "?");
    project(kept, user, identity());
    if (!Files.exists(folder.resolve("undo.key"))) {
      yemble.run("key", "new", "undo");
    }
    JsonNode undoable = yemble.run("rewrite", "whole", "--undo", "1h");
    project(copy, user, "?");
    project(copy, user, identity());
    long counting = System.nanoTime();
    yemble.run("rewrite", "whole", "--dry");
    double dry = Yemble.since(counting);
    JsonNode rewrite = yemble.run("rewrite", "whole");
    double hand = hand(copy, user, plain);
    double putting = Yemble.seconds(rewrite, "writing");
    double all = Yemble.seconds(rewrite, "took");
    System.out.printf(
        Locale.ROOT,
        "%s, %,d rows: written beside and proved %.1f s, put in place %.1f s, looked at and tidied"
            + " %.1f s; by hand %.1f s; put in place / by hand %.2f, all of it %.2f;"
            + " CPU-seconds a million rows %.0f; dry %.1f s; with --undo put in place %.1f s,"
            + " originals kept in %.1f s: together / by hand %.2f%n",
        engine,
        rewrite.get("rows").asLong(),
        Yemble.seconds(rewrite, "proving"),
        putting,
        Yemble.seconds(rewrite, "tidying"),
        hand,
        putting / hand,
        all / hand,
        Yemble.cpuPerMillion(rewrite),
        dry,
        Yemble.seconds(undoable, "writing"),
        Yemble.seconds(undoable, "keeping"),
        (Yemble.seconds(undoable, "writing") + Yemble.seconds(undoable, "keeping")) / hand);
  }

  /** The same columns of the same rows, updated by one statement. */
  private double hand(String copy, String user, String plain) throws Exception {
    String columns = String.join(", ", MASKED);
    if (engine.equals("sqlite")) {
      return timed(
          plain,
          user,
          List.of("PRAGMA foreign_keys = OFF"),
          "UPDATE contract SET given_name = substr(upper(given_name), 2), family_name ="
              + " replace(family_name, 'e', 'a'), email = 'x' || email, phone = replace(phone,"
              + " '7', '8'), birth_date = date(birth_date, '+7 days'), iban = replace(iban, '1',"
              + " '2')");
    }
    String set =
        String.join(", ", MASKED.stream().map(name -> "% " + name + " = m." + name).toList());
    if (engine.equals("mariadb")) {
      return timed(
          plain,
          user,
          List.of(
              "CREATE TABLE mapping (PRIMARY KEY (id)) AS SELECT id, "
                  + columns
                  + " FROM copy.contract"),
          "UPDATE contract t JOIN mapping m ON m.id = t.id SET " + set.replace("% ", "t."));
    }
    Path rows = folder.resolve("mapping.txt");
    String out = "COPY (SELECT id, " + columns + " FROM contract) TO '" + rows + "'";
    sql(copy, user, List.of(out));
    return timed(
        plain,
        user,
        List.of(
            "CREATE TABLE mapping AS SELECT id, " + columns + " FROM contract WITH NO DATA",
            "COPY mapping FROM '" + rows + "'",
            "CREATE INDEX ON mapping (id)",
            "ANALYZE mapping"),
        "UPDATE contract t SET " + set.replace("% ", "") + " FROM mapping m WHERE m.id = t.id");
  }

  private static double timed(String url, String user, List<String> before, String statement)
      throws SQLException {
    try (Connection connection = DriverManager.getConnection(url, user, "");
        Statement sql = connection.createStatement()) {
      for (String each : before) {
        sql.execute(each);
      }
      long start = System.nanoTime();
      sql.execute(statement);
      return Yemble.since(start);
    }
  }
}
