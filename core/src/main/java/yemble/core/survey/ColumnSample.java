package yemble.core.survey;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Pattern;
import yemble.core.kind.Kind;
import yemble.core.kind.TypeSort;
import yemble.core.mask.text.BytesText;
import yemble.core.recognition.BytesFormat;
import yemble.core.recognition.Hits;
import yemble.core.recognition.Look;
import yemble.core.recognition.Looks;
import yemble.core.recognition.Mentioned;
import yemble.core.recognition.TextFormat;
import yemble.core.recognition.Value;
import yemble.core.row.Values;
import yemble.core.wording.Sentence;

/**
 * What the sampled values of one column, or of one path inside it, say: what the check of each kind
 * makes of them, and figures that need no dictionary. Counts alone are kept; the values themselves
 * only until they have been counted, or, where somebody asked to see some, a few of them.
 */
final class ColumnSample {
  private static final Pattern CODE = Pattern.compile("[A-Za-z0-9 ._/-]{1,20}");
  private static final int LONGEST_NAME = 120;
  private static final int MOST_SPACES = 9;

  /** More spaces than full names have. */
  private static final int MOST_NAMES = 5;

  /** After so many different values the checks that none of them concerned are left out. */
  private static final int ENOUGH = 200;

  private static final int BATCH = 5_000;
  private static final long MOST_WAITING = 2_000_000;
  private static final int MANY_DIFFERENT = 100_000;
  private static final int LONGEST = 20_000;
  private static final int CLIPPED = 4_000;
  private static final int KEPT = 400;
  private static final int SHORTEST_HOLDING = 8;
  private static final int FEWEST_DATES = 5;
  private static final int OLD = 50;
  private static final int GENERATION = 20;
  private static final int FIRST_YEAR = 1880;

  /** Values are told apart, so that it can be said how many come how often, up to so many. */
  private static final int MANY_COUNTED = 2_000;

  private static final double MOSTLY = 0.95;
  private static final int FEWEST_NUMBERED = 20;
  private static final double NUMBERED = 0.9;
  private static final int LONG_BEGINNING = 5;

  /** The check of a kind, and what it said. */
  record Checked(Kind kind, Look look, Hits hits) {}

  private final List<Checked> checks = new ArrayList<>();
  private final List<Checked> active;
  private final Set<String> spokenFor;
  private final boolean binary;
  private int looked;
  private long waitingLetters;
  private final Mentioned mentioned;
  private final boolean keep;
  private final Map<String, Integer> waiting = new HashMap<>();
  private final List<String> kept = new ArrayList<>();
  private final Set<Integer> different = new HashSet<>();
  private final Map<String, Long> mentions = new TreeMap<>();
  private final TreeMap<Integer, Long> years = new TreeMap<>();
  private final Map<String, Long> counted = new HashMap<>();
  private final Shapes shapes = new Shapes();
  private final Forms forms = new Forms();
  private String beginning;

  private final Map<String, Long> formats = new TreeMap<>();
  private final Map<String, Long> opaqueFormats = new TreeMap<>();
  private long opaque;
  private long inBytes;
  private long values;
  private long givenFirst;
  private long familyFirst;
  private long codes;
  private long plain;
  private long dates;
  private long mentioning;
  private long holdingLogins;
  private long fractions;
  private double least = Double.POSITIVE_INFINITY;
  private double most = Double.NEGATIVE_INFINITY;
  private long numbers;

  /**
   * @param sort what the column's type holds: checks of kinds that do not suit it are left out
   * @param name of the column, or the last step of the path: checks of kinds that it speaks for see
   *     every value
   * @param keep whether a few values are kept to be shown
   */
  ColumnSample(Checks checks, TypeSort sort, String name, boolean keep) {
    this.binary = sort == TypeSort.BINARY;
    this.spokenFor = checks.names().of(name).keySet();
    for (Kind kind : checks.kinds().all()) {
      Look look = checks.look(kind);
      if (look != null && (kind.suits(sort) || sort == TypeSort.BINARY)) {
        this.checks.add(new Checked(kind, look, new Hits()));
      }
    }
    this.active = new ArrayList<>(this.checks);
    this.mentioned = checks.mentioned();
    this.keep = keep;
  }

  /** Adds a value as a reader shows it. */
  void add(Object value) {
    if (value == null) {
      return;
    }
    Optional<String> read = read(value);
    if (read.isEmpty()) {
      return;
    }
    String text = read.get().strip();
    if (text.isEmpty()) {
      return;
    }
    values++;
    String clipped = text.length() > LONGEST ? text.substring(0, CLIPPED) : text;
    if (waiting.merge(clipped, 1, Integer::sum) == 1) {
      waitingLetters += clipped.length();
    }
    if (waiting.size() >= BATCH || waitingLetters >= MOST_WAITING) {
      flush();
    }
  }

