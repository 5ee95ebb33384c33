package yemble.core.project;

import java.math.BigDecimal;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import yemble.core.problem.Failure;
import yemble.core.yaml.Place;

/**
 * Where a subset starts: a table, a condition, then a share and a number of rows, applied in this
 * order; or the newest of the rows that satisfy the condition; or the rows of some keys.
 *
 * @param table as written
 * @param tableAt where the table is written; a table may have several picks there
 * @param where what its rows must satisfy
 * @param share from 0 (exclusive) to 1; 1 takes all
 * @param rows the most rows taken, {@link #ALL} for no limit
 */
public record Pick(
    String table,
    Place tableAt,
    Condition where,
    BigDecimal share,
    long rows,
    Optional<Newest> newest,
    Optional<Keys> keys,
    Place place) {
  public static final long ALL = Long.MAX_VALUE;

  /**
   * A pick as it is said in a line: a table, and behind a colon a condition.
   *
   * @param place where it was said, for messages
   * @throws yemble.core.problem.Problem of type USAGE if it names no table
   */
  public static Pick said(String line, Place place) {
    int end = line.length();
    for (int i = line.length() - 1; i >= 0; i--) {
      end = line.charAt(i) == ':' && !isQuoted(line, i) ? i : end;
    }
    String table = line.substring(0, end).strip();
    String where = end == line.length() ? "" : line.substring(end + 1).strip();
    if (table.isEmpty() || (where.isEmpty() && end < line.length())) {
      throw place
          .problem(
              Failure.VALUE_FORM,
              table.isEmpty() ? "no table is named" : "no condition stands behind the colon")
          .remedy("write it as \"booking: ref = 'OR-2041'\", or the table alone for all its rows");
    }
    return new Pick(
        table,
        Place.of("--pick"),
        new Condition(where, place),
        BigDecimal.ONE,
        ALL,
        Optional.empty(),
        Optional.empty(),
        place);
  }

  /** The same with another condition. */
  Pick where(UnaryOperator<Condition> other) {
    return new Pick(table, tableAt, other.apply(where), share, rows, newest, keys, place);
  }

  private static boolean isQuoted(String line, int position) {
    return line.substring(0, position).chars().filter(c -> c == '"').count() % 2 == 1;
  }

  /** So many rows with the greatest values of a column; rows without a value are not among them. */
  public record Newest(long rows, String column, Place place) {}

  /**
   * The rows of some keys.
   *
   * @param file where they stand, as written
   * @param columns of a unique key, as the file's first line names them
   * @param rows the keys' values, one for each column
   * @param lines where each key stands in the file
   * @param all whether each of them must be there
   */
  public record Keys(
      String file,
      List<String> columns,
      List<List<String>> rows,
      List<Integer> lines,
      boolean all,
      Place place) {
    public Keys {
      columns = List.copyOf(columns);
      rows = List.copyOf(rows);
      lines = List.copyOf(lines);
    }
  }
}
