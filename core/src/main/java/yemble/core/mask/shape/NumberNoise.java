package yemble.core.mask.shape;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.math.RoundingMode;
import java.util.regex.Pattern;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;

/**
 * The mask that moves a number by an amount drawn from its value. Sign, number of digits, digits
 * behind the point and zeros at the end stay as they are, as far as the amount leaves room: 1,500
 * becomes another multiple of a hundred. Zero stays zero in percent. What is no number is masked by
 * its shape.
 *
 * <p>Normal form: the number without zeros in front and behind the point.
 */
public final class NumberNoise implements Mask {
  private static final Pattern NUMBER = Pattern.compile("-?[0-9]{1,40}(\\.[0-9]{1,20})?");
  private final Prf prf;
  private final BigDecimal most;
  private final boolean percent;
  private final Mask other;

  /**
   * @param most the largest amount; in percent of the number, if {@code percent}
   * @param other the mask of what is no number
   */
  public NumberNoise(Prf prf, BigDecimal most, boolean percent, Mask other) {
    this.prf = prf;
    this.most = most;
    this.percent = percent;
    this.other = other;
  }

  @Override
  public boolean keepsDifferent() {
    return false;
  }

  @Override
  public String apply(String text) {
    if (!NUMBER.matcher(text).matches()) {
      return other.apply(text);
    }
    BigDecimal number = new BigDecimal(text);
    BigDecimal room = percent ? number.abs().multiply(most).movePointLeft(2) : most;
    BigDecimal unit = unit(number, room);
    BigInteger steps = room.divideToIntegralValue(unit).toBigInteger();
    if (steps.signum() == 0) {
      return text;
    }
    long each = steps.bitLength() > 60 ? 1L << 60 : steps.longValue();
    long drawn = prf.below(number.stripTrailingZeros().toPlainString(), 2 * each);
    long moved = drawn < each ? drawn - each : drawn - each + 1;
    BigDecimal masked = number.add(unit.multiply(BigDecimal.valueOf(moved)));
    if (!sameOrder(number, masked)) {
      masked = number.subtract(unit.multiply(BigDecimal.valueOf(moved)));
    }
    return sameOrder(number, masked)
        ? masked.setScale(number.scale(), RoundingMode.DOWN).toPlainString()
        : nearest(number, moved, unit);
  }

  /** Where neither side has room for the whole amount: halved until one has. */
  private static String nearest(BigDecimal number, long moved, BigDecimal unit) {
    for (long less = moved / 2; less != 0; less /= 2) {
      for (long signed : new long[] {less, -less}) {
        BigDecimal masked = number.add(unit.multiply(BigDecimal.valueOf(signed)));
        if (sameOrder(number, masked)) {
          return masked.setScale(number.scale(), RoundingMode.DOWN).toPlainString();
        }
      }
    }
    return number.toPlainString();
  }

  private static boolean sameOrder(BigDecimal one, BigDecimal other) {
    return one.signum() == other.signum()
        && one.precision() - one.scale() == other.precision() - other.scale();
  }

  /** The last place that counts: zeros at the end are kept if the amount is larger than them. */
  private static BigDecimal unit(BigDecimal number, BigDecimal room) {
    BigDecimal unit = BigDecimal.ONE.scaleByPowerOfTen(-number.scale());
    BigInteger digits = number.unscaledValue();
    while (digits.signum() != 0
        && digits.mod(BigInteger.TEN).signum() == 0
        && unit.movePointRight(1).compareTo(room) <= 0) {
      digits = digits.divide(BigInteger.TEN);
      unit = unit.movePointRight(1);
    }
    return unit;
  }
}
