package yemble.core.mark;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.security.SecureRandom;
import java.util.Arrays;
import yemble.core.crypto.Cmac;

/**
 * The digest of a row: AES-CMAC over its values one after the other. Defined once, with vectors, in
 * {@code docs/proof.md}: a NULL is the byte 0; a text the byte 1, the number of its bytes in four
 * bytes, and its UTF-8; a whole number the byte 2 and eight bytes; a floating-point number the byte
 * 3 and its eight bytes of IEEE 754; a binary value the byte 4, its number of bytes in four, and
 * itself. Numbers have their highest byte first.
 *
 * <p>Which of 65,536 buckets a row belongs to is told by the first two bytes of the same function
 * over the values that identify it. The object keeps what came of the last row, and belongs to one
 * thread.
 */
public final class RowDigest {
  /** The length of a key in bytes. */
  public static final int KEY = Cmac.SIZE;

  /** How many buckets there are, as a power of two. */
  static final int BUCKET_BITS = 16;

  private static final VarHandle LONGS =
      MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.BIG_ENDIAN);
  private static final VarHandle INTS =
      MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.BIG_ENDIAN);
  private static final int MOST_BYTES_A_CHAR = 3;
  private static final int MOST_OF_A_NUMBER = 9;

  private final Cmac cmac;
  private byte[] bytes = new byte[1024];
  private int length;
  private int bucket;
  private long high;
  private long low;

  /** A key for one load. */
  public static byte[] newKey() {
    byte[] key = new byte[KEY];
    new SecureRandom().nextBytes(key);
    return key;
  }

  /**
   * @param key of {@value #KEY} bytes
   */
  public RowDigest(byte[] key) {
    this.cmac = new Cmac(key);
  }

  /**
   * Takes a row.
   *
   * @param values null, {@link Long}, {@link Double}, {@code byte[]}, or a text
   * @param identity the positions of those that identify it
   */
  public void take(Object[] values, int[] identity) {
    length = 0;
    for (int position : identity) {
      put(values[position]);
    }
    finish();
    bucket = (int) ((long) LONGS.get(bytes, 0) >>> (Long.SIZE - BUCKET_BITS));
    length = 0;
    for (Object value : values) {
      put(value);
    }
    finish();
    high = (long) LONGS.get(bytes, 0);
    low = (long) LONGS.get(bytes, Long.BYTES);
  }

  /** The bucket of the row, from 0 to 65,535. */
  public int bucket() {
    return bucket;
  }

  /** The bucket of the row where there are fewer: as many as two to the power of {@code bits}. */
  public int bucket(int bits) {
    return bucket >>> (BUCKET_BITS - bits);
  }

  /** The first eight bytes of the row's digest. */
  public long high() {
    return high;
  }

  /** The last eight bytes of the row's digest. */
  public long low() {
    return low;
  }

  private void finish() {
    room(Cmac.SIZE);
    cmac.of(bytes, length);
  }

  private void room(int more) {
    if (bytes.length - length < more + Cmac.SIZE) {
      bytes = Arrays.copyOf(bytes, Math.max(bytes.length * 2, length + more + Cmac.SIZE));
    }
  }

  private void put(Object value) {
    room(MOST_OF_A_NUMBER);
    if (value == null) {
      bytes[length++] = 0;
    } else if (value instanceof Long number) {
      number(2, number);
    } else if (value instanceof Double number) {
      number(3, Double.doubleToRawLongBits(number));
    } else if (value instanceof byte[] blob) {
      bytes[length++] = 4;
      size(blob.length);
      room(blob.length);
      System.arraycopy(blob, 0, bytes, length, blob.length);
      length += blob.length;
    } else {
      text(value.toString());
    }
  }

  private void number(int tag, long number) {
    bytes[length++] = (byte) tag;
    LONGS.set(bytes, length, number);
    length += Long.BYTES;
  }

  private void size(int size) {
    INTS.set(bytes, length, size);
    length += Integer.BYTES;
  }

  private void text(String text) {
    int chars = text.length();
    room(MOST_OF_A_NUMBER + Math.multiplyExact(chars, MOST_BYTES_A_CHAR));
    int start = length;
    bytes[length++] = 1;
    length += Integer.BYTES;
    int at = 0;
    while (at < chars && text.charAt(at) < 0x80) {
      bytes[length++] = (byte) text.charAt(at++);
    }
    if (at < chars) {
      byte[] rest = text.substring(at).getBytes(StandardCharsets.UTF_8);
      System.arraycopy(rest, 0, bytes, length, rest.length);
      length += rest.length;
    }
    INTS.set(bytes, start + 1, length - start - 1 - Integer.BYTES);
  }
}
