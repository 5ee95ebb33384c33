package yemble.jdbc.sqlite;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import yemble.core.mark.Mark;
import yemble.core.mark.MarkText;

/** Yemble's mark in a file. */
final class MarkTable {
  static final String CREATE =
      "CREATE TABLE " + SqliteCatalog.MARK_TABLE + " (item TEXT NOT NULL, value TEXT)";

  private MarkTable() {}

  /** The mark, if there is one. */
  static Optional<Mark> read(Connection connection) throws SQLException {
    List<MarkText.Line> lines = new ArrayList<>();
    try (Statement statement = connection.createStatement()) {
      try (ResultSet there =
          statement.executeQuery(
              "SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = '"
                  + SqliteCatalog.MARK_TABLE
                  + "'")) {
        if (!there.next()) {
          return Optional.empty();
        }
      }
      try (ResultSet rows =
          statement.executeQuery("SELECT item, value FROM " + SqliteCatalog.MARK_TABLE)) {
        while (rows.next()) {
          lines.add(new MarkText.Line(rows.getString(1), rows.getString(2)));
        }
      }
    }
    return Optional.of(MarkText.read(lines));
  }

  /** Makes the table of a mark, and fills it. */
  static void write(Connection connection, Mark mark) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(CREATE);
    }
    try (PreparedStatement insert =
        connection.prepareStatement("INSERT INTO " + SqliteCatalog.MARK_TABLE + " VALUES (?, ?)")) {
      for (MarkText.Line line : MarkText.of(mark)) {
        insert.setString(1, line.item());
        insert.setString(2, line.value());
        insert.executeUpdate();
      }
    }
  }
}
