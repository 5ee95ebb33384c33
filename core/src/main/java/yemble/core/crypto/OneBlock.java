package yemble.core.crypto;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.security.GeneralSecurityException;
import javax.crypto.Cipher;
import javax.crypto.spec.SecretKeySpec;

/**
 * AES on one block at a time. Belongs to one thread.
 *
 * <p>The JDK's cipher takes half the time (20 to 40 ns measured) where its output is not its input,
 * since it then need not look for overlaps; and in ECB {@code update} on a whole block leaves
 * nothing for {@code doFinal} to do.
 */
final class OneBlock {
  static final int SIZE = 16;

  private final Cipher cipher;
  private static final VarHandle LONGS =
      MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.BIG_ENDIAN);

  private final byte[] in = new byte[SIZE];
  private final byte[] out = new byte[SIZE];

  /** With a key of 16, 24 or 32 bytes. */
  OneBlock(byte[] key) {
    try {
      cipher = Cipher.getInstance("AES/ECB/NoPadding");
      cipher.init(Cipher.ENCRYPT_MODE, new SecretKeySpec(key, "AES"));
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("this Java has no AES", e);
    }
  }

  /** Encrypts a block in place. */
  void encrypt(byte[] block) {
    try {
      cipher.update(block, 0, SIZE, out, 0);
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(e);
    }
    System.arraycopy(out, 0, block, 0, SIZE);
  }

  /** Encrypts a block of two longs, the first one being its first bytes; see the halves of it. */
  void encrypt(long high, long low) {
    LONGS.set(in, 0, high);
    LONGS.set(in, 8, low);
    try {
      cipher.update(in, 0, SIZE, out, 0);
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(e);
    }
  }

  /** The first eight bytes of the block that was encrypted last. */
  long high() {
    return (long) LONGS.get(out, 0);
  }

  /** The last eight bytes of it. */
  long low() {
    return (long) LONGS.get(out, 8);
  }
}
