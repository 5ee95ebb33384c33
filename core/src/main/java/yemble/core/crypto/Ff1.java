package yemble.core.crypto;

import java.util.Arrays;

/**
 * FF1, the format-preserving cipher of NIST SP 800-38G (2016), for numerals whose halves fit into
 * 62 bits: a bijection on the numbers from 0 to radix^length - 1.
 *
 * <p>The standard's round function is a CBC-MAC of a constant first block and a second part. The
 * encrypted first block is computed once; with a short tweak the second part is one block, so a
 * value costs ten AES calls. An object belongs to one thread.
 */
public final class Ff1 {
  private static final int BLOCK = OneBlock.SIZE;
  private static final int ROUNDS = 10;

  private final OneBlock cipher;
  private final byte[] tweak;
  private final int numberBytes;
  private final int streamBytes;
  private final Modulus modulusLeft;
  private final Modulus modulusRight;
  private final byte[] firstBlock;
  private final byte[] message;
  private final byte[] state = new byte[BLOCK];
  private final long firstHigh;
  private final long firstLow;
  private final long messageHigh;
  private final long messageLow;

  /**
   * With an AES key of 16, 24 or 32 bytes, for {@code length} numerals of a radix.
   *
   * @throws IllegalArgumentException if a half does not fit into 62 bits, or the domain is smaller
   *     than the million that the standard asks for
   */
  public Ff1(byte[] key, byte[] tweak, int radix, int length) {
    int left = length / 2;
    int right = length - left;
    this.modulusLeft = Modulus.of(power(radix, left));
    this.modulusRight = Modulus.of(power(radix, right));
    if (Math.log(radix) * length < Math.log(1_000_000) - 1e-9) {
      throw new IllegalArgumentException("a domain below a million is not safe for FF1");
    }
    this.cipher = new OneBlock(key);
    this.tweak = tweak.clone();
    int bits = 64 - Long.numberOfLeadingZeros(modulusRight.divisor() - 1);
    this.numberBytes = (bits + 7) / 8;
    this.streamBytes = 4 * ((numberBytes + 3) / 4) + 4;
    this.firstBlock = encryptedFirstBlock(radix, length, left);
    int padding = Math.floorMod(-tweak.length - numberBytes - 1, BLOCK);
    this.message = new byte[tweak.length + padding + 1 + numberBytes];
    System.arraycopy(tweak, 0, message, 0, tweak.length);
    this.firstHigh = longAt(firstBlock, 0);
    this.firstLow = longAt(firstBlock, 8);
    this.messageHigh = longAt(message, 0);
    this.messageLow = longAt(message, 8);
  }

  private static long power(int radix, int exponent) {
    long power = 1;
    for (int i = 0; i < exponent; i++) {
      if (power > (1L << 62) / radix) {
        throw new IllegalArgumentException("the halves do not fit into 62 bits");
      }
      power *= radix;
    }
    return power;
  }

  private byte[] encryptedFirstBlock(int radix, int length, int left) {
    byte[] p = new byte[BLOCK];
    p[0] = 1;
    p[1] = 2;
    p[2] = 1;
    p[3] = (byte) (radix >>> 16);
    p[4] = (byte) (radix >>> 8);
    p[5] = (byte) radix;
    p[6] = 10;
    p[7] = (byte) left;
    putInt(p, 8, length);
    putInt(p, 12, tweak.length);
    cipher.encrypt(p);
    return p;
  }

  /** The left half (the more significant numerals) and the right half of the encrypted number. */
  public void encrypt(long[] halves) {
    long a = halves[0];
    long b = halves[1];
    for (int round = 0; round < ROUNDS; round++) {
      Modulus modulus = round % 2 == 0 ? modulusLeft : modulusRight;
      long c = a + stream(round, b, modulus);
      if (c >= modulus.divisor()) {
        c -= modulus.divisor();
      }
      a = b;
      b = c;
    }
    halves[0] = a;
    halves[1] = b;
  }

  /** The inverse of {@link #encrypt}. */
  public void decrypt(long[] halves) {
    long a = halves[0];
    long b = halves[1];
    for (int round = ROUNDS - 1; round >= 0; round--) {
      Modulus modulus = round % 2 == 0 ? modulusLeft : modulusRight;
      long c = b - stream(round, a, modulus);
      if (c < 0) {
        c += modulus.divisor();
      }
      b = a;
      a = c;
    }
    halves[0] = a;
    halves[1] = b;
  }

  /** The number y of the standard's step 6, reduced: PRF(P || Q) expanded, modulo. */
  private long stream(int round, long number, Modulus modulus) {
    if (message.length == BLOCK && numberBytes < Long.BYTES) {
      long low = messageLow | (long) round << 8 * numberBytes | number;
      cipher.encrypt(firstHigh ^ messageHigh, firstLow ^ low);
      return modulo(cipher.high(), cipher.low(), modulus);
    }
    int roundAt = message.length - numberBytes - 1;
    message[roundAt] = (byte) round;
    for (int i = 0; i < numberBytes; i++) {
      message[message.length - 1 - i] = (byte) (number >>> (8 * i));
    }
    System.arraycopy(firstBlock, 0, state, 0, BLOCK);
    for (int at = 0; at < message.length; at += BLOCK) {
      for (int i = 0; i < BLOCK; i++) {
        state[i] ^= message[at + i];
      }
      cipher.encrypt(state);
    }
    return modulo(longAt(state, 0), longAt(state, 8), modulus);
  }

  private static long longAt(byte[] bytes, int at) {
    long value = 0;
    for (int i = 0; i < Long.BYTES; i++) {
      value = value << 8 | bytes[at + i] & 0xff;
    }
    return value;
  }

  /** The first {@code streamBytes} of 16 bytes as an unsigned number, modulo one below 2^62. */
  private long modulo(long high, long low, Modulus modulus) {
    int rest = 8 * (streamBytes - Long.BYTES);
    if (rest == 0) {
      return modulus.remainder(high);
    }
    if (Long.bitCount(modulus.divisor()) == 1) {
      long last = rest == 64 ? low : high << rest | low >>> 64 - rest;
      return last & modulus.divisor() - 1;
    }
    long remainder = modulus.remainder(high);
    int step = Math.min(32, Long.numberOfLeadingZeros(modulus.divisor()));
    for (int done = 0; done < rest; ) {
      int take = Math.min(step, rest - done);
      long chunk = low << done >>> 64 - take;
      remainder = modulus.remainder(remainder << take | chunk);
      done += take;
    }
    return remainder;
  }

  private static void putInt(byte[] into, int at, int number) {
    into[at] = (byte) (number >>> 24);
    into[at + 1] = (byte) (number >>> 16);
    into[at + 2] = (byte) (number >>> 8);
    into[at + 3] = (byte) number;
  }

  @Override
  public String toString() {
    return "FF1 on "
        + modulusLeft.divisor()
        + " x "
        + modulusRight.divisor()
        + " "
        + Arrays.hashCode(tweak);
  }
}
