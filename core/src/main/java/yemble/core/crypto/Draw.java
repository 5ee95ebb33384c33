package yemble.core.crypto;

import java.nio.ByteBuffer;

/**
 * Numbers drawn one after another from 16 pseudo-random bytes: the first 16 bytes are the seed
 * itself, further ones AES of the seed with a counter added to its last four bytes.
 */
public final class Draw {
  private final byte[] seed;
  private final OneBlock cipher;
  private ByteBuffer block;
  private int counter;

  Draw(byte[] seed, OneBlock cipher) {
    this.seed = seed;
    this.cipher = cipher;
    this.block = ByteBuffer.wrap(seed);
  }

  /**
   * A number from 0 to {@code bound - 1}: four bytes taken as an unsigned number, times the bound,
   * divided by 2^32. For bounds below a million the bias is below 1 in 4,000.
   */
  public int below(int bound) {
    if (block.remaining() < 4) {
      refill();
    }
    return (int) ((Integer.toUnsignedLong(block.getInt()) * bound) >>> 32);
  }

  /** The same for an alphabet of 32 characters, of which each takes five bits of one number. */
  public String text32(int length, String alphabet) {
    char[] text = new char[length];
    long bits = 0;
    int left = 0;
    for (int i = 0; i < length; i++) {
      if (left < 5) {
        if (block.remaining() < 8) {
          refill();
        }
        bits = block.getLong();
        left = 64;
      }
      left -= 5;
      text[i] = alphabet.charAt((int) (bits >>> left) & 31);
    }
    return new String(text);
  }

  /** A text of {@code length} characters, each drawn from an alphabet. */
  public String text(int length, String alphabet) {
    StringBuilder text = new StringBuilder(length);
    for (int i = 0; i < length; i++) {
      text.append(alphabet.charAt(below(alphabet.length())));
    }
    return text.toString();
  }

  /** As many pseudo-random bytes as asked for. */
  public byte[] bytes(int length) {
    byte[] out = new byte[length];
    for (int at = 0; at < length; ) {
      if (!block.hasRemaining()) {
        refill();
      }
      int take = Math.min(block.remaining(), length - at);
      block.get(out, at, take);
      at += take;
    }
    return out;
  }

  private void refill() {
    ByteBuffer input = ByteBuffer.wrap(seed.clone());
    counter++;
    input.putInt(12, input.getInt(12) + counter);
    cipher.encrypt(input.array());
    block = input.rewind();
  }
}
