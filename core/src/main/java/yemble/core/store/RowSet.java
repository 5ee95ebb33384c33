package yemble.core.store;

import java.util.function.LongConsumer;
import org.roaringbitmap.longlong.LongIterator;
import org.roaringbitmap.longlong.Roaring64Bitmap;

/**
 * A set of rows of one table, by the numbers that a {@link Reader} gives them. Compressed: dense
 * numbers cost about a bit each, scattered ones two bytes and a bit.
 */
public final class RowSet {
  private final Roaring64Bitmap rows = new Roaring64Bitmap();

  /** Adds a row; whether it was not in yet. */
  public boolean add(long row) {
    if (rows.contains(row)) {
      return false;
    }
    rows.addLong(row);
    return true;
  }

  /** Adds all numbers from {@code first} to {@code last}, neither of them negative. */
  public void addRange(long first, long last) {
    rows.addRange(first, last + 1);
  }

  public void addAll(RowSet other) {
    rows.or(other.rows);
  }

  public void removeAll(RowSet other) {
    rows.andNot(other.rows);
  }

  public boolean contains(long row) {
    return rows.contains(row);
  }

  public boolean isEmpty() {
    return rows.isEmpty();
  }

  public long size() {
    return rows.getLongCardinality();
  }

  /** All rows, in the order of their numbers (unsigned). */
  public void forEach(LongConsumer action) {
    LongIterator iterator = rows.getLongIterator();
    while (iterator.hasNext()) {
      action.accept(iterator.next());
    }
  }

  /** All rows in the order of their numbers, in batches of at most {@code size}. */
  public void forEachBatch(int size, BatchConsumer action) {
    LongIterator iterator = rows.getLongIterator();
    long[] batch = new long[size];
    while (iterator.hasNext()) {
      int filled = 0;
      while (filled < size && iterator.hasNext()) {
        batch[filled++] = iterator.next();
      }
      action.accept(batch, filled);
    }
  }

  /** Takes the first {@code length} numbers of an array that is used again afterwards. */
  public interface BatchConsumer {
    void accept(long[] rows, int length);
  }

  public RowSet copy() {
    RowSet copy = new RowSet();
    copy.addAll(this);
    return copy;
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof RowSet set && rows.equals(set.rows);
  }

  @Override
  public int hashCode() {
    return rows.hashCode();
  }

  @Override
  public String toString() {
    return size() + " rows";
  }
}
