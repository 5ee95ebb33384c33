package yemble.core.verify;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.LongStream;
import yemble.core.kind.Kind;
import yemble.core.kind.Kind.Form;
import yemble.core.kind.Kinds;
import yemble.core.kind.Traits;
import yemble.core.mark.Digest;
import yemble.core.mask.MaskRule;
import yemble.core.mask.text.JsonText;
import yemble.core.plan.TablePlan;
import yemble.core.plan.TablePlan.ColumnPlan;
import yemble.core.row.Values;

/**
 * What the proof remembers of the source while it is read: fingerprints of what tells a person, and
 * what stood in masked texts before and still does. Values themselves are not kept.
 */
final class Remembered {
  private static final Pattern CAPITALS =
      Pattern.compile("(\\p{Lu}[\\p{L}\\p{M}'’-]+)[ ,]{1,2}(?=(\\p{Lu}[\\p{L}\\p{M}'’-]+))");
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

  Remembered(Kinds kinds) {
    this.kinds = kinds;
  }

  /** What is looked for of a table's columns, by their positions. */
  private final class Watch {
    private final TablePlan plan;
    private final int[] numbers;
    private final Form[][] forms;
    private int given = -1;
    private int family = -1;

    Watch(TablePlan plan) {
      this.plan = plan;
      this.numbers = new int[plan.columns().size()];
      this.forms = new Form[numbers.length][];
      for (int i = 0; i < numbers.length; i++) {
        ColumnPlan column = plan.columns().get(i);
        numbers[i] = column.masked() ? number(plan.table().name(column.column()).toString()) : -1;
        forms[i] = forms(column).toArray(Form[]::new);
        given = column.masked() && kinds.part(column.kind()) == Traits.Part.GIVEN ? i : given;
        family = column.masked() && kinds.part(column.kind()) == Traits.Part.FAMILY ? i : family;
      }
    }
  }

  /** Beyond as many columns as have a number, the last one stands for all others. */
  private int number(String column) {
    if (columns.size() < Short.MAX_VALUE) {
      columns.add(column);
    }
    return columns.size() - 1;
  }

  /** How originals of a column are known again, in each of its cases. */
  private Set<Form> forms(ColumnPlan column) {
    Set<Form> forms = EnumSet.of(original(column).form());
    for (MaskRule.Case one : column.masked() ? column.rule().cases() : List.<MaskRule.Case>of()) {
      forms.add(form(one.kind()));
    }
    return forms;
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
      boolean excluded = column.rule().leavesRows() && before[i].equals(after[i]);
      if (column.isText()) {
        stays(watch, i, before[i], after[i]);
      } else if (column.isJson()) {
        json(watch, i, before[i]);
        stays(watch, i, before[i], after[i]);
      } else if (!excluded && !(before[i] instanceof byte[])) {
        int number = watch.numbers[i];
        String value = Values.text(before[i]);
        for (Form one : watch.forms[i]) {
          Traces.ofOriginal(one, value, (form, text) -> remember(form, text, number));
        }
      }
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
