package yemble.core.plan;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import yemble.core.kind.Kinds;
import yemble.core.kind.Traits;
import yemble.core.mask.Vocabulary;
import yemble.core.mask.person.GivenNames;
import yemble.core.mask.person.GivenNames.Gender;
import yemble.core.mask.shape.NameForm;
import yemble.core.row.Values;
import yemble.core.wording.Sentence;

/**
 * How many rows say of themselves what does not go together, and did not say so before: a name of
 * the other gender than the column beside it, an address that held a name of its row and does not
 * any more, a town that is not that of the other rows of its postal area, an age that does not
 * follow the day of birth. Knows nothing of masks: what a value of a gender column means it learns
 * from the names beside it, as they were.
 *
 * <p>Of places as many areas are remembered as {@value #MOST_AREAS}; rows of others are not looked
 * at.
 */
public final class Agreement {
  private static final int MOST_AREAS = 200_000;
  private static final int MOST_GENDERS = 32;
  private static final int FEWEST_NAMES = 5;
  private static final double MOST_OF = 0.8;
  private static final int SHORTEST_NAME = 3;
  private static final Pattern WORD_ENDS = Pattern.compile("[^\\p{L}\\p{M}'’]+");
  private static final Pattern YEAR =
      Pattern.compile("(?<![0-9])(1[89][0-9]{2}|20[0-9]{2})(?![0-9])");
  private static final Pattern AGE = Pattern.compile("[0-9]{1,3}");
  private static final Gender[] GENDERS = Gender.values();

  private final Kinds kinds;
  private final Map<TablePlan, List<Pair>> pairs = new IdentityHashMap<>();

  public Agreement(Kinds kinds) {
    this.kinds = kinds;
  }

  /** Two columns of a table, of which one at least is masked. */
  private abstract static class Pair {
    final String column;
    final String other;
    private long looked;
    private long disagreeing;

    Pair(String column, String other) {
      this.column = column;
      this.other = other;
    }

    abstract void row(Object[] before, Object[] after);

    /**
     * Counts a row of which both columns hold what can be compared.
     *
     * @param parted whether the two do not go together, and did before
     */
    void count(boolean parted) {
      looked++;
      disagreeing += parted ? 1 : 0;
    }

    /** How many rows were counted. */
    long looked() {
      return looked;
    }

    /** In how many of them the two do not go together, and did before. */
    long disagreeing() {
      return disagreeing;
    }
  }

  /**
   * Looks at a row.
   *
   * @param before as the source has it
   * @param after what it becomes
   */
  public void row(TablePlan plan, Object[] before, Object[] after) {
    pairs.computeIfAbsent(plan, this::pairs).forEach(pair -> pair.row(before, after));
  }

  private List<Pair> pairs(TablePlan plan) {
    List<Pair> found = new ArrayList<>();
    int[] names = positions(plan, c -> c.masked() && kinds.isName(c.kind()));
    int[] given =
        IntStream.of(names)
            .filter(i -> kinds.part(plan.columns().get(i).kind()) != Traits.Part.FAMILY)
            .toArray();
    for (int gender : positions(plan, c -> traits(c).gender())) {
      for (int name : given) {
        found.add(new Genders(title(plan, name), title(plan, gender), name, gender));
      }
    }
    for (int address : positions(plan, c -> c.masked() && traits(c).ofNames())) {
      if (names.length > 0) {
        found.add(new Addresses(title(plan, address), title(plan, names[0]), address, names));
      }
    }
    for (int code : positions(plan, c -> traits(c).area() == Traits.Area.CODE)) {
      for (int place : positions(plan, c -> traits(c).area() == Traits.Area.WITHIN)) {
        if (isMasked(plan, code) || isMasked(plan, place)) {
          found.add(new Places(title(plan, place), title(plan, code), place, code));
        }
      }
    }
    for (int day : positions(plan, c -> traits(c).born() == Traits.Born.DAY)) {
      for (int age : positions(plan, c -> traits(c).born() == Traits.Born.YEARS)) {
        if (isMasked(plan, day) || isMasked(plan, age)) {
          found.add(new Ages(title(plan, age), title(plan, day), age, day));
        }
      }
    }
    return found;
  }

