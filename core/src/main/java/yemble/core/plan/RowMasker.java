package yemble.core.plan;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import yemble.core.kind.Traits;
import yemble.core.mask.Mask;
import yemble.core.mask.MaskRule;
import yemble.core.mask.Masks;
import yemble.core.mask.ValueMask;
import yemble.core.mask.text.BytesText;
import yemble.core.mask.text.FreeText;
import yemble.core.mask.text.JsonText;
import yemble.core.mask.text.KeyedPath;
import yemble.core.mask.text.Mentions;
import yemble.core.name.ColumnName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.LinkRule.Broken;
import yemble.core.row.CellChange;
import yemble.core.row.RowSet;
import yemble.core.row.Values;
import yemble.core.schema.Column;
import yemble.core.store.Passage;
import yemble.core.store.Reader;
import yemble.core.subset.Rule;
import yemble.core.subset.Selection;

/**
 * Turns rows of the source into rows of the target: columns of cut links and of references to
 * nothing become NULL, then the masks apply. Free text is masked by what its row and the rows it
 * belongs to, up to two links away, hold; so tables with such a column are read in chunks, and
 * their parents with them in sets. Belongs to one thread.
 */
public final class RowMasker implements Passage {
  private static final int CHUNK = 2_000;

  private final Reader source;
  private final RowMentions rowMentions;
  private final TablePlan table;
  private final boolean rowRules;
  private final Selection selection;
  private final CellChange[] cells;
  private final ValueMask[] jsonMasks;
  private final FreeText[] texts;
  private final ValueMask opaque;
  private final RowChange byRow;
  private final RowPins pins;
  private final Map<ColumnName, JsonText> jsons = new LinkedHashMap<>();

  public RowMasker(Reader source, Plan plan, TablePlan table, Selection selection, Masks masks) {
    this.source = source;
    this.rowMentions = new RowMentions(source, plan);
    this.table = table;
    this.rowRules = table.hasRowRules();
    this.selection = selection;
    this.cells = new CellChange[table.columns().size()];
    Arrays.fill(cells, CellChange.KEEP);
    this.opaque = masks.values(masks.of(""));
    this.texts = new FreeText[cells.length];
    this.jsonMasks = new ValueMask[cells.length];
    for (int position : table.masked()) {
      TablePlan.ColumnPlan column = table.columns().get(position);
      if (column.isText()) {
        MaskRule rule = column.rule().notKeyed();
        texts[position] =
            rule.steps().isEmpty()
                ? masks.within(rule).text()
                : masks.within(rule).text(rule.steps());
      } else if (column.isJson()) {
        ColumnName name = table.table().name(column.column());
        JsonText mask = json(table, name, column, masks.within(column.rule().notKeyed()));
        jsons.put(name, mask);
        jsonMasks[position] = masks.values(mask);
        cells[position] = jsonMasks[position].cells();
      } else if (!RowChange.makes(column)) {
        cells[position] =
            masks
                .values(masks.of(column.kind(), column.rule().notKeyed()), column.rule().also())
                .cells();
      }
    }
    for (int position : table.masked()) {
      if (!table.columns().get(position).rule().own().isEmpty() && !cells[position].keeps()) {
        cells[position] =
            OwnCheck.named(
                cells[position], table.table().name(table.columns().get(position).column()));
      }
    }
    this.byRow = new RowChange(source, table, masks);
    this.pins = new RowPins(source, plan, table, selection, masks);
    for (Rule rule : selection.request().rules()) {
      if (rule.link().child().equals(table.table().name())) {
        clear(rule);
      }
    }
  }

  private static KeyedPath keyed(
      TablePlan table, TablePlan.ColumnPlan column, TablePlan.PathPlan path, Masks masks) {
    String by = path.rule().keyedBy();
    TablePlan.ColumnPlan other = table.column(by);
    String kind =
        by.startsWith("$")
            ? column.paths().getOrDefault(by, TablePlan.PathPlan.KEPT).kind()
            : other == null ? "" : other.kind();
    boolean byArea =
        masks.kinds().traits(path.kind()).area() == Traits.Area.WITHIN
            && masks.kinds().traits(kind).area() == Traits.Area.CODE;
    return new KeyedPath(
        by,
        masks.within(path.rule()).keying(),
        masks.of(path.kind(), path.rule()),
        masks.of(path.kind(), path.rule().notKeyed()),
        byArea);
  }

