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
    double milliseconds = 0;
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
          new ProcessBuilder(Program.command(command, "there", "--batch", "500"))
              .directory(folder.toFile())
              .redirectInput(ProcessBuilder.Redirect.from(Path.of("/dev/null").toFile()))
              .redirectErrorStream(true)
              .redirectOutput(folder.resolve("run.out").toFile())
              .start();
      if (i == 0) {
        assertThat(process.waitFor()).as(Files.readString(folder.resolve("run.out"))).isZero();
        milliseconds = (System.nanoTime() - start) / 1e6;
        end = server.content();
        assertThat(end).isNotEqualTo(before);
        assertThat(end.equals(original)).isEqualTo(undo);
        continue;
      }
      double part = 0.5 + 0.5 * random.nextDouble();
      process.waitFor((long) (part * milliseconds), TimeUnit.MILLISECONDS);
      server.kill();
      assertThat(process.waitFor(60, TimeUnit.SECONDS)).as("it ends").isTrue();
      server.start();
      assertThat(Files.readString(folder.resolve("run.out")))
          .doesNotContain("Exception", "bug of ours");
      String found = server.content();
      begun += found.equals(before) || found.equals(end) ? 0 : 1;
      milliseconds *= found.equals(before) ? 1.05 : found.equals(end) ? 0.95 : 1;
      Program.Result next = Program.run(folder, command, "there");
      assertThat(next.exitCode() == 0 || (undo && next.err().contains("nothing-found")))
          .as(next.all())
          .isTrue();
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
