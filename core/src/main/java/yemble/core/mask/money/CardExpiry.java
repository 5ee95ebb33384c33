package yemble.core.mask.money;

import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.crypto.Permutations;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Shape;

/**
 * The mask of the month until which a card is valid: another month of the same year, in the same
 * form. A month or a year alone stands for itself; anything else becomes another text of its shape.
 *
 * <p>Normal form: the text. A bijection within each year.
 */
public final class CardExpiry implements Mask {
  private static final Pattern YEAR = Pattern.compile("20[0-9]{2}");
  private static final Pattern MONTH_FIRST =
      Pattern.compile("(0[1-9]|1[0-2])([/ .-]?(?:20)?[0-9]{2})");
  private static final Pattern YEAR_FIRST =
      Pattern.compile("(20[0-9]{2}[/ .-]?)(0[1-9]|1[0-2])(.*)");
  private static final Pattern ALONE = Pattern.compile("0?[1-9]|1[0-2]");
  private static final int MONTHS = 12;

  private final Permutations permutations;
  private final Shape shape;

  public CardExpiry(Prf prf, Shape shape) {
    this.permutations = new Permutations(prf);
    this.shape = shape;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public String apply(String text) {
    Matcher year = YEAR_FIRST.matcher(text);
    if (year.matches()) {
      return year.group(1) + month(year.group(2), year.group(1)) + year.group(3);
    }
    Matcher month = MONTH_FIRST.matcher(text);
    if (month.matches()) {
      return month(month.group(1), month.group(2)) + month.group(2);
    }
    if (ALONE.matcher(text).matches()) {
      return month(text, "");
    }
    return isYear(text) ? text : other(text);
  }

  private static boolean isYear(String text) {
    return text.length() == 4 && YEAR.matcher(text).matches();
  }

  /** What says no month walks on until it still says none: so it never meets one that does. */
  private String other(String text) {
    String masked = text;
    do {
      masked = shape.apply(masked);
    } while (YEAR_FIRST.matcher(masked).matches()
        || MONTH_FIRST.matcher(masked).matches()
        || ALONE.matcher(masked).matches()
        || isYear(masked));
    return masked;
  }

  private String month(String month, String year) {
    String tweak = lastDigits(year);
    long masked = 1 + permutations.of(MONTHS, "month of " + tweak).of(Long.parseLong(month) - 1);
    return month.length() == 2 && masked < 10 ? "0" + masked : Long.toString(masked);
  }

  /** The last two digits of a year, of what stands around it none. */
  private static String lastDigits(String year) {
    StringBuilder digits = new StringBuilder();
    for (int i = year.length() - 1; i >= 0 && digits.length() < 2; i--) {
      char c = year.charAt(i);
      if (c >= '0' && c <= '9') {
        digits.append(c);
      }
    }
    return digits.reverse().toString();
  }
}
