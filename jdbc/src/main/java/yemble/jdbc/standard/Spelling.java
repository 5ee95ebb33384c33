package yemble.jdbc.standard;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;

/**
 * What of the standard's SQL a database knows, found by asking it.
 *
 * @param ordersNumbers whether ROW_NUMBER may be told an order; else rows are put in order before
 *     they are numbered
 * @param typesLiterals whether {@code DATE '2000-01-01'} is a date; else a text is made one by CAST
 */
record Spelling(boolean ordersNumbers, boolean typesLiterals) {
  /** The standard itself. */
  static final Spelling STANDARD = new Spelling(true, true);

  /** What a database knows, asked of one of its tables and a column of it, both quoted. */
  static Spelling of(Connection connection, String relation, String column) throws SQLException {
    return new Spelling(
        knows(
            connection, "SELECT ROW_NUMBER() OVER (ORDER BY " + column + ") AS n FROM " + relation),
        knows(connection, "SELECT 1 FROM " + relation + " WHERE DATE '2000-01-01' IS NULL"));
  }

  private static boolean knows(Connection connection, String query) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.setMaxRows(1);
      statement.executeQuery(query).close();
      return true;
    } catch (SQLException unknown) {
      if (!connection.getAutoCommit()) {
        connection.rollback(); // Some databases do nothing more in a transaction that saw an error.
      }
      return false;
    }
  }

  /** A moment of the calendar as an expression: {@code type} is DATE, TIME or TIMESTAMP. */
  String literal(String type, String text) {
    return typesLiterals ? type + " " + text : "CAST(" + text + " AS " + type + ")";
  }
}
