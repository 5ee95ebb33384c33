package yemble.core.plan;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.IntStream;
import yemble.core.kind.Kinds;
import yemble.core.mask.MaskRule;
import yemble.core.mask.Masks;
import yemble.core.mask.text.BytesText;
import yemble.core.name.ColumnName;
import yemble.core.recognition.TextFormat;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.DataType;
import yemble.core.schema.Misfit;
import yemble.core.schema.Outline;
import yemble.core.store.Reader;
import yemble.core.subset.Selection;
import yemble.core.wording.Sentence;

/**
 * What masked values must meet so that the target takes them: types and lengths, the labels of an
 * enumeration, conditions that every row satisfies, keys without duplicates. Looked at before
 * anything is loaded, on a sample of each table; keys whose masks may let values meet, on all rows.
 *
 * <p>A value that does not fit although its original does not either is passed over.
 */
public final class Limits {
  private static final Set<String> SEARCH_WORDS = Set.of("tsvector", "tsquery");

  /** From one text in so many on, a format is what the column is. */
  private static final int SOME_FORMATS = 5;

  private static final int ROWS = 500;
  private static final int MANY = 100;
  private static final int FEW = 4;
  private static final int SHORTEST_LOGIN = 6;
  private static final double TOGETHER = 0.8;
  private static final int MOST_CHECKED = 20_000_000;
  private static final DataType ANY = DataType.of(DataType.Base.ANY);

  private final Reader source;
  private final Plan plan;
  private final Selection selection;
  private final Masks masks;
  private final Outline outline;
  private final List<Sentence> broken = new ArrayList<>();
  private final List<Sentence> unmasked = new ArrayList<>();
  private final List<Sentence> unsure = new ArrayList<>();
  private final List<Sentence> weak = new ArrayList<>();
  private final List<Sentence> own = new ArrayList<>();
  private final List<Sentence> left = new ArrayList<>();
  private final Agreement agreement;
  private final Remains remains;
  private long values;
  private int keys;
  private int conditions;

  private Limits(Reader source, Plan plan, Selection selection, Masks masks) {
    this.source = source;
    this.plan = plan;
    this.selection = selection;
    this.masks = masks;
    this.agreement = new Agreement(masks.kinds());
    this.remains = new Remains(masks.kinds());
    this.outline = source.outline();
  }

  /**
   * What was found.
   *
   * @param broken what the target would refuse, of a column each
   * @param unmasked masks that change nothing, or that do not suit what the texts are, of a column
   *     each
   * @param unsure what could not be looked at, or is no more than a declaration, of a column each
   * @param weak where masking hides little or lets much fall together, of a column each
   * @param own masks of one's own that do not keep what they promise, of a column each
   * @param left what rules leave as it is, of a column each
   * @param disagreeing which columns do not go together any more in rows of the sample
   * @param texts what names masked free texts may still hold, for each column
   * @param values how many masked values were looked at
   * @param conditions how many conditions of tables were put to the database
   * @param keys how many keys were looked at row by row
   */
  public record Report(
      List<Sentence> broken,
      List<Sentence> unmasked,
      List<Sentence> unsure,
      List<Sentence> weak,
      List<Sentence> own,
      List<Sentence> left,
      List<Sentence> disagreeing,
      List<Sentence> texts,
      long values,
      int conditions,
      int keys) {
    /** What whoever loads should know: what rules leave, and what could not be looked at. */
    public List<Sentence> warnings() {
      List<Sentence> warnings = new ArrayList<>(left);
      warnings.addAll(unsure);
      return warnings;
    }
  }

  /**
   * Looks at all tables of a plan.
   *
   * @param selection the rows that are loaded; one that holds none stands for all rows
   */
  public static Report of(Reader source, Plan plan, Selection selection, Masks masks) {
    Limits limits = new Limits(source, plan, selection, masks);
    for (TablePlan table : plan.tables()) {
      if (table.masked().length == 0) {
        continue;
      }
      limits.left(table);
      limits.sample(table);
      limits.keys(table);
    }
    return new Report(
        List.copyOf(limits.broken),
        List.copyOf(limits.unmasked),
        List.copyOf(limits.unsure),
        List.copyOf(limits.weak),
        List.copyOf(limits.own),
        List.copyOf(limits.left),
        limits.agreement.lines(),
        limits.remains.lines(),
        limits.values,
        limits.conditions,
        limits.keys);
  }

