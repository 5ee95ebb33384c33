package yemble.core.subset;

import java.math.BigDecimal;
import java.util.Comparator;
import java.util.PriorityQueue;
import java.util.regex.Pattern;
import yemble.core.row.RowSet;
import yemble.core.row.Values;

/**
 * Keeps the rows with the greatest values, at most so many. Numbers, also those that come as text,
 * lie before all other texts, which compare by their characters: as days and times do in the form
 * in which readers give them. Of equal values those with the smaller hash stay.
 */
final class NewestRows {
  private static final Comparator<Entry> ORDER =
      Comparator.comparing(Entry::number, Comparator.nullsLast(Comparator.naturalOrder()))
          .thenComparing(Entry::text)
          .thenComparing(Entry::hash, (a, b) -> Long.compareUnsigned(b, a))
          .thenComparing(Entry::row, (a, b) -> Long.compareUnsigned(b, a));

  private static final Pattern NUMBER =
      Pattern.compile("-?[0-9]+(\\.[0-9]+)?([eE][+-]?[0-9]{1,3})?");

  private final long most;
  private final PriorityQueue<Entry> heap = new PriorityQueue<>(ORDER);

  NewestRows(long most) {
    this.most = most;
  }

  /** A row with its value: as a number, or null and a text. */
  private record Entry(BigDecimal number, String text, long hash, long row) {}

  /** Which of two values is newer: the greater one. */
  static int compare(Object one, Object other) {
    if (one instanceof Long number && other instanceof Long another) {
      return Long.compare(number, another);
    }
    return ORDER.compare(entry(one, 0, 0), entry(other, 0, 0));
  }

  private static Entry entry(Object value, long hash, long row) {
    String text = value instanceof byte[] ? "" : Values.text(value);
    boolean number = text.length() < 60 && NUMBER.matcher(text).matches();
    return new Entry(number ? new BigDecimal(text) : null, number ? "" : text, hash, row);
  }

  void offer(Object value, long hash, long row) {
    heap.add(entry(value, hash, row));
    if (heap.size() > most) {
      heap.poll();
    }
  }

  RowSet rows() {
    RowSet rows = new RowSet();
    heap.forEach(entry -> rows.add(entry.row()));
    return rows;
  }
}
