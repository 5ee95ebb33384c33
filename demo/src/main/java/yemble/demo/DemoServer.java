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
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/** A PostgreSQL server of the demo's own, out of a Maven artifact; it ends with this process. */
public final class DemoServer implements AutoCloseable {
  /** Who signs in, without a password. */
  public static final String USER = "postgres";

  private final EmbeddedPostgres server;

  private DemoServer(EmbeddedPostgres server) {
    this.server = server;
  }

  /**
   * Starts a server that keeps its data in a folder, which is made anew.
   *
   * @throws IOException if it does not start
   * @throws NoClassDefFoundError if the artifact is not on the class path
   */
  public static DemoServer start(Path folder) throws IOException {
    if (Files.exists(folder)) {
      List<Path> old;
      try (Stream<Path> content = Files.walk(folder)) {
        old = content.sorted(Comparator.reverseOrder()).toList();
      }
      for (Path path : old) {
        Files.delete(path);
      }
    }
    return new DemoServer(
        EmbeddedPostgres.builder()
            .setDataDirectory(folder)
            .setCleanDataDirectory(false)
            .setOutputRedirector(ProcessBuilder.Redirect.DISCARD)
            .setErrorRedirector(ProcessBuilder.Redirect.to(new File(folder + ".log")))
            .start());
  }

  /** The URL of a database. */
  public String url(String database) {
    return "jdbc:postgresql://localhost:" + server.getPort() + "/" + database;
  }

  /** The port that the server listens on, at localhost. */
  public int port() {
    return server.getPort();
  }

  /** A connection of the superuser. */
  public Connection connect(String database) throws SQLException {
    return DriverManager.getConnection(url(database) + "?reWriteBatchedInserts=true", USER, "");
  }

  /** Makes an empty database. */
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
