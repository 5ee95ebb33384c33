package yemble.core.mask;

import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.crypto.Permutation;
import yemble.core.crypto.Prf;

/**
 * The mask of a telephone number: its last seven digits are permuted, everything before them, the
 * format and an extension stay. So country, area and type of line stay, and a number masks alike in
 * national and international form. Of a number below nine digits the first two stay. Of seven
 * digits a first one of 0 or 1 becomes 0 or 1, and any other none of these: no exchange of the
 * North American plan, nor of many others, begins with them.
 *
 * <p>Normal form: the digits without the extension. A bijection: different numbers stay different.
 */
final class Phone implements Mask {
  private static final Pattern EXTENSION =
      Pattern.compile("\\s*(?:x|ext\\.?|#|;ext=)\\s*[0-9]{1,6}\\s*$", Pattern.CASE_INSENSITIVE);
  private static final int MASKED = 7;
  private static final int LEAST = 3;

  private final Prf prf;
  private final Shape shape;
  private final Permutation[] permutations = new Permutation[MASKED + 1];

  Phone(Prf prf, Shape shape) {
    this.prf = prf;
    this.shape = shape;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public String apply(String text) {
    int end = end(text);
    int digits = 0;
    for (int i = 0; i < end; i++) {
      digits += isDigit(text.charAt(i)) ? 1 : 0;
    }
    if (digits < LEAST) {
      return shape.apply(text);
    }
    int masked = Math.min(MASKED, digits - 2);
    char[] out = text.toCharArray();
    long number = 0;
    long place = 1;
    int from = end;
    for (int left = masked; left > 0; ) {
      char c = out[--from];
      if (isDigit(c)) {
        number += place * (c - '0');
        place *= 10;
        left--;
      }
    }
    long replaced = replaced(number, masked, place);
    for (int i = end - 1; i >= from; i--) {
      if (isDigit(out[i])) {
        out[i] = (char) ('0' + replaced % 10);
        replaced /= 10;
      }
    }
    return new String(out);
  }

  /** Where the number ends and an extension begins. */
  private static int end(String text) {
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c == '#' || c == 'x' || c == 'X' || c == '=') {
        Matcher extension = EXTENSION.matcher(text);
        return extension.find() ? extension.start() : text.length();
      }
    }
    return text.length();
  }

  /** Of seven digits the first one stays below 2, or stays above it. */
  private long replaced(long number, int digits, long size) {
    if (digits < MASKED) {
      return permutation(digits, size).of(number);
    }
    long low = size / 5;
    if (number < low) {
      return permutation(0, low).of(number);
    }
    return low + permutation(MASKED, size - low).of(number - low);
  }

  private Permutation permutation(int digits, long size) {
    if (permutations[digits] == null) {
      permutations[digits] = prf.permutation(size, "last " + digits);
    }
    return permutations[digits];
  }

  private static boolean isDigit(char c) {
    return c >= '0' && c <= '9';
  }
}
