package yemble.core.official;

import java.time.LocalDate;
import java.time.YearMonth;
import java.util.function.ToIntFunction;

/** How a number holds the day its owner was born. */
public interface Birth {
  /** The day in a number of the form; null if there is no such day. */
  LocalDate read(String text);

  /** The number with another day in it. */
  String write(String text, LocalDate day);

  /** A day of the calendar; null if there is none. */
  static LocalDate day(int year, int month, int day) {
    boolean exists =
        month >= 1 && month <= 12 && day >= 1 && day <= YearMonth.of(year, month).lengthOfMonth();
    return exists ? LocalDate.of(year, month, day) : null; // Failures would cost far more.
  }

  /** A text with two digits put in at a place. */
  static String put(String text, int at, int number) {
    String digits = number % 100 < 10 ? "0" + number % 100 : "" + number % 100;
    return text.substring(0, at) + digits + text.substring(at + 2);
  }

  /** Two digits of a text. */
  static int two(String text, int at) {
    return (text.charAt(at) - '0') * 10 + text.charAt(at + 1) - '0';
  }

  /**
   * A day whose parts stand in two digits each.
   *
   * @param century that of a text as 1900; -1 if there is none
   */
  static Birth at(int year, int month, int day, ToIntFunction<String> century) {
    return new Birth() {
      @Override
      public LocalDate read(String text) {
        int first = century.applyAsInt(text);
        return first < 0 ? null : day(first + two(text, year), two(text, month), two(text, day));
      }

      @Override
      public String write(String text, LocalDate date) {
        String out = put(text, year, date.getYear());
        out = put(out, month, date.getMonthValue());
        return put(out, day, date.getDayOfMonth());
      }
    };
  }

  /** The century of two digits of a year, none of which lies behind a day. */
  static ToIntFunction<String> latest(int year, LocalDate asOf) {
    return text -> two(text, year) <= asOf.getYear() % 100 ? 2000 : 1900;
  }

  /** Days that stand as DDMMYY at the beginning, and a century that stands elsewhere. */
  abstract class DayMonthYear implements Birth {
    /** The century as 1900; -1 if there is none. */
    abstract int century(String text);

    @Override
    public LocalDate read(String text) {
      int century = century(text);
      return century < 0
          ? null
          : Birth.day(century + Birth.two(text, 4), Birth.two(text, 2), Birth.two(text, 0));
    }

    @Override
    public String write(String text, LocalDate day) {
      String out = Birth.put(text, 0, day.getDayOfMonth());
      out = Birth.put(out, 2, day.getMonthValue());
      return Birth.put(out, 4, day.getYear());
    }
  }
}