  /** Rows that conditions leave out, and columns that wide rules pass over. */
  private void left(TablePlan table) {
    for (int position : table.masked()) {
      TablePlan.ColumnPlan column = table.columns().get(position);
      ColumnName name = table.table().name(column.column());
      plan.spared(name).ifPresent(why -> left.add(why.about(name).maskedBy(column.by())));
      if (column.rule().leavesRows()) {
        RowSet in = in(table);
        long staying = staying(table, column.rule(), in);
        if (staying > 0) {
          left.add(LimitWording.ROWS_STAY.of(staying, in.size()).about(name).maskedBy(column.by()));
        }
      }
    }
  }

  private long staying(TablePlan table, MaskRule rule, RowSet in) {
    RowSet decided = new RowSet();
    long staying = 0;
    for (MaskRule.Case one : rule.cases()) {
      RowSet of = one.when().isEmpty() ? in : fulfilling(table, one.when(), in);
      staying += one.kept() ? of.size() - common(of, decided) : 0;
      of.forEach(decided::add);
    }
    if (!rule.cases().isEmpty()) {
      return staying;
    }
    for (String condition : rule.conditions()) {
      fulfilling(table, condition, in).forEach(decided::add);
    }
    return in.size() - decided.size();
  }

  private RowSet fulfilling(TablePlan table, String condition, RowSet in) {
    RowSet rows = new RowSet();
    source.rows(
        table.table(),
        condition,
        List.of(),
        (row, nothing) -> {
          if (in.contains(row)) {
            rows.add(row);
          }
        });
    return rows;
  }

  private static long common(RowSet one, RowSet other) {
    long[] count = new long[1];
    one.forEach(row -> count[0] += other.contains(row) ? 1 : 0);
    return count[0];
  }

  private RowSet in(TablePlan table) {
    return selection.size() == 0
        ? source.all(table.table())
        : selection.part(table.table().name()).in();
  }

  private void sample(TablePlan table) {
    RowSet in = in(table);
    RowSet rows = new RowSet();
    if (in.size() <= ROWS) {
      rows = in;
    } else {
      RowSet drawn = rows;
      source.sample(
          table.table(),
          List.of(),
          ROWS,
          (row, nothing) -> {
            if (in.contains(row)) {
              drawn.add(row);
            }
          });
      if (rows.size() < ROWS / 5) {
        drawn(in, drawn);
      }
    }
    List<Object[]> before = new ArrayList<>();
    List<Object[]> after = new ArrayList<>();
    List<Sentence> broke = OwnCheck.of(source, table, rows, masks);
    if (!broke.isEmpty()) {
      own.addAll(broke);
      return;
    }
    new RowMasker(source, plan, table, selection, masks)
        .rows(
            rows,
            (row, original, masked) -> {
              before.add(original.clone());
              after.add(masked.clone());
              agreement.row(table, before.get(before.size() - 1), after.get(after.size() - 1));
            });
    if (!before.isEmpty()) {
      weak(table, before, after);
      unchanged(table, before, after);
      remains.look(table, before, after);
      Outline.TableOutline shape = outline.table(table.table().name()).orElse(null);
      types(table, shape, before, after);
      if (shape != null) {
        shape.checks().forEach(check -> condition(table, check, before, after));
      }
    }
  }

  /** Draws from all rows of a set alike, the same ones each time. */
  private static void drawn(RowSet in, RowSet into) {
    Random random = new Random(in.size());
    long[] left = {in.size(), ROWS - into.size()};
    in.forEach(
        row -> {
          if (random.nextDouble() * left[0]-- < left[1]) {
            into.add(row);
            left[1]--;
          }
        });
  }

  /** Masks that change nothing, and texts that a mask of free text would break. */
  private void unchanged(TablePlan table, List<Object[]> before, List<Object[]> after) {
    for (int position : table.masked()) {
      TablePlan.ColumnPlan column = table.columns().get(position);
      ColumnName name = table.table().name(column.column());
      long cells = 0;
      long same = 0;
      Set<Object> distinct = new HashSet<>();
      Map<String, Integer> formats = new TreeMap<>();
      for (int i = 0; i < before.size(); i++) {
        Object original = before.get(i)[position];
        if (original == null || original.equals("")) {
          continue;
        }
        cells++;
        same += Objects.deepEquals(original, after.get(i)[position]) ? 1 : 0;
        distinct.add(original instanceof byte[] bytes ? Arrays.hashCode(bytes) : original);
        if (column.isText()) {
          text(original).flatMap(TextFormat::of).ifPresent(f -> formats.merge(f, 1, Integer::sum));
        }
      }
      for (Map.Entry<String, Integer> format : formats.entrySet()) {
        if (format.getValue() * SOME_FORMATS > cells) {
          unmasked.add(
              LimitWording.FORMAT.of(format.getValue(), cells, format.getKey()).about(name));
          cells = 0; // That says it all.
        }
      }
      if (cells > 0 && column.isText() && SEARCH_WORDS.contains(column.column().type())) {
        unmasked.add(LimitWording.SEARCH_WORDS.of().about(name));
        cells = 0;
      }
      Unchanged found = new Unchanged(column, cells, same, distinct.size());
      if (same == cells && found.isFault(masks.kinds())) {
        unmasked.add(LimitWording.OF_SAMPLE.of(found.sentence()).about(name));
      } else if (found.isIdle()) {
        weak.add(LimitWording.NOTHING_PERSONAL.of(found.sentence()).about(name));
      }
    }
  }

