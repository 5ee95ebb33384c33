package yemble.jdbc.standard;

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

/** Yemble's mark in a database. */
final class MarkTable {
  static final String NAME = "yemble_mark";

  private MarkTable() {}

  /** The mark, if there is one. */
  static Optional<Mark> read(Connection connection) throws SQLException {
    if (!StandardTarget.isThere(connection, NAME)) {
      return Optional.empty();
    }
    List<MarkText.Line> lines = new ArrayList<>();
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery("SELECT item, content FROM " + NAME)) {
      while (rows.next()) {
        lines.add(new MarkText.Line(rows.getString(1), rows.getString(2)));
      }
    }
    return Optional.of(MarkText.read(lines));
  }

  /** Writes a mark into a new table, which takes the old one's place later. */
  static void write(Connection connection, String table, Mark mark) throws SQLException {
    Steps.run(
        connection,
        "CREATE TABLE "
            + table
            + " (item VARCHAR("
            + MarkText.ITEM
            + ") NOT NULL, content VARCHAR(4000))");
    try (PreparedStatement insert =
        connection.prepareStatement("INSERT INTO " + table + " VALUES (?, ?)")) {
      for (MarkText.Line line : MarkText.of(mark)) {
        insert.setString(1, line.item());
        insert.setString(2, line.value());
        insert.executeUpdate();
      }
    }
  }
}
