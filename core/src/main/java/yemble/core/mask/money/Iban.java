package yemble.core.mask.money;

import org.apache.commons.validator.routines.checkdigit.IBANCheckDigit;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Letters;
import yemble.core.mask.shape.Shape;

/**
 * The mask of an IBAN (ISO 13616): the country, the length and the sorts of characters stay, the
 * account behind them is permuted, the check digits are computed anew; where the original's were
 * wrong by so much modulo 97, the new ones are wrong by as much. Accounts of countries that have
 * check digits of their own ({@link NationalAccount}) stay right or wrong by these, too.
 *
 * <p>Normal form: without spaces, in capitals. A bijection on the IBANs of one shape.
 */
public final class Iban implements Mask {
  private final Shape account;
  private final Shape shape;

  public Iban(Prf prf, Shape shape) {
    this.account = new Shape(prf);
    this.shape = shape;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  /** A text without spaces, in capitals. */
  public static String normal(String text) {
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
  public static boolean looksLikeOne(String text) {
    return isOne(normal(text));
  }

  /** Two letters, two digits, then 11 to 30 of both. */
  private static boolean isOne(String normal) {
    int length = normal.length();
    boolean one = length >= 15 && length <= 34;
    for (int i = 0; one && i < length; i++) {
      char c = normal.charAt(i);
      boolean digit = c >= '0' && c <= '9';
      boolean letter = c >= 'A' && c <= 'Z';
      one = i < 2 ? letter : i < 4 ? digit : digit || letter;
    }
    return one;
  }

  /** Whether a text in normal form has the check digits of an IBAN. */
  public static boolean isValid(String normal) {
    return IBANCheckDigit.IBAN_CHECK_DIGIT.isValid(normal);
  }

  @Override
  public String apply(String text) {
    String normal = normal(text);
    if (!isOne(normal)) {
      return shape.apply(text);
    }
    String country = normal.substring(0, 2);
    int check = Integer.parseInt(normal.substring(2, 4));
    int wrongBy = check - check(country, normal.substring(4));
    String masked = account(country, normal.substring(4));
    int corrected = check(country, masked) + wrongBy;
    int state = check < 2 || check > 98 ? check : Math.floorMod(corrected - 2, 97) + 2;
    String whole = country + state / 10 + state % 10 + masked;
    return inFormat(text, whole);
  }

  /**
   * An account in its country's form: one that is right by check digits of its own stays so, one
   * that is wrong stays wrong.
   */
  private String account(String country, String number) {
    for (NationalAccount form : NationalAccount.ALL) {
      if (form.country().equals(country) && form.form().matcher(number).matches()) {
        if (form.holds(number)) {
          return BankAccount.permuted(account, form, number);
        }
        String masked = account.permutedEverywhere(number);
        while (form.holds(masked)) {
          masked = account.permutedEverywhere(masked);
        }
        return masked;
      }
    }
    return account.permutedEverywhere(number);
  }

  /** A number in normal form, written as a text is: in its case, with what parts it. */
  public static String inFormat(String text, String whole) {
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

  /**
   * The check digits by ISO 7064 MOD 97-10: 98 less the remainder of the account, the country and
   * two zeros, letters as the numbers from 10; as the library computes them, in a fraction of its
   * time.
   */
  public static int check(String country, String account) {
    int rest = remainder(remainder(0, account), country);
    return 98 - rest * 100 % 97;
  }

  private static int remainder(int rest, String text) {
    int remainder = rest;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      remainder =
          c <= '9' ? (remainder * 10 + c - '0') % 97 : (remainder * 100 + c - 'A' + 10) % 97;
    }
    return remainder;
  }
}
