package yemble.core.verify;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.IntPredicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.mask.Vocabulary;
import yemble.core.mask.text.BytesText;
import yemble.core.mask.text.Mentions;
import yemble.core.plan.TablePlan;
import yemble.core.plan.TablePlan.ColumnPlan;
import yemble.core.row.Values;
import yemble.core.wording.Sentence;

/**
 * Weak originals: what tells a person only beside the rest of the row. The names, towns, dates and
 * codes of a row, and of the rows that it belongs to, are looked for in its own masked texts, where
 * they must not stand as whole words both before and after; the names of a row in its kept texts
 * and JSON as well, where some may stand for other reasons.
 */
final class OwnRow {
  private static final Set<String> ORDINARY = Vocabulary.ordinary();
  private static final Pattern CAPITAL =
      Pattern.compile("(?<![\\p{L}\\p{M}])\\p{Lu}[\\p{L}\\p{M}]{2,}(?![\\p{L}\\p{M}@])");
  private static final int SHORTEST_VALUE = 4;

  /** How many names a text may be given by its mask, out of lists of at least so many. */
  private static final double NAMES_A_TEXT = 2;

  private static final double NAMES_IN_LISTS = 200;

  private static final int FEW = 3;
  private static final int ONE_IN_FEW = 20;

  private final Kinds kinds;
  private final Map<TablePlan, Watch> watches = new IdentityHashMap<>();
  private final Map<String, Map<String, long[]>> texts = new TreeMap<>();
  private final Map<String, Long> own = new TreeMap<>();
  private final Map<String, long[]> kept = new TreeMap<>();

  OwnRow(Kinds kinds) {
    this.kinds = kinds;
  }

  /** Which columns of a table are looked at. */
  private final class Watch {
    private final TablePlan plan;
    private final int[] names;
    private final int[] values;
    private final int[] texts;
    private final int[] kept;
    private final String[] columns;

    Watch(TablePlan plan) {
      this.plan = plan;
      this.columns =
          plan.columns().stream()
              .map(column -> plan.table().name(column.column()).toString())
              .toArray(String[]::new);
      this.names = positions(i -> column(i).masked() && kinds.isName(column(i).kind()));
      this.values = positions(i -> column(i).isOfValueAlone());
      this.texts = positions(i -> column(i).readsMentions() && !isPartlyText(column(i)));
      this.kept =
          positions(
              i ->
                  !column(i).masked()
                      || (column(i).isJson() && !column(i).holdsText())
                      || isPartlyText(column(i)));
    }

    private ColumnPlan column(int position) {
      return plan.columns().get(position);
    }

    private int[] positions(IntPredicate wanted) {
      return IntStream.range(0, plan.columns().size()).filter(wanted).toArray();
    }

    private String name(int position) {
      return columns[position];
    }
  }

  /** Whether a column holds texts of which a condition leaves some as they are. */
  static boolean isPartlyText(ColumnPlan column) {
    return column.masked()
        && !column.isText()
        && (column.kind().equals(Kinds.TEXT) || column.isTextInPlaces())
        && column.rule().leavesRows();
  }

  private Watch watch(TablePlan plan) {
    return watches.computeIfAbsent(plan, Watch::new);
  }

  /**
   * A row of the source with what it becomes.
   *
   * @param mentions what it and the rows that it belongs to hold; nothing where it has no text
   */
  void row(TablePlan plan, Object[] before, Object[] after, Mentions mentions) {
    Watch watch = watch(plan);
    if (watch.names.length == 0 && watch.texts.length == 0) {
      return;
    }
    Set<String> names = names(watch, before, after);
    for (int position : names.isEmpty() ? new int[0] : watch.kept) {
      if (before[position] instanceof String was && after[position] instanceof String is) {
        long[] counts = kept.computeIfAbsent(watch.name(position), c -> new long[2]);
        counts[0]++;
        counts[1] += holds(is, names) && holds(was, names) ? 1 : 0;
      }
    }
    for (int position : watch.texts) {
      Optional<String> was = text(before[position]);
      Optional<String> is = text(after[position]);
      if (was.isPresent() && is.isPresent() && !was.get().isEmpty()) {
        if (holds(was.get(), names) && stay(was.get(), is.get(), names)) {
          own.merge(watch.name(position), 1L, Long::sum);
        }
        others(watch, position, was.get(), is.get(), unchanged(watch, before, after), mentions);
      }
    }
  }

  /** The words with a capital of a row's masked names that the mask takes away. */
  private static Set<String> names(Watch watch, Object[] before, Object[] after) {
    Set<String> names = new HashSet<>();
    for (int position : watch.names) {
      if (before[position] != null && !before[position].equals(after[position])) {
        names.addAll(words(before[position].toString()));
      }
    }
    for (int position : names.isEmpty() ? new int[0] : watch.names) {
      names.removeAll(words(String.valueOf(after[position]))); // The mask made it, by chance.
    }
    return names;
  }

  /** The values of the row that stay as they are in their columns. */
  private static Set<String> unchanged(Watch watch, Object[] before, Object[] after) {
    Set<String> unchanged = new HashSet<>();
    for (int position : watch.values) {
      if (before[position] != null && before[position].equals(after[position])) {
        unchanged.add(Values.text(before[position]).strip());
      }
    }
    return unchanged;
  }

  /** Words with a capital that are no ordinary ones. */
  private static Set<String> words(String text) {
    Set<String> words = new HashSet<>();
    Matcher word = CAPITAL.matcher(text);
    while (word.find()) {
      if (!ORDINARY.contains(word.group().toLowerCase(Locale.ROOT))) {
        words.add(word.group());
      }
    }
    return words;
  }

