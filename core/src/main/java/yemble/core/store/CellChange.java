package yemble.core.store;

/**
 * What becomes of one column's values. Belongs to one thread.
 *
 * <p>Most are pure functions of the value. One that depends on more says so by {@link
 * #needsRows()}: then the engine copies in batches, and tells it of each batch before the batch's
 * first value.
 */
public interface CellChange {
  /** The value passes through; engines need not look at it. */
  CellChange KEEP = (row, value) -> value;

  /** The value becomes NULL. */
  CellChange CLEAR = (row, value) -> null;

  /**
   * The new value of one that is neither NULL nor empty; engines keep those themselves.
   *
   * @param row the row's number in the source; 0 unless {@link #needsRows()}
   */
  Object apply(long row, Object value);

  /** Whether the change depends on the row, and must be told of batches. */
  default boolean needsRows() {
    return false;
  }

  /** The rows whose values come next. */
  default void batch(RowSet rows) {}
}
