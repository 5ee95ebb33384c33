package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.File;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import yemble.demo.DemoServer;
import yemble.demo.ServerPrograms;

/**
 * The engines' own clients, which load scripts. MariaDB's comes with the server out of its Maven
 * artifact. {@code psql} and {@code sqlite3} are those of the machine, where it has them; where it
 * lacks {@code sqlite3} the driver stands in for it and runs the same statements, but reads no
 * lines as the client does. Without {@code psql} nothing can be said of its scripts.
 */
final class Client {
  private Client() {}

  /** Whether scripts for an engine can be loaded here. */
  static boolean knows(String engine) {
    return !engine.equals("postgresql") || isThere("psql");
  }

  static boolean isThere(String program) {
    return Stream.of(System.getenv("PATH").split(File.pathSeparator))
        .anyMatch(folder -> Files.isExecutable(Path.of(folder, program)));
  }

  /**
   * Loads a script.
   *
   * @param script its folder
   * @param target the name of a database of the shared server, or a file
   */
  static Program.Result load(String engine, Path script, String target) throws Exception {
    Path file = script.resolve("load.sql");
    switch (engine) {
      case "postgresql":
        return run(
            script,
            null,
            List.of(
                "psql",
                "-X",
                "-h",
                "localhost",
                "-p",
                Integer.toString(Servers.of(engine).port()),
                "-U",
                Servers.of(engine).user(),
                "-d",
                target,
                "-f",
                file.toString()));
      case "mariadb":
        return run(
            script,
            file,
            List.of(
                ServerPrograms.folder().resolve("mariadb/bin/mariadb").toString(),
                "--no-defaults",
                "-h",
                "127.0.0.1",
                "-P",
                Integer.toString(Servers.of(engine).port()),
                "-u",
                Servers.of(engine).user(),
                "--skip-ssl",
                target));
      default:
        return isThere("sqlite3")
            ? run(script, file, List.of("sqlite3", target))
            : standIn(file, target);
    }
  }

  private static Program.Result run(Path folder, Path input, List<String> command)
      throws Exception {
    Path out = Files.createTempFile("client", ".out");
    Path err = Files.createTempFile("client", ".err");
    ProcessBuilder builder =
        new ProcessBuilder(command)
            .directory(folder.toFile())
            .redirectOutput(out.toFile())
            .redirectError(err.toFile());
    builder.environment().put("PGTZ", "Asia/Kolkata");
    builder.environment().put("LC_ALL", "C");
    if (input != null) {
      builder.redirectInput(input.toFile());
    }
    int code = builder.start().waitFor();
    return new Program.Result(code, Files.readString(out), Files.readString(err));
  }

  private static Program.Result standIn(Path script, String target) throws Exception {
    String sql =
        Files.readString(script)
            .lines()
            .filter(line -> !line.startsWith(".bail") && !line.startsWith(".print"))
            .collect(Collectors.joining("\n"));
    try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + target);
        Statement statement = connection.createStatement()) {
      statement.executeUpdate(sql);
      return new Program.Result(0, "", "");
    } catch (SQLException e) {
      return new Program.Result(1, "", e.getMessage());
    }
  }

  /** Makes a database of the shared server anew. */
  static void renew(String engine, String database) throws SQLException {
    DemoServer server = Servers.of(engine);
    try (Connection connection = server.connect(engine.equals("mariadb") ? "mysql" : "postgres");
        Statement statement = connection.createStatement()) {
      statement.execute("DROP DATABASE IF EXISTS " + database);
    }
    server.create(database);
  }

  /** Loads a script, which must do. */
  static void loads(String engine, Path script, String target) throws Exception {
    Program.Result result = load(engine, script, target);
    assertThat(result.exitCode()).as("%s: %s", engine, result.all()).isZero();
  }
}
