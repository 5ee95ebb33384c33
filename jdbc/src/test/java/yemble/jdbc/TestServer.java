package yemble.jdbc;

import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.concurrent.atomic.AtomicInteger;
import yemble.core.store.Engine;

/** A PostgreSQL server, started once for all tests of a process. */
public final class TestServer {
  private static final AtomicInteger NUMBER = new AtomicInteger();
  private static EmbeddedPostgres server;

  private TestServer() {}

  private static synchronized EmbeddedPostgres server() {
    if (server == null) {
      try {
        server =
            EmbeddedPostgres.builder()
                .setOverrideWorkingDirectory(
                    MariadbServer.programs().resolve("postgresql").toFile())
                .setServerConfig("fsync", "off")
                .setServerConfig("max_locks_per_transaction", "512")
                .setServerConfig("lc_messages", "C")
                .start();
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }
    return server;
  }

  /** The port that it listens on, at localhost. */
  public static int port() {
    return server().getPort();
  }

  /** Makes an empty database; its URL. */
  public static String database() throws SQLException {
    String name = "test_" + NUMBER.incrementAndGet();
    run(url("postgres"), "CREATE DATABASE " + name);
    return url(name);
  }

  /** The URL of a database. */
  public static String url(String database) {
    return "jdbc:postgresql://localhost:" + port() + "/" + database;
  }

  /** The address of a database by its URL, as the superuser. */
  public static Engine.Address address(String name, String url) {
    return new Engine.Address(name, url, Path.of("."), "postgres", "");
  }

  public static Connection connect(String url) throws SQLException {
    return DriverManager.getConnection(url, "postgres", "");
  }

  /** Runs a script of many statements. */
  public static void script(String url, String script) throws SQLException {
    try (Connection connection = connect(url + "?preferQueryMode=simple");
        Statement statement = connection.createStatement()) {
      statement.execute(script);
    }
  }

  /** Runs statements in a database. */
  public static void run(String url, String... statements) throws SQLException {
    try (Connection connection = connect(url);
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  /** The first value of the first row as text. */
  public static String one(String url, String sql) throws SQLException {
    try (Connection connection = connect(url);
        Statement statement = connection.createStatement();
        java.sql.ResultSet row = statement.executeQuery(sql)) {
      return row.next() ? row.getString(1) : null;
    }
  }
}
