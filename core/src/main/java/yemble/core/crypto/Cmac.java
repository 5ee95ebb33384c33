package yemble.core.crypto;

import java.security.GeneralSecurityException;
import java.util.Arrays;
import javax.crypto.Cipher;
import javax.crypto.spec.IvParameterSpec;
import javax.crypto.spec.SecretKeySpec;

/**
 * AES-CMAC (RFC 4493) for messages of many blocks: the same function as {@link Prf}, with one call
 * of the cipher a message instead of one a block, as CMAC is the last block of CBC. Belongs to one
 * thread.
 */
public final class Cmac {
  /** Of a key, and of a result, in bytes. */
  public static final int SIZE = OneBlock.SIZE;

  private final Cipher cipher;
  private final byte[] subkey1;
  private final byte[] subkey2;
  private byte[] encrypted = new byte[SIZE * 16];

  /** With a key of 16 bytes. */
  public Cmac(byte[] key) {
    try {
      cipher = Cipher.getInstance("AES/CBC/NoPadding");
      cipher.init(
          Cipher.ENCRYPT_MODE, new SecretKeySpec(key, "AES"), new IvParameterSpec(new byte[SIZE]));
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("this Java has no AES", e);
    }
    byte[] zero = new byte[SIZE];
    new OneBlock(key).encrypt(zero);
    subkey1 = Prf.doubled(zero);
    subkey2 = Prf.doubled(subkey1);
  }

  /** The room that a message needs. */
  public static int room(int length) {
    return Math.max(SIZE, (length + SIZE - 1) / SIZE * SIZE);
  }

  /**
   * Replaces the first 16 bytes of a message by what the function makes of it.
   *
   * @param message with {@link #room} for it; what lies behind the message is overwritten
   */
  public void of(byte[] message, int length) {
    int room = room(length);
    byte[] subkey = subkey1;
    if (length < room) {
      Arrays.fill(message, length, room, (byte) 0);
      message[length] = (byte) 0x80;
      subkey = subkey2;
    }
    for (int i = 0; i < SIZE; i++) {
      message[room - SIZE + i] ^= subkey[i];
    }
    if (encrypted.length < room) {
      encrypted = new byte[room];
    }
    try {
      cipher.doFinal(message, 0, room, encrypted, 0);
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(e);
    }
    System.arraycopy(encrypted, room - SIZE, message, 0, SIZE);
  }
}
