package yemble.core.crypto;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * AES-CMAC (RFC 4493) under one 16-byte key: 16 pseudo-random bytes for any message.
 *
 * <p>The cipher and the buffers are reused from call to call, which is what makes a short value
 * cost one AES call and no allocation but the result. So an object belongs to one thread.
 */
public final class Prf {
  private static final int BLOCK = OneBlock.SIZE;

  private final OneBlock cipher;
  private final byte[] subkey1;
  private final byte[] subkey2;
  private final byte[] state = new byte[BLOCK];
  private final byte[] key;
  private final Keying keying;
  private final Trace trace;
  private long asked;
  private long epoch;

  /** With a key of 16 bytes. */
  public Prf(byte[] key) {
    this(key, null, null);
  }

  /**
   * @param keying what stands in for all messages; null for nothing
   * @param trace is told of all that is asked; null for nobody
   */
  Prf(byte[] key, Keying keying, Trace trace) {
    this.trace = trace;
    this.key = key.clone();
    this.keying = keying;
    this.cipher = new OneBlock(key);
    this.subkey1 = doubled(encrypt(new byte[BLOCK]));
    this.subkey2 = doubled(subkey1);
  }

  /** The 16 bytes for the UTF-8 form of a text. */
  public byte[] of(String text) {
    int length = text.length();
    if (length <= BLOCK && keying == null && trace == null) {
      byte[] block = new byte[BLOCK];
      int at = 0;
      while (at < length && text.charAt(at) < 0x80) {
        block[at] = (byte) text.charAt(at++);
      }
      if (at == length) {
        return ofOneBlock(block, length);
      }
    }
    byte[] message = text.getBytes(StandardCharsets.UTF_8);
    return of(message, 0, message.length);
  }

  /** The function of what is at most one block: the block is filled, encrypted and returned. */
  private byte[] ofOneBlock(byte[] block, int length) {
    byte[] subkey = subkey1;
    if (length < BLOCK) {
      block[length] = (byte) 0x80;
      subkey = subkey2;
    }
    xor(block, subkey, 0, BLOCK);
    cipher.encrypt(block);
    return block;
  }

  /** The 16 bytes for a message. */
  public byte[] of(byte[] message) {
    return of(message, 0, message.length);
  }

  /** Whether what it answered may be kept for the next time it is asked the same. */
  public boolean isRepeatable() {
    return keying == null && trace == null;
  }

  /** The same function, of which nobody is told. */
  Prf untraced() {
    return trace == null ? this : new Prf(key, keying, null);
  }

  Trace trace() {
    return trace;
  }

  /** Whether something else stands in for what it is asked about. */
  public boolean isKeyed() {
    return keying != null;
  }

  /** The 16 bytes for {@code length} bytes of {@code message} from {@code offset}. */
  public byte[] of(byte[] message, int offset, int length) {
    if (keying == null) {
      byte[] answer = cmac(message, offset, length);
      if (trace != null) {
        trace.asked(Arrays.copyOfRange(message, offset, offset + length), answer.clone());
      }
      return answer;
    }
    if (epoch != keying.epoch()) {
      epoch = keying.epoch();
      asked = 0;
    }
    byte[] instead = (asked++ + "/" + keying.text()).getBytes(StandardCharsets.UTF_8);
    return cmac(instead, 0, instead.length);
  }

  private byte[] cmac(byte[] message, int offset, int length) {
    Arrays.fill(state, (byte) 0);
    int end = offset + length;
    int at = offset;
    while (end - at > BLOCK) {
      xor(state, message, at, BLOCK);
      cipher.encrypt(state);
      at += BLOCK;
    }
    int rest = end - at;
    xor(state, message, at, rest);
    if (rest == BLOCK) {
      xor(state, subkey1, 0, BLOCK);
    } else {
      state[rest] ^= (byte) 0x80;
      xor(state, subkey2, 0, BLOCK);
    }
    cipher.encrypt(state);
    return state.clone();
  }

  /** A stream of pseudo-random numbers that depends on the UTF-8 form of a text alone. */
  public Draw draw(String text) {
    return new Draw(of(text), cipher);
  }

  /** A stream of pseudo-random numbers that depends on a message alone. */
  public Draw draw(byte[] message) {
    return new Draw(of(message), cipher);
  }

  /** A pseudo-random permutation of the numbers from 0 to {@code size - 1}. */
  public Permutation permutation(long size, String tweak) {
    return Permutation.of(this, size, tweak);
  }

  /** The same for those who walk long cycles, where a step must cost little. */
  public Permutation walking(long size, String tweak) {
    return Permutation.walking(this, size, tweak);
  }

  /**
   * A number from 0 to {@code bound - 1} for a text: its first eight bytes as an unsigned number,
   * times the bound, divided by 2^64; for bounds above 2^61 the remainder by it.
   */
  public long below(String text, long bound) {
    byte[] drawn = of(text);
    long high = 0;
    for (int i = 0; i < Long.BYTES; i++) {
      high = (high << 8) | (drawn[i] & 0xff);
    }
    return bound <= 1L << 61
        ? Math.multiplyHigh(high >>> 1, bound << 1)
        : Long.remainderUnsigned(high, bound);
  }

  /** The key of this function, for ciphers built under it. */
  byte[] key() {
    return key;
  }

  private static void xor(byte[] into, byte[] from, int offset, int length) {
    for (int i = 0; i < length; i++) {
      into[i] ^= from[offset + i];
    }
  }

  private byte[] encrypt(byte[] block) {
    cipher.encrypt(block);
    return block;
  }

  /** Multiplication by x in GF(2^128), as RFC 4493 makes its subkeys. */
  static byte[] doubled(byte[] block) {
    byte[] out = new byte[BLOCK];
    int carry = 0;
    for (int i = BLOCK - 1; i >= 0; i--) {
      int shifted = ((block[i] & 0xff) << 1) | carry;
      out[i] = (byte) shifted;
      carry = shifted >>> 8;
    }
    if ((block[0] & 0x80) != 0) {
      out[BLOCK - 1] ^= (byte) 0x87;
    }
    return out;
  }
}
