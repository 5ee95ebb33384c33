package yemble.demo;

import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.File;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;

/** A PostgreSQL server of the demo's own, out of a Maven artifact; it ends with this process. */
public final class PostgresqlServer implements DemoServer {
  /** Who signs in, without a password. */
  public static final String USER = "postgres";

  private final EmbeddedPostgres server;

  private PostgresqlServer(EmbeddedPostgres server) {
    this.server = server;
  }

  /**
   * Starts a server that keeps its data in a folder, which is made anew.
   *
   * @throws IOException if it does not start
   * @throws NoClassDefFoundError if the artifact is not on the class path
   */
  public static PostgresqlServer start(Path folder) throws IOException {
    return start(folder, false);
  }

  /**
   * The same.
   *
   * @param durable whether it waits for the disk, as servers do whose data matters and whose speed
   *     is measured
   */
  public static PostgresqlServer start(Path folder, boolean durable) throws IOException {
    String waits = durable ? "on" : "off";
    DemoServer.clear(folder);
    Files.deleteIfExists(Path.of(folder + ".log"));
    ProcessBuilder.Redirect log = ProcessBuilder.Redirect.appendTo(new File(folder + ".log"));
    return new PostgresqlServer(
        EmbeddedPostgres.builder()
            .setOverrideWorkingDirectory(programs())
            .setDataDirectory(folder)
            .setCleanDataDirectory(false)
            .setOutputRedirector(log)
            .setErrorRedirector(log)
            .setServerConfig("fsync", waits)
            .setServerConfig("full_page_writes", waits)
            .start());
  }

  /** A folder within the private one: the library opens it to everybody. */
  private static File programs() throws IOException {
    return Files.createDirectories(ServerPrograms.folder().resolve("postgresql")).toFile();
  }

  @Override
  public String engine() {
    return "PostgreSQL";
  }

  @Override
  public String user() {
    return USER;
  }

  @Override
  public String url(String database) {
    return "jdbc:postgresql://localhost:" + server.getPort() + "/" + database;
  }

  @Override
  public int port() {
    return server.getPort();
  }

  @Override
  public Connection connect(String database) throws SQLException {
    return DriverManager.getConnection(url(database) + "?reWriteBatchedInserts=true", USER, "");
  }

  @Override
  public void create(String database) throws SQLException {
    try (Connection connection = connect("postgres");
        Statement statement = connection.createStatement()) {
      statement.execute("CREATE DATABASE " + database);
    }
  }

  @Override
  public void close() throws IOException {
    server.close();
  }
}
