package yemble.core.mask.id;

import java.time.DateTimeException;
import java.time.LocalDate;

/** How a number holds the day its owner was born. */
interface Birth {
  /** The day in a number of the form; null if there is no such day. */
  LocalDate read(String text);

  /** The number with another day in it. */
  String write(String text, LocalDate day);

  /** A day of the calendar; null if there is none. */
  static LocalDate day(int year, int month, int day) {
    try {
      return LocalDate.of(year, month, day);
    } catch (DateTimeException e) {
      return null;
    }
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
}
