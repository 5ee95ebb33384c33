package yemble.cli;

import java.io.File;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;

/** The built program, run as a process. */
final class Program {
  private Program() {}

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
