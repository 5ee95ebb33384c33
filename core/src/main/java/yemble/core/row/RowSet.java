package yemble.core.row;

import java.util.OptionalLong;
import java.util.function.Consumer;
import java.util.function.LongConsumer;
import java.util.function.Supplier;
import org.roaringbitmap.longlong.LongIterator;
import org.roaringbitmap.longlong.Roaring64Bitmap;

/**
 * A set of rows of one table, by the numbers that a reader gives them. Compressed: dense numbers
 * cost about a bit each, scattered ones two bytes and a bit.
 */
public final class RowSet implements Rows<RowSet> {
  private Roaring64Bitmap rows = new Roaring64Bitmap();

  /** Reads the numbers of all rows; null once that has happened or where single rows are known. */
  private Supplier<RowSet> unread;

  private long unreadRows;

  /**
   * All rows of a table, whose numbers are read only if somebody asks for them: to know that a row
   * is in, and how many are, takes none.
   *
   * @param count how many there are
   */
  public static RowSet all(long count, Supplier<RowSet> numbers) {
    RowSet all = new RowSet();
    all.unread = numbers;
    all.unreadRows = count;
    return all;
  }

  private Roaring64Bitmap numbers() {
    if (unread != null) {
      rows = unread.get().rows;
      unread = null;
    }
    return rows;
  }

  /** Adds a row; whether it was not in yet. */
  public boolean add(long row) {
    if (unread != null) {
      return false;
    }
    if (rows.contains(row)) {
      return false;
    }
    rows.addLong(row);
    return true;
  }

  /** Adds all numbers from {@code first} to {@code last}, neither of them negative. */
  public void addRange(long first, long last) {
    numbers().addRange(first, last + 1);
  }

  @Override
  public void addAll(RowSet other) {
    if (unread != null) {
      return;
    }
    if (other.unread != null) {
      unread = other.unread;
      unreadRows = other.unreadRows;
      return;
    }
    rows.or(other.rows);
  }

  @Override
  public void removeAll(RowSet other) {
    if (!other.isEmpty()) {
      numbers().andNot(other.numbers());
    }
  }

  public boolean contains(long row) {
    return unread != null || rows.contains(row);
  }

  @Override
  public long size() {
    return unread != null ? unreadRows : rows.getLongCardinality();
  }

  /** The row with the smallest number; empty if there is none. */
  public OptionalLong first() {
    return isEmpty() ? OptionalLong.empty() : OptionalLong.of(numbers().first());
  }

  /** All rows, in the order of their numbers (unsigned). */
  public void forEach(LongConsumer action) {
    LongIterator iterator = numbers().getLongIterator();
    while (iterator.hasNext()) {
      action.accept(iterator.next());
    }
  }

  /** All rows in the order of their numbers, in batches of at most {@code size}. */
  public void forEachBatch(int size, BatchConsumer action) {
    LongIterator iterator = numbers().getLongIterator();
    long[] batch = new long[size];
    while (iterator.hasNext()) {
      int filled = 0;
      while (filled < size && iterator.hasNext()) {
        batch[filled++] = iterator.next();
      }
      action.accept(batch, filled);
    }
  }

  /** The same, in sets. */
  public void forEachPart(int size, Consumer<RowSet> action) {
    forEachBatch(
        size,
        (batch, length) -> {
          RowSet part = new RowSet();
          for (int i = 0; i < length; i++) {
            part.add(batch[i]);
          }
          action.accept(part);
        });
  }

  /** Takes the first {@code length} numbers of an array that is used again afterwards. */
  public interface BatchConsumer {
    void accept(long[] rows, int length);
  }

  @Override
  public RowSet copy() {
    RowSet copy = new RowSet();
    copy.addAll(this);
    return copy;
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof RowSet set && numbers().equals(set.numbers());
  }

  @Override
  public int hashCode() {
    return numbers().hashCode();
  }

  @Override
  public String toString() {
    return size() + " rows";
  }
}
