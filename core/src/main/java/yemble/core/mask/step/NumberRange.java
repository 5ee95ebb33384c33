package yemble.core.mask.step;

import java.math.BigDecimal;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;

/**
 * The mask that puts a number drawn from a range, both ends included, in the place of a value.
 *
 * <p>Normal form: trimmed.
 */
final class NumberRange implements Mask {
  private final Prf prf;
  private final BigDecimal from;
  private final BigDecimal unit;
  private final long steps;

  NumberRange(Prf prf, BigDecimal from, BigDecimal to) {
    this.prf = prf;
    int scale = Math.max(from.scale(), to.scale());
    this.from = from.setScale(scale);
    this.unit = BigDecimal.ONE.scaleByPowerOfTen(-scale);
    BigDecimal width = to.subtract(from).divideToIntegralValue(unit);
    this.steps = width.compareTo(BigDecimal.valueOf(1L << 60)) > 0 ? 1L << 60 : width.longValue();
  }

  @Override
  public boolean keepsDifferent() {
    return false;
  }

  @Override
  public String apply(String text) {
    long drawn = prf.below(text.strip(), steps + 1);
    return from.add(unit.multiply(BigDecimal.valueOf(drawn))).toPlainString();
  }
}
