package yemble.core.mask.shape;

import yemble.core.mask.Mask;

/**
 * The mask that replaces nothing but digits: all of a text, or, of a coordinate, those behind the
 * point, so that a place stays within its degree.
 *
 * <p>Normal form: the text.
 */
public final class Digits implements Mask {
  private final Shape shape;
  private final boolean behindThePoint;

  public Digits(Shape shape, boolean behindThePoint) {
    this.shape = shape;
    this.behindThePoint = behindThePoint;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public String apply(String text) {
    int from = behindThePoint ? text.indexOf('.') + 1 : 0;
    if (behindThePoint && from == 0) {
      return text;
    }
    StringBuilder digits = new StringBuilder();
    for (int i = from; i < text.length(); i++) {
      if (isDigit(text.charAt(i))) {
        digits.append(text.charAt(i));
      }
    }
    if (digits.isEmpty()) {
      return text;
    }
    String masked = shape.permutedEverywhere(digits.toString());
    StringBuilder out = new StringBuilder(text);
    int at = 0;
    for (int i = from; i < text.length(); i++) {
      if (isDigit(text.charAt(i))) {
        out.setCharAt(i, masked.charAt(at++));
      }
    }
    return out.toString();
  }

  private static boolean isDigit(char c) {
    return c >= '0' && c <= '9';
  }
}