  private static Optional<String> text(Object value) {
    return value instanceof byte[] bytes
        ? BytesText.of(bytes).map(BytesText::text)
        : Optional.of(value.toString());
  }

  /** Whether all values become one, and are meant to. */
  private boolean isOne(TablePlan.ColumnPlan column) {
    return column.rule().isConstant() || masks.kinds().traits(column.kind()).one();
  }

  /** Counts different values before and after. */
  private void weak(TablePlan table, List<Object[]> before, List<Object[]> after) {
    for (int position : table.masked()) {
      TablePlan.ColumnPlan column = table.columns().get(position);
      Set<Object> originals = new HashSet<>();
      Set<Object> masked = new HashSet<>();
      int filled = 0;
      for (int i = 0; i < before.size(); i++) {
        Object original = before.get(i)[position];
        if (original != null && !(original instanceof byte[]) && !original.equals("")) {
          filled++;
          originals.add(original);
          masked.add(String.valueOf(after.get(i)[position]));
        }
      }
      ColumnName name = table.table().name(column.column());
      if (filled >= MANY && originals.size() <= FEW && !isOne(column)) {
        weak.add(
            LimitWording.FEW_DIFFERENT
                .of(originals.size(), filled)
                .about(name)
                .maskedBy(column.by()));
      } else if (originals.size() >= MANY / 2
          && masked.size() < TOGETHER * originals.size()
          && !isOne(column)) {
        weak.add(
            LimitWording.FALL_TOGETHER
                .of(originals.size(), masked.size())
                .about(name)
                .maskedBy(column.by()));
      }
    }
  }

  private void types(
      TablePlan table, Outline.TableOutline shape, List<Object[]> before, List<Object[]> after) {
    for (int position : table.masked()) {
      Column column = table.columns().get(position).column();
      DataType type =
          shape == null || !shape.columns().containsKey(column.name())
              ? ANY
              : shape.columns().get(column.name()).type();
      Map<Sentence, Integer> reasons = new HashMap<>();
      (source.enforcesTypes() ? broken : unsure)
          .addAll(PinClash.unfit(plan.pins(), table.table().name(column), type));
      for (int i = 0; i < before.size(); i++) {
        Object value = after.get(i)[position];
        values++;
        Sentence reason = value == null ? Sentence.NONE : Misfit.why(type, type.normal(value));
        Object original = before.get(i)[position];
        if (!reason.isEmpty()
            && original != null
            && Misfit.why(type, type.normal(original)).isEmpty()) {
          reasons.merge(reason, 1, Integer::sum);
        }
      }
      reasons.forEach(
          (reason, count) -> {
            boolean enforced = source.enforcesTypes();
            LimitWording misfit = enforced ? LimitWording.MISFIT : LimitWording.MISFIT_DECLARED;
            (enforced ? broken : unsure)
                .add(
                    of(
                        table,
                        position,
                        misfit.of(
                            count, before.size(), shorter(table, position, type, after, reason))));
          });
      if (reasons.isEmpty()) {
        asType(table, position, type, before, after);
      }
    }
  }

  /** With the line to write, where logins or addresses are too long. */
  private Sentence shorter(
      TablePlan table, int position, DataType type, List<Object[]> after, Sentence why) {
    String kind = table.columns().get(position).kind();
    int behind = 0;
    for (Object[] row : after) {
      int at = row[position] instanceof String text ? text.indexOf('@') : -1;
      behind = at < 0 ? behind : Math.max(behind, row[position].toString().length() - at);
    }
    int length = type.length() - behind;
    boolean helps =
        masks.kinds().traits(kind).ofNames()
            && Kinds.BUILT_IN.of(kind).isPresent()
            && table.columns().get(position).rule().steps().isEmpty()
            && why.wording() == Misfit.LONGER
            && length >= SHORTEST_LOGIN;
    return helps ? LimitWording.SHORTER.of(why, kind, length) : why;
  }

  /** What is said of a masked column. */
  private static Sentence of(TablePlan table, int position, Sentence what) {
    TablePlan.ColumnPlan column = table.columns().get(position);
    return what.about(table.table().name(column.column())).maskedBy(column.by());
  }

