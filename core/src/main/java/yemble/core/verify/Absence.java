package yemble.core.verify;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import yemble.core.kind.Kind;
import yemble.core.kind.Kind.Form;
import yemble.core.kind.Kinds;
import yemble.core.mask.JsonText;
import yemble.core.mask.Vocabulary;
import yemble.core.plan.TablePlan;
import yemble.core.plan.TablePlan.ColumnPlan;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.store.Comparison;
import yemble.core.store.Digest;
import yemble.core.store.Reader;
import yemble.core.store.Values;

/**
 * The proof that no original is in the target, by looking for originals and not by recomputing
 * masks. While the source is read, what tells a person is remembered by its fingerprint: mail
 * addresses, logins, telephone, card, account and official numbers, names of two words. Then every
 * cell of the target where none belongs is searched for them: kept columns, texts, JSON, bytes, and
 * what lies in base64 within.
 *
 * <p>A masked value may by chance be somebody's original. Numbers are few enough for that: so hits
 * are held against what chance explains. Names in masked texts come from short lists; there only
 * those count that stood in the text before, too.
 */
final class Absence {
  private static final Set<String> GIVEN = Set.of("given-name");
  private static final Set<String> FAMILY = Set.of("family-name");
  private static final Pattern CAPITALS =
      Pattern.compile("(\\p{Lu}[\\p{L}\\p{M}'’-]+)[ ,]{1,2}(?=(\\p{Lu}[\\p{L}\\p{M}'’-]+))");
  private static final Set<String> NAMES =
      Set.of("given-name", "family-name", "full-name", "name-family-first");
  private static final Set<String> ORDINARY = Vocabulary.ordinary();
  private static final Pattern CAPITAL =
      Pattern.compile("(?<![\\p{L}\\p{M}])\\p{Lu}[\\p{L}\\p{M}]{2,}(?![\\p{L}\\p{M}@])");
  private static final int MOST_STAYED = 200_000;
  private static final int MOST_LENGTH = 24;
  private static final int MOST_SHOWN = 3;

  private final Digest digest = new Digest();
  private final Kinds kinds;
  private final Set<String> accepted;
  private final Originals originals = new Originals();
  private final List<String> columns = new ArrayList<>();
  private final Map<TablePlan, Watch> watches = new HashMap<>();
  private final Map<Form, long[]> known = new EnumMap<>(Form.class);
  private final Map<String, Map<Long, Long>> stayed = new TreeMap<>();
  private final Map<String, Hits> hits = new TreeMap<>();
  private final Map<String, Long> own = new TreeMap<>();
  private final Set<String> excused = new TreeSet<>();
  private long cells;

