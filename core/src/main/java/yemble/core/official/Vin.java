package yemble.core.official;

import java.util.regex.Pattern;

/**
 * Vehicle identification numbers: ISO 3779, seventeen capitals and digits without I, O and Q; the
 * check character at the ninth place as in North America (49 CFR 565.15).
 */
public final class Vin {
  /** The place of the check character, from 0. */
  public static final int CHECK = 8;

  private static final Pattern FORM = Pattern.compile("[A-HJ-NPR-Z0-9]{17}");
  private static final int[] WEIGHTS = {8, 7, 6, 5, 4, 3, 2, 10, 0, 9, 8, 7, 6, 5, 4, 3, 2};

  /** At each character's place, by its last digit, its value. */
  private static final String VALUES = "0123456789.ABCDEFGH..JKLMN.P.R..STUVWXYZ";

  private Vin() {}

  /** Whether a text is of the form, whatever its check character. */
  public static boolean matches(String text) {
    return FORM.matcher(text).matches();
  }

  /** The check character that a text of the form should have. */
  public static char check(String text) {
    int sum = 0;
    for (int i = 0; i < WEIGHTS.length; i++) {
      sum += VALUES.indexOf(text.charAt(i)) % 10 * WEIGHTS[i];
    }
    return sum % 11 == 10 ? 'X' : (char) ('0' + sum % 11);
  }
}
