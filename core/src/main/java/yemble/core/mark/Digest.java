package yemble.core.mark;

import java.security.SecureRandom;

/**
 * 64-bit digests of values and rows under numbers drawn anew for each verification, so that no data
 * can be made to fool it. Two different values share a digest with a chance near 2^-64.
 */
public final class Digest {
  private static final long NULL = 0x6a09e667f3bcc909L;
  private final long seed;
  private final long factor;

  public Digest() {
    SecureRandom random = new SecureRandom();
    this.seed = random.nextLong();
    this.factor = random.nextLong() | 1;
  }

  /** The digest of a value, its type included. */
  public long of(Object value) {
    long h = seed;
    if (value == null) {
      return mix(h ^ NULL);
    }
    if (value instanceof byte[] blob) {
      for (byte b : blob) {
        h = step(h, b);
      }
      return mix(h ^ (2L << 32) ^ blob.length);
    }
    if (value instanceof Long number) {
      return mix(step(step(h, number), 3));
    }
    if (value instanceof Double number) {
      return mix(step(step(h, Double.doubleToRawLongBits(number)), 4));
    }
    String text = value.toString();
    for (int i = 0; i < text.length(); i++) {
      h = step(h, text.charAt(i));
    }
    return mix(h ^ (1L << 32) ^ text.length());
  }

  /** The digest of some values in their order. */
  public long of(Object[] values, int[] positions) {
    long h = seed;
    for (int position : positions) {
      h = step(h, of(values[position]));
    }
    return mix(h);
  }

  private long step(long h, long value) {
    long next = (h ^ value) * factor;
    return next ^ (next >>> 29);
  }

  /** The finalizer of MurmurHash3 (Austin Appleby, public domain). */
  private static long mix(long h) {
    long x = h;
    x = (x ^ (x >>> 33)) * 0xff51afd7ed558ccdL;
    x = (x ^ (x >>> 33)) * 0xc4ceb9fe1a85ec53L;
    return x ^ (x >>> 33);
  }
}
