package yemble.demo;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;

/**
 * Fills an SQLite file with Orlisay Ferries. Streams: nothing is remembered from row to row, since
 * every person and thing is a function of its number.
 */
public final class DemoData {
  static final long SEED = 20_260_101;

  private DemoData() {}

  /**
   * Makes a new database file.
   *
   * @param scale how large: 1 is about 60,000 rows in 27 tables, 100 a hundred times as many rows
   */
  public static void write(Path file, int scale) throws SQLException, IOException {
    Files.deleteIfExists(file);
    try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file)) {
      try (Statement statement = connection.createStatement()) {
        statement.execute("PRAGMA journal_mode = OFF");
        statement.execute("PRAGMA synchronous = OFF");
        connection.setAutoCommit(false);
        for (String sql : schema()) {
          if (!sql.startsWith("CREATE TRIGGER")) {
            statement.execute(sql);
          }
        }
      }
      Folk folk = new Folk(SEED);
      new Fleet(connection, folk, scale).fill();
      new Travel(connection, folk, scale).fill();
      new Paper(connection, folk, scale).fill();
      try (Statement statement = connection.createStatement()) {
        for (String sql : schema()) {
          if (sql.startsWith("CREATE TRIGGER")) {
            statement.execute(sql);
          }
        }
      }
      connection.commit();
    }
  }

  private static String[] schema() throws IOException {
    String text =
        new String(
            DemoData.class.getResourceAsStream("schema.sql").readAllBytes(),
            StandardCharsets.UTF_8);
    return text.strip().split(";\\s*\\n\\s*\\n");
  }
}
