package yemble.core.mask.shape;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.regex.Pattern;
import yemble.core.mask.Settings;

/**
 * What masked numbers or days stay between, both ends included.
 *
 * @param least null for no end
 * @param most null for no end
 * @param first null for no end
 * @param last null for no end
 */
public record Between(BigDecimal least, BigDecimal most, LocalDate first, LocalDate last) {
  /** No ends. */
  public static final Between ALL = new Between(null, null, null, null);

  private static final Pattern DAY = Pattern.compile("[0-9]{4}-[0-9]{2}-[0-9]{2}");

  /** As a rule says it. */
  public static Between of(Settings settings) {
    String least = settings.least();
    String most = settings.most();
    return new Between(number(least), number(most), day(least), day(most));
  }

  private static BigDecimal number(String written) {
    return written.isEmpty() || DAY.matcher(written).matches() ? null : new BigDecimal(written);
  }

  private static LocalDate day(String written) {
    return DAY.matcher(written).matches() ? LocalDate.parse(written) : null;
  }

  /** Whether a number lies between. */
  public boolean holds(BigDecimal number) {
    return (least == null || number.compareTo(least) >= 0)
        && (most == null || number.compareTo(most) <= 0);
  }

  /** Whether a day lies between. */
  public boolean holds(LocalDate day) {
    return (first == null || !day.isBefore(first)) && (last == null || !day.isAfter(last));
  }

  /** A number that lies between as it is, of any other the nearest end. */
  public BigDecimal nearest(BigDecimal number) {
    if (least != null && number.compareTo(least) < 0) {
      return least;
    }
    return most != null && number.compareTo(most) > 0 ? most : number;
  }

  /** A day that lies between as it is, of any other the nearest end. */
  public LocalDate nearest(LocalDate day) {
    if (first != null && day.isBefore(first)) {
      return first;
    }
    return last != null && day.isAfter(last) ? last : day;
  }
}