  /**
   * @param accepted names of columns, {@code table.column}, in which a person accepts originals
   */
  Absence(Kinds kinds, Set<String> accepted) {
    this.kinds = kinds;
    this.accepted = accepted;
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
        numbers[i] = number(plan.table().name(column.column()).toString());
        forms[i] = column.masked() ? form(column.kind()) : Form.NONE;
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

  private int number(String column) {
    columns.add(column);
    return columns.size() - 1;
  }

  private Form form(String kind) {
    return kinds.of(kind).map(Kind::original).map(Kind.Original::form).orElse(Form.NONE);
  }

  /** What was found of one column. */
  private static final class Hits {
    private final Map<Form, long[]> looked = new EnumMap<>(Form.class);
    private final Map<Form, Map<Integer, long[]>> found = new EnumMap<>(Form.class);
    private long cells;
    private long cellsWith;
    private long wholeLogins;
    private int origin = -1;
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

  private static int length(String text) {
    return Math.min(MOST_LENGTH, text.length());
  }

  private long print(Form form, String text) {
    return digest.of(form.name().charAt(0) + text);
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

  /** Searches a table of the target; to be called once all rows of the source have been seen. */
  void search(Reader target, TablePlan plan, Comparison comparison) {
    Table table = plan.table();
    List<Column> written = table.written();
    List<Integer> searched = new ArrayList<>();
    for (int i = 0; i < written.size(); i++) {
      ColumnPlan column = plan.columns().get(i);
      if (!column.masked() || column.isText() || column.isJson()) {
        searched.add(i);
      }
    }
    if (searched.isEmpty() || originals.size() == 0) {
      return;
    }
    Searcher[] searchers =
        searched.stream()
            .map(i -> new Searcher(table.name(written.get(i)).toString(), plan.columns().get(i)))
            .toArray(Searcher[]::new);
    target.rows(
        table,
        "",
        written,
        (row, found) -> {
          Object[] values = comparison.found(table, found);
          for (int i = 0; i < searchers.length; i++) {
            Object value = values[searched.get(i)];
            if (value != null) {
              searchers[i].look(value);
            }
          }
        });
  }

  /** Looks at the cells of one column. */
  private final class Searcher implements Traces.Sink {
    private final Hits here;
    private final boolean masked;
    private boolean any;
    private String whole = "";

    Searcher(String name, ColumnPlan column) {
      this.here = hits.computeIfAbsent(name, n -> new Hits());
      this.masked = column.masked();
    }

    void look(Object value) {
      cells++;
      here.cells++;
      any = false;
      whole = value instanceof String text ? text.strip().toLowerCase(Locale.ROOT) : "";
      Traces.ofCell(value, this);
      here.cellsWith += any ? 1 : 0;
    }

    @Override
    public void trace(Form form, String text) {
      if (form == Form.NAME && masked) {
        return; // Names in masked texts: see stays().
      }
      here.looked.computeIfAbsent(form, f -> new long[MOST_LENGTH + 1])[length(text)]++;
      int origin = originals.column(print(form, text));
      if (origin < 0) {
        return;
      }
      boolean words = form == Form.LOGIN && text.equals(whole) && isWord(text);
      if (words) {
        here.wholeLogins++;
        here.origin = here.origin < 0 ? origin : here.origin;
        return;
      }
      any = true;
      here.found.computeIfAbsent(form, f -> new TreeMap<>())
          .computeIfAbsent(origin, o -> new long[MOST_LENGTH + 1])[length(text)]++;
    }
  }

  /** Whether a login is a word or two, which a kept cell may hold for other reasons. */
  private static boolean isWord(String text) {
    return text.chars().allMatch(c -> Character.isLetter(c) || c == ' ');
  }

  /** What came of it. */
  Finding finding() {
    List<String> faults = new ArrayList<>();
    long[] chance = new long[1];
    hits.forEach((column, found) -> faults(column, found, faults, chance));
    stayed.forEach((column, counts) -> stayedFaults(column, counts, faults));
    own.forEach(
        (column, texts) -> {
          if (accepted.contains(column)) {
            excused.add(column);
          } else {
            faults.add(
                String.format(
                    Locale.ROOT,
                    "%s: a name of its own row stayed in %,d masked texts",
                    column,
                    texts));
          }
        });
    String looked =
        String.format(
            Locale.ROOT,
            "%,d originals looked for in %,d cells%s%s%s",
            (long) originals.size() * originals.oneIn(),
            cells,
            originals.oneIn() > 1
                ? ", one in " + originals.oneIn() + " of them, chosen by a key"
                : "",
            chance[0] > 0
                ? String.format(Locale.ROOT, "; %,d that chance explains", chance[0])
                : "",
            excused.isEmpty()
                ? ""
                : "; not in " + String.join(", ", excused) + ", accepted by the project file");
    return Finding.of(
        "absence",
        faults,
        looked + ": none",
        looked + ": found in " + faults.size() + (faults.size() == 1 ? " column" : " columns"));
  }

  private void faults(String column, Hits found, List<String> faults, long[] chance) {
    boolean isAccepted = accepted.contains(column);
    List<String> lines = new ArrayList<>();
    found.found.forEach(
        (form, byOrigin) -> {
          long count = 0;
          double expected = 0;
          long[] looked = found.looked.get(form);
          for (long[] lengths : byOrigin.values()) {
            for (long one : lengths) {
              count += one;
            }
          }
          for (int length = 0; length <= MOST_LENGTH; length++) {
            expected += expected(form, length, looked[length]);
          }
          if (count > expected + 3 * Math.sqrt(expected) + (expected > 0.01 ? 1 : 0)) {
            lines.add(words(form, count) + " of " + origins(byOrigin.keySet()));
          } else {
            chance[0] += count;
          }
        });
    if (found.wholeLogins >= 3 && found.wholeLogins * 20 >= found.cells) {
      lines.add(words(Form.LOGIN, found.wholeLogins) + " of " + columns.get(found.origin));
    }
    if (lines.isEmpty()) {
      return;
    }
    if (isAccepted) {
      excused.add(column);
      return;
    }
    faults.add(
        String.format(
            Locale.ROOT,
            "%s: %s in %,d cells; mask it, or accept it: proof: { accept: [%s] }",
            column,
            String.join(", ", lines),
            Math.max(found.cellsWith, found.wholeLogins),
            column));
  }

  /** How many numbers of a length are somebody's by chance; texts are never so. */
  private double expected(Form form, int length, long looked) {
    long[] there = known.get(form);
    boolean number = form == Form.PHONE || form == Form.DIGITS || form == Form.CODE;
    return there == null || !number
        ? 0
        : (double) looked * there[length] / Math.pow(10, Math.max(6, length - 2));
  }

  private void stayedFaults(String column, Map<Long, Long> counts, List<String> faults) {
    long texts = 0;
    Set<Integer> from = new TreeSet<>();
    for (Map.Entry<Long, Long> pair : counts.entrySet()) {
      int origin = originals.column(pair.getKey());
      if (origin >= 0) {
        texts += pair.getValue();
        from.add(origin);
      }
    }
    if (texts == 0) {
      return;
    }
    if (accepted.contains(column)) {
      excused.add(column);
    } else {
      faults.add(
          String.format(
              Locale.ROOT,
              "%s: %s of %s stayed in masked texts",
              column,
              words(Form.NAME, texts),
              origins(from)));
    }
  }

  private static String words(Form form, long count) {
    String one =
        switch (form) {
          case ADDRESS -> "mail address";
          case LOGIN -> "login";
          case PHONE -> "telephone number";
          case DIGITS -> "card number";
          case CODE -> "number";
          case NAME -> "full name";
          default -> "text";
        };
    String many = one.endsWith("s") ? one + "es" : one + "s";
    return String.format(Locale.ROOT, "%,d %s", count, count == 1 ? one : many);
  }

  private String origins(Set<Integer> numbers) {
    List<String> names = numbers.stream().map(columns::get).distinct().sorted().toList();
    int shown = Math.min(MOST_SHOWN, names.size());
    return String.join(", ", names.subList(0, shown))
        + (names.size() > shown ? " and " + (names.size() - shown) + " more" : "");
  }
}
