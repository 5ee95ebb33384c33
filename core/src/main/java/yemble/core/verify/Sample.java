package yemble.core.verify;

import java.util.Arrays;

/**
 * A map from digests to digests that keeps all of them while they are few, and, past a bound, those
 * below a limit that halves whenever the map is full: a sample that depends on the digests alone
 * (adaptive sampling, after Wegman; Flajolet 1990). So what is counted in it is exact for small
 * columns, and scales by {@link #scale()} for large ones.
 */
final class Sample {
  private static final int CAPACITY = 1 << 17;

  private long[] keys = new long[1 << 10];
  private long[] values = new long[1 << 10];
  private int size;
  private int shift;

  /** Whether a digest belongs to the sample as it is now. */
  boolean covers(long key) {
    return shift == 0 || (key >>> (64 - shift)) == 0;
  }

  /** How many values each one in the sample stands for. */
  long scale() {
    return 1L << shift;
  }

  /**
   * Puts a pair in, unless the key has a value already.
   *
   * @return the value that the key has now; {@code value} itself if the key is not covered
   */
  long put(long key, long value) {
    if (!covers(key)) {
      return value;
    }
    int slot = slot(key);
    if (keys[slot] == key) {
      return values[slot];
    }
    insert(slot, key, value);
    return value;
  }

  /** Counts a key: its value is how often that has been done. */
  void count(long key) {
    if (!covers(key)) {
      return;
    }
    int slot = slot(key);
    if (keys[slot] == key) {
      values[slot]++;
    } else {
      insert(slot, key, 1);
    }
  }

  private void insert(int slot, long key, long value) {
    keys[slot] = key;
    values[slot] = value;
    size++;
    if (size * 2 > keys.length) {
      if (size > CAPACITY) {
        shift++;
      }
      rebuild();
    }
  }

  /** How often keys of another sample have been counted in this one, by both samples. */
  long countsOf(Sample other) {
    long counts = 0;
    for (int i = 0; i < keys.length; i++) {
      if (keys[i] != 0 && other.contains(keys[i])) {
        counts += values[i];
      }
    }
    return counts * Math.max(scale(), other.scale());
  }

  boolean contains(long key) {
    return keys[slot(key)] == key;
  }

  /** How many different keys there are, by the sample. */
  long distinct() {
    return size * scale();
  }

  /** How many different values there are, by the sample. */
  long distinctValues() {
    long[] found = new long[size];
    int at = 0;
    for (int i = 0; i < keys.length; i++) {
      if (keys[i] != 0) {
        found[at++] = values[i];
      }
    }
    Arrays.sort(found);
    long distinct = 0;
    for (int i = 0; i < found.length; i++) {
      distinct += i == 0 || found[i] != found[i - 1] ? 1 : 0;
    }
    return distinct * scale();
  }

  /** The slot of a key or the free one where it belongs; 0 marks a free slot. */
  private int slot(long key) {
    int mask = keys.length - 1;
    int slot = (int) (key ^ (key >>> 32)) & mask;
    while (keys[slot] != 0 && keys[slot] != key) {
      slot = (slot + 1) & mask;
    }
    return slot;
  }

  private void rebuild() {
    long[] oldKeys = keys;
    long[] oldValues = values;
    int capacity = size > CAPACITY ? oldKeys.length : oldKeys.length * 2;
    keys = new long[capacity];
    values = new long[capacity];
    size = 0;
    for (int i = 0; i < oldKeys.length; i++) {
      if (oldKeys[i] != 0 && covers(oldKeys[i])) {
        int slot = slot(oldKeys[i]);
        keys[slot] = oldKeys[i];
        values[slot] = oldValues[i];
        size++;
      }
    }
  }
}
