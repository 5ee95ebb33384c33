package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.demo.DemoData;

/**
 * Yemble, killed at random moments of a load of rows beside others: the target is the old one or
 * the new one, with its triggers, and nothing of the load is left once it has been mended. As often
 * for each way as {@code yemble.kills} says; without it MariaDB is, once: the others' one
 * transaction is what {@link KillIT} and {@link SqliteKillIT} kill.
 */
class MergeKillIT {
  private static final List<String> WAYS = List.of("add", "update", "alongside");

  @TempDir static Path folder;
  private static Sandbox files;
  private String engine;

  private Connection connect() throws SQLException {
    return engine.equals("sqlite")
        ? DriverManager.getConnection("jdbc:sqlite:" + files.file("dev.db"))
        : Servers.of(engine).connect("merge_kill");
  }

  @BeforeAll
  static void start() throws Exception {
    files = new Sandbox(folder).quick();
    DemoData.write(folder.resolve("live.db"), 1);
    files.write("yemble.yaml", "version: 1\ndatabases: { live: { url: 'jdbc:sqlite:live.db' } }\n");
    files.key(Sandbox.KEY);
    ok("survey", "--from", "live");
    ok("register", "accept", "--from", "live");
    ok("register", "keep", "--open", "--from", "live", "--reason", "a test");
  }

  private void prepare(String with) throws Exception {
    engine = with;
    String dev = "url: 'jdbc:sqlite:dev.db'";
    if (!engine.equals("sqlite")) {
      Client.renew(engine, "merge_kill");
      dev =
          "url: '" + Servers.of(engine).url("merge_kill") + "', user: " + Servers.of(engine).user();
    }
    StringBuilder project =
        new StringBuilder("version: 1\ndatabases:\n  live: { url: 'jdbc:sqlite:live.db' }\n");
    project.append("  dev: { ").append(dev).append(", environment: test }\n");
    project.append("links:\n  payment.booking_id: { broken: leave-out }\njobs:\n");
    project.append(
        "  few: { from: live, into: dev, load: replace, pick: { incident: { rows: 20 } },");
    project.append(" empty: [audit_log] }\n");
    for (String way : WAYS) {
      String terms =
          way.equals("alongside")
              ? "{ alongside: { same: { port: [code], route: [from_port, to_port], vessel: [name],"
                  + " crew: [work_email], passenger: [email], account: [username] } } }"
              : way;
      project.append("  " + way + ": { from: live, into: dev, load: " + terms);
      project.append(", pick: { booking: { share: 3% } }, empty: [audit_log] }\n");
    }
    files.write("yemble.yaml", project.toString());
  }

  private static Program.Result ok(String... args) {
    Program.Result result = files.yemble(args);
    assertThat(result.exitCode()).as(result.all()).isZero();
    return result;
  }

  /** A target as it is before each kill: a subset, and a trigger that nobody else has. */
  private void old() throws Exception {
    try (Connection connection = connect();
        Statement statement = connection.createStatement()) {
      if (engine.equals("postgresql")) {
        statement.execute("DROP SCHEMA IF EXISTS yemble CASCADE");
        statement.execute("DROP SCHEMA public CASCADE");
        statement.execute("CREATE SCHEMA public");
      } else if (engine.equals("mariadb")) {
        statement.execute("DROP DATABASE merge_kill");
        statement.execute("CREATE DATABASE merge_kill CHARACTER SET utf8mb4");
      }
    }
    if (engine.equals("sqlite")) {
      Files.deleteIfExists(folder.resolve("dev.db"));
    }
    ok("run", "few", "--yes");
    try (Connection connection = connect();
        Statement statement = connection.createStatement()) {
      String logs =
          "INSERT INTO audit_log (id, at, actor, action) VALUES (1 + NEW.id,"
              + " '2026-01-01 00:00:00', 'trigger', 'booked')";
      switch (engine) {
        case "sqlite" ->
            statement.execute(
                "CREATE TRIGGER ours AFTER INSERT ON booking BEGIN " + logs + "; END");
        case "mariadb" ->
            statement.execute("CREATE TRIGGER ours AFTER INSERT ON booking FOR EACH ROW " + logs);
        default -> {
          statement.execute(
              "CREATE FUNCTION logs() RETURNS trigger LANGUAGE plpgsql AS $$BEGIN "
                  + logs
                  + "; RETURN NEW; END$$");
          statement.execute(
              "CREATE TRIGGER ours AFTER INSERT ON booking FOR EACH ROW EXECUTE FUNCTION logs()");
        }
      }
    }
  }

