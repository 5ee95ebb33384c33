package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import java.util.zip.ZipInputStream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.demo.DemoData;

/**
 * The same as {@link KillIT} on SQLite: whenever Yemble is killed, the target is the old file or
 * the new one, whole, and the source is the same to the byte.
 */
class SqliteKillIT {
  @TempDir static Path folder;
  private static Sandbox files;
  private static byte[] source;
  private static String before;
  private static String after;
  private static long runMilliseconds;

  @BeforeAll
  static void start() throws Exception {
    files = new Sandbox(folder);
    DemoData.write(folder.resolve("live.db"), 1);
    source = Files.readAllBytes(folder.resolve("live.db"));
    Files.writeString(
        folder.resolve("yemble.yaml"),
        "version: 1\ndatabases:\n  live: { url: 'jdbc:sqlite:live.db' }\n"
            + "  dev: { url: 'jdbc:sqlite:dev.db', environment: test }\n"
            + "links:\n  payment.booking_id: { broken: leave-out }\njobs:\n"
            + "  few: { from: live, into: dev, load: replace, pick: { incident: { rows: 20 } } }\n"
            + "  all: { from: live, into: dev, load: replace }\n");
    Path key = Files.writeString(folder.resolve("yemble.key"), Sandbox.KEY + "\n");
    Files.setPosixFilePermissions(key, PosixFilePermissions.fromString("rw-------"));
    ok("survey");
    ok("register", "accept");
    ok("register", "keep", "--open", "--reason", "a test");
    long start = System.nanoTime();
    ok("run", "all", "--yes");
    runMilliseconds = (System.nanoTime() - start) / 1_000_000;
    after = content();
    ok("run", "few", "--yes");
    before = content();
    assertThat(before).isNotEqualTo(after);
  }

  private static void ok(String... args) {
    Program.Result result = Program.run(folder, args);
    assertThat(result.exitCode()).as(result.all()).isZero();
  }

  /** Every statement and every row of the target; of the mark, what is no other in each run. */
  private static String content() throws Exception {
    assertThat(files.one("dev.db", "PRAGMA integrity_check")).isEqualTo("ok");
    StringBuilder content = new StringBuilder();
    for (List<Object> object :
        files.query(
            "dev.db",
            "SELECT type, name, sql FROM sqlite_master WHERE sql NOT NULL ORDER BY 1, 2")) {
      content.append(object.get(2)).append('\n');
      if (object.get(0).equals("table")) {
        content
            .append(
                files.query(
                    "dev.db",
                    "SELECT * FROM \""
                        + object.get(1)
                        + (object.get(1).equals("yemble_mark")
                            ? "\" WHERE item LIKE '% job' OR item LIKE '% made %'"
                            : "\"")
                        + " ORDER BY 1, 2"))
            .append('\n');
      }
    }
    return content.toString();
  }

  @Test
  void wheneverYembleIsKilledTheTargetIsOldOrNew() throws Exception {
    int kills = Integer.getInteger("yemble.kills", 1);
    Random random = new Random(Long.getLong("yemble.seed", 1));
    int old = 0;
    for (int i = 0; i < kills; i++) {
      double part = i % 2 == 0 ? random.nextDouble() : 0.8 + 0.2 * random.nextDouble();
      Process run =
          new ProcessBuilder(Program.command("run", "all", "--yes"))
              .directory(folder.toFile())
              .redirectErrorStream(true)
              .redirectOutput(folder.resolve("run.out").toFile())
              .start();
      run.waitFor((long) (part * runMilliseconds), TimeUnit.MILLISECONDS);
      run.destroyForcibly().waitFor();
      String as = "killed at " + part + " of " + runMilliseconds + " ms";
      assertThat(Files.readAllBytes(folder.resolve("live.db"))).as(as).isEqualTo(source);
      String found = content();
      assertThat(found.equals(before) || found.equals(after)).as(as).isTrue();
      old += found.equals(before) ? 1 : 0;
      assertThat(Program.run(folder, "doctor").exitCode()).isZero();
      ok("run", "few", "--yes");
      assertThat(content().equals(before)).as(as).isTrue();
      assertThat(folder.resolve("dev.db.yemble-part")).doesNotExist();
    }
    System.out.println(
        "SqliteKillIT: killed " + kills + " times; the target was old " + old + " times");
  }

