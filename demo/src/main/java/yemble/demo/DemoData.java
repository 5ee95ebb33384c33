package yemble.demo;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.function.Predicate;

/**
 * Fills a database with Orlisay Ferries. Streams: nothing is remembered from row to row, since
 * every person and thing is a function of its number.
 */
public final class DemoData {
  static final long SEED = 20_260_101;

  private DemoData() {}

  /**
   * Makes a new SQLite file.
   *
   * @param scale how large: 1 is about 60,000 rows in 27 tables, 100 a hundred times as many rows
   */
  public static void write(Path file, int scale) throws SQLException, IOException {
    Files.deleteIfExists(file);
    try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file)) {
      try (Statement statement = connection.createStatement()) {
        statement.execute("PRAGMA journal_mode = OFF");
        statement.execute("PRAGMA synchronous = OFF");
      }
      connection.setAutoCommit(false);
      String[] schema = schema("schema.sql");
      run(connection, schema, sql -> !sql.startsWith("CREATE TRIGGER"));
      fill(connection, scale);
      run(connection, schema, sql -> sql.startsWith("CREATE TRIGGER"));
      connection.commit();
    }
  }

  /**
   * Fills an empty database of a server, through a connection of somebody who may do everything:
   * some rows refer to nothing.
   */
  public static void write(Connection connection, int scale) throws SQLException, IOException {
    if (connection.getMetaData().getURL().startsWith("jdbc:postgresql:")) {
      writePostgresql(connection, scale);
    } else {
      writeMariadb(connection, scale);
    }
  }

  private static void writeMariadb(Connection connection, int scale)
      throws SQLException, IOException {
    String[] schema = schema("schema-mariadb.sql");
    try (Statement statement = connection.createStatement()) {
      statement.execute(
          "SET foreign_key_checks = 0, unique_checks = 0, time_zone = '+00:00',"
              + " sql_mode = 'STRICT_ALL_TABLES,ALLOW_INVALID_DATES'");
    }
    connection.setAutoCommit(false);
    run(connection, schema, sql -> !sql.startsWith("CREATE TRIGGER"));
    fill(connection, scale);
    run(connection, schema, sql -> sql.startsWith("CREATE TRIGGER"));
    connection.commit();
    connection.setAutoCommit(true);
  }

  private static void writePostgresql(Connection connection, int scale)
      throws SQLException, IOException {
    String[] schema = schema("schema-postgresql.sql");
    connection.setAutoCommit(false);
    try (Statement statement = connection.createStatement()) {
      statement.execute("SET session_replication_role = replica");
    }
    run(connection, schema, sql -> !isLate(sql));
    fill(connection, scale);
    run(connection, schema, DemoData::isLate);
    connection.commit();
    connection.setAutoCommit(true);
    try (Statement statement = connection.createStatement()) {
      statement.execute(
          "SELECT setval('passenger_id_seq', (SELECT max(id) FROM passenger)),"
              + " setval('booking_id_seq', (SELECT max(id) FROM booking))");
      statement.execute("ANALYZE");
    }
  }

  /** Whether a statement comes after the rows. */
  private static boolean isLate(String sql) {
    return sql.startsWith("CREATE MATERIALIZED")
        || sql.startsWith("CREATE UNIQUE INDEX takings")
        || sql.contains("ADD FOREIGN KEY")
        || sql.startsWith("CREATE TRIGGER");
  }

  private static void fill(Connection connection, int scale) throws SQLException {
    Folk folk = new Folk(SEED);
    new Fleet(connection, folk, scale).fill();
    new Travel(connection, folk, scale).fill();
    new Paper(connection, folk, scale).fill();
  }

  private static void run(Connection connection, String[] schema, Predicate<String> which)
      throws SQLException {
    try (Statement statement = connection.createStatement()) {
      for (String sql : schema) {
        if (which.test(sql)) {
          statement.execute(sql);
        }
      }
    }
  }

  private static String[] schema(String file) throws IOException {
    String text =
        new String(DemoData.class.getResourceAsStream(file).readAllBytes(), StandardCharsets.UTF_8);
    return text.strip().split(";\\s*\\n\\s*\\n");
  }
}
