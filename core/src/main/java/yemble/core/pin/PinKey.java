package yemble.core.pin;

import java.nio.ByteBuffer;
import java.text.Normalizer;
import java.util.HexFormat;
import java.util.Optional;
import java.util.regex.Pattern;
import yemble.core.crypto.Prf;
import yemble.core.crypto.SecretKey;

/**
 * Who a line of a list is about, as it stands there: a digest of the value under the project's key,
 * AES-CMAC in the scope {@code pins/LIST} over the value in Unicode's form C without spaces around
 * it. Written as a {@code k} and 32 hexadecimal digits, which no spreadsheet takes for a number.
 */
public record PinKey(long high, long low) {
  private static final Pattern FORM = Pattern.compile("k[0-9a-f]{32}");

  /** Makes the keys of one list. Belongs to one thread. */
  public static final class Maker {
    private final Prf prf;

    /**
     * @param list its name
     */
    public Maker(SecretKey key, String list) {
      this.prf = key.prf("pins/" + list);
    }

    /** The key of a value that is not empty. */
    public PinKey of(String value) {
      String stripped = value.strip();
      String normal =
          Normalizer.isNormalized(stripped, Normalizer.Form.NFC)
              ? stripped
              : Normalizer.normalize(stripped, Normalizer.Form.NFC);
      ByteBuffer digest = ByteBuffer.wrap(prf.of(normal));
      return new PinKey(digest.getLong(), digest.getLong());
    }
  }

  /** A key as it is written; empty if the text is none. */
  static Optional<PinKey> parse(String text) {
    if (!FORM.matcher(text).matches()) {
      return Optional.empty();
    }
    ByteBuffer bytes = ByteBuffer.wrap(HexFormat.of().parseHex(text, 1, text.length()));
    return Optional.of(new PinKey(bytes.getLong(), bytes.getLong()));
  }

  @Override
  public String toString() {
    HexFormat hex = HexFormat.of();
    return "k" + hex.toHexDigits(high) + hex.toHexDigits(low);
  }
}
