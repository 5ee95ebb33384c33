package yemble.core.mask.contact;

import com.google.i18n.phonenumbers.CountryCodeToRegionCodeMap;
import com.google.i18n.phonenumbers.PhoneNumberUtil;
import com.google.i18n.phonenumbers.Phonemetadata.PhoneMetadata;
import com.google.i18n.phonenumbers.Phonemetadata.PhoneMetadataCollection;
import com.google.i18n.phonenumbers.Phonemetadata.PhoneNumberDesc;
import java.io.IOException;
import java.io.InputStream;
import java.io.ObjectInputStream;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.atomic.AtomicReferenceArray;
import java.util.stream.Stream;
import yemble.core.pattern.FinitePattern;
import yemble.core.pattern.PatternProblem;

/**
 * Which numbers there are behind a country calling code (ITU-T E.164), and of which sort of line
 * each is, by the metadata of libphonenumber. Its version is pinned with the mask version, as its
 * patterns change with the countries' plans. All patterns of a code are made one machine, since
 * asking the library itself would take longer than all the rest of the mask.
 *
 * <p>Immutable; plans are made when they are first asked for, and shared by all threads.
 */
public final class NumberingPlan {
  private static final String DATA = "/com/google/i18n/phonenumbers/data/PhoneNumberMetadataProto_";
  private static final Map<Integer, List<String>> REGIONS =
      CountryCodeToRegionCodeMap.getCountryCodeToRegionCodeMap();
  private static final int CODES = 1_000;
  private static final AtomicReferenceArray<NumberingPlan> PLANS =
      new AtomicReferenceArray<>(CODES);
  private static final String NOWHERE = "001";
  private static final int MOST_SORTS = 16;
  private static final int LONGEST_CODE = 3;
  private static final int DIGITS = 10;
  private static final char[] NO_EMERGENCY = "2345678".toCharArray();
  private static final char[] ANY_DIGIT = "2345678019".toCharArray();

  private final int code;
  private final String prefix;

  /** Where each digit leads from each state; -1 for nowhere. */
  private final int[] next;

  /** Which sort of line a number has that ends in a state; 0 for no number. */
  private final int[] sorts;

  /** The patterns of a country: of all its numbers, and of each sort of line. */
  private record Region(FinitePattern all, List<FinitePattern> sorts) {
    static Region of(PhoneMetadata data) {
      return new Region(
          pattern(data.getGeneralDesc()),
          Stream.of(
                  data.getMobile(),
                  data.getFixedLine(),
                  data.getPremiumRate(),
                  data.getTollFree(),
                  data.getSharedCost(),
                  data.getVoip(),
                  data.getPersonalNumber(),
                  data.getPager(),
                  data.getUan(),
                  data.getVoicemail())
              .map(Region::pattern)
              .toList());
    }

    private static FinitePattern pattern(PhoneNumberDesc sort) {
      String written = sort.getNationalNumberPattern();
      try {
        return FinitePattern.parse(written.isEmpty() || written.equals("NA") ? "x" : written);
      } catch (PatternProblem e) {
        throw new IllegalStateException("a pattern of libphonenumber: " + written, e);
      }
    }

    /**
     * The sort of what matches these patterns: one that has a rate or a use of its own, then what
     * is a mobile's or a fixed line's number, or may be either.
     */
    int sort(boolean isAny, boolean[] is) {
      if (!isAny) {
        return 0;
      }
      for (int i = 2; i < is.length; i++) {
        if (is[i]) {
          return i + 2;
        }
      }
      return (is[0] ? 1 : 0) + (is[1] ? 2 : 0);
    }
  }

  private NumberingPlan(int code) {
    this.code = code;
    List<Region> regions = new ArrayList<>();
    String first = "";
    for (String region : REGIONS.get(code)) {
      PhoneMetadata data = data(region.equals(NOWHERE) ? Integer.toString(code) : region);
      first = regions.isEmpty() && data.hasNationalPrefix() ? data.getNationalPrefix() : first;
      regions.add(Region.of(data));
    }
    this.prefix = first;
    List<FinitePattern> patterns = new ArrayList<>();
    for (Region region : regions) {
      patterns.add(region.all());
      patterns.addAll(region.sorts());
    }
    Map<List<Integer>, Integer> numbers = new HashMap<>();
    List<List<Integer>> states = new ArrayList<>();
    states.add(Collections.nCopies(patterns.size(), 0));
    numbers.put(states.get(0), 0);
    List<int[]> steps = new ArrayList<>();
    for (int state = 0; state < states.size(); state++) {
      int[] step = new int[DIGITS];
      for (int digit = 0; digit < DIGITS; digit++) {
        step[digit] = number(step(patterns, states.get(state), digit), numbers, states);
      }
      steps.add(step);
    }
    this.next = steps.stream().flatMapToInt(Arrays::stream).toArray();
    this.sorts = states.stream().mapToInt(state -> sort(regions, patterns, state)).toArray();
  }

