package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

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
import yemble.demo.MariadbServer;

/**
 * The same as {@link KillIT} on MariaDB, where structure cannot be changed in a transaction: what a
 * kill leaves is put right by {@code doctor --mend}, and is then the old state or the new one.
 * {@code yemble.victim} names one alone.
 */
class MariadbKillIT {
  @TempDir static Path folder;
  private static Server source;
  private static Server target;
  private static String sourceContent;
  private static String before;
  private static String after;
  private static long runMilliseconds;

  /** A server that can be killed and started again on the same data and port. */
  private static final class Server {
    private final Path data;
    private final int port;
    private Process process;

    Server(Path data) throws Exception {
      this.data = data;
      try (MariadbServer first = MariadbServer.start(data)) {
        this.port = first.port();
        first.create("live");
        first.create("dev");
      }
      start();
    }

    void start() throws Exception {
      File base = yemble.demo.ServerPrograms.folder().resolve("mariadb").toFile();
      ProcessBuilder builder =
          new ProcessBuilder(
                  base + "/bin/mariadbd",
                  "--no-defaults",
                  "--basedir=" + base,
                  "--datadir=" + data,
                  "--port=" + port,
                  "--socket=" + data.resolveSibling(data.getFileName() + ".sock"),
                  "--bind-address=127.0.0.1",
                  "--skip-ssl",
                  "--character-set-server=utf8mb4",
                  "--user=" + System.getProperty("user.name"))
              .redirectErrorStream(true)
              .redirectOutput(new File(data + ".log"));
      builder.environment().put("LD_LIBRARY_PATH", base + "/libs");
      process = builder.start();
      for (int i = 0; ; i++) {
        try {
          connect("dev").close();
          return;
        } catch (SQLException notYet) {
          assertThat(i).as("the server starts: %s", log()).isLessThan(300);
          TimeUnit.MILLISECONDS.sleep(100);
        }
      }
    }

    private String log() throws Exception {
      List<String> lines = Files.readAllLines(Path.of(data + ".log"));
      return String.join("\n", lines.subList(Math.max(0, lines.size() - 40), lines.size()));
    }

    void kill() throws Exception {
      process.destroyForcibly();
      process.waitFor();
    }

    String url(String database) {
      return "jdbc:mariadb://127.0.0.1:" + port + "/" + database;
    }

    Connection connect(String database) throws SQLException {
      return DriverManager.getConnection(
          "jdbc:mariadb://localhost:" + port + "/" + database, MariadbServer.USER, "");
    }

    /** Every row by the server's own checksums, and every statement of the structure. */
    String content(String database) throws SQLException {
      StringBuilder content = new StringBuilder();
      try (Connection connection = connect(database);
          Statement statement = connection.createStatement()) {
        List<String> tables = new ArrayList<>();
        try (ResultSet rows = statement.executeQuery("SHOW FULL TABLES")) {
          while (rows.next()) {
            if (!rows.getString(1).startsWith("yemble_mark")) {
              tables.add(rows.getString(1));
            }
          }
        }
        for (String table : tables) {
          content.append(one(statement, "SHOW CREATE TABLE `" + table + "`")).append('\n');
          content.append(one(statement, "CHECKSUM TABLE `" + table + "` EXTENDED")).append('\n');
        }
        try (ResultSet rows = statement.executeQuery("SHOW TRIGGERS")) {
          while (rows.next()) {
            content.append(rows.getString(1)).append(rows.getString(4)).append('\n');
          }
        }
      }
      return content.toString();
    }

    private static String one(Statement statement, String sql) throws SQLException {
      try (ResultSet row = statement.executeQuery(sql)) {
        return row.next() ? row.getString(2) : null;
      }
    }
  }

  @BeforeAll
  static void start() throws Exception {
    source = new Server(folder.resolve("source"));
    target = new Server(folder.resolve("target"));
    try (Connection connection = source.connect("live")) {
      yemble.demo.DemoData.write(connection, 1);
    }
    String user = "\n    user: " + MariadbServer.USER;
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
    source.kill();
    target.kill();
  }

