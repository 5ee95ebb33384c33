package yemble.demo;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Types;

/** Inserts rows into one table, in batches. */
final class Rows implements AutoCloseable {
  private static final int BATCH = 1_000;
  private final PreparedStatement statement;

  /** Whether the server reads each value as what its column holds. */
  private final boolean typed;

  private int waiting;

  /** For a statement with as many parameters as each row has values. */
  Rows(Connection connection, String sql) throws SQLException {
    statement = connection.prepareStatement(sql);
    typed = connection.getMetaData().getURL().startsWith("jdbc:postgresql");
  }

  /** For a table whose rows have so many values. */
  static Rows into(Connection connection, String table, int columns) throws SQLException {
    return new Rows(
        connection, "INSERT INTO " + table + " VALUES (" + "?, ".repeat(columns - 1) + "?)");
  }

  void add(Object... values) throws SQLException {
    for (int i = 0; i < values.length; i++) {
      Object value = values[i] instanceof Character c ? c.toString() : values[i];
      if (typed && value != null) {
        statement.setObject(i + 1, value.toString(), Types.OTHER);
      } else {
        statement.setObject(i + 1, value);
      }
    }
    statement.addBatch();
    if (++waiting == BATCH) {
      statement.executeBatch();
      waiting = 0;
    }
  }

  /** A day that no calendar has, as bad data do, unless the database looks at days. */
  String noDay() {
    return typed ? "2024-02-29" : "2024-02-30";
  }

  @Override
  public void close() throws SQLException {
    statement.executeBatch();
    statement.close();
  }
}
