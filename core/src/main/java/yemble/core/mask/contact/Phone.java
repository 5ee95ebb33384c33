package yemble.core.mask.contact;

import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.crypto.Permutation;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Shape;

/**
 * The mask of a telephone number: its last seven digits are permuted, everything before them, the
 * format and an extension stay. So country, area and type of line stay, and a number masks alike in
 * national and international form. Of a number below nine digits the first two stay. Of seven
 * digits a first one of 0 or 1 becomes 0 or 1, and any other none of these: no exchange of the
 * North American plan, nor of many others, begins with them.
 *
 * <p>Where the country is known, by a code behind {@code +} or {@code 00} or because the project
 * names the countries, the permutation is walked along until the result is a number of the same
 * sort of line, or, as the original, none at all, by the country's numbering plan. Without it the
 * national form of a number may therefore differ from the international one.
 *
 * <p>Where nobody must be called, the number becomes one that is kept free for films and books
 * ({@link NobodysNumbers}), or one that the country's plan has no number for.
 *
 * <p>Normal form: the digits without the extension. A bijection on the numbers that are read alike,
 * and none of these becomes one that is not; but where so few of a prefix are of one sort that none
 * is met within 100,000 steps, the first step counts, and two may meet.
 */
public final class Phone implements Mask {
  private static final Pattern EXTENSION =
      Pattern.compile("\\s*(?:x|ext\\.?|#|;ext=)\\s*[0-9]{1,6}\\s*$", Pattern.CASE_INSENSITIVE);
  private static final int MASKED = 7;
  private static final int LEAST = 3;
  private static final long[] POWERS = {1, 10, 100, 1_000, 10_000, 100_000, 1_000_000, 10_000_000};
  private static final int MOST_STEPS = 100_000;

  private final Prf prf;
  private final NobodysNumbers nobodys;
  private final Shape shape;
  private final List<NumberingPlan> plans;
  private final Permutation[] permutations = new Permutation[MASKED + 1];

  /**
   * @param countries whose numbers are written in national form, by their codes of ISO 3166
   * @param nobodys whether no number may be anybody's
   */
  public Phone(Prf prf, Shape shape, Set<String> countries, boolean nobodys) {
    this.nobodys = nobodys ? new NobodysNumbers(prf) : null;
    this.plans = plans(countries);
    this.prf = prf;
    this.shape = shape;
  }

  private static List<NumberingPlan> plans(Set<String> countries) {
    return countries.stream().sorted().map(NumberingPlan::of).filter(Objects::nonNull).toList();
  }

  /** Whether a text is a number in the national form of one of some countries. */
  public static boolean isNational(String text, Set<String> countries) {
    char[] digits = new char[text.length()];
    int length = 0;
    for (int i = 0; i < text.length(); i++) {
      if (isDigit(text.charAt(i))) {
        digits[length++] = text.charAt(i);
      }
    }
    return read(plans(countries), digits, length).sort() > 0;
  }

  @Override
  public boolean keepsDifferent() {
    return nobodys == null;
  }

  @Override
  public boolean mayMeet() {
    return true;
  }

  @Override
  public String apply(String text) {
    int end = end(text);
    char[] digits = new char[end];
    int[] places = new int[end];
    int length = 0;
    for (int i = 0; i < end; i++) {
      if (isDigit(text.charAt(i))) {
        places[length] = i;
        digits[length++] = text.charAt(i);
      }
    }
    if (length < LEAST) {
      return shape.apply(text);
    }
    mask(digits, length, codeAt(text, digits, length));
    char[] out = text.toCharArray();
    for (int i = 0; i < length; i++) {
      out[places[i]] = digits[i];
    }
    return new String(out);
  }

