package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.File;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.demo.PostgresqlServer;

/**
 * Yemble, the source and the target, each killed with signal 9 at random moments of a run. As often
 * as the system property {@code yemble.kills} says; once without it, but for the source; {@code
 * yemble.seed} is the seed of the moments.
 */
class KillIT {
  @TempDir static Path folder;
  private static Server source;
  private static Server target;
  private static String sourceContent;
  private static String before;
  private static String after;
  private static long runMilliseconds;

  /** What is killed. */
  enum Victim {
    YEMBLE,
    SOURCE,
    TARGET
  }

  /** A server that can be killed and started again on the same data and port. */
  private static final class Server {
    private final Path data;
    private EmbeddedPostgres process;
    private int port;

    Server(Path data) throws Exception {
      this.data = data;
      start();
    }

    void start() throws Exception {
      EmbeddedPostgres.Builder builder =
          EmbeddedPostgres.builder()
              .setDataDirectory(data)
              .setCleanDataDirectory(false)
              .setErrorRedirector(ProcessBuilder.Redirect.appendTo(new File(data + ".log")));
      if (port != 0) {
        builder.setPort(port);
      }
      process = builder.start();
      port = process.getPort();
    }

    /** Kills the server and all its processes. */
    void kill() throws Exception {
      long pid = Long.parseLong(Files.readAllLines(data.resolve("postmaster.pid")).get(0).trim());
      ProcessHandle server = ProcessHandle.of(pid).orElseThrow();
      List<ProcessHandle> all = new ArrayList<>(server.descendants().toList());
      all.add(server);
      all.forEach(ProcessHandle::destroyForcibly);
      for (ProcessHandle one : all) {
        one.onExit().get(20, TimeUnit.SECONDS);
      }
      Files.deleteIfExists(data.resolve("epg-lock"));
    }

    String url(String database) {
      return "jdbc:postgresql://localhost:" + port + "/" + database;
    }

    Connection connect(String database) throws Exception {
      return DriverManager.getConnection(url(database), PostgresqlServer.USER, "");
    }

    /** A digest of every row of every table and of every constraint, index and trigger. */
    String content(String database) throws Exception {
      try (Connection connection = connect(database);
          Statement statement = connection.createStatement()) {
        List<String> tables = new ArrayList<>();
        try (ResultSet rows =
            statement.executeQuery(
                "SELECT oid::regclass FROM pg_class WHERE relkind = 'r'"
                    + " AND relnamespace = 'public'::regnamespace ORDER BY relname")) {
          while (rows.next()) {
            tables.add(rows.getString(1));
          }
        }
        StringBuilder content = new StringBuilder();
        for (String table : tables) {
          content.append(table).append(' ');
          content.append(
              one(
                  statement,
                  "SELECT md5(coalesce(string_agg(t::text, '' ORDER BY t::text), '')) FROM "
                      + table
                      + " t"));
        }
        content.append(
            one(
                statement,
                "SELECT md5((SELECT string_agg(conname || pg_get_constraintdef(oid), ','"
                    + " ORDER BY conname, conrelid::regclass::text) FROM pg_constraint WHERE"
                    + " connamespace = 'public'::regnamespace) || (SELECT string_agg(indexdef, ','"
                    + " ORDER BY indexname) FROM pg_indexes WHERE schemaname = 'public')"
                    + " || (SELECT string_agg(tgname || tgenabled::text, ',' ORDER BY tgname)"
                    + " FROM pg_trigger WHERE NOT tgisinternal))"));
        return content.toString();
      }
    }

    private static String one(Statement statement, String sql) throws Exception {
      try (ResultSet row = statement.executeQuery(sql)) {
        return row.next() ? row.getString(1) : null;
      }
    }
  }

  @BeforeAll
  static void start() throws Exception {
    source = new Server(folder.resolve("source"));
    target = new Server(folder.resolve("target"));
    try (Connection connection = source.connect("postgres");
        Statement statement = connection.createStatement()) {
      statement.execute("CREATE DATABASE live");
    }
    try (Connection connection = target.connect("postgres");
        Statement statement = connection.createStatement()) {
      statement.execute("CREATE DATABASE dev");
    }
    try (Connection connection = source.connect("live")) {
      yemble.demo.DemoData.write(connection, 1);
    }
    String user = "\n    user: " + PostgresqlServer.USER;
    Files.writeString(
        folder.resolve("yemble.yaml"),
        "version: 1\ndatabases:\n  live:\n    url: "
            + source.url("live")
            + user
            + "\n  dev:\n    url: "
            + target.url("dev")
            + user
            + "\n    environment: test\nlinks:\n  payment.booking_id: { broken: leave-out }\njobs:\n"
            + "  few: { from: live, into: dev, load: replace, pick: { incident: { rows: 20 } } }\n"
            + "  all: { from: live, into: dev, load: replace, pick: { booking: { share: 20% } } }\n");
    Path key = Files.writeString(folder.resolve("yemble.key"), Sandbox.KEY + "\n");
    Files.setPosixFilePermissions(key, PosixFilePermissions.fromString("rw-------"));
    ok("survey");
    ok("register", "accept");
    ok("register", "keep", "--open", "--reason", "a test");
    sourceContent = source.content("live");
    long start = System.nanoTime();
    ok("run", "all", "--yes");
    runMilliseconds = (System.nanoTime() - start) / 1_000_000;
    after = target.content("dev");
    ok("run", "few", "--yes");
    before = target.content("dev");
    assertThat(before).isNotEqualTo(after);
  }

