package yemble.core.verify;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import yemble.core.kind.Kind;
import yemble.core.kind.Kind.Form;
import yemble.core.kind.Kinds;
import yemble.core.mask.JsonText;
import yemble.core.mask.Vocabulary;
import yemble.core.plan.TablePlan;
import yemble.core.plan.TablePlan.ColumnPlan;
import yemble.core.store.Digest;
import yemble.core.store.Values;

/**
 * What the proof remembers of the source while it is read: fingerprints of what tells a person, and
 * what stood in masked texts before and still does. Values themselves are not kept.
 */
final class Remembered {
  private static final Set<String> GIVEN = Set.of("given-name");
  private static final Set<String> FAMILY = Set.of("family-name");
  private static final Pattern CAPITALS =
      Pattern.compile("(\\p{Lu}[\\p{L}\\p{M}'’-]+)[ ,]{1,2}(?=(\\p{Lu}[\\p{L}\\p{M}'’-]+))");
  private static final Set<String> NAMES =
      Set.of("given-name", "family-name", "full-name", "name-family-first");
  private static final Set<String> ORDINARY = Vocabulary.ordinary();
  private static final Pattern CAPITAL =
      Pattern.compile("(?<![\\p{L}\\p{M}])\\p{Lu}[\\p{L}\\p{M}]{2,}(?![\\p{L}\\p{M}@])");
  private static final long SPREAD = 0x9e3779b97f4a7c15L;
  private static final int MOST_STAYED = 200_000;
  static final int MOST_LENGTH = 24;

  private final Digest digest = new Digest();
  private final Kinds kinds;
  private final Originals originals = new Originals();
  private final List<String> columns = new ArrayList<>();
  private final Map<TablePlan, Watch> watches = new IdentityHashMap<>();
  private final Map<Form, long[]> known = new EnumMap<>(Form.class);
  private final Map<String, Map<Long, Long>> stayed = new TreeMap<>();
  private final Map<String, Long> own = new TreeMap<>();

  Remembered(Kinds kinds) {
    this.kinds = kinds;
  }

  /** What is looked for of a table's columns, by their positions. */
  private final class Watch {
    private final TablePlan plan;
    private final int[] numbers;
    private final Form[] forms;
    private final int[] names;
    private final int[] texts;
    private int given = -1;
    private int family = -1;

    Watch(TablePlan plan) {
      this.plan = plan;
      this.numbers = new int[plan.columns().size()];
      this.forms = new Form[numbers.length];
      for (int i = 0; i < numbers.length; i++) {
        ColumnPlan column = plan.columns().get(i);
        numbers[i] = column.masked() ? number(plan.table().name(column.column()).toString()) : -1;
        forms[i] = original(column).form();
        given = column.masked() && GIVEN.contains(column.kind()) ? i : given;
        family = column.masked() && FAMILY.contains(column.kind()) ? i : family;
      }
      this.names = positions(column -> column.masked() && NAMES.contains(column.kind()));
      this.texts = positions(column -> column.isText() || column.holdsText());
    }

    private int[] positions(Predicate<ColumnPlan> wanted) {
      return IntStream.range(0, numbers.length)
          .filter(i -> wanted.test(plan.columns().get(i)))
          .toArray();
    }
  }

  /** Beyond as many columns as have a number, the last one stands for all others. */
  private int number(String column) {
    if (columns.size() < Short.MAX_VALUE) {
      columns.add(column);
    }
    return columns.size() - 1;
  }

  /** How originals of a column are known again; plain if it is not masked. */
  Kind.Original original(ColumnPlan column) {
    return column.masked() ? kinds.original(column.kind()) : Kind.Original.PLAIN;
  }

  private Form form(String kind) {
    return kinds.original(kind).form();
  }

  /**
   * A row of the source with what it becomes.
   *
   * @param before in the form in which the target is compared
   */
  void row(TablePlan plan, Object[] before, Object[] after) {
    Watch watch = watches.computeIfAbsent(plan, Watch::new);
    for (int i = 0; i < before.length; i++) {
      ColumnPlan column = plan.columns().get(i);
      if (!column.masked() || before[i] == null) {
        continue;
      }
      boolean excluded = !column.rule().when().isEmpty() && before[i].equals(after[i]);
      if (column.isText()) {
        stays(watch, i, before[i], after[i]);
      } else if (column.isJson()) {
        json(watch, i, before[i]);
        stays(watch, i, before[i], after[i]);
      } else if (!excluded && !(before[i] instanceof byte[])) {
        int number = watch.numbers[i];
        Traces.ofOriginal(
            watch.forms[i], Values.text(before[i]), (form, text) -> remember(form, text, number));
      }
    }
    if (watch.names.length > 0 && watch.texts.length > 0) {
      ownNames(watch, before, after);
    }
    if (watch.given >= 0 && watch.family >= 0) {
      boolean both = before[watch.given] != null && before[watch.family] != null;
      boolean changed =
          both
              && !before[watch.given].equals(after[watch.given])
              && !before[watch.family].equals(after[watch.family]);
      if (changed) {
        Traces.ofName(
            before[watch.given].toString(),
            before[watch.family].toString(),
            (form, text) -> remember(form, text, watch.numbers[watch.family]));
      }
    }
  }

