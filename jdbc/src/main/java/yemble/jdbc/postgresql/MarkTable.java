package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import yemble.core.mark.Mark;
import yemble.core.mark.MarkText;
import yemble.jdbc.rows.MarkLines;

/** Yemble's mark in a database: a table in the schema {@code yemble}. */
final class MarkTable {
  static final String NAME = PostgresqlCatalog.OWN_SCHEMA + ".mark";

  private MarkTable() {}

  /** The mark, if there is one. */
  static Optional<Mark> read(Session session) throws SQLException {
    if (session.one("SELECT to_regclass('" + NAME + "')") == null) {
      return Optional.empty();
    }
    List<MarkText.Line> lines = new ArrayList<>();
    session.query(
        "SELECT item, value FROM " + NAME,
        row -> lines.add(new MarkText.Line(row.getString(1), row.getString(2))));
    return Optional.of(MarkText.read(lines));
  }

  /** Puts a mark in the place of the one that is there. */
  static void write(Session session, Mark mark) throws SQLException {
    for (String statement : statements(mark)) {
      session.execute(statement);
    }
  }

  /** What does so. */
  static List<String> statements(Mark mark) {
    List<String> statements = new ArrayList<>();
    statements.add("CREATE SCHEMA IF NOT EXISTS " + PostgresqlCatalog.OWN_SCHEMA);
    statements.add("DROP TABLE IF EXISTS " + NAME);
    statements.add("CREATE TABLE " + NAME + " (item text NOT NULL, value text NOT NULL)");
    statements.addAll(MarkLines.inserts(NAME, mark, Sql::literal));
    return statements;
  }
}
