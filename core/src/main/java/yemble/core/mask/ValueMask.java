package yemble.core.mask;

import java.nio.charset.StandardCharsets;
import java.util.Optional;
import yemble.core.mask.shape.Shape;
import yemble.core.mask.text.BytesText;
import yemble.core.row.Blanks;
import yemble.core.row.CellChange;
import yemble.core.row.Values;

/**
 * Carries a mask of texts over to values of any type: NULL and the empty text stay, unless they are
 * to be masked, too; a number is masked by its text and becomes a number again, a binary value that
 * holds a text is masked as that text, any other keeps its length alone.
 */
public final class ValueMask {
  private final Mask mask;
  private final Shape blobs;
  private final Blanks blanks;

  /**
   * @param blanks which cells without a value are masked, too, as if they were the empty text
   */
  ValueMask(Mask mask, Shape blobs, Blanks blanks) {
    this.blanks = blanks;
    this.mask = mask;
    this.blobs = blobs;
  }

  /** The replacement of a value, of the same type wherever the mask's text can be read as one. */
  public Object apply(Object value) {
    if (blanks.stays(value)) {
      return value;
    }
    if (value == null) {
      return mask.apply("");
    }
    if (value instanceof byte[] blob) {
      return bytes(blob);
    }
    String masked = text(Values.text(value));
    if (masked == null) {
      return null;
    }
    if (value instanceof Long) {
      return asLong(masked);
    }
    return value instanceof Double ? asDouble(masked) : masked;
  }

  /** A text with the blanks behind it, as many as its column pads it with. */
  private String text(String text) {
    int end = text.length();
    while (end > 0 && text.charAt(end - 1) == ' ') {
      end--;
    }
    if (end == text.length() || end == 0 || !mask.leavesBlanks()) {
      return mask.apply(text);
    }
    String masked = mask.apply(text.substring(0, end));
    if (masked == null) {
      return null;
    }
    int blanks = text.length() - end > 1 ? text.length() - masked.length() : 1;
    return masked + " ".repeat(Math.max(0, blanks));
  }

  /** Bytes that hold a text are masked as that; others lose all but their length. */
  private byte[] bytes(byte[] blob) {
    if (mask instanceof Shape) {
      return blobs.apply(blob);
    }
    if (mask instanceof Constant constant && constant.value() == null) {
      return null;
    }
    if (mask instanceof Constant constant) {
      return constant.value().getBytes(StandardCharsets.UTF_8);
    }
    Optional<BytesText> text = BytesText.of(blob);
    if (text.isEmpty()) {
      return blobs.apply(blob);
    }
    String masked = mask.apply(text.get().text());
    return masked == null ? null : text.get().with(masked);
  }

  /** A text as a value of the type of another one, if it can be read as such. */
  public static Object like(Object value, String text) {
    if (value instanceof Long) {
      return asLong(text);
    }
    if (value instanceof Double) {
      return asDouble(text);
    }
    return value instanceof byte[] ? text.getBytes(StandardCharsets.UTF_8) : text;
  }

  private static Object asLong(String text) {
    try {
      return Long.valueOf(text);
    } catch (NumberFormatException e) {
      return text;
    }
  }

  private static Object asDouble(String text) {
    try {
      return Double.valueOf(text);
    } catch (NumberFormatException e) {
      return text;
    }
  }

  /** What becomes of the cells of a column. */
  public CellChange cells() {
    return CellChange.by((row, value) -> apply(value), blanks);
  }

  /** Whether different values stay different. */
  public boolean keepsDifferent() {
    return mask.keepsDifferent();
  }

  /** Whether two different values may meet, see {@link Mask#mayMeet}. */
  public boolean mayMeet() {
    return mask.mayMeet();
  }
}
