package yemble.core.subset;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import yemble.core.crypto.Prf;
import yemble.core.crypto.SecretKey;
import yemble.core.row.Values;

/**
 * The keyed hash by which rows are picked: the first eight bytes of the PRF of a row's identity, as
 * an unsigned number.
 *
 * <p>The identity is encoded value by value: the length in bytes as four bytes, the most
 * significant first, then the value's text in UTF-8 (a blob's own bytes); NULL is the length
 * ffffffff without content. So an id is the same whether the engine holds it as a number or a text.
 */
public final class RowHash {
  private static final int NULL = -1;
  private static final BigInteger ALL_HASHES = BigInteger.ONE.shiftLeft(64);

  private final Prf prf;
  private byte[] message = new byte[256];

  /** Of the scope {@code pick/TABLE} or {@code at-most/COLUMNS}. */
  public RowHash(SecretKey key, String scope) {
    this.prf = key.prf(scope);
  }

  /** The hash, to be compared as an unsigned number. */
  public long of(Object[] identity) {
    int length = 0;
    for (Object value : identity) {
      byte[] content = bytes(value);
      int size = content == null ? 0 : content.length;
      if (length + 4 + size > message.length) {
        message = java.util.Arrays.copyOf(message, (length + 4 + size) * 2);
      }
      ByteBuffer buffer = ByteBuffer.wrap(message, length, 4 + size);
      buffer.putInt(content == null ? NULL : size);
      if (content != null) {
        buffer.put(content);
      }
      length += 4 + size;
    }
    return ByteBuffer.wrap(prf.of(message, 0, length)).getLong();
  }

  /** The unsigned number that the hash of a row must lie below: share times 2^64. */
  public static long threshold(BigDecimal share) {
    return share.multiply(new BigDecimal(ALL_HASHES)).toBigInteger().longValue();
  }

  private static byte[] bytes(Object value) {
    if (value == null) {
      return null;
    }
    return value instanceof byte[] blob
        ? blob
        : Values.text(value).getBytes(StandardCharsets.UTF_8);
  }
}
