package yemble.cli;

import java.io.File;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;

/** The built program, run as a process. */
final class Program {
  private Program() {}

  /** Options by which Java starts in a part of the time, as the launcher gives them. */
  private static final List<String> QUICK = quick();

  /**
   * Makes, once for all tests of a build, what the launcher makes after a build: an archive of the
   * classes, and SQLite's library unpacked.
   */
  private static List<String> quick() {
    Path jar = Path.of(System.getProperty("yemble.jar", "target/yemble.jar")).toAbsolutePath();
    Path archive = jar.resolveSibling("tests.jsa");
    Path library = jar.resolveSibling("tests-native");
    String java = Path.of(System.getProperty("java.home"), "bin", "java").toString();
    try (FileChannel lock =
            FileChannel.open(
                jar.resolveSibling("tests.lock"),
                StandardOpenOption.CREATE,
                StandardOpenOption.WRITE);
        FileLock held = lock.lock()) {
      boolean current =
          Files.exists(archive)
              && Files.getLastModifiedTime(archive).compareTo(Files.getLastModifiedTime(jar)) >= 0;
      if (held.isValid() && !current) {
        Path folder = Files.createTempDirectory("yemble-rehearsal");
        rehearse(
            List.of(
                java,
                "-cp",
                jar.toString(),
                "yemble.jdbc.sqlite.NativeLibrary",
                library.toString()));
        rehearse(
            List.of(
                java,
                "-XX:+UseSerialGC",
                "-XX:ArchiveClassesAtExit=" + archive,
                "-Xlog:disable",
                "-Dorg.sqlite.lib.path=" + library,
                "-jar",
                jar.toString(),
                "demo",
                folder.resolve("demo").toString()));
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return List.of(
        "-XX:+UseSerialGC",
        "-XX:SharedArchiveFile=" + archive,
        "-Xlog:disable",
        "-Dorg.sqlite.lib.path=" + library);
  }

  private static void rehearse(List<String> command) throws IOException {
    try {
      new ProcessBuilder(command)
          .redirectOutput(ProcessBuilder.Redirect.DISCARD)
          .redirectError(ProcessBuilder.Redirect.DISCARD)
          .start()
          .waitFor(1, TimeUnit.MINUTES);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  /** What a run of the program came to. */
  record Result(int exitCode, String out, String err) {
    String all() {
      return out + err;
    }
  }

  static List<String> command(String... args) {
    List<String> command = new ArrayList<>();
    command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
    command.add("-XX:TieredStopAtLevel=1");
    command.addAll(QUICK);
    command.add("-Dyemble.terminal=");
    command.add("-jar");
    command.add(System.getProperty("yemble.jar", "target/yemble.jar"));
    command.addAll(List.of(args));
    return command;
  }

  /** The same with the servers that the demo can start. */
  static List<String> commandWithServers(String... args) {
    List<String> command = new ArrayList<>(command());
    int jar = command.indexOf("-jar");
    String path = command.get(jar + 1);
    command.subList(jar, jar + 2).clear();
    command.addAll(
        List.of(
            "-cp",
            path
                + File.pathSeparator
                + Path.of(path, "../../../demo/target/servers").normalize()
                + "/*",
            "yemble.cli.Main"));
    command.addAll(List.of(args));
    return command;
  }

  static Result run(Path folder, String... args) {
    return run(folder, Map.of(), command(args));
  }

  static Result run(Path folder, Map<String, String> environment, List<String> command) {
    try {
      Path out = Files.createTempFile("yemble", ".out");
      Path err = Files.createTempFile("yemble", ".err");
      ProcessBuilder builder =
          new ProcessBuilder(command)
              .directory(folder.toFile())
              .redirectInput(ProcessBuilder.Redirect.from(Path.of("/dev/null").toFile()))
              .redirectOutput(out.toFile())
              .redirectError(err.toFile());
      builder.environment().remove("YEMBLE_KEY");
      builder.environment().putAll(environment);
      Process process = builder.start();
      if (!process.waitFor(2, TimeUnit.MINUTES)) {
        process.destroyForcibly();
        throw new IllegalStateException("the program does not end: " + command);
      }
      Result result = new Result(process.exitValue(), Files.readString(out), Files.readString(err));
      Files.delete(out);
      Files.delete(err);
      return result;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } catch (InterruptedException e) {
      throw new IllegalStateException(e);
    }
  }
}
