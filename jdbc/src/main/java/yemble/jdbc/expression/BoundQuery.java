package yemble.jdbc.expression;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.schema.Table;

/** Queries with values that are bound. */
public final class BoundQuery {
  private BoundQuery() {}

  /** Binds a value to the place of a number from 1 on. */
  @FunctionalInterface
  public interface Binder {
    void bind(PreparedStatement statement, int at, String value) throws SQLException;
  }

  /** Sees a row. */
  @FunctionalInterface
  public interface RowAction {
    void accept(ResultSet row) throws SQLException;
  }

  /** Shows all rows that a query finds. */
  public static void run(
      Connection connection, String sql, List<String> values, Binder binder, RowAction action)
      throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      for (int i = 0; i < values.size(); i++) {
        binder.bind(statement, i + 1, values.get(i));
      }
      try (ResultSet rows = statement.executeQuery()) {
        while (rows.next()) {
          action.accept(rows);
        }
      }
    }
  }

  /**
   * A condition with values that the database refuses. What it says may hold one of them, and is
   * not passed on.
   */
  public static Problem refused(Table table, SQLException e) {
    return Problem.of(Failure.CONDITION, "the database refuses this condition with these values")
        .because("it says SQLSTATE " + e.getSQLState() + ", error " + e.getErrorCode())
        .remedy(
            "look whether each value fits the type that it is compared with, and write it as after"
                + " WHERE, over the columns of "
                + table.name()
                + " alone")
        .causedBy(e);
  }
}
