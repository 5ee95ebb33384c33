package yemble.core.verify;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import yemble.core.kind.Kind.Form;
import yemble.core.kind.Kinds;
import yemble.core.mark.Comparison;
import yemble.core.name.TableName;
import yemble.core.plan.TablePlan;
import yemble.core.plan.TablePlan.ColumnPlan;
import yemble.core.row.Values;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.wording.Sentence;
import yemble.core.wording.Wording;

/**
 * The proof that no original is in the target, by looking for originals and not by recomputing
 * masks. While the source is read, what tells a person is remembered by its fingerprint: mail
 * addresses, logins, telephone, card, account and official numbers, names of two words. Then every
 * cell of the target where none belongs is searched for them: kept columns, texts, JSON, bytes, and
 * what lies in base64 within. Cells of masked columns are compared as a whole.
 *
 * <p>A masked value may by chance be somebody's original. Numbers are few enough for that: so hits
 * are held against what chance explains. Names in masked texts come from short lists; there only
 * those count that stood in the text before, too.
 */
final class Absence {
  private static final int MOST_SHOWN = 3;
  private static final int FEW_LOGINS = 3;
  private static final int CLEAN = 1 << 9;
  private static final int MOST_TRACES = 64;
  private static final Form[] FORMS = Form.values();
  private static final int LENGTHS = Remembered.MOST_LENGTH + 1;

  private final Set<String> accepted;
  private final Remembered remembered;
  private final OwnRow ownRow;
  private final Map<String, Hits> hits = new TreeMap<>();
  private final Map<String, Hits> changedHits = new TreeMap<>();
  private final Map<TableName, List<Searcher>> changedSearchers = new HashMap<>();
  private final Map<String, Long> held = new TreeMap<>();
  private final List<String> unsearched = new ArrayList<>();
  private final Set<String> excused = new TreeSet<>();
  private long cells;
  private boolean keeps;

  /**
   * @param accepted names of columns, {@code table.column}, in which a person accepts originals
   */
  Absence(Kinds kinds, Set<String> accepted) {
    this.remembered = new Remembered(kinds);
    this.ownRow = new OwnRow(kinds);
    this.accepted = accepted;
  }

  /** What was found of one column. */
  private static final class Hits {
    private final Map<Form, long[]> looked = new EnumMap<>(Form.class);
    private final Map<Form, Map<String, Long>> found = new EnumMap<>(Form.class);
    private long cells;
    private long cellsWith;
    private long wholeLogins;
    private boolean masked;
    private long among;
    private final Set<String> examples = new TreeSet<>();
    private String origin = "";
  }

  /** From now on a few of the originals that are found are kept, for whoever asks to see them. */
  void keepExamples() {
    keeps = true;
  }

  /** Whether what is found is kept. */
  boolean keepsExamples() {
    return keeps;
  }

  /** Originals that were found, by the column that they were found in, as far as some were kept. */
  Map<String, List<String>> examples() {
    Map<String, List<String>> examples = new TreeMap<>();
    hits.forEach(
        (column, found) -> {
          if (!found.examples.isEmpty()) {
            examples.put(column, List.copyOf(found.examples));
          }
        });
    return examples;
  }

  /** Is shown each row of the source with what it becomes. */
  Remembered remembered() {
    return remembered;
  }

  /** Is shown each row of the source with what it becomes, and what its texts may mention. */
  OwnRow ownRow() {
    return ownRow;
  }