  private Traits traits(TablePlan.ColumnPlan column) {
    return kinds.traits(column.kind());
  }

  private static boolean isMasked(TablePlan plan, int position) {
    return plan.columns().get(position).masked();
  }

  private static int[] positions(TablePlan plan, Predicate<TablePlan.ColumnPlan> wanted) {
    return IntStream.range(0, plan.columns().size())
        .filter(i -> !plan.columns().get(i).isJson() && wanted.test(plan.columns().get(i)))
        .toArray();
  }

  private static String title(TablePlan plan, int position) {
    return plan.table().name(plan.columns().get(position).column()).toString();
  }

  /** How many pairs of columns were looked at. */
  public int pairs() {
    return (int) all().stream().filter(pair -> pair.looked() > 0).count();
  }

  /** In how many rows a pair of columns was looked at, all pairs together. */
  public long looked() {
    return all().stream().mapToLong(Pair::looked).sum();
  }

  /** In how many of them the two do not go together, and did before. */
  public long disagreeing() {
    return all().stream().mapToLong(Pair::disagreeing).sum();
  }

  /** A line for each pair of which rows do not go together any more, by column. */
  public List<Sentence> lines() {
    Map<String, Sentence> lines = new TreeMap<>();
    for (Pair pair : all()) {
      if (pair.disagreeing() > 0) {
        lines.put(
            pair.column + " " + pair.other,
            LimitWording.DISAGREE
                .of(pair.disagreeing(), pair.looked(), pair.other)
                .about(pair.column));
      }
    }
    return List.copyOf(lines.values());
  }

  private List<Pair> all() {
    return pairs.values().stream().flatMap(List::stream).toList();
  }

  private static String text(Object value) {
    return value == null || value instanceof byte[] ? "" : Values.text(value).strip();
  }

  /** The words of a name, in their normal forms, long enough to be met by more than chance. */
  private static Set<String> words(Object name) {
    Set<String> words = new HashSet<>();
    for (String word : WORD_ENDS.split(text(name))) {
      String form = NameForm.of(word);
      if (form.length() >= SHORTEST_NAME) {
        words.add(form);
      }
    }
    return words;
  }

  /** A name and what says its bearer's gender. */
  private static final class Genders extends Pair {
    private final int name;
    private final int gender;

    /** By the value of the gender column: how many names were of which gender, and became. */
    private final Map<String, long[]> counts = new HashMap<>();

    Genders(String column, String other, int name, int gender) {
      super(column, other);
      this.name = name;
      this.gender = gender;
    }

    @Override
    void row(Object[] before, Object[] after) {
      String is = text(after[gender]);
      if (is.isEmpty() || (counts.size() >= MOST_GENDERS && !counts.containsKey(is))) {
        return;
      }
      int was = of(before[name]).ordinal();
      int became = of(after[name]).ordinal();
      counts
          .computeIfAbsent(is, v -> new long[GENDERS.length * GENDERS.length])[
          was * GENDERS.length + became]++;
    }

    /** That of the first word of which it is known. */
    private static Gender of(Object name) {
      for (String word : WORD_ENDS.split(text(name))) {
        Gender known = GivenNames.gender(NameForm.of(word));
        if (known != Gender.UNKNOWN) {
          return known;
        }
      }
      return Gender.UNKNOWN;
    }

    private static long count(long[] counts, Gender was, Gender became) {
      return counts[was.ordinal() * GENDERS.length + became.ordinal()];
    }

    private static long were(long[] counts, Gender was) {
      long sum = 0;
      for (Gender became : GENDERS) {
        sum += count(counts, was, became);
      }
      return sum;
    }

