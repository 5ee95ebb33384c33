package yemble.core.store;

import yemble.core.schema.Schema;
import yemble.core.schema.Table;

/** A load under way. Closing it without {@link #commit()} leaves the target as it was. */
public interface Load extends AutoCloseable {
  /** Where the rows of a table go; the values are those of {@link Table#written()}. */
  RowWriter rows(Table table);

  /**
   * Completes the structure once all rows are in: indexes, and the positions of counters, which
   * continue those of the source.
   */
  void finish(Schema schema, Reader source, Mark mark);

  /** Reads what has been loaded so far, as it will be after the commit. */
  Reader reader();

  /** Makes the load visible, all at once. */
  void commit();

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