  /** What only the engine can tell: domains, and types of its own. */
  private void asType(
      TablePlan table, int position, DataType type, List<Object[]> before, List<Object[]> after) {
    List<Column> column = List.of(table.columns().get(position).column());
    OptionalLong originals = source.refused(table.table(), column, part(before, position), "");
    OptionalLong masked =
        originals.orElse(1) == 0
            ? source.refused(table.table(), column, part(after, position), "")
            : OptionalLong.empty();
    if (masked.isEmpty() && type.base() == DataType.Base.OTHER) {
      unsure.add(
          LimitWording.TYPE_UNSURE
              .of(column.get(0).type())
              .about(table.table().name(column.get(0))));
    } else if (masked.orElse(0) > 0) {
      broken.add(
          of(
              table,
              position,
              LimitWording.MISFIT.of(
                  masked.getAsLong(),
                  after.size(),
                  LimitWording.NO_VALUE_OF_TYPE.of(column.get(0).type()))));
    }
  }

  private static List<Object[]> part(List<Object[]> rows, int position) {
    return parts(rows, new int[] {position});
  }

  private static List<Object[]> parts(List<Object[]> rows, int[] positions) {
    return rows.stream()
        .map(row -> Arrays.stream(positions).mapToObj(i -> row[i]).toArray())
        .toList();
  }

  private void condition(
      TablePlan table, String check, List<Object[]> before, List<Object[]> after) {
    String lower = check.toLowerCase(Locale.ROOT);
    List<Integer> concerned = new ArrayList<>();
    for (int position : table.masked()) {
      String name = table.columns().get(position).column().name().toLowerCase(Locale.ROOT);
      if (lower.contains(name)) {
        concerned.add(position);
      }
    }
    if (concerned.isEmpty()) {
      return;
    }
    // Those alone that it speaks of: another one's masked value may not even be of its type.
    int[] named =
        IntStream.range(0, table.columns().size())
            .filter(
                i ->
                    lower.contains(table.columns().get(i).column().name().toLowerCase(Locale.ROOT)))
            .toArray();
    List<Column> columns =
        Arrays.stream(named).mapToObj(i -> table.columns().get(i).column()).toList();
    OptionalLong originals = source.refused(table.table(), columns, parts(before, named), check);
    OptionalLong masked =
        originals.orElse(1) == 0
            ? source.refused(table.table(), columns, parts(after, named), check)
            : OptionalLong.empty();
    List<String> of =
        concerned.stream().map(position -> table.columns().get(position).column().name()).toList();
    if (masked.isEmpty()) {
      unsure.add(LimitWording.CONDITION_UNSURE.of(of).about(table.table().name()));
      return;
    }
    conditions++;
    if (masked.getAsLong() > 0) {
      broken.add(
          of(
              table,
              concerned.get(0),
              LimitWording.MISFIT.of(
                  masked.getAsLong(), after.size(), LimitWording.BREAK_CONDITION.of(of))));
    }
  }

  private void keys(TablePlan table) {
    List<List<String>> keys = new ArrayList<>(table.table().uniques());
    if (!table.table().primaryKey().isEmpty()) {
      keys.add(0, table.table().primaryKey());
    }
    for (List<String> key : keys) {
      KeyValues looked = KeyValues.of(source, plan, table, key, selection, masks);
      if (looked == null) {
        continue;
      }
      RowSet in = in(table);
      if (in.size() > MOST_CHECKED) {
        unsure.add(
            LimitWording.TOO_MANY
                .of()
                .about(table.table().name() + " (" + String.join(", ", key) + ")"));
        continue;
      }
      this.keys++;
      KeyValues.Meeting met = looked.meeting(in, caseless(table, key));
      long meeting = met.rows();
      TablePlan.ColumnPlan only = key.size() == 1 ? table.column(key.get(0)) : null;
      if (meeting > 0 && only != null && only.isPinned()) {
        List<Sentence> clashes =
            PinClash.meeting(source, plan, table, only, selection, masks, in, caseless(table, key));
        broken.addAll(clashes);
        meeting -= clashes.size();
      }
      if (meeting > 0) {
        int position = looked.masked()[0];
        broken.add(
            of(
                table,
                position,
                LimitWording.MISFIT.of(
                    meeting,
                    in.size(),
                    LimitWording.MEET.of(key, met.values(), met.values() - met.rows()))));
      }
    }
  }

  /** Whether the key's own equality passes over the case of letters. */
  private boolean caseless(TablePlan table, List<String> key) {
    return outline
        .table(table.table().name())
        .filter(
            shape ->
                key.stream()
                    .anyMatch(
                        name ->
                            shape.columns().containsKey(name)
                                && shape.columns().get(name).caseless()))
        .isPresent();
  }
}