  private static JsonText json(
      TablePlan table, ColumnName name, TablePlan.ColumnPlan column, Masks masks) {
    Map<String, Mask> paths = new HashMap<>();
    column
        .paths()
        .forEach(
            (path, plan) ->
                paths.put(
                    path,
                    !plan.masked()
                        ? Masks.staying()
                        : plan.rule().keyedBy().isEmpty()
                            ? masks.of(plan.kind(), plan.rule())
                            : keyed(table, column, plan, masks)));
    return masks.json(
        paths,
        column.stopsAtUnknownPaths()
            ? () ->
                Problem.of(
                        Failure.PATH_OPEN,
                        "there is a value at a path that the register does not know")
                    .at(name.toString())
                    .because("its rule in the project file says unknown-paths: stop")
                    .remedy(
                        "find the path with yemble survey "
                            + name.table()
                            + " and decide on it, or say unknown-paths: mask")
            : null);
  }

  /** The masks of the JSON columns, which know what they have met. */
  public Map<ColumnName, JsonText> jsons() {
    return jsons;
  }

  /** References that are cut, or that refer to nothing, become NULL. */
  private void clear(Rule rule) {
    for (String name : rule.cleared()) {
      int position = table.position(name);
      if (rule.cut()) {
        cells[position] = cells[position].cleared();
      } else if (rule.broken() == Broken.NULL) {
        cells[position] = cells[position].clearedIn(selection.traffic(rule.link()).broken());
      }
    }
  }

  @Override
  public List<CellChange> cells() {
    if (rowRules) {
      return List.of();
    }
    List<CellChange> all = new ArrayList<>();
    for (int i = 0; i < cells.length; i++) {
      TablePlan.ColumnPlan column = table.columns().get(i);
      if (texts[i] != null || column.holdsText()) {
        all.add(cells[i].with(new TextChange(column.column(), texts[i], jsonMasks[i])));
      } else {
        all.add(column.isPinned() ? pins.cells(i, cells[i]) : cells[i]);
      }
    }
    return all;
  }

  /** The mask of a column of free text, told of batches so that it can look up their parents. */
  private final class TextChange implements CellChange.Function {
    private final Column column;
    private final FreeText text;
    private final ValueMask json;
    private Map<Long, Mentions> mentions = Map.of();

    /**
     * @param json the mask of JSON that holds texts; null for a column of text
     */
    TextChange(Column column, FreeText text, ValueMask json) {
      this.column = column;
      this.text = text;
      this.json = json;
    }

    @Override
    public boolean needsRows() {
      return true;
    }

    @Override
    public boolean isTold() {
      return true;
    }

    @Override
    public void batch(RowSet rows) {
      RowSet holding = new RowSet();
      source.rows(
          table.table(),
          rows,
          List.of(column),
          (row, values) -> {
            if (isText(values[0])) {
              holding.add(row);
            }
          });
      mentions = rowMentions.of(table.table().name(), holding);
    }

    @Override
    public Object apply(long row, Object value) {
      Mentions known = mentions.getOrDefault(row, Mentions.NONE);
      if (json == null) {
        return texts(text, value, known);
      }
      jsons.values().forEach(inside -> inside.about(known));
      Object masked = json.apply(value);
      jsons.values().forEach(inside -> inside.about(Mentions.NONE));
      return masked;
    }
  }

  private static boolean isText(Object value) {
    return value instanceof String text ? !text.isEmpty() : value instanceof byte[];
  }

  /**
   * What becomes of a cell of free text. Bytes are masked as the text that lies in them; those that
   * hold none lose all but their length, since nobody knows what they say.
   */
  private Object texts(FreeText mask, Object value, Mentions mentions) {
    if (value instanceof String held) {
      return held.isEmpty() ? value : mask.apply(held, mentions);
    }
    if (!(value instanceof byte[] bytes) || bytes.length == 0) {
      return value;
    }
    Optional<BytesText> held = BytesText.of(bytes);
    return held.isPresent()
        ? held.get().with(mask.apply(held.get().text(), mentions))
        : opaque.apply(bytes);
  }