  /** Where a digit leads from a state of each pattern. */
  private static List<Integer> step(List<FinitePattern> patterns, List<Integer> from, int digit) {
    List<Integer> to = new ArrayList<>(patterns.size());
    for (int i = 0; i < patterns.size(); i++) {
      int state = from.get(i);
      to.add(state < 0 ? -1 : patterns.get(i).next(state, (char) ('0' + digit)));
    }
    return to;
  }

  /** The number of what is a state of each pattern; a new one if it was not met; -1 for none. */
  private static int number(
      List<Integer> state, Map<List<Integer>, Integer> numbers, List<List<Integer>> states) {
    if (state.stream().allMatch(one -> one < 0)) {
      return -1;
    }
    Integer number = numbers.putIfAbsent(state, states.size());
    if (number == null) {
      states.add(state);
      return states.size() - 1;
    }
    return number;
  }

  private static int sort(List<Region> regions, List<FinitePattern> patterns, List<Integer> state) {
    int at = 0;
    for (int r = 0; r < regions.size(); r++) {
      boolean[] is = new boolean[regions.get(r).sorts().size() + 1];
      for (int i = 0; i < is.length; i++, at++) {
        is[i] = state.get(at) >= 0 && patterns.get(at).isEnd(state.get(at));
      }
      int sort = regions.get(r).sort(is[0], Arrays.copyOfRange(is, 1, is.length));
      if (sort > 0) {
        return r * MOST_SORTS + sort;
      }
    }
    return 0;
  }

  private static PhoneMetadata data(String name) {
    try (InputStream in = PhoneNumberUtil.class.getResourceAsStream(DATA + name);
        ObjectInputStream objects = new ObjectInputStream(in)) {
      PhoneMetadataCollection all = new PhoneMetadataCollection();
      all.readExternal(objects);
      return all.getMetadataList().get(0);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** The plan of the country code that digits begin with; null if there is none. */
  static NumberingPlan of(char[] digits, int from, int to) {
    int code = 0;
    for (int i = from; i < to && i < from + LONGEST_CODE; i++) {
      code = code * 10 + digits[i] - '0';
      NumberingPlan plan = PLANS.get(code);
      if (plan != null || REGIONS.containsKey(code)) {
        return plan != null ? plan : made(code);
      }
    }
    return null;
  }

  /** The plan of a country, by its code of ISO 3166; null if there is none. */
  static NumberingPlan of(String country) {
    return REGIONS.entrySet().stream()
        .filter(entry -> entry.getValue().get(0).equals(country))
        .findFirst()
        .map(entry -> made(entry.getKey()))
        .orElse(null);
  }

  /** The plan of a code; two threads may make the same one at the same time. */
  private static NumberingPlan made(int code) {
    if (PLANS.get(code) == null) {
      PLANS.set(code, new NumberingPlan(code));
    }
    return PLANS.get(code);
  }

  /** All country calling codes. */
  public static Iterable<Integer> codes() {
    return REGIONS.keySet();
  }

  /** The country calling code. */
  int code() {
    return code;
  }

  /**
   * The fewest first digits that no number of the country has, the first one none with which the
   * numbers of emergency calls begin.
   *
   * @param most how many digits at most
   * @return empty if all beginnings of as many digits are somebody's
   */
  String beginningOfNone(int most) {
    Map<Integer, String> reached = new LinkedHashMap<>(Map.of(0, ""));
    Set<Integer> seen = new HashSet<>(reached.keySet());
    for (int length = 1; length <= most; length++) {
      Map<Integer, String> further = new LinkedHashMap<>();
      for (Map.Entry<Integer, String> from : reached.entrySet()) {
        for (char digit : length == 1 ? NO_EMERGENCY : ANY_DIGIT) {
          int to = next[from.getKey() * DIGITS + digit - '0'];
          if (to < 0) {
            return from.getValue() + digit;
          }
          if (seen.add(to)) {
            further.put(to, from.getValue() + digit);
          }
        }
      }
      reached = further;
    }
    return "";
  }

  /** How many digits the country code has. */
  int codeLength() {
    return Integer.toString(code).length();
  }

  /** How many digits stand before a national number where it is dialled within the country. */
  int prefixLength(char[] digits, int from, int to) {
    boolean begins = prefix.length() < to - from;
    for (int i = 0; begins && i < prefix.length(); i++) {
      begins = digits[from + i] == prefix.charAt(i);
    }
    return begins ? prefix.length() : 0;
  }

  /**
   * Which sort of line a national number has, and in which of the countries that share the code.
   *
   * @return 0 for a number that there is not
   */
  int sort(char[] digits, int from, int to) {
    int state = 0;
    for (int i = from; i < to; i++) {
      state = next[state * DIGITS + digits[i] - '0'];
      if (state < 0) {
        return 0;
      }
    }
    return sorts[state];
  }

  @Override
  public String toString() {
    return "+" + code + " " + Arrays.toString(REGIONS.get(code).toArray());
  }
}