  private static void ok(String... args) {
    Program.Result result = Program.run(folder, args);
    assertThat(result.exitCode()).as(result.all()).isZero();
  }

  @ParameterizedTest
  @EnumSource
  void whateverIsKilledTheTargetIsOldOrNewOnceItIsMended(KillIT.Victim victim) throws Exception {
    assumeThat(System.getProperty("yemble.victim", victim.name())).isEqualTo(victim.name());
    assumeThat(Integer.getInteger("yemble.kills") != null || victim != KillIT.Victim.SOURCE)
        .isTrue();
    int kills = Integer.getInteger("yemble.kills", 1);
    Random random = new Random(Long.getLong("yemble.seed", 1) + victim.ordinal());
    int old = 0;
    int mended = 0;
    for (int i = 0; i < kills; i++) {
      // Every other one towards the end, where the tables are put in place.
      double part = i % 2 == 0 ? random.nextDouble() : 0.8 + 0.2 * random.nextDouble();
      long moment = (long) (part * runMilliseconds);
      Process run =
          new ProcessBuilder(Program.command("run", "all", "--yes"))
              .directory(folder.toFile())
              .redirectErrorStream(true)
              .redirectOutput(folder.resolve("run.out").toFile())
              .start();
      run.waitFor(moment, TimeUnit.MILLISECONDS);
      if (victim == KillIT.Victim.YEMBLE) {
        run.destroyForcibly();
        run.waitFor();
      } else {
        Server server = victim == KillIT.Victim.SOURCE ? source : target;
        server.kill();
        assertThat(run.waitFor(60, TimeUnit.SECONDS)).as("the run ends").isTrue();
        server.start();
        String said = Files.readString(folder.resolve("run.out"));
        assertThat(run.exitValue()).as("at %d ms: %s", moment, said).isIn(0, 1, 4);
        assertThat(said).doesNotContain("Exception", "bug of ours");
      }
      String as = victim + " killed at " + moment + " ms of " + runMilliseconds;
      assertThat(source.content("live")).as(as).isEqualTo(sourceContent);
      Program.Result doctor = released();
      if (doctor.exitCode() != 0) {
        assertThat(doctor.out()).as(as).contains("leftover");
        ok("doctor", "--mend");
        mended++;
        doctor = Program.run(folder, "doctor");
      }
      assertThat(doctor.exitCode()).as(doctor.all()).isZero();
      String found = target.content("dev");
      assertThat(found).as(as).isIn(before, after);
      assertThat(doctor.out()).contains(found.equals(before) ? "job few" : "job all");
      old += found.equals(before) ? 1 : 0;
      ok("run", "few", "--yes");
      assertThat(target.content("dev")).as(as).isEqualTo(before);
    }
    System.out.printf(
        "MariadbKillIT: %s killed %d times; the target was old %d times, mended %d times%n",
        victim, kills, old, mended);
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
            try (Connection connection = source.connect("live");
                Statement statement = connection.createStatement()) {
              statement.execute("DROP DATABASE IF EXISTS copy");
              statement.execute("CREATE DATABASE copy CHARACTER SET utf8mb4");
            }
            try (Connection connection = source.connect("copy")) {
              yemble.demo.DemoData.write(connection, 1);
            }
            Files.writeString(folder.resolve("yemble.yaml"), project);
            KilledInPlace.confirm(folder, source.url("copy"), MariadbServer.USER);
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
                    statement.executeQuery("SELECT 1 FROM yemble_rewrite WHERE upto <> ''")) {
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

  /** What doctor says once the server has noticed that the run is gone. */
  private static Program.Result released() throws Exception {
    Program.Result doctor = Program.run(folder, "doctor");
    for (int i = 0; i < 50 && doctor.out().contains("at work"); i++) {
      TimeUnit.MILLISECONDS.sleep(200);
      doctor = Program.run(folder, "doctor");
    }
    return doctor;
  }
}
