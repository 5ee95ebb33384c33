package yemble.jdbc.mariadb;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import yemble.core.mark.Mark;
import yemble.core.mark.MarkText;

/** Yemble's mark in a database. */
final class MarkTable {
  static final String NAME = "yemble_mark";

  private static final int LINES_A_STATEMENT = 200;

  private MarkTable() {}

  /** The mark, if there is one. */
  static Optional<Mark> read(Session session) throws SQLException {
    if (!MariadbTarget.isThere(session, NAME)) {
      return Optional.empty();
    }
    List<MarkText.Line> lines = new ArrayList<>();
    session.query(
        "SELECT item, value FROM " + NAME,
        row -> lines.add(new MarkText.Line(row.getString(1), row.getString(2))));
    return Optional.of(MarkText.read(lines));
  }

  /** Writes a mark into a new table, which the swap puts in its place. */
  static void write(Session session, String table, Mark mark) throws SQLException {
    session.execute("DROP TABLE IF EXISTS " + table);
    session.execute(
        "CREATE TABLE "
            + table
            + " (item VARCHAR("
            + MarkText.ITEM
            + ") NOT NULL, value TEXT NOT NULL) CHARACTER SET utf8mb4");
    List<String> rows =
        MarkText.of(mark).stream()
            .map(line -> "(" + Sql.literal(line.item()) + ", " + Sql.literal(line.value()) + ")")
            .toList();
    for (int i = 0; i < rows.size(); i += LINES_A_STATEMENT) {
      List<String> some = rows.subList(i, Math.min(rows.size(), i + LINES_A_STATEMENT));
      session.execute("INSERT INTO " + table + " VALUES " + String.join(", ", some));
    }
  }
}
