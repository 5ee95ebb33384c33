package yemble.core.crypto;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * A keyed permutation of the numbers from 0 to size - 1: below a million a table, the numbers
 * ordered by the first 44 bits of their pseudo-random function (then by the number itself); from a
 * million on FF1, over digits for powers of ten, else over bits, walked along its cycle until it
 * lands inside (a bit more than once on average, never more than twice). Belongs to one thread.
 */
public abstract class Permutation {
  private static final int SMALLEST_FF1 = 1_000_000;
  private static final int INDEX_BITS = 20;
  private static final long LARGEST_NETWORK = 10_000_000_000L;

  private Permutation() {}

  static Permutation of(Prf prf, long size, String tweak) {
    if (size <= 0) {
      throw new IllegalArgumentException("a permutation of nothing");
    }
    if (prf.isKeyed()) {
      return new Drawn(prf, size);
    }
    Prf quiet = prf.untraced();
    Permutation made =
        size < SMALLEST_FF1 ? new Table(quiet, (int) size, tweak) : new Cipher(quiet, size, tweak);
    return prf.trace() == null ? made : new Traced(made, prf.trace(), tweak, size);
  }

  /**
   * The same for those who walk long cycles: from a million up to ten thousand millions a network
   * of rounds, see {@link Network}, whose steps need no cipher.
   */
  static Permutation walking(Prf prf, long size, String tweak) {
    return size < SMALLEST_FF1 || size > LARGEST_NETWORK || prf.isKeyed()
        ? of(prf, size, tweak)
        : new Network(prf.untraced(), size, tweak);
  }

  /** Where a number from 0 to size - 1 goes. */
  public abstract long of(long number);

  /** No permutation: where something else stands in for the number, the result is drawn by it. */
  private static final class Drawn extends Permutation {
    private final Prf prf;
    private final long size;

    Drawn(Prf prf, long size) {
      this.prf = prf;
      this.size = size;
    }

    @Override
    public long of(long number) {
      return prf.below("", size);
    }
  }

  /** One that tells what it does. */
  private static final class Traced extends Permutation {
    private final Permutation permutation;
    private final Trace trace;
    private final String tweak;
    private final long size;

    Traced(Permutation permutation, Trace trace, String tweak, long size) {
      this.permutation = permutation;
      this.trace = trace;
      this.tweak = tweak;
      this.size = size;
    }

    @Override
    public long of(long number) {
      long to = permutation.of(number);
      trace.moved(tweak, size, number, to);
      return to;
    }
  }

  /** A table of all numbers, ordered by the PRF of tweak and number. */
  private static final class Table extends Permutation {
    private final int[] image;

    Table(Prf prf, int size, String tweak) {
      byte[] head = (tweak + "#").getBytes(StandardCharsets.UTF_8);
      ByteBuffer message = ByteBuffer.allocate(head.length + 4).put(head);
      long[] order = new long[size];
      for (int i = 0; i < size; i++) {
        message.putInt(head.length, i);
        long hash = ByteBuffer.wrap(prf.of(message.array())).getLong();
        order[i] = (hash & -(1L << INDEX_BITS)) | i;
      }
      Arrays.sort(order);
      image = new int[size];
      for (int i = 0; i < size; i++) {
        image[i] = (int) (order[i] & ((1L << INDEX_BITS) - 1));
      }
    }

    @Override
    public long of(long number) {
      return image[(int) number];
    }
  }

  /**
   * A Feistel network of eight rounds over two parts of about the square root of the size (Luby and
   * Rackoff, "How to construct pseudorandom permutations from pseudorandom functions", 1988), whose
   * round functions are tables of numbers drawn from the PRF; walked until it lands inside.
   */
  private static final class Network extends Permutation {
    private static final int ROUNDS = 8;

    private final long size;
    private final int width;
    private final int[][] rounds = new int[ROUNDS][];

    Network(Prf prf, long size, String tweak) {
      this.size = size;
      this.width = (int) Math.ceil(Math.sqrt(size));
      for (int i = 0; i < ROUNDS; i++) {
        Draw draw = prf.draw(tweak + "/" + i);
        rounds[i] = new int[width];
        for (int j = 0; j < width; j++) {
          rounds[i][j] = draw.below(width);
        }
      }
    }

    @Override
    public long of(long number) {
      long next = number;
      do {
        int left = (int) (next / width);
        int right = (int) (next % width);
        for (int[] round : rounds) {
          int sum = left + round[right];
          left = right;
          right = sum < width ? sum : sum - width;
        }
        next = (long) left * width + right;
      } while (next >= size);
      return next;
    }
  }

  /** Of a power of ten its exponent; 0 of any other number. */
  private static int decimal(long size) {
    int digits = 0;
    long power = 1;
    while (power < size && power <= Long.MAX_VALUE / 10) {
      power *= 10;
      digits++;
    }
    return power == size ? digits : 0;
  }

  /** FF1 over the decimal digits of the number. */
  private static final class Decimal extends Permutation {
    private final Ff1 ff1;
    private final long right;
    private final long[] halves = new long[2];

    Decimal(Prf prf, long size, String tweak) {
      int digits = decimal(size);
      this.right = (long) Math.pow(10, digits - digits / 2);
      this.ff1 = new Ff1(prf.key(), Arrays.copyOf(prf.of(tweak), 7), 10, digits);
    }

    @Override
    public long of(long number) {
      halves[0] = number / right;
      halves[1] = number % right;
      ff1.encrypt(halves);
      return halves[0] * right + halves[1];
    }
  }

  /** FF1 over the bits of the number, with cycle walking. */
  private static final class Cipher extends Permutation {
    private final Ff1 ff1;
    private final long size;
    private final int rightBits;
    private final long rightMask;
    private final long[] halves = new long[2];

    Cipher(Prf prf, long size, String tweak) {
      int bits = Math.max(20, 64 - Long.numberOfLeadingZeros(size - 1));
      this.size = size;
      this.rightBits = bits - bits / 2;
      this.rightMask = (1L << rightBits) - 1;
      byte[] shortTweak = Arrays.copyOf(prf.of(tweak), 7);
      this.ff1 = new Ff1(prf.key(), shortTweak, 2, bits);
    }

    @Override
    public long of(long number) {
      long next = number;
      do {
        halves[0] = next >>> rightBits;
        halves[1] = next & rightMask;
        ff1.encrypt(halves);
        next = (halves[0] << rightBits) | halves[1];
      } while (next < 0 || next >= size);
      return next;
    }
  }
}
