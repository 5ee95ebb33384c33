package yemble.core.mask.step;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Between;

/**
 * The mask that moves a day, or a day with a time, by an amount drawn from its value. A number of
 * whole days leaves the time of day alone; and the first and the last day of a month stay a first
 * and a last one. What is no date is masked by its shape.
 *
 * <p>Normal form: the text.
 */
public final class DateShift implements Mask {
  private static final Pattern DATE =
      Pattern.compile(
          "([0-9]{4})-([0-9]{2})-([0-9]{2})(?:([ T])([0-9]{2}):([0-9]{2})(?::([0-9]{2}))?)?");
  private static final int LENGTH_OF_DAY = "2000-12-31".length();
  private static final long DAY = 86_400;

  private final Prf prf;
  private final long unit;
  private final long most;
  private final Between between;
  private final Mask other;

  /**
   * @param seconds how far at the most
   * @param between what no day leaves
   * @param other the mask of what is no date
   */
  DateShift(Prf prf, long seconds, Between between, Mask other) {
    this.between = between;
    this.prf = prf;
    this.unit = seconds % DAY == 0 ? DAY : 60;
    this.most = seconds / unit;
    this.other = other;
  }

  @Override
  public boolean keepsDifferent() {
    return false;
  }

  @Override
  public String apply(String text) {
    long amount = amount(text);
    for (long less = amount; less != 0; less = less / 2 / unit * unit) {
      for (long signed : new long[] {less, -less}) {
        String moved = moved(text, signed, true);
        if (holds(moved)) {
          return moved;
        }
      }
    }
    LocalDate day = day(text);
    return day == null
        ? moved(text, amount, true)
        : between.nearest(day) + text.substring(LENGTH_OF_DAY);
  }

  /** Whether a day lies where it may; what is no day does. */
  public boolean holds(String text) {
    LocalDate day = day(text);
    return day == null || between.holds(day);
  }

  private static LocalDate day(String text) {
    try {
      return DATE.matcher(text).lookingAt()
          ? LocalDate.parse(text.substring(0, LENGTH_OF_DAY))
          : null;
    } catch (DateTimeException noDay) {
      return null;
    }
  }

  /** The seconds that what depends on a text moves by; never 0. */
  public long amount(String text) {
    long drawn = prf.below(text, 2 * most);
    return unit * (drawn < most ? drawn - most : drawn - most + 1);
  }

  /**
   * A text moved by an amount.
   *
   * @param marked whether first and last days of months stay such
   */
  public String moved(String text, long seconds, boolean marked) {
    Matcher found = DATE.matcher(text);
    if (!found.lookingAt()) {
      return other.apply(text);
    }
    try {
      LocalDate day =
          LocalDate.of(
              Integer.parseInt(found.group(1)),
              Integer.parseInt(found.group(2)),
              Integer.parseInt(found.group(3)));
      return found.group(4) == null
          ? moved(day, seconds, marked) + text.substring(found.end())
          : withTime(found, day, seconds, marked) + text.substring(found.end());
    } catch (DateTimeException noDay) {
      return other.apply(text);
    }
  }

  private static String withTime(Matcher found, LocalDate day, long seconds, boolean marked) {
    LocalTime time =
        LocalTime.of(Integer.parseInt(found.group(5)), Integer.parseInt(found.group(6)));
    LocalDate masked;
    LocalTime at = time;
    if (seconds % DAY == 0) {
      masked = moved(day, seconds, marked);
    } else {
      LocalDateTime moved = LocalDateTime.of(day, time).plusSeconds(seconds);
      masked = moved.toLocalDate();
      at = moved.toLocalTime();
    }
    String rest = found.group(7) == null ? "" : ":" + found.group(7);
    return masked + found.group(4) + at.truncatedTo(ChronoUnit.MINUTES) + rest;
  }

  private static LocalDate moved(LocalDate day, long seconds, boolean marked) {
    long days = (Math.abs(seconds) + DAY - 1) / DAY * Long.signum(seconds);
    LocalDate moved = day.plusDays(days);
    if (marked && day.getDayOfMonth() == 1) {
      return moved.withDayOfMonth(1);
    }
    return marked && day.getDayOfMonth() == day.lengthOfMonth()
        ? moved.withDayOfMonth(moved.lengthOfMonth())
        : moved;
  }
}
