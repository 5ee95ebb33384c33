package yemble.core.store;

import java.util.List;
import yemble.core.mark.Comparison;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Outline;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;

/**
 * Where rows come from, be it a database or not: all that a load needs. Rows are spoken of by
 * numbers that the source gives them and that hold as long as it is open.
 *
 * <p>Values are null, {@link Long}, {@link Double}, {@link String} or {@code byte[]}: a truth is 1
 * or 0, days and times are written as ISO 8601 does, but with a space between them and no more
 * digits of a second than are needed, and what no other type holds is the text that the engine
 * makes of it. So equal values are equal whatever engine holds them. Arrays of values are reused
 * from row to row. An object belongs to one thread. Every method throws {@link
 * yemble.core.problem.Problem} of type DATABASE if reading fails.
 */
public interface RowSource extends Counting, AutoCloseable {
  /** What is read, for people: engine and place, without user or password. */
  String description();

  /** Which database the rows come from. */
  default Origin origin() {
    return Origin.NONE;
  }

  Schema schema();

  /** The structure in words that every engine knows; read when it is asked for. */
  Outline outline();

  /**
   * The structure, where columns that hold something else than they are declared for are what they
   * hold, as numbers in a column of truths: looks at their values.
   */
  default Outline outlineByValues() {
    return outline();
  }

  /**
   * The form in which rows that were to be written into such a place are compared with what is read
   * back from it.
   */
  default Comparison comparison() {
    return Comparison.SAME;
  }

  default long count(Table table) {
    return all(table).size();
  }

  /** The numbers of all rows. */
  RowSet all(Table table);

  /** The rows of a set in the order of their numbers, with the values of some columns. */
  void rows(Table table, RowSet rows, List<Column> columns, RowVisitor visitor);

  @Override
  void close();

  /** Sees a row. */
  @FunctionalInterface
  interface RowVisitor {
    void row(long row, Object[] values);

    /** Sees only rows of a set. */
    default RowVisitor within(RowSet rows) {
      return (row, values) -> {
        if (rows.contains(row)) {
          row(row, values);
        }
      };
    }
  }
}
