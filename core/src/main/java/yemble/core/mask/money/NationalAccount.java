package yemble.core.mask.money;

import java.util.List;
import java.util.function.UnaryOperator;
import java.util.regex.Pattern;

/**
 * A country's bank account numbers with check digits of their own, as they stand in an IBAN behind
 * its first four characters, too: what makes one right, and how one is made right.
 *
 * <p>By the rules of the countries' banking associations, as the registry of ISO 13616 names their
 * places; each is held against the registry's own example by a test.
 *
 * @param country its code of ISO 3166
 * @param form in capitals, without anything between the characters
 * @param checks the places of check digits, which all other characters decide
 * @param right the number with right check digits; null if there are none for it
 */
record NationalAccount(
    String country, Pattern form, List<Integer> checks, UnaryOperator<String> right) {
  private static final String ITALIAN_ODD = "BAKPLCQDREVOSFTGUHMINJWZYX";

  /** All that are known. */
  static final List<NationalAccount> ALL =
      List.of(
          of("ES", "[0-9]{20}", List.of(8, 9), NationalAccount::spanish),
          of("FR", "[0-9]{10}[0-9A-Z]{11}[0-9]{2}", List.of(21, 22), NationalAccount::french),
          of("IT", "[A-Z][0-9]{10}[0-9A-Z]{12}", List.of(0), NationalAccount::italian),
          of("BE", "[0-9]{12}", List.of(10, 11), NationalAccount::belgian),
          of("NO", "[0-9]{11}", List.of(10), NationalAccount::norwegian),
          of("PT", "[0-9]{21}", List.of(19, 20), n -> mod97(n, 98)),
          of("SI", "[0-9]{15}", List.of(13, 14), n -> mod97(n, 98)),
          of("PL", "[0-9]{24}", List.of(7), n -> weighted(n, 0, 7, "3971397")),
          of("HU", "[0-9]{24}", List.of(7, 23), NationalAccount::hungarian),
          of("EE", "[0-9]{16}", List.of(15), n -> weighted(n, 2, 15, "7137137137137")),
          of("FI", "[0-9]{14}", List.of(13), NationalAccount::luhn),
          of("CZ", "[0-9]{20}", List.of(9, 19), NationalAccount::czech),
          of("SK", "[0-9]{20}", List.of(9, 19), NationalAccount::czech),
          of("NL", "[A-Z]{4}[0-9]{10}", List.of(13), NationalAccount::dutch));

  private static NationalAccount of(
      String country, String form, List<Integer> checks, UnaryOperator<String> right) {
    return new NationalAccount(country, Pattern.compile(form), checks, right);
  }

  /** Whether a number of this form is right. */
  boolean holds(String number) {
    return number.equals(right.apply(number));
  }

  /** Whether a number is of this form and right. */
  boolean isRight(String number) {
    return form.matcher(number).matches() && holds(number);
  }

  private static int digit(String number, int at) {
    return number.charAt(at) - '0';
  }

  private static String with(String number, int at, int value, int digits) {
    StringBuilder out = new StringBuilder(number);
    int rest = value;
    for (int i = at + digits - 1; i >= at; i--) {
      out.setCharAt(i, (char) ('0' + rest % 10));
      rest /= 10;
    }
    return out.toString();
  }

  /** The sum of digits from a place on, each by its weight modulo 11. */
  private static int sum(String number, int from, int... weights) {
    int sum = 0;
    for (int i = 0; i < weights.length; i++) {
      sum += digit(number, from + i) * weights[i];
    }
    return sum;
  }

  private static String spanish(String number) {
    int bank = eleven(sum(number, 0, 4, 8, 5, 10, 9, 7, 3, 6));
    int account = eleven(sum(number, 10, 1, 2, 4, 8, 5, 10, 9, 7, 3, 6));
    return with(number, 8, bank * 10 + account, 2);
  }

  private static int eleven(int sum) {
    int check = 11 - sum % 11;
    return check == 11 ? 0 : check == 10 ? 1 : check;
  }

  private static String french(String number) {
    long account = 0;
    for (int i = 10; i < 21; i++) {
      char c = number.charAt(i);
      int value =
          c <= '9' ? c - '0' : c <= 'I' ? c - 'A' + 1 : c <= 'R' ? c - 'J' + 1 : c - 'S' + 2;
      account = account * 10 + value;
    }
    long sum =
        89 * Long.parseLong(number.substring(0, 5))
            + 15 * Long.parseLong(number.substring(5, 10))
            + 3 * account;
    return with(number, 21, (int) (97 - sum % 97), 2);
  }

  private static String italian(String number) {
    int sum = 0;
    for (int i = 1; i < number.length(); i++) {
      char c = number.charAt(i);
      int value = c <= '9' ? c - '0' : c - 'A';
      sum += i % 2 == 1 ? ITALIAN_ODD.indexOf('A' + value) : value;
    }
    return (char) ('A' + sum % 26) + number.substring(1);
  }

  private static String belgian(String number) {
    int rest = (int) (Long.parseLong(number.substring(0, 10)) % 97);
    return with(number, 10, rest == 0 ? 97 : rest, 2);
  }

  private static String norwegian(String number) {
    int check = 11 - sum(number, 0, 5, 4, 3, 2, 7, 6, 5, 4, 3, 2) % 11;
    return check == 10 ? null : with(number, 10, check == 11 ? 0 : check, 1);
  }

  /** ISO 7064 MOD 97-10 over all before the last two digits. */
  private static String mod97(String number, int less) {
    int rest = 0;
    int end = number.length() - 2;
    for (int i = 0; i < end; i++) {
      rest = (rest * 10 + digit(number, i)) % 97;
    }
    return with(number, end, less - rest * 100 % 97, 2);
  }

  /** What makes the weighted sum a multiple of ten. */
  private static String weighted(String number, int from, int check, String weights) {
    int sum = 0;
    for (int i = 0; i < weights.length(); i++) {
      sum += digit(number, from + i) * digit(weights, i);
    }
    return with(number, check, (10 - sum % 10) % 10, 1);
  }

  private static String hungarian(String number) {
    return weighted(weighted(number, 0, 7, "9731973"), 8, 23, "973197319731973");
  }

  private static String luhn(String number) {
    int sum = 0;
    for (int i = 0; i < number.length() - 1; i++) {
      int twice = digit(number, i) * (i % 2 == 0 ? 2 : 1);
      sum += twice > 9 ? twice - 9 : twice;
    }
    return with(number, number.length() - 1, (10 - sum % 10) % 10, 1);
  }

  private static String czech(String number) {
    String prefix = toEleven(number, 9, sum(number, 4, 10, 5, 8, 4, 2));
    return prefix == null
        ? null
        : toEleven(prefix, 19, sum(number, 10, 6, 3, 7, 9, 10, 5, 8, 4, 2));
  }

  /** The number with what makes a sum a multiple of eleven; null if no digit does. */
  private static String toEleven(String number, int check, int sum) {
    int missing = (11 - sum % 11) % 11;
    return missing == 10 ? null : with(number, check, missing, 1);
  }

  private static String dutch(String number) {
    return toEleven(number, 13, sum(number, 4, 10, 9, 8, 7, 6, 5, 4, 3, 2));
  }
}