  @Override
  public void rows(RowSet rows, Visitor visitor) {
    rows(rows, mentions -> {}, visitor);
  }

  /**
   * The same.
   *
   * @param about is told before a row with texts what these may mention
   */
  public void rows(RowSet rows, Consumer<Mentions> about, Visitor visitor) {
    List<Column> columns = table.table().written();
    if (!table.hasText() && !pins.isTold()) {
      Object[] before = new Object[columns.size()];
      source.rows(
          table.table(),
          rows,
          columns,
          (row, values) -> {
            System.arraycopy(values, 0, before, 0, before.length);
            change(row, before, values);
            visitor.row(row, before, values);
          });
      return;
    }
    Chunk chunk = new Chunk(about, visitor);
    source.rows(table.table(), rows, columns, chunk::add);
    chunk.flush();
  }

  /** Whether a row has an agreed stand-in in a column; while it is shown to a visitor. */
  public boolean hasStandIn(long row, int position) {
    return pins.stands(row, position);
  }

  /** Changes a row's values in place, free text apart. */
  private void change(long row, Object[] before, Object[] values) {
    if (rowRules) {
      jsons.values().forEach(json -> json.about(column -> text(before, column)));
    }
    for (int i = 0; i < cells.length; i++) {
      values[i] = pins.changed(row, i, values[i], cells[i]);
    }
    byRow.apply(row, before, values);
    if (rowRules) {
      pins.apply(row, before, values); // Nothing wins over them.
    }
    for (int i = 0; i < cells.length; i++) {
      if (cells[i].clears(row)) {
        values[i] = null;
      }
    }
  }

  private String text(Object[] row, String column) {
    int position = table.position(column);
    Object value = position < 0 ? null : row[position];
    return value == null || value instanceof byte[] ? null : Values.text(value);
  }

  /** Rows that wait until what their texts may mention has been looked up. */
  private final class Chunk {
    private final Consumer<Mentions> about;
    private final Visitor visitor;
    private final List<Long> numbers = new ArrayList<>(CHUNK);
    private final List<Object[]> waiting = new ArrayList<>(CHUNK);

    Chunk(Consumer<Mentions> about, Visitor visitor) {
      this.about = about;
      this.visitor = visitor;
    }

    void add(long row, Object[] values) {
      numbers.add(row);
      waiting.add(values.clone());
      if (waiting.size() == CHUNK) {
        flush();
      }
    }

    private boolean holdsText(Object[] values) {
      for (int i = 0; i < values.length; i++) {
        TablePlan.ColumnPlan column = table.columns().get(i);
        if (column.readsMentions() && isText(values[i])) {
          return true;
        }
      }
      return false;
    }

    void flush() {
      RowSet rows = new RowSet();
      for (int i = 0; i < waiting.size(); i++) {
        if (holdsText(waiting.get(i))) {
          rows.add(numbers.get(i));
        }
      }
      if (pins.isTold()) {
        RowSet all = new RowSet();
        numbers.forEach(all::add);
        pins.about(all);
      }
      Map<Long, Mentions> mentions = rowMentions.of(table.table().name(), rows);
      for (int i = 0; i < waiting.size(); i++) {
        Object[] before = waiting.get(i);
        Object[] after = before.clone();
        Mentions known = mentions.getOrDefault(numbers.get(i), Mentions.NONE);
        jsons.values().forEach(inside -> inside.about(known));
        byRow.about(known);
        change(numbers.get(i), before, after);
        byRow.about(Mentions.NONE);
        jsons.values().forEach(inside -> inside.about(Mentions.NONE));
        for (int position = 0; position < after.length; position++) {
          TablePlan.ColumnPlan column = table.columns().get(position);
          if (column.isText() && isText(after[position])) {
            after[position] = texts(texts[position], after[position], known);
          }
        }
        byRow.unmetTexts(numbers.get(i), before, after);
        about.accept(known);
        visitor.row(numbers.get(i), before, after);
      }
      numbers.clear();
      waiting.clear();
    }
  }
}
