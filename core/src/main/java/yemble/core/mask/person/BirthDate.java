package yemble.core.mask.person;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.crypto.Permutation;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Memo;
import yemble.core.mask.shape.Shape;

/**
 * The mask of a birth date: a permutation of the days of its year, so that different dates stay
 * different and the year stays.
 *
 * <p>A year is split where an age limit falls at the project's {@code as-of}, so that an adult
 * stays an adult; a piece of less than thirty days goes with the neighbouring year. Days up to the
 * 12th of a month are permuted among themselves, and so are the others: a date whose day and month
 * cannot be told apart stays valid either way it is read.
 *
 * <p>Understood: {@code 1990-12-31}, {@code 19901231}, {@code 31.12.1990}, {@code 31/12/1990} (or
 * {@code 12/31/1990} where that is the only possible reading), each with anything behind it; the
 * rest is masked by its shape.
 */
public final class BirthDate implements Mask {
  private static final int[] AGE_LIMITS = {12, 14, 16, 18, 21, 65};
  private static final int LEAST_DAYS = 30;
  private static final Pattern ISO =
      Pattern.compile("([0-9]{4})(-?)([0-9]{2})\\2([0-9]{2})(?![0-9])");
  private static final Pattern EUROPEAN =
      Pattern.compile("([0-9]{1,2})([./-])([0-9]{1,2})\\2([0-9]{4})(?![0-9])");

  private final Prf prf;
  private final LocalDate asOf;
  private final Shape shape;
  private final Map<Integer, java.util.List<LocalDate>> limits = new HashMap<>();
  private final Map<LocalDate, Block> blocks = new HashMap<>();
  private final Memo memo;
  private final Map<LocalDate, LocalDate> known = new HashMap<>();

