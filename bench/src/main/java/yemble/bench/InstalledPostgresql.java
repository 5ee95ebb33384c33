package yemble.bench;

import java.io.IOException;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * A server of the PostgreSQL that is installed on the machine: {@code pg_dump} dumps no server that
 * is newer than itself, as the one out of the Maven artifact may be. Where this is root, it runs as
 * the user {@code postgres}.
 */
record InstalledPostgresql(Path folder, Path programs, int port) implements AutoCloseable {
  static final String USER = "postgres";

  static InstalledPostgresql start(Path folder) throws IOException, InterruptedException {
    Files.createDirectories(folder);
    Path programs = Path.of(said("pg_config", "--bindir"));
    if (!Files.exists(programs.resolve("initdb"))) {
      programs = Path.of(said("sh", "-c", "readlink -f $(command -v postgres)")).getParent();
    }
    int port;
    try (ServerSocket socket = new ServerSocket(0)) {
      port = socket.getLocalPort();
    }
    InstalledPostgresql server = new InstalledPostgresql(folder, programs, port);
    if (isRoot()) {
      run("chown", USER, folder.toString());
    }
    server.as("initdb", "-D", server.data(), "-U", USER, "-A", "trust", "-E", "UTF8", "--locale=C");
    server.as(
        "pg_ctl",
        "-D",
        server.data(),
        "-w",
        "-l",
        folder.resolve("log").toString(),
        "-o",
        "-p " + port + " -k " + folder,
        "start");
    return server;
  }

  private String data() {
    return folder.resolve("data").toString();
  }

  String url(String database) {
    return "jdbc:postgresql://localhost:" + port + "/" + database;
  }

  /** What a client is told of where the server is. */
  String client() {
    return " -h localhost -p " + port + " -U " + USER + " ";
  }

  private static boolean isRoot() {
    return System.getProperty("user.name").equals("root");
  }

  private void as(String program, String... args) throws IOException, InterruptedException {
    List<String> command = new ArrayList<>();
    if (isRoot()) {
      command.addAll(List.of("runuser", "-u", USER, "--"));
    }
    command.add(programs.resolve(program).toString());
    command.addAll(List.of(args));
    run(command.toArray(new String[0]));
  }

  /** Runs a program that must do. */
  static void run(String... command) throws IOException, InterruptedException {
    Process process =
        new ProcessBuilder(command)
            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
            .redirectError(ProcessBuilder.Redirect.INHERIT)
            .start();
    if (process.waitFor() != 0) {
      throw new IllegalStateException("it ends with an error: " + String.join(" ", command));
    }
  }

  private static String said(String... command) throws IOException, InterruptedException {
    Process process = new ProcessBuilder(command).start();
    String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    process.waitFor();
    return said.strip();
  }

  @Override
  public void close() throws IOException {
    try {
      as("pg_ctl", "-D", data(), "-m", "fast", "stop");
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