  /** How many digits stand before the country code; -1 if there is no sign of one. */
  private static int codeAt(String text, char[] digits, int length) {
    int first = 0;
    while (first < text.length() && (text.charAt(first) == ' ' || text.charAt(first) == '(')) {
      first++;
    }
    if (first < text.length() && text.charAt(first) == '+') {
      return 0;
    }
    return length > 2 && digits[0] == '0' && digits[1] == '0' ? 2 : -1;
  }

  /** The plan of the first country; null without any. */
  private NumberingPlan first() {
    return plans.isEmpty() ? null : plans.get(0);
  }

  /** Replaces the last digits in place. */
  private void mask(char[] digits, int length, int codeAt) {
    Reading original = read(digits, length, codeAt);
    NumberingPlan known = original.plan() == null && codeAt < 0 ? first() : original.plan();
    if (nobodys != null && known != null) {
      int national =
          original.plan() == null ? known.prefixLength(digits, 0, length) : original.national();
      nobodys.replace(known, digits, national, length);
      return;
    }
    int masked = Math.max(1, Math.min(MASKED, length - original.national() - 2));
    long size = POWERS[masked];
    long first = number(digits, length - masked, length);
    long number = first;
    for (int step = 0; step < MOST_STEPS; step++) {
      number = replaced(number, masked, size);
      write(number, digits, length - masked, length);
      if (read(digits, length, codeAt).equals(original)) {
        return;
      }
    }
    write(replaced(first, masked, size), digits, length - masked, length);
  }

  /**
   * What digits are read as: all that are read alike are permuted among themselves.
   *
   * @param plan of the country; null if none is known
   * @param national where the national number begins
   * @param sort of line, by the plan; 0 for no number
   */
  private record Reading(NumberingPlan plan, int national, int sort) {
    static final Reading UNKNOWN = new Reading(null, 0, 0);
  }

  /**
   * By the country code; without one by the first of the project's countries that has such a
   * number.
   */
  private Reading read(char[] digits, int length, int codeAt) {
    if (codeAt >= 0) {
      NumberingPlan plan = NumberingPlan.of(digits, codeAt, length);
      return plan == null
          ? Reading.UNKNOWN
          : read(plan, digits, codeAt + plan.codeLength(), length);
    }
    return read(plans, digits, length);
  }

  private static Reading read(List<NumberingPlan> plans, char[] digits, int length) {
    for (NumberingPlan plan : plans) {
      Reading reading = read(plan, digits, plan.prefixLength(digits, 0, length), length);
      if (reading.sort() > 0) {
        return reading;
      }
    }
    return Reading.UNKNOWN;
  }

  private static Reading read(NumberingPlan plan, char[] digits, int national, int length) {
    return new Reading(plan, national, plan.sort(digits, national, length));
  }

  private static long number(char[] digits, int from, int to) {
    long number = 0;
    for (int i = from; i < to; i++) {
      number = number * 10 + digits[i] - '0';
    }
    return number;
  }

  private static void write(long number, char[] digits, int from, int to) {
    long rest = number;
    for (int i = to - 1; i >= from; i--) {
      digits[i] = (char) ('0' + rest % 10);
      rest /= 10;
    }
  }

  /** Where the number ends and an extension begins. */
  private static int end(String text) {
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c == '#' || c == 'x' || c == 'X' || c == '=') {
        Matcher extension = EXTENSION.matcher(text);
        return extension.find() ? extension.start() : text.length();
      }
    }
    return text.length();
  }

  /** Of seven digits the first one stays below 2, or stays above it. */
  private long replaced(long number, int digits, long size) {
    if (digits < MASKED) {
      return permutation(digits, size).of(number);
    }
    long low = size / 5;
    if (number < low) {
      return permutation(0, low).of(number);
    }
    return low + permutation(MASKED, size - low).of(number - low);
  }

  private Permutation permutation(int digits, long size) {
    if (permutations[digits] == null) {
      permutations[digits] = prf.permutation(size, "last " + digits);
    }
    return permutations[digits];
  }

  private static boolean isDigit(char c) {
    return c >= '0' && c <= '9';
  }
}
