package yemble.bench;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** The built program, run in a folder under a fixed heap. */
record Yemble(Path folder, String heap) {
  private static final ObjectMapper JSON = new ObjectMapper();
  private static final String CPU = "cpu_s";

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
    Duration cpu = Duration.ZERO;
    while (!process.waitFor(50, TimeUnit.MILLISECONDS)) {
      cpu = process.info().totalCpuDuration().orElse(cpu);
    }
    if (process.exitValue() != 0) {
      throw new IllegalStateException("exit code " + process.exitValue() + " of " + command);
    }
    JsonNode result = JSON.readTree(out.toFile());
    return result instanceof ObjectNode object ? object.put(CPU, cpu.toMillis() / 1000.0) : result;
  }

  /** The CPU-seconds of a whole process, its proof included, for a million rows. */
  static double cpuPerMillion(JsonNode result) {
    return result.required(CPU).asDouble() * 1e6 / result.required("rows").asLong();
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
