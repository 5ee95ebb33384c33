package yemble.core.mask.place;

import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.mask.money.Iban;
import yemble.core.mask.shape.Memo;
import yemble.core.mask.shape.Shape;

/**
 * The mask of a postal code, area by area: the characters that tell the area become those of
 * another one, the others are permuted and moved by an amount of the area's own. So codes of one
 * area stay together, and the codes of a town with them.
 *
 * <p>The area is what stands before a digit and two letters at the end (United Kingdom), before two
 * letters behind four digits (Netherlands), or the first half of other codes with letters; of
 * digits alone the first two of up to five, the first three of up to eight, the first five of
 * longer ones (United States, with what follows a hyphen).
 *
 * <p>Normal form: capitals and digits, without what parts them. A bijection.
 */
public final class Postcode implements Mask {
  private static final int SHORTEST = 3;
  private static final int LONGEST = 10;

  private final Shape heads;
  private final Prf prf;
  private final Shape shape;
  private final Memo memo;

  public Postcode(Prf prf, Shape shape) {
    this.prf = prf;
    this.heads = new Shape(prf);
    this.shape = shape;
    this.memo = new Memo(prf);
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public String apply(String text) {
    String compact = compact(text);
    return compact.isEmpty()
        ? shape.apply(text)
        : Iban.inFormat(text, memo.get(compact, this::masked));
  }

  /** The area that a text lies in; the text itself if it is no postal code. */
  public static String area(String text) {
    String compact = compact(text);
    return compact.isEmpty() ? text : compact.substring(0, areaLength(compact));
  }

  /** The capitals and digits of a text; empty if it is no postal code. */
  private static String compact(String text) {
    String compact = Iban.normal(text);
    boolean code = compact.length() >= SHORTEST && compact.length() <= LONGEST;
    boolean digit = false;
    for (int i = 0; code && i < compact.length(); i++) {
      char c = compact.charAt(i);
      digit |= isDigit(c);
      code = isDigit(c) || (c >= 'A' && c <= 'Z');
    }
    return code && digit ? compact : "";
  }

  private static int areaLength(String compact) {
    int length = compact.length();
    int digits = 0;
    while (digits < length && isDigit(compact.charAt(digits))) {
      digits++;
    }
    int letters = 0;
    while (letters < length && !isDigit(compact.charAt(length - 1 - letters))) {
      letters++;
    }
    if (digits == length) {
      return length <= 5 ? 2 : length <= 8 ? 3 : 5;
    }
    if (letters == 2 && length > 4) {
      return digits == 4 ? 4 : length - 3;
    }
    return length / 2;
  }

  private String masked(String compact) {
    int length = areaLength(compact);
    String area = compact.substring(0, length);
    String masked = length == 5 && compact.length() > 8 ? masked(area) : heads.apply(area);
    return masked + heads.movedBy(prf.draw("area " + area), compact.substring(length));
  }

  private static boolean isDigit(char c) {
    return c >= '0' && c <= '9';
  }
}
