package yemble.core.mask.shape;

import yemble.core.crypto.Draw;
import yemble.core.crypto.Permutation;
import yemble.core.crypto.Permutations;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;

/**
 * The mask that keeps nothing but the shape: digits become digits, small letters small letters,
 * capitals capitals, each within its alphabet; everything else stays. A run of digits keeps leading
 * zeros, and gets no new ones; a text that is one whole number keeps the smallest of the signed and
 * unsigned 16, 32 and 64-bit ranges that it fits into.
 *
 * <p>A day of the calendar becomes another one of its century, and a time of day another one.
 *
 * <p>Normal form: the text itself. A bijection: all texts of one shape are permuted among
 * themselves. Shapes that hold more than 2^63 texts are masked letter by letter by a stream drawn
 * from the PRF of the text instead, where two of a billion texts fall together with a chance below
 * 2^-3 at the smallest of these shapes and far below for longer ones.
 */
public final class Shape implements Mask {
  private static final long TOO_LARGE = -1;
  private static final String[] RANGES = {
    "32767", "65535", "2147483647", "4294967295", "9223372036854775807"
  };

  private static final String[] NEGATIVE_RANGES = {"32768", "2147483648", "9223372036854775808"};

  private final Prf prf;
  private final Permutations permutations;
  private final CalendarShape calendar;

  public Shape(Prf prf) {
    this.prf = prf;
    this.permutations = new Permutations(prf);
    this.calendar = new CalendarShape(permutations);
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public String apply(String text) {
    if (CalendarShape.looksLikeOne(text)) {
      String masked = calendar.apply(text);
      if (masked != null) {
        return masked;
      }
    }
    Alphabet[] alphabets = alphabets(text);
    long size = 1;
    for (Alphabet alphabet : alphabets) {
      size = product(size, alphabet.size());
    }
    if (size == TOO_LARGE) {
      return streamed(text, alphabets);
    }
    return size == 1 ? text : permuted(text, alphabets, size, true);
  }

  /** The same, but with digits that may become a leading zero, and no regard to ranges. */
  public String permutedEverywhere(String text) {
    Alphabet[] alphabets = new Alphabet[text.length()];
    long size = 1;
    for (int i = 0; i < alphabets.length; i++) {
      alphabets[i] = Alphabet.of(text.charAt(i));
      size = product(size, alphabets[i].size());
    }
    return size == TOO_LARGE ? streamed(text, alphabets) : permuted(text, alphabets, size, false);
  }

  /** The same, and then moved along all texts of the shape by an amount that is drawn. */
  public String movedBy(Draw draw, String text) {
    Alphabet[] alphabets = new Alphabet[text.length()];
    long size = 1;
    for (int i = 0; i < alphabets.length; i++) {
      alphabets[i] = Alphabet.of(text.charAt(i));
      size = product(size, alphabets[i].size());
    }
    if (size == TOO_LARGE || size > Integer.MAX_VALUE) {
      return permutedEverywhere(text);
    }
    String permuted = permuted(text, alphabets, size, false);
    long number = number(permuted, alphabets) + draw.below((int) size);
    return spelled(text, alphabets, number % size);
  }

  private static long number(String text, Alphabet[] alphabets) {
    long number = 0;
    for (int i = 0; i < alphabets.length; i++) {
      number = number * alphabets[i].size() + alphabets[i].index(text.charAt(i));
    }
    return number;
  }

  /** The product of two numbers above 0; {@link #TOO_LARGE} of one that is, or above 2^63 - 1. */
  private static long product(long size, int times) {
    long product = size * times;
    return size == TOO_LARGE || product < 0 || Math.multiplyHigh(size, times) != 0
        ? TOO_LARGE
        : product;
  }

  /** Hexadecimal digits, in the case of the text's letters. */
  public String hex(String text) {
    boolean capitals = !Letters.lower(text).equals(text);
    String masked = prf.draw(Letters.lower(text)).text(text.length(), "0123456789abcdef");
    return capitals ? masked.toUpperCase(java.util.Locale.ROOT) : masked;
  }

  private static Alphabet[] alphabets(String text) {
    Alphabet[] alphabets = new Alphabet[text.length()];
    for (int i = 0; i < alphabets.length; i++) {
      char c = text.charAt(i);
      boolean first = i == 0 || !isDigit(text.charAt(i - 1));
      alphabets[i] =
          isDigit(c) && first ? (c == '0' ? Alphabet.ONE : Alphabet.FIRST_DIGIT) : Alphabet.of(c);
      if (isDigit(c) && !first && c == '0' && alphabets[i - 1] == Alphabet.ONE) {
        alphabets[i] = Alphabet.ONE;
      } else if (isDigit(c) && !first && alphabets[i - 1] == Alphabet.ONE) {
        alphabets[i] = Alphabet.FIRST_DIGIT;
      }
    }
    return alphabets;
  }

  private String permuted(String text, Alphabet[] alphabets, long size, boolean ranged) {
    long number = number(text, alphabets);
    StringBuilder shape = new StringBuilder(text.length());
    for (int i = 0; i < alphabets.length; i++) {
      shape.append(alphabets[i].isFixed() ? text.charAt(i) : alphabets[i].sign());
    }
    Permutation permutation = permutations.of(size, shape.toString());
    String range = range(text);
    String masked = text;
    do {
      number = permutation.of(number);
      masked = spelled(text, alphabets, number);
    } while (ranged && !range(masked).equals(range));
    return masked;
  }

  /** The text of a number. Divisions by constants, which the usual ones are, are far cheaper. */
  private static String spelled(String text, Alphabet[] alphabets, long number) {
    char[] out = text.toCharArray();
    long rest = number;
    for (int i = out.length - 1; i >= 0; i--) {
      int size = alphabets[i].size();
      long quotient = size == 10 ? rest / 10 : size == 26 ? rest / 26 : rest / size;
      out[i] = alphabets[i].letter(out[i], (int) (rest - quotient * size));
      rest = quotient;
    }
    return new String(out);
  }

  /** The range that a text which is one whole number fits into; empty for any other text. */
  private static String range(String text) {
    int sign = text.startsWith("-") ? 1 : 0;
    int digits = text.length() - sign;
    if (digits < 5 || digits > 19) {
      return "";
    }
    for (int i = sign; i < text.length(); i++) {
      if (!isDigit(text.charAt(i))) {
        return "";
      }
    }
    String number = text.substring(sign);
    for (String range : sign == 1 ? NEGATIVE_RANGES : RANGES) {
      if (digits < range.length() || (digits == range.length() && number.compareTo(range) <= 0)) {
        return range;
      }
    }
    return "larger";
  }

  private String streamed(String text, Alphabet[] alphabets) {
    Draw draw = prf.draw(text);
    char[] out = text.toCharArray();
    for (int i = 0; i < out.length; i++) {
      if (!alphabets[i].isFixed()) {
        out[i] = alphabets[i].letter(out[i], draw.below(alphabets[i].size()));
      }
    }
    return new String(out);
  }

  /** The mask of binary values: as many bytes, drawn from the PRF of the value. */
  public byte[] apply(byte[] blob) {
    return prf.draw(blob).bytes(blob.length);
  }

  private static boolean isDigit(char c) {
    return c >= '0' && c <= '9';
  }
}