  /** All rows of all tables but the mark, and all triggers. */
  private String content() throws Exception {
    StringBuilder content = new StringBuilder();
    try (Connection connection = connect();
        Statement statement = connection.createStatement()) {
      List<String> tables = new ArrayList<>();
      String names =
          switch (engine) {
            case "sqlite" -> "SELECT name FROM sqlite_master WHERE type = 'table'";
            case "mariadb" ->
                "SELECT table_name FROM information_schema.tables WHERE table_schema = database()";
            default ->
                "SELECT schemaname || '.' || tablename FROM pg_tables"
                    + " WHERE schemaname IN ('public', 'yemble')";
          };
      try (ResultSet rows = statement.executeQuery(names + " ORDER BY 1")) {
        while (rows.next()) {
          tables.add(rows.getString(1));
        }
      }
      for (String table : tables) {
        if (table.endsWith("mark") || table.startsWith("sqlite_")) {
          continue;
        }
        TreeMap<String, Integer> all = new TreeMap<>();
        try (ResultSet rows = statement.executeQuery("SELECT * FROM " + table)) {
          while (rows.next()) {
            StringBuilder row = new StringBuilder();
            for (int i = 1; i <= rows.getMetaData().getColumnCount(); i++) {
              row.append(rows.getString(i)).append('|');
            }
            all.merge(row.toString(), 1, Integer::sum);
          }
        }
        content.append(table).append(all).append('\n');
      }
      String triggers =
          switch (engine) {
            case "sqlite" -> "SELECT name FROM sqlite_master WHERE type = 'trigger'";
            case "mariadb" ->
                "SELECT trigger_name FROM information_schema.triggers"
                    + " WHERE trigger_schema = database()";
            default -> "SELECT tgname || tgenabled::text FROM pg_trigger WHERE NOT tgisinternal";
          };
      try (ResultSet rows = statement.executeQuery(triggers + " ORDER BY 1")) {
        while (rows.next()) {
          content.append("trigger ").append(rows.getString(1)).append('\n');
        }
      }
    }
    return content.toString();
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void wheneverYembleIsKilledTheTargetIsOldOrNew(String with) throws Exception {
    Integer kills = Integer.getInteger("yemble.kills");
    assumeThat(kills != null || with.equals("mariadb")).isTrue();
    prepare(with);
    Random random = new Random(Long.getLong("yemble.seed", with.length()));
    List<String> ways = kills == null ? List.of("alongside") : WAYS;
    for (String way : ways) {
      old();
      String before = content();
      long start = System.nanoTime();
      assertThat(run(way).waitFor()).as(Files.readString(folder.resolve("run.out"))).isZero();
      long milliseconds = (System.nanoTime() - start) / 1_000_000;
      String after = content();
      assertThat(after).isNotEqualTo(before).contains("trigger ours");
      int old = 0;
      int mended = 0;
      for (int i = 0; i < (kills == null ? 1 : kills); i++) {
        old();
        double part = i % 3 == 0 ? random.nextDouble() : 0.8 + 0.4 * random.nextDouble();
        Process run = run(way);
        run.waitFor((long) (part * milliseconds), TimeUnit.MILLISECONDS);
        run.destroyForcibly().waitFor();
        String as = way + " killed at " + part + " of " + milliseconds + " ms";
        mended += mend(as);
        String found = content();
        assertThat(found.equals(before) || found.equals(after))
            .as(as + "\n" + found.lines().filter(l -> !before.contains(l)).toList())
            .isTrue();
        old += found.equals(before) ? 1 : 0;
        // On a busy machine a run takes longer: the moments follow it.
        milliseconds = (long) (milliseconds * (found.equals(before) ? 1.05 : 0.92));
        ok("run", way, "--yes");
        assertThat(content()).as(as).isEqualTo(after);
        assertThat(folder.resolve("dev.db.yemble-part")).doesNotExist();
      }
      assertThat(kills == null || kills < 20 || old > 0 && old < kills)
          .as("neither always too early nor always too late: " + old + " of " + kills)
          .isTrue();
      System.out.printf(
          "MergeKillIT: %s %s; the target was old %d times, mended %d times%n",
          engine, way, old, mended);
    }
  }

  /** As a process of its own: how long it takes says when it can be killed. */
  private static Process run(String way) throws Exception {
    return new ProcessBuilder(Program.command("run", way, "--yes"))
        .directory(folder.toFile())
        .redirectErrorStream(true)
        .redirectOutput(folder.resolve("run.out").toFile())
        .start();
  }

  /** What a person does next. */
  private int mend(String as) throws Exception {
    Program.Result doctor = files.yemble("doctor");
    for (int i = 0; i < 50 && doctor.out().contains("at work"); i++) {
      TimeUnit.MILLISECONDS.sleep(200);
      doctor = files.yemble("doctor");
    }
    if (doctor.exitCode() == 0) {
      return 0;
    }
    assertThat(doctor.out()).as(as).contains("leftover");
    ok("doctor", "--mend");
    return 1;
  }
}
