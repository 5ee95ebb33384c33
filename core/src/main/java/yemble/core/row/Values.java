package yemble.core.row;

import java.math.BigDecimal;

/** Values as text: one spelling for one value, whatever engine holds it. */
public final class Values {
  private Values() {}

  /**
   * The text of a value that is neither null nor binary. A floating-point number is written
   * plainly, without an exponent, with the fewest digits that tell it from its neighbours; a whole
   * one without a fraction.
   */
  public static String text(Object value) {
    if (value instanceof Double number) {
      return plain(number);
    }
    return value.toString();
  }

  private static String plain(double number) {
    if (Double.isNaN(number) || Double.isInfinite(number)) {
      return Double.toString(number);
    }
    BigDecimal decimal = new BigDecimal(Double.toString(number)).stripTrailingZeros();
    return decimal.scale() < 0 ? decimal.setScale(0).toPlainString() : decimal.toPlainString();
  }
}