  /** Searches a table of the target; to be called once all rows of the source have been seen. */
  void search(Reader target, TablePlan plan, Comparison comparison) {
    Table table = plan.table();
    List<Column> written = table.written();
    List<Integer> searched = new ArrayList<>();
    for (int i = 0; i < written.size(); i++) {
      ColumnPlan column = plan.columns().get(i);
      if (!isSingle(column) || remembered.original(column).form() != Form.NONE) {
        searched.add(i);
      }
    }
    if (searched.isEmpty() || remembered.originals().size() == 0) {
      return;
    }
    Searcher[] searchers =
        searched.stream()
            .map(i -> new Searcher(name(plan, i), plan.columns().get(i), hits))
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

  private static String name(TablePlan plan, int position) {
    return plan.table().name(plan.columns().get(position).column()).toString();
  }

  /** A table that cannot be searched, as it has other columns now. */
  void unsearched(Table table) {
    unsearched.add(table.name().toString());
  }

  /**
   * Searches a row that was changed in the target since it was loaded; once all rows of the source
   * have been seen. Such rows are few, so that chance explains much less in them.
   */
  void changed(TablePlan plan, Object[] values) {
    List<Searcher> searchers =
        changedSearchers.computeIfAbsent(
            plan.table().name(),
            table ->
                IntStream.range(0, plan.columns().size())
                    .mapToObj(i -> new Searcher(name(plan, i), plan.columns().get(i), changedHits))
                    .toList());
    for (int i = 0; i < values.length; i++) {
      Searcher searcher = searchers.get(i);
      if (values[i] != null && (!searcher.single || searcher.form != Form.NONE)) {
        searcher.look(values[i]);
      }
    }
  }

  /** Takes how many cells of each masked column hold their own original again. */
  void held(Map<String, Long> cells) {
    held.putAll(cells);
  }

  /** Whether each cell of a column is one masked value, rather than something that holds others. */
  private static boolean isSingle(ColumnPlan column) {
    return column.masked() && !column.isText() && !column.isJson() && !OwnRow.isPartlyText(column);
  }

  /** Looks at the cells of one column. */
  private final class Searcher implements Traces.Sink {
    private final Hits here;
    private final boolean masked;
    private final boolean single;
    private final Form form;
    private boolean any;
    private String whole = "";

    /** Texts in which nothing was found, with the traces that were looked for in each. */
    private final String[] clean = new String[CLEAN];

    private final int[][] cleanTraces = new int[CLEAN][];
    private final int[] traces = new int[MOST_TRACES];
    private int traced;
    private boolean found;

    Searcher(String name, ColumnPlan column, Map<String, Hits> into) {
      this.here = into.computeIfAbsent(name, n -> new Hits());
      this.masked = column.masked();
      this.here.masked = masked;
      this.single = isSingle(column);
      this.here.among = single ? remembered.original(column).among() : 0;
      this.form = remembered.original(column).form();
    }

    void look(Object value) {
      cells++;
      here.cells++;
      any = false;
      if (single) {
        Traces.ofOriginal(form, Values.text(value), this);
        here.cellsWith += any ? 1 : 0;
        return;
      }
      int slot = value.hashCode() & (CLEAN - 1);
      if (value instanceof String text && text.equals(clean[slot])) {
        for (int trace : cleanTraces[slot]) {
          looked(FORMS[trace / LENGTHS], trace % LENGTHS);
        }
        return;
      }
      traced = 0;
      found = false;
      whole = value instanceof String text ? text.strip().toLowerCase(Locale.ROOT) : "";
      Traces.ofCell(value, this);
      here.cellsWith += any ? 1 : 0;
      if (!found && traced < MOST_TRACES && value instanceof String text) {
        clean[slot] = text;
        cleanTraces[slot] = Arrays.copyOf(traces, traced);
      }
    }

    private void looked(Form of, int length) {
      here.looked.computeIfAbsent(of, f -> new long[LENGTHS])[length]++;
    }

    @Override
    public void trace(Form form, String text) {
      if (single && any) {
        return; // Another spelling of the one value.
      }
      if (form == Form.NAME && masked && !single) {
        return; // Names in masked texts: see Remembered.
      }
      int length = Remembered.length(text);
      looked(form, length);
      if (traced < MOST_TRACES) {
        traces[traced++] = form.ordinal() * LENGTHS + length;
      }
      Optional<String> origin = remembered.origin(form, text);
      if (origin.isEmpty()) {
        return;
      }
      found = true;
      if (form == Form.LOGIN && !single && text.equals(whole) && isWord(text)) {
        here.wholeLogins++;
        here.origin = origin.get();
        return;
      }
      any = true;
      if (keeps && here.examples.size() < MOST_SHOWN) {
        here.examples.add(text);
      }
      here.found.computeIfAbsent(form, f -> new TreeMap<>()).merge(origin.get(), 1L, Long::sum);
    }
  }

  /** Whether a login is a word or two, which a kept cell may hold for other reasons. */
  private static boolean isWord(String text) {
    return text.chars().allMatch(c -> Character.isLetter(c) || c == ' ');
  }

  /** What came of it. */
  Outcome finding() {
    List<Sentence> faults = new ArrayList<>();
    long[] chance = new long[1];
    hits.forEach((column, found) -> faults(column, found, Sentence.NONE, faults, chance));
    changedHits.forEach(
        (column, found) -> {
          if (!isFaulty(column, faults)) {
            faults(column, found, ProofWording.OF_ROWS_CHANGED.of(), faults, new long[1]);
          }
        });
    held.forEach(
        (column, count) -> {
          if (!isFaulty(column, faults)) {
            fault(column, ProofWording.HELD_AGAIN.of(count), faults);
          }
        });
    remembered
        .stayed()
        .forEach(
            (column, names) -> {
              long texts = names.values().stream().mapToLong(Long::longValue).sum();
              fault(
                  column,
                  ProofWording.STAYED.of(ProofWording.NAMES.of(texts, origins(names.keySet()))),
                  faults);
            });
    ownRow.faults().forEach((column, lines) -> fault(column, ProofWording.joined(lines), faults));
    chance[0] += ownRow.byChance();
    Originals originals = remembered.originals();
    if (originals.size() == 0 && faults.isEmpty()) {
      return Outcome.unchecked(Check.ABSENCE, ProofWording.NOTHING_TELLS.of());
    }
    Object[] looked = {
      (long) originals.size() * originals.oneIn(),
      cells,
      originals.oneIn() > 1 ? ProofWording.ONE_IN.of(originals.oneIn()) : Sentence.NONE,
      chance[0] > 0 ? ProofWording.BY_CHANCE.of(chance[0]) : Sentence.NONE,
      excused.isEmpty() ? Sentence.NONE : ProofWording.ACCEPTED.of(List.copyOf(excused)),
      unsearched.isEmpty() ? Sentence.NONE : ProofWording.LACKING.of(unsearched)
    };
    Object[] found = Arrays.copyOf(looked, looked.length + 1);
    found[looked.length] = faults.size();
    return Outcome.of(
            Check.ABSENCE, faults, ProofWording.NONE_FOUND.of(looked), ProofWording.FOUND.of(found))
        .counting(
            "originals",
            (long) originals.size() * originals.oneIn(),
            "cells",
            cells,
            "by_chance",
            chance[0],
            "columns_with_originals",
            faults.size(),
            "accepted",
            excused.size());
  }

  private static boolean isFaulty(String column, List<Sentence> faults) {
    return faults.stream().anyMatch(fault -> fault.about().equals(column));
  }

  /** A fault of a column, unless a person accepts it. */
  private void fault(String column, Sentence what, List<Sentence> faults) {
    if (accepted.contains(column)) {
      excused.add(column);
    } else {
      faults.add(what.about(column));
    }
  }

  private void faults(
      String column, Hits found, Sentence where, List<Sentence> faults, long[] chance) {
    List<Sentence> lines = new ArrayList<>();
    found.found.forEach(
        (form, byOrigin) -> {
          long count = byOrigin.values().stream().mapToLong(Long::longValue).sum();
          double expected = expected(form, found);
          if (count > expected + 3 * Math.sqrt(expected) + (expected > 0.01 ? 1 : 0)) {
            lines.add(wording(form).of(count, origins(byOrigin.keySet())));
          } else {
            chance[0] += count;
          }
        });
    if (found.wholeLogins >= FEW_LOGINS && found.wholeLogins * 20 >= found.cells) {
      lines.add(ProofWording.LOGINS.of(found.wholeLogins, found.origin));
    }
    long cellsWith = Math.max(found.cellsWith, found.wholeLogins);
    if (!lines.isEmpty()) {
      fault(
          column,
          (found.among > 0
                  ? ProofWording.MASK_OTHERWISE
                  : found.masked ? ProofWording.MAY_ACCEPT : ProofWording.MASK_IT)
              .of(lines, cellsWith, where, column),
          faults);
    }
  }

  /**
   * How many are somebody's by chance: of a mask's values by how many it chooses from, of others
   * numbers alone, length by length.
   */
  private double expected(Form form, Hits found) {
    long[] looked = found.looked.get(form);
    double expected = 0;
    if (found.among > 0) {
      return (double) LongStream.of(looked).sum() * remembered.known(form) / found.among;
    }
    if (form == Form.PHONE || form == Form.DIGITS || form == Form.CODE) {
      for (int length = 0; length <= Remembered.MOST_LENGTH; length++) {
        expected +=
            (double) looked[length]
                * remembered.known(form, length)
                / Math.pow(10, Math.max(6, length - 2));
      }
    }
    return expected;
  }

  private static Wording wording(Form form) {
    return switch (form) {
      case ADDRESS -> ProofWording.ADDRESSES;
      case LOGIN -> ProofWording.LOGINS;
      case PHONE -> ProofWording.PHONES;
      case DIGITS -> ProofWording.CARDS;
      case CODE -> ProofWording.CODES;
      case NAME -> ProofWording.NAMES;
      default -> ProofWording.TEXTS;
    };
  }

  private static Object origins(Set<String> columns) {
    List<String> names = List.copyOf(columns);
    int shown = Math.min(MOST_SHOWN, names.size());
    return names.size() > shown
        ? ProofWording.COLUMNS_AND_MORE.of(names.subList(0, shown), names.size() - shown)
        : names;
  }
}
