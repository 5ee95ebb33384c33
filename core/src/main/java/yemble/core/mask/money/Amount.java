package yemble.core.mask.money;

import java.math.BigDecimal;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Between;
import yemble.core.mask.shape.NumberNoise;

/**
 * The mask of amounts of pay: another one not farther away than a fifth, rounded as it was ({@link
 * NumberNoise}). Digits in groups and a currency beside them stay where they are.
 *
 * <p>Normal form: the number without zeros in front and behind the point.
 */
public final class Amount implements Mask {
  private static final BigDecimal MOST = BigDecimal.valueOf(20);
  private static final Pattern GROUPED =
      Pattern.compile(
          "([^0-9]*)([0-9]{1,3}(?:([ .,'’\u00a0\u202f])[0-9]{3})(?:\\3[0-9]{3})*|[0-9]+)"
              + "(?:([.,])([0-9]{1,2}))?([^0-9]*)");

  private final NumberNoise near;

  /**
   * @param other the mask of what is no amount
   */
  public Amount(Prf prf, Mask other) {
    this.near = new NumberNoise(prf, MOST, true, NumberNoise.Spread.EVEN, Between.ALL, other);
  }

  @Override
  public boolean keepsDifferent() {
    return false;
  }

  @Override
  public String apply(String text) {
    Matcher amount = GROUPED.matcher(text);
    boolean written =
        amount.matches()
            && (amount.group(3) != null
                || ",".equals(amount.group(4))
                || !amount.group(1).isBlank()
                || !amount.group(6).isBlank());
    if (!written || amount.group(1).endsWith("-")) {
      return near.apply(text);
    }
    String whole = amount.group(2).replaceAll("[^0-9]", "");
    String masked = near.apply(whole + (amount.group(5) == null ? "" : "." + amount.group(5)));
    String digits = masked.replace(".", "");
    StringBuilder out = new StringBuilder(text);
    int next = 0;
    for (int i = amount.start(2); i < amount.start(6); i++) {
      boolean digit = out.charAt(i) >= '0' && out.charAt(i) <= '9';
      if (digit && next < digits.length()) {
        out.setCharAt(i, digits.charAt(next++));
      }
    }
    return out.toString();
  }
}