  @AfterAll
  static void stop() throws Exception {
    source.process.close();
    target.process.close();
  }

  private static void ok(String... args) {
    Program.Result result = Program.run(folder, args);
    assertThat(result.exitCode()).as(result.all()).isZero();
  }

  @ParameterizedTest
  @EnumSource
  void whateverIsKilledTheTargetIsOldOrNewAndTheNextRunWorks(Victim victim) throws Exception {
    assumeThat(Integer.getInteger("yemble.kills") != null || victim != Victim.SOURCE).isTrue();
    int kills = Integer.getInteger("yemble.kills", 1);
    Random random = new Random(Long.getLong("yemble.seed", 1) + victim.ordinal());
    int old = 0;
    for (int i = 0; i < kills; i++) {
      long moment = (long) (random.nextDouble() * runMilliseconds);
      Process run =
          new ProcessBuilder(Program.command("run", "all", "--yes"))
              .directory(folder.toFile())
              .redirectErrorStream(true)
              .redirectOutput(folder.resolve("run.out").toFile())
              .start();
      run.waitFor(moment, TimeUnit.MILLISECONDS);
      if (victim == Victim.YEMBLE) {
        run.destroyForcibly();
        run.waitFor();
      } else {
        Server server = victim == Victim.SOURCE ? source : target;
        server.kill();
        assertThat(run.waitFor(60, TimeUnit.SECONDS)).as("the run ends").isTrue();
        server.start();
        String said = Files.readString(folder.resolve("run.out"));
        assertThat(run.exitValue()).as("at %d ms: %s", moment, said).isIn(0, 1, 4);
        assertThat(said).doesNotContain("Exception", "bug of ours");
      }
      String as = victim + " killed at " + moment + " ms of " + runMilliseconds;
      assertThat(source.content("live")).as(as).isEqualTo(sourceContent);
      String found = target.content("dev");
      assertThat(found).as(as).isIn(before, after);
      old += found.equals(before) ? 1 : 0;
      Program.Result doctor = Program.run(folder, "doctor");
      assertThat(doctor.exitCode()).as(doctor.all()).isZero();
      assertThat(doctor.out()).contains(found.equals(before) ? "job few" : "job all");
      ok("run", "few", "--yes");
      assertThat(target.content("dev")).as(as).isEqualTo(before);
    }
    System.out.println(
        "KillIT: " + victim + " killed " + kills + " times; the target was old " + old + " times");
  }

  /**
   * A copy that is rewritten where it stands, whose server is killed; only if that is asked for.
   */
  @ParameterizedTest
  @ValueSource(strings = {"rewrite", "undo"})
  void whatIsPutInPlaceGoesOnAfterItsServerWasKilled(String command) throws Exception {
    Integer kills = Integer.getInteger("yemble.kills");
    assumeThat(kills).isNotNull();
    String project = Files.readString(folder.resolve("yemble.yaml"));
    KilledInPlace.Server copy =
        new KilledInPlace.Server() {
          @Override
          public void restore() throws Exception {
            try (Connection connection = source.connect("postgres");
                Statement statement = connection.createStatement()) {
              statement.execute("DROP DATABASE IF EXISTS copy");
              statement.execute("CREATE DATABASE copy TEMPLATE live");
            }
            Files.writeString(folder.resolve("yemble.yaml"), project);
            KilledInPlace.confirm(folder, source.url("copy"), PostgresqlServer.USER);
          }

          @Override
          public String content() throws Exception {
            return source.content("copy");
          }

          @Override
          public boolean isBegun() throws Exception {
            try (Connection connection = source.connect("copy");
                Statement statement = connection.createStatement();
                ResultSet there =
                    statement.executeQuery("SELECT 1 FROM yemble.rewrite WHERE upto <> ''")) {
              return there.next();
            } catch (SQLException notThere) {
              return false;
            }
          }

          @Override
          public void kill() throws Exception {
            source.kill();
          }

          @Override
          public void start() throws Exception {
            source.start();
          }
        };
    try {
      KilledInPlace.goesOn(folder, command, kills, copy);
    } finally {
      Files.writeString(folder.resolve("yemble.yaml"), project);
    }
  }
}