  /** Names of the row that stood in its own texts, and still do: with a capital, as whole words. */
  private void ownNames(Watch watch, Object[] before, Object[] after) {
    Set<String> names = names(watch, before, after);
    for (int position : names.isEmpty() ? new int[0] : watch.texts) {
      if (before[position] instanceof String was && after[position] instanceof String is) {
        Set<String> there = words(was);
        there.retainAll(names);
        there.retainAll(words(is));
        if (!there.isEmpty()) {
          own.merge(columns.get(watch.numbers[position]), 1L, Long::sum);
        }
      }
    }
  }

  /** The words with a capital of a row's masked names that the mask takes away. */
  private static Set<String> names(Watch watch, Object[] before, Object[] after) {
    Set<String> names = new HashSet<>();
    for (int position : watch.names) {
      boolean changed = before[position] != null && !before[position].equals(after[position]);
      if (changed) {
        Matcher word = CAPITAL.matcher(before[position].toString());
        while (word.find()) {
          if (!ORDINARY.contains(word.group().toLowerCase(Locale.ROOT))) {
            names.add(word.group());
          }
        }
        Matcher own = CAPITAL.matcher(String.valueOf(after[position]));
        while (own.find()) {
          names.remove(own.group()); // The mask made it, by chance.
        }
      }
    }
    return names;
  }

  /**
   * Names of a row that should not stand in its masked texts; empty where it has none of either.
   */
  Set<String> ownNames(TablePlan plan, Object[] before, Object[] after) {
    Watch watch = watches.computeIfAbsent(plan, Watch::new);
    return watch.texts.length == 0 ? Set.of() : names(watch, before, after);
  }

  /** Counts the masked texts of a row of the target in which its own names stand. */
  void ownNamesIn(TablePlan plan, Set<String> names, Object[] found) {
    Watch watch = watches.computeIfAbsent(plan, Watch::new);
    for (int position : watch.texts) {
      if (found[position] instanceof String is && words(is).stream().anyMatch(names::contains)) {
        own.merge(columns.get(watch.numbers[position]), 1L, Long::sum);
      }
    }
  }

  private static Set<String> words(String text) {
    Set<String> words = new HashSet<>();
    Matcher word = CAPITAL.matcher(text);
    while (word.find()) {
      words.add(word.group());
    }
    return words;
  }

  private void remember(Form form, String text, int column) {
    if (originals.add(print(form, text), column)) {
      known.computeIfAbsent(form, f -> new long[MOST_LENGTH + 1])[length(text)]++;
    }
  }

  static int length(String text) {
    return Math.min(MOST_LENGTH, text.length());
  }

  private long print(Form form, String text) {
    return digest.of(text) ^ (form.ordinal() + 1) * SPREAD;
  }

  private void json(Watch watch, int position, Object before) {
    ColumnPlan column = watch.plan.columns().get(position);
    JsonText.walk(
        before.toString(),
        (path, value, string, from, to) -> {
          TablePlan.PathPlan plan = column.paths().get(path);
          if (plan != null && plan.masked()) {
            Traces.ofOriginal(
                form(plan.kind()),
                value,
                (form, text) -> remember(form, text, watch.numbers[position]));
          }
        });
  }

  /** Pairs of words with capitals that stand in a text before and after. */
  private void stays(Watch watch, int position, Object before, Object after) {
    if (!(before instanceof String was) || !(after instanceof String is)) {
      return;
    }
    Set<Long> there = pairs(was);
    if (there.isEmpty()) {
      return;
    }
    there.retainAll(pairs(is));
    Map<Long, Long> counts =
        stayed.computeIfAbsent(columns.get(watch.numbers[position]), c -> new HashMap<>());
    for (Long pair : there) {
      if (counts.size() < MOST_STAYED || counts.containsKey(pair)) {
        counts.merge(pair, 1L, Long::sum);
      }
    }
  }

  private Set<Long> pairs(String text) {
    Set<Long> pairs = new HashSet<>();
    Matcher matcher = CAPITALS.matcher(text);
    while (matcher.find()) {
      String pair = matcher.group(1) + " " + matcher.group(2);
      pairs.add(print(Form.NAME, pair.toLowerCase(Locale.ROOT)));
    }
    return pairs;
  }

  /** How many originals there are, and of how many one is looked for. */
  Originals originals() {
    return originals;
  }

  /** The masked column that an original comes from; empty for what is none. */
  Optional<String> origin(Form form, String text) {
    if (!known.containsKey(form)) {
      return Optional.empty();
    }
    int column = originals.column(print(form, text));
    return column < 0 ? Optional.empty() : Optional.of(columns.get(column));
  }

  /** How many originals of a form have a length; lengths from {@link #MOST_LENGTH} on are one. */
  long known(Form form, int length) {
    long[] lengths = known.get(form);
    return lengths == null ? 0 : lengths[length];
  }

  /** How many originals of a form there are. */
  long known(Form form) {
    return LongStream.of(known.getOrDefault(form, new long[0])).sum();
  }

  /** In how many texts of each column a name of their own row stayed. */
  Map<String, Long> own() {
    return own;
  }

  /**
   * Full names that stood in masked texts and still do.
   *
   * @return for each column of texts, in how many of them names of which column stayed
   */
  Map<String, Map<String, Long>> stayed() {
    Map<String, Map<String, Long>> found = new TreeMap<>();
    stayed.forEach(
        (column, pairs) ->
            pairs.forEach(
                (pair, texts) -> {
                  int origin = originals.column(pair);
                  if (origin >= 0) {
                    found
                        .computeIfAbsent(column, c -> new TreeMap<>())
                        .merge(columns.get(origin), texts, Long::sum);
                  }
                }));
    return found;
  }
}
