package yemble.core.store;

import java.util.List;
import java.util.function.LongConsumer;
import java.util.function.Supplier;
import yemble.core.mark.Mark;
import yemble.core.row.CellChange;
import yemble.core.row.RowSet;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;

/** What takes rows. Closing it without {@link #commit} leaves everything as it was. */
public interface Sink extends AutoCloseable {
  /** Where the rows of a table go; the values are those of {@link Table#written()}. */
  RowWriter rows(Table table);

  /**
   * Takes rows from a source in a shorter way than one by one, where the source gives them in a
   * form that this takes, see {@link Counting#as}.
   *
   * @param changes makes, for one thread each time, what becomes of each of {@link Table#written()}
   * @param progress is told how many rows have been copied since it was told last
   * @return false if there is no such way, and nothing has been done
   */
  default boolean copy(
      RowSource source,
      Table table,
      RowSet rows,
      Supplier<List<CellChange>> changes,
      LongConsumer progress) {
    return false;
  }

  /**
   * Completes the structure once all rows are in: indexes, and the positions of counters, which
   * continue those of the source.
   */
  void finish(Schema schema, Counting source);

  /** What is made, or, of tables that were there, filled; in the engine's own spelling. */
  List<String> made();

  /** Leaves a mark in place of the one that is there, and makes all of it visible at once. */
  void commit(Mark mark);

  @Override
  void close();

  /** Takes rows; belongs to one thread. */
  interface RowWriter extends AutoCloseable {
    /**
     * Writes a row.
     *
     * @param row the number the row has in the source; kept where the target has such numbers
     * @param values may be reused by the caller afterwards
     */
    void write(long row, Object[] values);

    /** Completes the table. */
    @Override
    void close();
  }
}
