package yemble.demo;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;

/** Inserts rows into one table, in batches. */
final class Rows implements AutoCloseable {
  private static final int BATCH = 1_000;
  private final PreparedStatement statement;
  private int waiting;

  /** For a statement with as many parameters as each row has values. */
  Rows(Connection connection, String sql) throws SQLException {
    statement = connection.prepareStatement(sql);
  }

  /** For a table whose rows have so many values. */
  static Rows into(Connection connection, String table, int columns) throws SQLException {
    return new Rows(
        connection, "INSERT INTO " + table + " VALUES (" + "?, ".repeat(columns - 1) + "?)");
  }

  void add(Object... values) throws SQLException {
    for (int i = 0; i < values.length; i++) {
      statement.setObject(i + 1, values[i] instanceof Character c ? c.toString() : values[i]);
    }
    statement.addBatch();
    if (++waiting == BATCH) {
      statement.executeBatch();
      waiting = 0;
    }
  }

  @Override
  public void close() throws SQLException {
    statement.executeBatch();
    statement.close();
  }
}
