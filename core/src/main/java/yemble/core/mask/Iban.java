package yemble.core.mask;

import org.apache.commons.validator.routines.checkdigit.CheckDigitException;
import org.apache.commons.validator.routines.checkdigit.IBANCheckDigit;
import yemble.core.crypto.Prf;

/**
 * The mask of an IBAN (ISO 13616): the country, the length and the sorts of characters stay, the
 * account behind them is permuted, the check digits are computed anew; where the original's were
 * wrong by so much modulo 97, the new ones are wrong by as much.
 *
 * <p>Normal form: without spaces, in capitals. A bijection on the IBANs of one shape.
 */
final class Iban implements Mask {
  private final Shape account;
  private final Shape shape;

  Iban(Prf prf, Shape shape) {
    this.account = new Shape(prf);
    this.shape = shape;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  /** A text without spaces, in capitals. */
  static String normal(String text) {
    StringBuilder normal = new StringBuilder();
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c != ' ' && c != '-') {
        normal.append(c >= 'a' && c <= 'z' ? (char) (c - 32) : c);
      }
    }
    return normal.toString();
  }

  /** Whether a text has the shape of an IBAN, whatever its check digits. */
  static boolean looksLikeOne(String text) {
    return normal(text).matches("[A-Z]{2}[0-9]{2}[A-Z0-9]{11,30}");
  }

  /** Whether a text in normal form has the check digits of an IBAN. */
  static boolean isValid(String normal) {
    return IBANCheckDigit.IBAN_CHECK_DIGIT.isValid(normal);
  }

  @Override
  public String apply(String text) {
    if (!looksLikeOne(text)) {
      return shape.apply(text);
    }
    String normal = normal(text);
    String country = normal.substring(0, 2);
    int check = Integer.parseInt(normal.substring(2, 4));
    int wrongBy = check - check(country, normal.substring(4));
    String masked = account.permutedEverywhere(normal.substring(4));
    int corrected = check(country, masked) + wrongBy;
    int state = check < 2 || check > 98 ? check : Math.floorMod(corrected - 2, 97) + 2;
    String whole = country + String.format("%02d", state) + masked;
    StringBuilder out = new StringBuilder();
    int next = 0;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c == ' ' || c == '-') {
        out.append(c);
      } else {
        char replaced = whole.charAt(next++);
        out.append(c >= 'a' && c <= 'z' ? Letters.lower(replaced) : replaced);
      }
    }
    return out.toString();
  }

  private static int check(String country, String account) {
    try {
      return Integer.parseInt(IBANCheckDigit.IBAN_CHECK_DIGIT.calculate(country + "00" + account));
    } catch (CheckDigitException e) {
      return 0;
    }
  }
}