  private static boolean holds(String text, Collection<String> names) {
    for (String name : names) {
      if (text.contains(name) && words(text).contains(name)) {
        return true;
      }
    }
    return false;
  }

  private static boolean stay(String was, String is, Set<String> names) {
    Set<String> both = words(was);
    both.retainAll(names);
    both.retainAll(words(is));
    return !both.isEmpty();
  }

  private static Optional<String> text(Object value) {
    if (value instanceof byte[] bytes) {
      return BytesText.of(bytes).map(BytesText::text);
    }
    return value instanceof String text ? Optional.of(text) : Optional.empty();
  }

  /** Looks for what the row and those it belongs to hold, kind by kind, but for its own names. */
  private void others(
      Watch watch, int position, String was, String is, Set<String> unchanged, Mentions mentions) {
    String before = was.toLowerCase(Locale.ROOT);
    String after = is.toLowerCase(Locale.ROOT);
    Map<String, Boolean> found = new HashMap<>();
    for (Mentions.Value value : mentions.originals()) {
      if (unchanged.contains(value.text())) {
        continue;
      }
      if (kinds.isName(value.kind())) {
        Set<String> names = words(value.text());
        names.removeIf(mentions::stays);
        if (holds(was, names)) {
          found.merge("name", stay(was, is, names), Boolean::logicalOr);
        }
      } else if (value.text().length() >= SHORTEST_VALUE
          && !kinds.original(value.kind()).stays()
          && !mentions.stays(value.text())) {
        String wanted = value.text().toLowerCase(Locale.ROOT);
        if (stands(before, wanted)) {
          found.merge(value.kind(), stands(after, wanted), Boolean::logicalOr);
        }
      }
    }
    found.forEach(
        (kind, stayed) -> {
          long[] counts =
              texts
                  .computeIfAbsent(watch.name(position), c -> new TreeMap<>())
                  .computeIfAbsent(kind, k -> new long[2]);
          counts[0]++;
          counts[1] += stayed ? 1 : 0;
        });
  }

  /** Whether a value stands in a text as whole words. */
  private static boolean stands(String text, String value) {
    for (int at = text.indexOf(value); at >= 0; at = text.indexOf(value, at + 1)) {
      int end = at + value.length();
      if ((at == 0 || !Character.isLetterOrDigit(text.charAt(at - 1)))
          && (end == text.length() || !Character.isLetterOrDigit(text.charAt(end)))) {
        return true;
      }
    }
    return false;
  }

  /**
   * Names of a row that should not stand in its masked texts; empty where it has none of either.
   */
  Set<String> namesOf(TablePlan plan, Object[] before, Object[] after, Mentions mentions) {
    Watch watch = watch(plan);
    if (watch.texts.length == 0) {
      return Set.of();
    }
    Set<String> names = names(watch, before, after);
    Set<String> unchanged = unchanged(watch, before, after);
    for (Mentions.Value value : mentions.originals()) {
      if (kinds.isName(value.kind()) && !unchanged.contains(value.text())) {
        Set<String> words = words(value.text());
        words.removeIf(mentions::stays);
        names.addAll(words);
      }
    }
    return names;
  }

  /** Looks at a row of the target that was changed since the load. */
  void changed(TablePlan plan, Set<String> names, Object[] found) {
    Watch watch = watch(plan);
    for (int position : watch.texts) {
      if (text(found[position]).filter(is -> holds(is, names)).isPresent()) {
        own.merge(watch.name(position), 1L, Long::sum);
      }
    }
  }

  /** What chance does not explain: a line each, by column. */
  Map<String, List<Sentence>> faults() {
    Map<String, List<Sentence>> faults = new TreeMap<>();
    own.forEach((column, count) -> fault(faults, column, ProofWording.NAME_IN_MASKED.of(count)));
    texts.forEach(
        (column, byKind) ->
            byKind.forEach(
                (kind, counts) -> {
                  boolean already = kind.equals("name") && own.containsKey(column);
                  if (!already && counts[1] > explained(kind, counts[0])) {
                    fault(faults, column, ProofWording.STAYED_IN_MASKED.of(kind, counts[1]));
                  }
                }));
    kept.forEach(
        (column, counts) -> {
          if (counts[1] >= FEW && counts[1] * ONE_IN_FEW >= counts[0]) {
            fault(faults, column, ProofWording.NAME_IN_KEPT.of(counts[1]));
          }
        });
    return faults;
  }

  private double explained(String kind, long looked) {
    Kind.Original original = kinds.original(kind);
    double expected =
        kind.equals("name")
            ? looked * NAMES_A_TEXT / NAMES_IN_LISTS
            : (double) looked / Math.max(1, original.among());
    return expected + 3 * Math.sqrt(expected) + (expected > 0.01 ? 1 : 0);
  }

  private static void fault(Map<String, List<Sentence>> faults, String column, Sentence what) {
    faults.computeIfAbsent(column, c -> new ArrayList<>()).add(what);
  }

  /** How many cells hold what chance explains. */
  long byChance() {
    long count = 0;
    for (Map<String, long[]> byKind : texts.values()) {
      for (Map.Entry<String, long[]> found : byKind.entrySet()) {
        long[] counts = found.getValue();
        count += counts[1] > explained(found.getKey(), counts[0]) ? 0 : counts[1];
      }
    }
    for (long[] counts : kept.values()) {
      count += counts[1] >= FEW && counts[1] * ONE_IN_FEW >= counts[0] ? 0 : counts[1];
    }
    return count;
  }
}
