package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;
import java.util.concurrent.TimeUnit;

/**
 * What becomes of a copy whose server is killed while rows are put in place, by a rewrite or by an
 * undo: the next one goes on, to the same end.
 */
final class KilledInPlace {
  private KilledInPlace() {}

  /** The server of a copy. */
  interface Server {
    /** Makes the copy anew. */
    void restore() throws Exception;

    String content() throws Exception;

    /** Whether rows of the copy were put in place, but not yet all. */
    boolean isBegun() throws Exception;

    void kill() throws Exception;

    void start() throws Exception;
  }

  /**
   * @param folder of a project whose job {@code there} is about a database {@code copy}
   * @param command rewrite or undo
   */
  static void goesOn(Path folder, String command, int kills, Server server) throws Exception {
    Random random = new Random(Long.getLong("yemble.seed", 1));
    boolean undo = command.equals("undo");
    if (undo) {
      ok(folder, "key", "new", "undo");
    }
    String end = "";
    double early = 0;
    double late = 0;
    int begun = 0;
    for (int i = 0; i <= kills; i++) {
      server.restore();
      String before = server.content();
      final String original = before;
      if (undo) {
        ok(folder, "rewrite", "there", "--undo", "1h");
        before = server.content();
      }
      long start = System.nanoTime();
      Process process =
          new ProcessBuilder(Program.command(command, "there", "--batch", "100"))
              .directory(folder.toFile())
              .redirectInput(ProcessBuilder.Redirect.from(Path.of("/dev/null").toFile()))
              .redirectErrorStream(true)
              .redirectOutput(folder.resolve("run.out").toFile())
              .start();
      if (i == 0) {
        assertThat(process.waitFor()).as(Files.readString(folder.resolve("run.out"))).isZero();
        late = (System.nanoTime() - start) / 1e6;
        early = late / 2;
        end = server.content();
        assertThat(end).isNotEqualTo(before);
        assertThat(end.equals(original)).isEqualTo(undo);
        continue;
      }
      double moment = early + (late - early) * random.nextDouble();
      process.waitFor((long) (i % 2 == 0 ? moment : early * 0.6), TimeUnit.MILLISECONDS);
      if (i % 2 == 1) {
        // Every other time in the few moments in which rows are written.
        while (process.isAlive() && !server.isBegun()) {
          TimeUnit.MILLISECONDS.sleep(5);
        }
        TimeUnit.MILLISECONDS.sleep(random.nextInt(150));
      }
      server.kill();
      assertThat(process.waitFor(60, TimeUnit.SECONDS)).as("it ends").isTrue();
      server.start();
      assertThat(Files.readString(folder.resolve("run.out")))
          .doesNotContain("Exception", "bug of ours");
      String found = server.content();
      begun += found.equals(before) || found.equals(end) ? 0 : 1;
      // The moments between, when rows are written, are few: they are come to from both sides.
      early =
          i % 2 == 1 ? early : found.equals(before) ? Math.max(early, moment * 0.97) : early * 0.99;
      late =
          i % 2 == 1
              ? late
              : found.equals(end)
                  ? Math.max(early * 1.1, Math.min(late, moment * 1.03))
                  : late * 1.01;
      Program.Result next = Program.run(folder, command, "there");
      assertThat(next.exitCode() == 0 || (undo && next.err().contains("nothing-found")))
          .as(next.all())
          .isTrue();
      if (next.exitCode() != 0) {
        Program.run(folder, "doctor", "--mend"); // It was done, but for what it leaves.
      }
      assertThat(server.content()).isEqualTo(end);
      if (undo) {
        Program.run(folder, "undo", "--forget", "--yes");
      }
    }
    System.out.printf(
        "KilledInPlace: %s, its server killed %d times, begun %d times%n", command, kills, begun);
  }

  private static void ok(Path folder, String... args) {
    Program.Result result = Program.run(folder, args);
    assertThat(result.exitCode()).as(result.all()).isZero();
  }

  /** Writes down which database may be rewritten. */
  static void confirm(Path folder, String url, String user) throws Exception {
    Path file = folder.resolve("yemble.yaml");
    String project = Files.readString(file).replace("jobs:", "jobs:\n  there: { from: copy }");
    String copy =
        "  copy: { url: '"
            + url
            + "', user: "
            + user
            + ", environment: copy, rewrite: true, confirmed: '%s' }\nlinks:";
    Files.writeString(file, project.replace("links:", String.format(copy, "?")));
    String refused = Program.run(folder, "rewrite", "there").err();
    String identity = refused.replaceAll("(?s).*this one is ([^\n]*)\n.*", "$1");
    Files.writeString(file, project.replace("links:", String.format(copy, identity)));
  }
}
