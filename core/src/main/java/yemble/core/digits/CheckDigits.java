package yemble.core.digits;

import java.time.YearMonth;
import org.apache.commons.validator.routines.checkdigit.LuhnCheckDigit;
import org.apache.commons.validator.routines.checkdigit.VerhoeffCheckDigit;

/**
 * The arithmetic that check digits are made of. Texts hold digits, and capitals where it is said.
 */
public final class CheckDigits {
  private CheckDigits() {}

  public static int digit(String text, int at) {
    return text.charAt(at) - '0';
  }

  /** The sum of the first digits, each times its weight. */
  public static int weighted(String text, int... weights) {
    int sum = 0;
    for (int i = 0; i < weights.length; i++) {
      sum += digit(text, i) * weights[i];
    }
    return sum;
  }

  /** ISO/IEC 7812-1, annex B. */
  public static boolean luhn(String digits) {
    return LuhnCheckDigit.LUHN_CHECK_DIGIT.isValid(digits);
  }

  /** J. Verhoeff, "Error Detecting Decimal Codes", 1969. */
  public static boolean verhoeff(String digits) {
    return VerhoeffCheckDigit.VERHOEFF_CHECK_DIGIT.isValid(digits);
  }

  /** ISO/IEC 7064, MOD 11,10. */
  public static boolean mod1110(String digits) {
    return mod1110Digit(digits) == digit(digits, digits.length() - 1);
  }

  /** The same check digit of all digits but the last. */
  public static int mod1110Digit(String digits) {
    int product = 10;
    for (int i = 0; i < digits.length() - 1; i++) {
      int sum = (digit(digits, i) + product) % 10;
      product = (sum == 0 ? 10 : sum) * 2 % 11;
    }
    return (11 - product) % 10;
  }

  /** Luhn's check digit of all digits from a place on but the last. */
  public static int luhnDigit(String text, int from) {
    int sum = 0;
    for (int i = text.length() - 2, twice = 1; i >= from; i--, twice ^= 1) {
      int product = digit(text, i) * (1 + twice);
      sum += product / 10 + product % 10;
    }
    return (10 - sum % 10) % 10;
  }

  /** ISO/IEC 7064, MOD 11-2: the last character may be an X. */
  public static boolean mod112(String text) {
    int sum = 0;
    for (int i = 0; i < text.length() - 1; i++) {
      sum = (sum + digit(text, i)) * 2 % 11;
    }
    int check = (12 - sum % 11) % 11;
    return text.charAt(text.length() - 1) == (check == 10 ? 'X' : (char) ('0' + check));
  }

  /** Whether six digits from a place on are a day as year, month, day, in some century. */
  public static boolean day(String text, int from) {
    return day(1900 + number(text, from, 2), number(text, from + 2, 2), number(text, from + 4, 2))
        || day(2000 + number(text, from, 2), number(text, from + 2, 2), number(text, from + 4, 2));
  }

  public static boolean day(int year, int month, int day) {
    return month >= 1
        && month <= 12
        && day >= 1
        && day <= 31
        && day <= YearMonth.of(year, month).lengthOfMonth();
  }

  public static int number(String text, int from, int length) {
    int number = 0;
    for (int i = from; i < from + length; i++) {
      number = number * 10 + digit(text, i);
    }
    return number;
  }

  public static String wrongUnless(boolean right) {
    return right ? null : "check digit is wrong";
  }
}