  /** A value as text; bytes as the text that lies in them, if one does. */
  private Optional<String> read(Object value) {
    if (!(value instanceof byte[] bytes)) {
      inBytes += binary ? 1 : 0;
      return Optional.of(Values.text(value));
    }
    Optional<String> text = BytesText.of(bytes).map(BytesText::text);
    if (text.isEmpty() && bytes.length > 0) {
      opaque++;
      BytesFormat.of(bytes).ifPresent(format -> opaqueFormats.merge(format, 1L, Long::sum));
    }
    inBytes += text.isPresent() ? 1 : 0;
    return text;
  }

  /** What the bytes that hold no text are, as far as that is known: how many of each. */
  Map<String, Long> opaqueFormats() {
    return opaqueFormats;
  }

  /** How many values are bytes that hold no text. */
  long opaque() {
    return opaque;
  }

  /** How many values are texts in bytes. */
  long inBytes() {
    return inBytes;
  }

  /** In how many values there is more than words, by what it is: XML, serialised objects … */
  Map<String, Long> formats() {
    return formats;
  }

  /** In how many values known given names tell that the given name comes first. */
  long givenFirst() {
    return givenFirst;
  }

  /** In how many they tell that the family name does. */
  long familyFirst() {
    return familyFirst;
  }

  /** Looks at the values that wait; to be called once more at the end. */
  void flush() {
    waiting.forEach(this::look);
    waiting.clear();
    waitingLetters = 0;
  }

  private void look(String text, int times) {
    if (different.size() < MANY_DIFFERENT) {
      different.add(text.hashCode());
    }
    if (keep && kept.size() < KEPT) {
      kept.add(text);
    }
    String folded = text.toLowerCase(Locale.ROOT);
    if (counted.size() < MANY_COUNTED || counted.containsKey(folded)) {
      counted.merge(folded, (long) times, Long::sum);
    }
    shapes.add(text, times);
    beginning = beginning == null ? text : common(beginning, text);
    TextFormat.of(text).ifPresent(format -> formats.merge(format, (long) times, Long::sum));
    Value value = Value.of(text);
    forms.add(value, times);
    plain += value.digits() == text.length() ? times : 0;
    codes += CODE.matcher(text).matches() ? times : 0;
    if (value.letters() == 0 && value.digits() > 0 && text.length() <= 20) {
      number(text, times);
    }
    if (value.digits() >= 6 && value.digits() <= 20) {
      day(text, times);
    }
    if (value.spaces() >= 1 && value.spaces() <= MOST_NAMES && value.digits() == 0) {
      int order = Looks.nameOrder(value);
      givenFirst += order > 0 ? times : 0;
      familyFirst += order < 0 ? times : 0;
    }
    holdingLogins += value.spaces() == 0 && mentioned.holdsLogin(text) ? times : 0;
    if (value.spaces() >= 2 || text.length() >= SHORTEST_HOLDING) {
      Set<String> kinds = value.spaces() >= 2 ? mentioned.kinds(text) : mentioned.amongSigns(text);
      mentioning += kinds.isEmpty() ? 0 : times;
      kinds.forEach(kind -> mentions.merge(kind, (long) times, Long::sum));
    }
    boolean prose = text.length() > LONGEST_NAME || value.spaces() > MOST_SPACES;
    if (++looked == ENOUGH) {
      active.removeIf(check -> !spokenFor.contains(check.kind().name()) && check.hits().isEmpty());
    }
    for (Checked check : active) {
      if (!prose || check.kind().look().longTexts()) {
        check.hits().weight(times);
        check.look().at(value, check.hits());
      }
    }
  }

  private void day(String text, int times) {
    Looks.date(text)
        .ifPresent(
            date -> {
              dates += times;
              years.merge(date.getYear(), (long) times, Long::sum);
            });
  }

  private void number(String text, int times) {
    try {
      double number = Double.parseDouble(text);
      numbers += times;
      least = Math.min(least, number);
      most = Math.max(most, number);
      fractions += text.indexOf('.') > 0 && text.length() - text.indexOf('.') > 3 ? times : 0;
    } catch (NumberFormatException e) {
      // Signs between the digits: no number.
    }
  }

  /** How many values there were, empty ones left out. */
  long values() {
    return values;
  }

  List<Checked> checks() {
    return checks;
  }

  /** What the check of a kind said; null if the kind was not looked for. */
  Hits hits(String kind) {
    for (Checked check : checks) {
      if (check.kind().name().equals(kind)) {
        return check.hits();
      }
    }
    return null;
  }

