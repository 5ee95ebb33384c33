package yemble.core.mask.money;

import java.util.HashMap;
import java.util.Map;
import yemble.core.crypto.Permutation;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Alphabet;
import yemble.core.mask.shape.Shape;

/**
 * The mask of numbers that end in a Luhn check digit (ISO/IEC 7812-1): payment cards, and national
 * ids of that form. The digits that tell the brand stay, those behind them are permuted, and the
 * last one is computed anew; where the original's was wrong by so much, the new one is wrong by as
 * much.
 *
 * <p>Normal form: the digits. A bijection on the numbers of one brand and length. The check digit
 * is computed here, in a tenth of the library's time, and tested against that.
 */
public final class CardNumber implements Mask {
  private static final int LONGEST = 19;
  private final Prf prf;
  private final Shape shape;
  private final boolean branded;
  private final int shortest;
  private final Map<Integer, Permutation> permutations = new HashMap<>();

  private CardNumber(Prf prf, Shape shape, boolean branded, int shortest) {
    this.prf = prf;
    this.shape = shape;
    this.branded = branded;
    this.shortest = shortest;
  }

  /** Of payment cards: 12 to 19 digits. */
  public static CardNumber ofCards(Prf prf, Shape shape) {
    return new CardNumber(prf, shape, true, 12);
  }

  /** Of other numbers with such a check digit: 6 to 19 digits, letters before them stay. */
  public static CardNumber ofIds(Prf prf, Shape shape) {
    return new CardNumber(prf, shape, false, 6);
  }

  @Override
  public boolean keepsDifferent() {
    return true;
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
    char[] out = text.toCharArray();
    int[] places = new int[LONGEST];
    int length = places(out, from, places);
    if (length < shortest) {
      return shape.apply(text);
    }
    int kept = branded ? brandDigits(out[places[0]], out[places[1]]) : 0;
    int wrongBy = out[places[length - 1]] - '0' - check(out, places, length);
    int head = (int) number(out, places, 0, kept);
    long middle = number(out, places, kept, length - 1);
    long masked = permutation(head, kept, length - 1 - kept).of(middle);
    for (int i = length - 2; i >= kept; i--) {
      out[places[i]] = (char) ('0' + masked % 10);
      masked /= 10;
    }
    int last = Math.floorMod(check(out, places, length) + wrongBy, 10);
    out[places[length - 1]] = (char) ('0' + last);
    return new String(out);
  }

  /** Notes where the digits are; how many, 0 if they are too many or parted by other letters. */
  private static int places(char[] text, int from, int[] places) {
    int length = 0;
    for (int i = from; i < text.length; i++) {
      char c = text[i];
      if (c >= '0' && c <= '9') {
        if (length == places.length) {
          return 0;
        }
        places[length++] = i;
      } else if (c != ' ' && c != '-' && c != '.') {
        return 0;
      }
    }
    return length;
  }

  private static long number(char[] text, int[] places, int from, int to) {
    long number = 0;
    for (int i = from; i < to; i++) {
      number = number * 10 + text[places[i]] - '0';
    }
    return number;
  }

  /** The permutation of so many digits behind a head of some digits. */
  private Permutation permutation(int head, int headLength, int digits) {
    return permutations.computeIfAbsent(
        (head * LONGEST + digits) * LONGEST + headLength,
        key -> {
          String kept = headLength == 0 ? "" : Integer.toString(head);
          String tweak = "0".repeat(headLength - kept.length()) + kept + "/" + digits;
          return prf.permutation((long) Math.pow(10, digits), tweak);
        });
  }

  /** The check digit that belongs behind all digits but the last, by doubling every other one. */
  private static int check(char[] text, int[] places, int length) {
    int sum = 0;
    boolean doubled = true;
    for (int i = length - 2; i >= 0; i--) {
      int digit = text[places[i]] - '0';
      int weighted = doubled ? 2 * digit : digit;
      sum += weighted > 9 ? weighted - 9 : weighted;
      doubled = !doubled;
    }
    return (10 - sum % 10) % 10;
  }

  private static int letters(String text) {
    int at = 0;
    while (at < text.length() && Alphabet.of(text.charAt(at)).size() >= 26) {
      at++;
    }
    return at;
  }

  /** How many leading digits tell the brand, by the ranges that the brands publish. */
  private static int brandDigits(char first, char second) {
    return switch (first) {
      case '4' -> 1;
      case '2', '6' -> 4;
      case '3' -> second == '5' ? 4 : 2;
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
