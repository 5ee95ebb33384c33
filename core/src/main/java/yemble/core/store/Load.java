package yemble.core.store;

import java.util.List;
import java.util.function.LongConsumer;
import java.util.function.Supplier;
import yemble.core.mark.Mark;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;

/** A load under way. Closing it without {@link #commit} leaves the target as it was. */
public interface Load extends AutoCloseable {
  /** Where the rows of a table go; the values are those of {@link Table#written()}. */
  RowWriter rows(Table table);

  /**
   * Copies rows straight from a source, where the engine has a shorter way than row by row.
   *
   * @param changes makes, for one thread each time, what becomes of each of {@link Table#written()}
   * @param progress is told how many rows have been copied since it was told last
   * @return false if there is no such way, and nothing has been done
   */
  boolean copy(
      Reader source,
      Table table,
      RowSet rows,
      Supplier<List<CellChange>> changes,
      LongConsumer progress);

  /**
   * Completes the structure once all rows are in: indexes, and the positions of counters, which
   * continue those of the source.
   */
  void finish(Schema schema, Counting source);

  /** Reads what has been loaded so far, as it will be after the commit. */
  Reader reader();

  /** What the load makes, or, of tables that were there, fills; in the engine's own spelling. */
  List<String> made();

  /** Leaves a mark in place of the one that is there, and makes the load visible, all at once. */
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
