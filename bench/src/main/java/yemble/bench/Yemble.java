package yemble.bench;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** The built program, run in a folder under a fixed heap. */
record Yemble(Path folder, String heap) {
  private static final ObjectMapper JSON = new ObjectMapper();

  /** Runs a command; what it prints with {@code --json}. */
  JsonNode run(String... args) throws IOException, InterruptedException {
    List<String> command = new ArrayList<>();
    command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
    command.add("-Xmx" + heap);
    command.add("-XX:+UseSerialGC");
    command.add("-jar");
    command.add(System.getProperty("yemble.jar", "cli/target/yemble.jar"));
    command.addAll(List.of(args));
    command.add("--json");
    command.add("--project");
    command.add(folder.toString());
    Path out = folder.resolve("out.json");
    Process process =
        new ProcessBuilder(command)
            .redirectOutput(out.toFile())
            .redirectError(ProcessBuilder.Redirect.INHERIT)
            .start();
    int code = process.waitFor();
    if (code != 0) {
      throw new IllegalStateException("exit code " + code + " of " + command);
    }
    return JSON.readTree(out.toFile());
  }

  /** How long a part of a run took, in seconds: {@code selecting}, {@code loading}. */
  static double seconds(JsonNode result, String part) {
    return result.required(part + "_ms").asLong() / 1000.0;
  }

  /** The seconds since a moment of {@link System#nanoTime()}. */
  static double since(long start) {
    return (System.nanoTime() - start) / 1e9;
  }
}
