package yemble.core.mask.shape;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.crypto.Permutations;

/**
 * The shape of a day from 1800 to 2199, {@code 2024-05-06}, alone or with a time behind it: the
 * days of a century are permuted among themselves, and so are the seconds of a day, or its minutes
 * where seconds are missing, and the digits of a fraction. What says the zone stays.
 */
final class CalendarShape {
  private static final Pattern MOMENT =
      Pattern.compile(
          "([0-9]{4})-([0-9]{2})-([0-9]{2})"
              + "(?:([ T])([0-9]{2}):([0-9]{2})(?::([0-9]{2})(?:\\.([0-9]{1,9}))?)?)?"
              + "( ?Z|[+-][0-9]{2}(?::?[0-9]{2})?)?");
  private static final int MINUTES = 1_440;
  private static final int FIRST_YEAR = 1_800;
  private static final int LAST_YEAR = 2_200;

  private final Permutations permutations;

  CalendarShape(Permutations permutations) {
    this.permutations = permutations;
  }

  /** A look at a few characters, which keeps other texts from costing more. */
  static boolean looksLikeOne(String text) {
    return text.length() >= 10 && text.charAt(4) == '-' && text.charAt(7) == '-';
  }

  /** The mask of a text; null if it is no day of the calendar. */
  String apply(String text) {
    Matcher found = MOMENT.matcher(text);
    if (!found.matches()) {
      return null;
    }
    LocalDate day;
    try {
      day = LocalDate.of(number(found, 1), number(found, 2), number(found, 3));
    } catch (DateTimeException noDay) {
      return null;
    }
    if (day.getYear() < FIRST_YEAR || day.getYear() >= LAST_YEAR) {
      return null;
    }
    LocalDate first = LocalDate.of(day.getYear() / 100 * 100, 1, 1);
    LocalDate next = LocalDate.of(day.getYear() / 100 * 100 + 100, 1, 1);
    long days = next.toEpochDay() - first.toEpochDay();
    long moved =
        permutations.of(days, "days of " + first).of(day.toEpochDay() - first.toEpochDay());
    StringBuilder out = new StringBuilder(text.length());
    out.append(first.plusDays(moved));
    if (found.group(4) != null) {
      if (number(found, 5) > 23 || number(found, 6) > 59 || number(found, 7) > 59) {
        return null;
      }
      time(out.append(found.group(4)), found);
    }
    return out.append(found.group(9) == null ? "" : found.group(9)).toString();
  }

  private void time(StringBuilder out, Matcher found) {
    int minute = number(found, 5) * 60 + number(found, 6);
    if (found.group(7) == null) {
      long masked = permutations.of(MINUTES, "minutes").of(minute);
      two(out, masked / 60).append(':');
      two(out, masked % 60);
      return;
    }
    long masked = permutations.of(MINUTES * 60L, "seconds").of(minute * 60L + number(found, 7));
    two(out, masked / 3_600).append(':');
    two(out, masked / 60 % 60).append(':');
    two(out, masked % 60);
    String fraction = found.group(8);
    if (fraction != null) {
      long size = (long) Math.pow(10, fraction.length());
      String digits =
          Long.toString(permutations.of(size, "fraction " + size).of(Long.parseLong(fraction)));
      out.append('.').append("0".repeat(fraction.length() - digits.length())).append(digits);
    }
  }

  private static int number(Matcher found, int group) {
    return found.group(group) == null ? 0 : Integer.parseInt(found.group(group));
  }

  private static StringBuilder two(StringBuilder out, long number) {
    return out.append((char) ('0' + number / 10)).append((char) ('0' + number % 10));
  }
}