  public BirthDate(Prf prf, LocalDate asOf, Shape shape) {
    this.prf = prf;
    this.memo = new Memo(prf, 17);
    this.asOf = asOf;
    this.shape = shape;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public String apply(String text) {
    return memo.get(text, this::computed);
  }

  private String computed(String text) {
    Matcher iso = ISO.matcher(text);
    if (iso.lookingAt()) {
      LocalDate date = date(iso.group(1), iso.group(3), iso.group(4));
      if (date != null) {
        LocalDate masked = masked(date);
        String dash = iso.group(2);
        StringBuilder out = new StringBuilder(text.length());
        digits(out, masked.getYear(), 4).append(dash);
        digits(out, masked.getMonthValue(), 2).append(dash);
        return digits(out, masked.getDayOfMonth(), 2)
            .append(text, iso.end(), text.length())
            .toString();
      }
    }
    Matcher european = EUROPEAN.matcher(text);
    if (european.lookingAt()) {
      String masked = european(european);
      if (masked != null) {
        return masked + text.substring(european.end());
      }
    }
    return shape.apply(text);
  }

  /** A number with so many digits, zeros in front. */
  private static StringBuilder digits(StringBuilder out, int number, int length) {
    for (int place = length == 4 ? 1000 : 10; place > 0; place /= 10) {
      out.append((char) ('0' + number / place % 10));
    }
    return out;
  }

  private String european(Matcher found) {
    LocalDate date = date(found.group(4), found.group(3), found.group(1));
    boolean monthFirst = date == null;
    if (monthFirst) {
      date = date(found.group(4), found.group(1), found.group(3));
    }
    if (date == null) {
      return null;
    }
    LocalDate masked = masked(date);
    int first = monthFirst ? masked.getMonthValue() : masked.getDayOfMonth();
    int second = monthFirst ? masked.getDayOfMonth() : masked.getMonthValue();
    boolean padded = found.group(1).length() == 2 && found.group(3).length() == 2;
    String format = padded ? "%02d%s%02d%s%04d" : "%d%s%d%s%04d";
    return String.format(format, first, found.group(2), second, found.group(2), masked.getYear());
  }

  /** The date, or null where there is none or no person alive could have been born on it. */
  private static LocalDate date(String year, String month, String day) {
    int y = Integer.parseInt(year);
    if (y < 1850 || y > 2150) {
      return null;
    }
    try {
      return LocalDate.of(y, Integer.parseInt(month), Integer.parseInt(day));
    } catch (DateTimeException e) {
      return null;
    }
  }

  /** Where a date goes. */
  public LocalDate masked(LocalDate date) {
    LocalDate masked = known.get(date);
    if (masked == null || !prf.isRepeatable()) {
      masked = computed(date);
      known.put(date, masked);
    }
    return masked;
  }

  private LocalDate computed(LocalDate date) {
    LocalDate start = LocalDate.of(date.getYear(), 1, 1);
    for (LocalDate limit : limits(date.getYear())) {
      if (!date.isBefore(limit)) {
        start = limit;
      }
    }
    LocalDate from = mergedBack(start);
    return blocks.computeIfAbsent(from, f -> new Block(f, end(f))).of(date);
  }

  /** The days of a year on which a person reaches an age limit one day after as-of. */
  private java.util.List<LocalDate> limits(int year) {
    return limits.computeIfAbsent(year, this::computedLimits);
  }

  private java.util.List<LocalDate> computedLimits(int year) {
    java.util.List<LocalDate> limits = new java.util.ArrayList<>();
    for (int age : AGE_LIMITS) {
      LocalDate limit = asOf.minusYears(age).plusDays(1);
      if (limit.getYear() == year) {
        limits.add(limit);
      }
    }
    java.util.Collections.sort(limits);
    return limits;
  }

  /** The start of the block that the days from {@code start} belong to. */
  private LocalDate mergedBack(LocalDate start) {
    boolean yearStart = start.getDayOfYear() == 1;
    if (yearStart && tooShort(start, limits(start.getYear()))) {
      return mergedBack(lastStart(start.getYear() - 1));
    }
    return start;
  }

  private static boolean tooShort(LocalDate start, java.util.List<LocalDate> limits) {
    return !limits.isEmpty()
        && ChronoUnit.DAYS.between(start, limits.get(0)) < LEAST_DAYS
        && !limits.get(0).equals(start);
  }

  private LocalDate lastStart(int year) {
    java.util.List<LocalDate> limits = limits(year);
    return limits.isEmpty() ? LocalDate.of(year, 1, 1) : limits.get(limits.size() - 1);
  }

  /** The day after the last one of the block that begins on {@code from}. */
  private LocalDate end(LocalDate from) {
    for (LocalDate day = from.plusDays(1); ; day = day.plusDays(1)) {
      boolean limit = limits(day.getYear()).contains(day);
      boolean newYear = day.getDayOfYear() == 1;
      if (limit || (newYear && !tooShort(day, limits(day.getYear())))) {
        return day;
      }
    }
  }

  /** Days that are permuted among themselves, those up to a 12th apart from the others. */
  private final class Block {
    private final LocalDate from;
    private final int[] place;
    private final int[][] days = new int[2][];
    private final Permutation[] permutations = new Permutation[2];

    Block(LocalDate from, LocalDate to) {
      this.from = from;
      this.place = new int[(int) ChronoUnit.DAYS.between(from, to)];
      permute(0, true);
      permute(1, false);
    }

    private void permute(int part, boolean early) {
      days[part] =
          java.util.stream.IntStream.range(0, place.length)
              .filter(day -> isEarly(day) == early)
              .toArray();
      for (int i = 0; i < days[part].length; i++) {
        place[days[part][i]] = i;
      }
      if (days[part].length > 0) {
        permutations[part] =
            prf.permutation(days[part].length, from + (early ? " early" : " late"));
      }
    }

    private boolean isEarly(int day) {
      return from.plusDays(day).getDayOfMonth() <= 12;
    }

    LocalDate of(LocalDate date) {
      int day = (int) ChronoUnit.DAYS.between(from, date);
      int part = isEarly(day) ? 0 : 1;
      return from.plusDays(days[part][(int) permutations[part].of(place[day])]);
    }
  }
}
