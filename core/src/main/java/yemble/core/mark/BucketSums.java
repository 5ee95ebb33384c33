package yemble.core.mark;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Locale;
import java.util.zip.DataFormatException;
import java.util.zip.DeflaterOutputStream;
import java.util.zip.Inflater;

/**
 * The rows of a table as sums of their digests modulo 2^128, bucket by bucket: the same rows give
 * the same sums in whatever order, and of other rows the buckets tell about which they are. See
 * {@link RowDigest}.
 */
public final class BucketSums {
  private static final int LEAST_BITS = 10;
  private static final int ROWS_A_BUCKET = 4;

  private final int bits;
  private final long[] high;
  private final long[] low;
  private long rows;

  /** A difference of sums modulo 2^128. */
  public record Difference(long high, long low) {
    public static final Difference NONE = new Difference(0, 0);

    /** What a row adds. */
    public static Difference of(RowDigest row) {
      return new Difference(row.high(), row.low());
    }

    public Difference plus(Difference other) {
      long sum = low + other.low;
      return new Difference(high + other.high + (Long.compareUnsigned(sum, low) < 0 ? 1 : 0), sum);
    }

    public Difference minus(Difference other) {
      return new Difference(
          high - other.high - (Long.compareUnsigned(low, other.low) < 0 ? 1 : 0), low - other.low);
    }
  }

  public BucketSums() {
    this(RowDigest.BUCKET_BITS);
  }

  /** The sum of a bucket. */
  public Difference sum(int bucket) {
    return new Difference(high[bucket], low[bucket]);
  }

  /** In as many buckets as are worth keeping for so many rows: one for each four, from 1,024. */
  public static BucketSums forRows(long rows) {
    return new BucketSums(bitsFor(rows));
  }

  /** In so many buckets, as a power of two. */
  public static BucketSums of(int bits) {
    return new BucketSums(bits);
  }

  private static int bitsFor(long rows) {
    int wanted = Long.SIZE - Long.numberOfLeadingZeros(Math.max(1, rows / ROWS_A_BUCKET) - 1);
    return Math.min(RowDigest.BUCKET_BITS, Math.max(LEAST_BITS, wanted));
  }

  private BucketSums(int bits) {
    this.bits = bits;
    this.high = new long[1 << bits];
    this.low = new long[1 << bits];
  }

  /** Adds the row that a digest took last. */
  public void add(RowDigest row) {
    add(row.bucket(bits), row.high(), row.low());
    rows++;
  }

  private void add(int bucket, long more, long less) {
    long sum = low[bucket] + less;
    high[bucket] += more + (Long.compareUnsigned(sum, less) < 0 ? 1 : 0);
    low[bucket] = sum;
  }

  public long rows() {
    return rows;
  }

  /** How many buckets there are, as a power of two. */
  public int bits() {
    return bits;
  }

  /** The sum over all rows, in 32 hex digits. */
  public String total() {
    BucketSums all = folded(0);
    return String.format(Locale.ROOT, "%016x%016x", all.high[0], all.low[0]);
  }

  /** The same in as many buckets as are worth keeping, see {@link #forRows}; at most as here. */
  public BucketSums worthKeeping() {
    return folded(Math.min(bits, bitsFor(rows)));
  }

  /**
   * The same in fewer buckets.
   *
   * @param fewer how many, as a power of two; at most {@link #bits()}
   */
  public BucketSums folded(int fewer) {
    if (fewer == bits) {
      return this;
    }
    BucketSums folded = new BucketSums(fewer);
    for (int i = 0; i < high.length; i++) {
      folded.add(i >>> (bits - fewer), high[i], low[i]);
    }
    folded.rows = rows;
    return folded;
  }

  /** The sums of these rows and others together, in as many buckets as both have. */
  public BucketSums plus(BucketSums other) {
    BucketSums sum = new BucketSums(Math.min(bits, other.bits));
    for (BucketSums each : new BucketSums[] {folded(sum.bits), other.folded(sum.bits)}) {
      for (int i = 0; i < each.high.length; i++) {
        sum.add(i, each.high[i], each.low[i]);
      }
      sum.rows += each.rows;
    }
    return sum;
  }

  /** The buckets in which others hold other rows, by the numbers that {@code other} gives them. */
  public BitSet differing(BucketSums other) {
    BucketSums mine = folded(other.bits);
    BitSet differing = new BitSet(other.high.length);
    for (int i = 0; i < other.high.length; i++) {
      differing.set(i, mine.high[i] != other.high[i] || mine.low[i] != other.low[i]);
    }
    return differing;
  }

  /** All sums, one bucket after the other, 16 bytes each, compressed (RFC 1950). */
  byte[] packed() {
    ByteBuffer sums = ByteBuffer.allocate(high.length * 2 * Long.BYTES);
    for (int i = 0; i < high.length; i++) {
      sums.putLong(high[i]).putLong(low[i]);
    }
    ByteArrayOutputStream packed = new ByteArrayOutputStream();
    try (DeflaterOutputStream out = new DeflaterOutputStream(packed)) {
      out.write(sums.array());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return packed.toByteArray();
  }

  /**
   * What {@link #packed} has made.
   *
   * @throws IllegalArgumentException if it is damaged
   */
  static BucketSums unpacked(int bits, long rows, byte[] packed) {
    if (bits < 0 || bits > RowDigest.BUCKET_BITS) {
      throw new IllegalArgumentException("no such number of buckets");
    }
    BucketSums sums = new BucketSums(bits);
    byte[] bytes = new byte[sums.high.length * 2 * Long.BYTES];
    Inflater inflater = new Inflater();
    try {
      inflater.setInput(packed);
      int length = 0;
      while (length < bytes.length && !inflater.finished()) {
        int more = inflater.inflate(bytes, length, bytes.length - length);
        if (more == 0) {
          break;
        }
        length += more;
      }
      if (length < bytes.length) {
        throw new IllegalArgumentException("sums are cut short");
      }
    } catch (DataFormatException e) {
      throw new IllegalArgumentException(e);
    } finally {
      inflater.end();
    }
    ByteBuffer in = ByteBuffer.wrap(bytes);
    for (int i = 0; i < sums.high.length; i++) {
      sums.high[i] = in.getLong();
      sums.low[i] = in.getLong();
    }
    sums.rows = rows;
    return sums;
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof BucketSums sums
        && bits == sums.bits
        && rows == sums.rows
        && Arrays.equals(high, sums.high)
        && Arrays.equals(low, sums.low);
  }

  @Override
  public int hashCode() {
    return Arrays.hashCode(low);
  }
}