  /** A person at the keyboard, and a system that shuts down. */
  @ParameterizedTest
  @CsvSource({"INT, 130", "TERM, 143"})
  void whoeverStopsItIsToldWhatStateTheTargetIsIn(String signal, int exit) throws Exception {
    Process run =
        new ProcessBuilder(Program.command("run", "all", "--yes"))
            .directory(folder.toFile())
            .redirectError(folder.resolve("run.err").toFile())
            .redirectOutput(folder.resolve("run.out").toFile())
            .start();
    Path part = folder.resolve("dev.db.yemble-part");
    while (run.isAlive() && !Files.exists(part)) {
      Thread.sleep(5);
    }
    new ProcessBuilder("kill", "-" + signal, Long.toString(run.pid())).start().waitFor();
    assertThat(run.waitFor(1, TimeUnit.MINUTES)).isTrue();
    String said = Files.readString(folder.resolve("run.err"));
    assertThat(run.exitValue()).as(said).isEqualTo(exit);
    assertThat(said.strip())
        .isEqualTo(
            "yemble: stopped; dev (test) is as it was. Next: run the same command again; it removes"
                + " what is left of this one");
    assertThat(content()).isEqualTo(before);
    ok("run", "few", "--yes");
    assertThat(part).doesNotExist();
  }

  /**
   * Killed, or without room: a parcel is absent or whole, and what is left of it holds no original.
   */
  @Test
  void wheneverPackIsKilledTheParcelIsAbsentOrWhole() throws Exception {
    int kills = Integer.getInteger("yemble.kills", 1);
    Random random = new Random(Long.getLong("yemble.seed", 1));
    long start = System.nanoTime();
    ok("pack", "all");
    long milliseconds = (System.nanoTime() - start) / 1_000_000;
    Path shelf = folder.resolve(".yemble/shelf");
    List<String> originals =
        files
            .query("live.db", "SELECT email FROM passenger WHERE email NOT NULL LIMIT 300")
            .stream()
            .map(row -> row.get(0).toString())
            .toList();
    int parts = 0;
    for (int i = 0; i < kills; i++) {
      double part = 0.3 + 0.7 * random.nextDouble();
      Process pack =
          new ProcessBuilder(Program.command("pack", "all"))
              .directory(folder.toFile())
              .redirectErrorStream(true)
              .redirectOutput(folder.resolve("pack.out").toFile())
              .start();
      pack.waitFor((long) (part * milliseconds), TimeUnit.MILLISECONDS);
      pack.destroyForcibly().waitFor();
      assertThat(Program.run(folder, "shelf", "check").exitCode()).isZero();
      try (Stream<Path> left = Files.list(shelf)) {
        for (Path file : left.toList()) {
          parts += file.toString().endsWith(".part") ? 1 : 0;
          assertThat(inflated(file)).as(file.toString()).doesNotContain(originals);
        }
      }
    }
    try (Stream<Path> left = Files.list(folder.resolve(".yemble"))) {
      assertThat(left.map(file -> file.getFileName().toString()))
          .allMatch(
              name ->
                  name.matches(
                      "shelf|survey.*|schema.*|written.*|run\\.lock|yemble\\.schema\\.json"));
    }
    Path full = folder.resolve("full.parcel");
    Process pack =
        new ProcessBuilder(limited(Program.command("pack", "all", "--to", full.toString())))
            .directory(folder.toFile())
            .redirectErrorStream(true)
            .redirectOutput(folder.resolve("full.out").toFile())
            .start();
    assertThat(pack.waitFor()).as(Files.readString(folder.resolve("full.out"))).isEqualTo(4);
    assertThat(Files.readString(folder.resolve("full.out"))).contains("file-unwritable");
    assertThat(full).doesNotExist();
    try (Stream<Path> left = Files.list(folder)) {
      assertThat(left.map(Path::toString)).noneMatch(name -> name.endsWith(".part"));
    }
    ok("load", "all", "--into", "dev", "--yes");
    assertThat(content()).isEqualTo(after);
    ok("run", "few", "--yes");
    System.out.printf(
        "SqliteKillIT: pack killed %d times, %d files under way left%n", kills, parts);
  }

  private static List<String> limited(List<String> command) {
    List<String> limited =
        new ArrayList<>(List.of("bash", "-c", "ulimit -f 64; exec \"$@\"", "bash"));
    limited.addAll(command);
    return limited;
  }

  /** All that can be unpacked of a file, whether it is whole or not. */
  private static String inflated(Path file) throws Exception {
    StringBuilder text = new StringBuilder();
    try (ZipInputStream in = new ZipInputStream(Files.newInputStream(file))) {
      while (in.getNextEntry() != null) {
        text.append(new String(in.readAllBytes(), StandardCharsets.UTF_8));
      }
    } catch (IOException cutShort) {
      return text.toString();
    }
    return text.toString();
  }
}