    /** Whose value it is; of nobody's if the names beside it do not tell. */
    private static Gender meaning(long[] counts) {
      long women = were(counts, Gender.FEMALE);
      long men = were(counts, Gender.MALE);
      if (women + men < FEWEST_NAMES) {
        return Gender.UNKNOWN;
      }
      double share = (double) women / (women + men);
      return share >= MOST_OF ? Gender.FEMALE : share <= 1 - MOST_OF ? Gender.MALE : Gender.UNKNOWN;
    }

    @Override
    long looked() {
      long sum = 0;
      for (long[] of : counts.values()) {
        sum +=
            meaning(of) == Gender.UNKNOWN
                ? 0
                : IntStream.range(0, of.length).mapToLong(i -> of[i]).sum();
      }
      return sum;
    }

    @Override
    long disagreeing() {
      long sum = 0;
      for (long[] of : counts.values()) {
        Gender meant = meaning(of);
        if (meant != Gender.UNKNOWN) {
          Gender opposite = meant == Gender.FEMALE ? Gender.MALE : Gender.FEMALE;
          sum += count(of, meant, opposite) + count(of, Gender.UNKNOWN, opposite);
        }
      }
      return sum;
    }
  }

  /** An address or a login, and the names of its row. */
  private static final class Addresses extends Pair {
    private final int address;
    private final int[] names;

    Addresses(String column, String other, int address, int[] names) {
      super(column, other);
      this.address = address;
      this.names = names;
    }

    @Override
    void row(Object[] before, Object[] after) {
      if (!text(after[address]).isEmpty() && holds(before)) {
        count(!holds(after));
      }
    }

    private boolean holds(Object[] row) {
      String text = text(row[address]);
      int at = text.indexOf('@');
      String local =
          NameForm.of((at < 0 ? text : text.substring(0, at)).replaceAll("[^\\p{L}\\p{M}]", ""));
      for (int name : local.isEmpty() ? new int[0] : names) {
        if (words(row[name]).stream().anyMatch(local::contains)) {
          return true;
        }
      }
      return false;
    }
  }

  /** A place, and the code of its area. */
  private static final class Places extends Pair {
    private final int place;
    private final int code;
    private final Map<String, String> were = new HashMap<>();
    private final Map<String, String> are = new HashMap<>();

    Places(String column, String other, int place, int code) {
      super(column, other);
      this.place = place;
      this.code = code;
    }

    @Override
    void row(Object[] before, Object[] after) {
      if (text(before[place]).isEmpty() || text(before[code]).isEmpty()) {
        return;
      }
      Boolean went = together(were, before);
      Boolean goes = together(are, after);
      if (went != null && goes != null) {
        count(went && !goes);
      }
    }

    /** Whether the place is that of the first row of the area; null if the area is not known. */
    private Boolean together(Map<String, String> known, Object[] row) {
      String area = Vocabulary.postalArea(text(row[code]));
      String named = text(row[place]);
      if (known.size() >= MOST_AREAS && !known.containsKey(area)) {
        return null;
      }
      return known.computeIfAbsent(area, a -> named).equals(named);
    }
  }

  /** An age, and a day of birth. */
  private static final class Ages extends Pair {
    private final int age;
    private final int day;

    Ages(String column, String other, int age, int day) {
      super(column, other);
      this.age = age;
      this.day = day;
    }

    @Override
    void row(Object[] before, Object[] after) {
      int was = year(before);
      int is = year(after);
      if (was > 0 && is > 0) {
        count(Math.abs(was - is) > 1); // Before or after the birthday: a year more or less.
      }
    }

    /** In which year the age was right; 0 if that cannot be said. */
    private int year(Object[] row) {
      String years = text(row[age]);
      Matcher born = YEAR.matcher(text(row[day]));
      return AGE.matcher(years).matches() && born.find()
          ? Integer.parseInt(born.group(1)) + Integer.parseInt(years)
          : 0;
    }
  }
}