  int different() {
    return different.size();
  }

  /** The share of the values that are different from all others; 0 without values. */
  double distinctness() {
    return values == 0 ? 0 : Math.min(1, (double) different.size() / values);
  }

  private static String common(String one, String other) {
    int same = 0;
    while (same < one.length() && same < other.length() && one.charAt(same) == other.charAt(same)) {
      same++;
    }
    return same == one.length() ? one : one.substring(0, same);
  }

  /**
   * Whether all values are different and begin alike, by letters or many digits: numbers that
   * somebody counts, rather than such as people are given by others.
   */
  boolean isNumbered() {
    return different() >= FEWEST_NUMBERED
        && distinctness() > NUMBERED
        && (beginning.chars().filter(Character::isLetter).count() >= 2
            || beginning.length() >= LONG_BEGINNING && beginning.charAt(0) != '+');
  }

  /**
   * How many different values hold nearly all of it, whatever their case: a few misspelt ones do
   * not count.
   */
  int mostly() {
    List<Long> counts = new ArrayList<>(counted.values());
    counts.sort(Comparator.reverseOrder());
    long held = 0;
    int many = 0;
    for (long count : counts) {
      if (held >= MOSTLY * values) {
        break;
      }
      held += count;
      many++;
    }
    return held >= MOSTLY * values ? many : Math.max(many, different());
  }

  /** What nearly all values are, if they are no words. */
  Optional<Sentence> form() {
    return forms.usual(values).map(form -> form.wording().of(forms.of(form), values));
  }

  /** What most values look like: see {@link Shapes}. */
  List<String> shapes() {
    return forms.usual(values).filter(form -> !Forms.Form.VARIED.contains(form)).isPresent()
        ? List.of()
        : shapes.usual(values);
  }

  /** Whether all values are short and few different ones come again and again. */
  boolean isCodes() {
    return values > 0
        && codes == values
        && different() <= 15
        && different() <= Math.max(1, values / 4);
  }

  /** Whether nearly all values are days. */
  boolean areDays() {
    return values > 0 && dates >= MOSTLY * values;
  }

  /** Whether all values are digits and nothing else. */
  boolean arePlainDigits() {
    return values > 0 && plain == values;
  }

  /** Whether all values are short, of letters, digits and a few signs. */
  boolean areAllCodes() {
    return values > 0 && codes == values;
  }

  /** How many values mention somebody or something personal. */
  long mentioning() {
    return mentioning;
  }

  /** How many values are paths or addresses of pages that hold a login. */
  long holdingLogins() {
    return holdingLogins;
  }

  /** What they mention, with how many values do. */
  Map<String, Long> mentions() {
    return mentions;
  }

  /** The share of numbers with three or more places behind the point. */
  double fine() {
    return numbers == 0 ? 0 : (double) fractions / numbers;
  }

  double least() {
    return least;
  }

  double most() {
    return most;
  }

  /** Whether most values are days, and enough of them to say something of their spread. */
  boolean hasDates() {
    return dates >= FEWEST_DATES && dates * 2 > values;
  }

  /**
   * Whether days, or numbers that could be years, lie as birthdays do: over twenty years and more,
   * some of them fifty years back.
   *
   * @param now this year
   */
  boolean reachFarBack(int now) {
    if (hasDates()) {
      return year(0.1) <= now - OLD && year(0.9) - year(0.1) >= GENERATION;
    }
    return numbers == values
        && least >= FIRST_YEAR
        && least <= now - OLD
        && most <= now
        && most - least >= GENERATION;
  }

  /** The year before which a share of the days lies. */
  int year(double share) {
    long before = 0;
    for (Map.Entry<Integer, Long> year : years.entrySet()) {
      before += year.getValue();
      if (before >= share * dates) {
        return year.getKey();
      }
    }
    return years.lastKey();
  }

  /** Values that the check of a kind accepts and refuses, as far as some were kept. */
  Finding.Examples examples(String kind, int most) {
    List<String> accepted = new ArrayList<>();
    List<String> refused = new ArrayList<>();
    for (Checked check : checks) {
      if (check.kind().name().equals(kind)) {
        for (String text : kept) {
          Hits hits = new Hits();
          check.look().at(Value.of(text), hits);
          List<String> list = hits.accepted() > 0 ? accepted : refused;
          if (list.size() < most) {
            list.add(text);
          }
        }
      }
    }
    if (accepted.isEmpty() && refused.isEmpty()) {
      kept.stream().limit(most).forEach(accepted::add);
    }
    return new Finding.Examples(accepted, refused);
  }
}
