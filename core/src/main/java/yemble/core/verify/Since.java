package yemble.core.verify;

import java.util.ArrayList;
import java.util.List;
import yemble.core.row.Values;
import yemble.core.wording.Sentence;
import yemble.core.wording.Wording;

/** How many rows of a table are others than they were. */
final class Since {
  private static final int MOST_NAMED = 5;

  /** Rows of which no more is known than that their bucket is another one. */
  long buckets;

  private long changed;
  private long added;
  private long gone;
  private final List<String> names = new ArrayList<>();

  void changed(String name) {
    changed++;
    name(name);
  }

  void added(String name) {
    added++;
    name(name);
  }

  void gone(String name) {
    gone++;
    name(name);
  }

  private void name(String name) {
    if (!name.isEmpty() && names.size() < MOST_NAMED) {
      names.add(name);
    }
  }

  boolean isEmpty() {
    return rows() == 0;
  }

  /** How many rows, at the least. */
  long rows() {
    return changed + added + gone + buckets;
  }

  /** How many rows are there still, but as others, or are gone. */
  long lost() {
    return changed + gone + buckets;
  }

  /** How many rows that are there now. */
  long present() {
    return changed + added + buckets;
  }

  /** The first few of them, by their keys. */
  List<String> names() {
    return names;
  }

  /** How many, of a table. */
  Sentence of(Object table) {
    List<Sentence> parts = new ArrayList<>();
    add(parts, changed, ProofWording.ROWS_CHANGED);
    add(parts, added, ProofWording.ROWS_NEW);
    add(parts, gone, ProofWording.ROWS_GONE);
    add(parts, buckets, ProofWording.ROWS_OR_MORE);
    return ProofWording.SINCE.of(parts).about(table);
  }

  private static void add(List<Sentence> parts, long count, Wording what) {
    if (count > 0) {
      parts.add(what.of(count));
    }
  }

  /** A row by its key, as {@code why} takes it. */
  static String name(Object[] values, int[] identity) {
    List<String> parts = new ArrayList<>();
    for (int position : identity) {
      Object value = values[position];
      parts.add(value == null || value instanceof byte[] ? "?" : Values.text(value));
    }
    return String.join(",", parts);
  }
}
