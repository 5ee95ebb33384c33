package yemble.core.mask.device;

import yemble.core.mask.Mask;
import yemble.core.mask.shape.Letters;
import yemble.core.mask.shape.Shape;

/**
 * The mask of codes that are written in hexadecimal digits, alone or parted by hyphens, colons or
 * dots: other digits of that sort in the same places. Any other code becomes one of its shape.
 *
 * <p>Normal form: the text in lower case.
 */
public final class HexDigits implements Mask {
  private final Shape shape;

  public HexDigits(Shape shape) {
    this.shape = shape;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public boolean mayMeet() {
    return true;
  }

  @Override
  public String apply(String text) {
    StringBuilder digits = new StringBuilder();
    boolean letters = false;
    for (int i = 0; i < text.length(); i++) {
      char c = Letters.lower(text.charAt(i));
      boolean letter = c >= 'a' && c <= 'f';
      letters |= letter;
      if (letter || (c >= '0' && c <= '9')) {
        digits.append(text.charAt(i));
      } else if ("-:. ".indexOf(c) < 0) {
        return shape.apply(text);
      }
    }
    if (!letters || digits.length() < 12) {
      return shape.apply(text);
    }
    String masked = shape.hex(digits.toString());
    StringBuilder out = new StringBuilder(text);
    int at = 0;
    for (int i = 0; i < text.length(); i++) {
      if ("-:. ".indexOf(text.charAt(i)) < 0) {
        out.setCharAt(i, masked.charAt(at++));
      }
    }
    return out.toString();
  }
}
