package yemble.jdbc.mariadb;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import yemble.core.mark.Mark;
import yemble.core.mark.MarkText;
import yemble.jdbc.rows.MarkLines;

/** Yemble's mark in a database. */
final class MarkTable {
  static final String NAME = "yemble_mark";

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
    for (String statement : statements(table, mark)) {
      session.execute(statement);
    }
  }

  /** What does so. */
  static List<String> statements(String table, Mark mark) {
    List<String> statements = new ArrayList<>();
    statements.add("DROP TABLE IF EXISTS " + table);
    statements.add(
        "CREATE TABLE "
            + table
            + " (item VARCHAR("
            + MarkText.ITEM
            + ") NOT NULL, value TEXT NOT NULL) CHARACTER SET utf8mb4");
    statements.addAll(MarkLines.inserts(table, mark, Sql::literal));
    return statements;
  }
}
