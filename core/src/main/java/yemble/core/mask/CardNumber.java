package yemble.core.mask;

import org.apache.commons.validator.routines.checkdigit.CheckDigitException;
import org.apache.commons.validator.routines.checkdigit.LuhnCheckDigit;
import yemble.core.crypto.Permutation;
import yemble.core.crypto.Prf;

/**
 * The mask of numbers that end in a Luhn check digit (ISO/IEC 7812-1): payment cards, and national
 * ids of that form. The digits that tell the brand stay, those behind them are permuted, and the
 * last one is computed anew; where the original's was wrong by so much, the new one is wrong by as
 * much.
 *
 * <p>Normal form: the digits. A bijection on the numbers of one brand and length.
 */
final class CardNumber implements Mask {
  private static final int LONGEST = 19;
  private final Prf prf;
  private final Shape shape;
  private final boolean branded;
  private final int shortest;
  private final java.util.Map<String, Permutation> permutations = new java.util.HashMap<>();

  private CardNumber(Prf prf, Shape shape, boolean branded, int shortest) {
    this.prf = prf;
    this.shape = shape;
    this.branded = branded;
    this.shortest = shortest;
  }

  /** Of payment cards: 12 to 19 digits. */
  static CardNumber ofCards(Prf prf, Shape shape) {
    return new CardNumber(prf, shape, true, 12);
  }

  /** Of other numbers with such a check digit: 6 to 19 digits, letters before them stay. */
  static CardNumber ofIds(Prf prf, Shape shape) {
    return new CardNumber(prf, shape, false, 6);
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  /** Whether digits end in their Luhn check digit. */
  static boolean isValid(String digits) {
    return LuhnCheckDigit.LUHN_CHECK_DIGIT.isValid(digits);
  }

  /** The digits of a text, or an empty string if it holds other letters than separators. */
  static String digits(String text) {
    StringBuilder digits = new StringBuilder();
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c >= '0' && c <= '9') {
        digits.append(c);
      } else if (c != ' ' && c != '-' && c != '.') {
        return "";
      }
    }
    return digits.toString();
  }

  @Override
  public String apply(String text) {
    int from = branded ? 0 : letters(text);
    String digits = digits(text.substring(from));
    if (digits.length() < shortest || digits.length() > LONGEST) {
      return shape.apply(text);
    }
    int kept = branded ? brandDigits(digits) : 0;
    String head = digits.substring(0, kept);
    String middle = digits.substring(kept, digits.length() - 1);
    int wrongBy = digit(digits, digits.length() - 1) - digit(check(head + middle), 0);
    long size = (long) Math.pow(10, middle.length());
    long masked =
        permutations
            .computeIfAbsent(head + "/" + middle.length(), t -> prf.permutation(size, t))
            .of(Long.parseLong(middle));
    String number = Long.toString(masked);
    String body = head + "0".repeat(middle.length() - number.length()) + number;
    int last = Math.floorMod(digit(check(body), 0) + wrongBy, 10);
    return text.substring(0, from) + inFormat(text.substring(from), body + last);
  }

  private static int letters(String text) {
    int at = 0;
    while (at < text.length() && Alphabet.of(text.charAt(at)).size() >= 26) {
      at++;
    }
    return at;
  }

  private static int digit(String digits, int at) {
    return digits.charAt(at) - '0';
  }

  private static String check(String body) {
    try {
      return LuhnCheckDigit.LUHN_CHECK_DIGIT.calculate(body);
    } catch (CheckDigitException e) {
      return "0";
    }
  }

  /** How many leading digits tell the brand, by the ranges that the brands publish. */
  private static int brandDigits(String digits) {
    return switch (digits.charAt(0)) {
      case '4' -> 1;
      case '2', '6' -> 4;
      case '3' -> digits.charAt(1) == '5' ? 4 : 2;
      default -> 2;
    };
  }

  /** Digits written into the places of the digits of a text. */
  static String inFormat(String text, String digits) {
    char[] out = text.toCharArray();
    int next = 0;
    for (int i = 0; i < out.length; i++) {
      if (out[i] >= '0' && out[i] <= '9') {
        out[i] = digits.charAt(next++);
      }
    }
    return new String(out);
  }
}
