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
  private static final long DRAWS = 1L << 40;
  private static final Pattern NUMBER = Pattern.compile("-?[0-9]{1,40}(\\.[0-9]{1,20})?");
  private final Prf prf;
  private final BigDecimal most;
  private final boolean percent;
  private final Spread spread;
  private final Between between;
  private final Mask other;

  /** How amounts are spread. */
  public enum Spread {
    /** All as often as each other. */
    EVEN,
    /** Small ones more often: a normal distribution of three deviations to each side. */
    NORMAL,
    /** Small ones by far more often: a Laplace distribution, cut where a hundredth lies beyond. */
    LAPLACE;

    /**
     * How much of the room a draw takes.
     *
     * @param drawn from 0 to 1, both excluded
     * @return from -1 to 1
     */
    double of(double drawn) {
      double side = drawn < 0.5 ? -1 : 1;
      double rest = 1 - Math.abs(2 * drawn - 1); // Of amounts at least as large.
      return switch (this) {
        case EVEN -> 2 * drawn - 1;
        case NORMAL -> side * Math.min(1, deviations(1 - rest / 2) / 3);
        case LAPLACE -> side * Math.min(1, Math.log(1 / rest) / Math.log(100));
      };
    }

    /**
     * How many deviations a normal draw lies above the mean: Abramowitz and Stegun (1964), 26.2.23,
     * off by less than 0.00045.
     *
     * @param share of draws below it, from 0.5 to 1
     */
    private static double deviations(double share) {
      double t = Math.sqrt(-2 * Math.log(Math.max(1e-12, 1 - share)));
      double z =
          t
              - (2.515517 + 0.802853 * t + 0.010328 * t * t)
                  / (1 + 1.432788 * t + 0.189269 * t * t + 0.001308 * t * t * t);
      return Math.max(0, z);
    }
  }

  /**
   * @param most the largest amount; in percent of the number, if {@code percent}
   * @param between what no number leaves
   * @param other the mask of what is no number
   */
  public NumberNoise(
      Prf prf, BigDecimal most, boolean percent, Spread spread, Between between, Mask other) {
    this.spread = spread;
    this.between = between;
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
    long moved = moved(number.stripTrailingZeros().toPlainString(), each);
    BigDecimal masked = number.add(unit.multiply(BigDecimal.valueOf(moved)));
    if (!fits(number, masked)) {
      masked = number.subtract(unit.multiply(BigDecimal.valueOf(moved)));
    }
    return fits(number, masked)
        ? masked.setScale(number.scale(), RoundingMode.DOWN).toPlainString()
        : nearest(number, moved, unit);
  }

  /** By how many units; never 0. */
  private long moved(String normal, long most) {
    if (spread == Spread.EVEN) {
      long drawn = prf.below(normal, 2 * most);
      return drawn < most ? drawn - most : drawn - most + 1;
    }
    double share = spread.of((prf.below(normal, DRAWS) + 0.5) / DRAWS);
    long units = Math.round(Math.abs(share) * most);
    return (share < 0 ? -1 : 1) * Math.max(1, units);
  }

  private boolean fits(BigDecimal number, BigDecimal masked) {
    return sameOrder(number, masked) && between.holds(masked);
  }

  /** Where neither side has room for the whole amount: halved until one has. */
  private String nearest(BigDecimal number, long moved, BigDecimal unit) {
    for (long less = moved / 2; less != 0; less /= 2) {
      for (long signed : new long[] {less, -less}) {
        BigDecimal masked = number.add(unit.multiply(BigDecimal.valueOf(signed)));
        if (fits(number, masked)) {
          return masked.setScale(number.scale(), RoundingMode.DOWN).toPlainString();
        }
      }
    }
    return between.nearest(number).toPlainString();
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
