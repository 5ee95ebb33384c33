package yemble.jdbc.rows;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import java.util.List;
import java.util.function.Function;
import yemble.core.row.Values;
import yemble.core.schema.Column;

/**
 * Asks a database about rows that nobody has written: they go to it as parameters of a query, in
 * standard SQL that all of our engines know.
 */
public final class MadeRows {
  private static final int MOST_PARAMETERS = 5_000;

  private MadeRows() {}

  /**
   * How many rows do not satisfy a condition.
   *
   * @param quoted how the engine writes a name
   * @param parameter how the engine takes a value of a column
   * @param untyped whether values go as texts that the parameter makes a type of
   * @param condition empty for one that always holds
   * @throws SQLException if the database cannot evaluate it for a row
   */
  public static long refused(
      Connection connection,
      List<Column> columns,
      List<Object[]> rows,
      String condition,
      Function<String, String> quoted,
      Function<Column, String> parameter,
      boolean untyped)
      throws SQLException {
    int each = Math.max(1, MOST_PARAMETERS / columns.size());
    long refused = 0;
    for (int from = 0; from < rows.size(); from += each) {
      List<Object[]> some = rows.subList(from, Math.min(rows.size(), from + each));
      String sql = sql(columns, some.size(), condition, quoted, parameter);
      try (PreparedStatement statement = connection.prepareStatement(sql)) {
        int at = 1;
        for (Object[] row : some) {
          for (Object value : row) {
            if (value instanceof byte[] blob) {
              statement.setBytes(at++, blob);
            } else if (untyped && value != null) {
              statement.setObject(at++, Values.text(value), Types.OTHER);
            } else {
              statement.setObject(at++, value);
            }
          }
        }
        try (ResultSet result = statement.executeQuery()) {
          result.next();
          refused += result.getLong(1);
        }
      }
    }
    return refused;
  }

  private static String sql(
      List<Column> columns,
      int rows,
      String condition,
      Function<String, String> quoted,
      Function<Column, String> parameter) {
    List<String> names = columns.stream().map(column -> quoted.apply(column.name())).toList();
    String row = "(" + String.join(", ", columns.stream().map(parameter).toList()) + ")";
    return "WITH yemble_t ("
        + String.join(", ", names)
        + ") AS (VALUES "
        + String.join(", ", java.util.Collections.nCopies(rows, row))
        + ") SELECT sum(CASE WHEN NOT ("
        + (condition.isEmpty() ? named(names) : condition)
        + "\n) THEN 1 ELSE 0 END) FROM yemble_t";
  }

  /** Always true, but it makes the engine look at every value. */
  private static String named(List<String> names) {
    return String.join(" AND ", names.stream().map(n -> "(" + n + " IS NULL OR 1 = 1)").toList());
  }
}
