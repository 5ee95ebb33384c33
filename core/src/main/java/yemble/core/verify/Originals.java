package yemble.core.verify;

/**
 * A set of fingerprints of originals, each with the number of the column it comes from. Holds all
 * of them up to a bound; past it those below a limit that halves whenever the set is full, so a
 * part that depends on the fingerprints alone (adaptive sampling, see {@link Sample}).
 */
final class Originals {
  private static final int MOST = 1 << 21;

  private long[] keys = new long[1 << 12];
  private short[] columns = new short[1 << 12];
  private int size;
  private int shift;

  /** Adds a fingerprint, unless it is there; whether it was added. */
  boolean add(long key, int column) {
    if (!covers(key) || key == 0) {
      return false;
    }
    int slot = slot(key);
    if (keys[slot] == key) {
      return false;
    }
    keys[slot] = key;
    columns[slot] = (short) column;
    size++;
    if (size * 2 > keys.length) {
      rebuild();
    }
    return true;
  }

  private boolean covers(long key) {
    return shift == 0 || (key >>> (64 - shift)) == 0;
  }

  /** The column that a fingerprint comes from; -1 if it is none of an original. */
  int column(long key) {
    int slot = slot(key);
    return keys[slot] == key && key != 0 ? columns[slot] : -1;
  }

  int size() {
    return size;
  }

  /** Of how many originals one is in the set: 1 for all of them. */
  int oneIn() {
    return 1 << shift;
  }

  private int slot(long key) {
    int mask = keys.length - 1;
    int slot = (int) (key ^ (key >>> 29)) & mask;
    while (keys[slot] != 0 && keys[slot] != key) {
      slot = (slot + 1) & mask;
    }
    return slot;
  }

  private void rebuild() {
    long[] oldKeys = keys;
    short[] oldColumns = columns;
    boolean full = size >= MOST;
    shift += full ? 1 : 0;
    keys = new long[full ? oldKeys.length : oldKeys.length * 2];
    columns = new short[keys.length];
    size = 0;
    for (int i = 0; i < oldKeys.length; i++) {
      if (oldKeys[i] != 0 && covers(oldKeys[i])) {
        int slot = slot(oldKeys[i]);
        keys[slot] = oldKeys[i];
        columns[slot] = oldColumns[i];
        size++;
      }
    }
  }
}
