package yemble.jdbc.rows;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * Numbers for the rows of a table that has none of its own: each key tuple gets the next number
 * when it is first seen. The tuples lie encoded in one byte array, found through a hash table of
 * ints; a tuple costs its bytes and about 14 more.
 */
public final class TupleDictionary {
  private final int width;
  private byte[] arena = new byte[1 << 12];
  private int used;
  private int[] starts = new int[1 << 8];
  private int size;
  private int[] slots = new int[1 << 9];

  /** For tuples of {@code width} values. */
  public TupleDictionary(int width) {
    this.width = width;
  }

  /** The number of a tuple, a new one if it has not been seen; its values are not null. */
  public int number(Object[] tuple) {
    int start = used;
    for (int i = 0; i < width; i++) {
      append(tuple[i]);
    }
    int mask = slots.length - 1;
    int slot = hash(start, used) & mask;
    while (slots[slot] != 0) {
      int other = slots[slot] - 1;
      if (Arrays.equals(arena, starts[other], starts[other + 1], arena, start, used)) {
        used = start;
        return other;
      }
      slot = (slot + 1) & mask;
    }
    slots[slot] = ++size;
    if (size == starts.length) {
      starts = Arrays.copyOf(starts, size * 2);
    }
    starts[size] = used;
    if (size * 2 > slots.length) {
      grow();
    }
    return size - 1;
  }

  private void append(Object value) {
    if (value instanceof Long || value instanceof Integer) {
      room(9).put((byte) 'i').putLong(((Number) value).longValue());
      used += 9;
    } else if (value instanceof Double number) {
      room(9).put((byte) 'r').putDouble(number);
      used += 9;
    } else {
      byte[] content =
          value instanceof byte[] blob ? blob : value.toString().getBytes(StandardCharsets.UTF_8);
      room(5 + content.length)
          .put((byte) (value instanceof byte[] ? 'b' : 't'))
          .putInt(content.length)
          .put(content);
      used += 5 + content.length;
    }
  }

  private ByteBuffer room(int bytes) {
    if (used + bytes > arena.length) {
      arena = Arrays.copyOf(arena, Math.max(arena.length * 2, used + bytes));
    }
    return ByteBuffer.wrap(arena, used, bytes);
  }

  private int hash(int from, int to) {
    int hash = 1;
    for (int i = from; i < to; i++) {
      hash = 31 * hash + arena[i];
    }
    return hash ^ (hash >>> 15);
  }

  private void grow() {
    slots = new int[slots.length * 2];
    int mask = slots.length - 1;
    for (int i = 0; i < size; i++) {
      int slot = hash(starts[i], starts[i + 1]) & mask;
      while (slots[slot] != 0) {
        slot = (slot + 1) & mask;
      }
      slots[slot] = i + 1;
    }
  }

  /** The values of a tuple by its number. */
  public Object[] tuple(int number) {
    ByteBuffer bytes = ByteBuffer.wrap(arena, starts[number], arena.length - starts[number]);
    Object[] tuple = new Object[width];
    for (int i = 0; i < width; i++) {
      tuple[i] = read(bytes);
    }
    return tuple;
  }

  private static Object read(ByteBuffer bytes) {
    byte type = bytes.get();
    if (type == 'i') {
      return bytes.getLong();
    }
    if (type == 'r') {
      return bytes.getDouble();
    }
    byte[] content = new byte[bytes.getInt()];
    bytes.get(content);
    return type == 'b' ? content : new String(content, StandardCharsets.UTF_8);
  }
}
