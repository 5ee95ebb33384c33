package yemble.core.crossing;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import yemble.core.mark.Comparison;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.project.Unfit;
import yemble.core.row.Values;
import yemble.core.schema.Column;
import yemble.core.schema.DataType;
import yemble.core.schema.Misfit;
import yemble.core.schema.Outline;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Counting;
import yemble.core.store.Engine;
import yemble.core.wording.Sentence;

/**
 * The way from one engine to another: what tables are called there, what their columns take, and
 * what becomes of a value that does not fit.
 */
public final class Crossing implements Comparison {
  /** How many values of a column are kept to be shown. */
  private static final int EXAMPLES = 5;

  /** Room for what tells one name from another. */
  private static final int NUMBER = 6;

  private final Map<TableName, TableName> names;

  /** Columns that have another name there. */
  private final Map<ColumnName, String> columnNames;

  private final Engine.Translated translated;
  private final Map<TableName, DataType[]> types = new HashMap<>();
  private final Map<TableName, boolean[]> required = new HashMap<>();
  private final Map<ColumnName, Unfit> rules;
  private final Map<ColumnName, Map<Sentence, Long>> misfits = new TreeMap<>();
  private final Map<ColumnName, Set<Object>> truths = new HashMap<>();
  private final List<Example> examples = new ArrayList<>();

  /**
   * A value that does not fit, for whoever asks for values on screen.
   *
   * @param row the values of its row's primary key, as text; empty without a key
   */
  public record Example(ColumnName column, String row, String value, String reason) {}

  private Crossing(
      Map<TableName, TableName> names,
      Map<ColumnName, String> columnNames,
      Engine.Translated translated,
      Map<ColumnName, Unfit> rules) {
    this.names = names;
    this.columnNames = columnNames;
    this.translated = translated;
    this.rules = rules;
  }

  /**
   * The way from a source.
   *
   * @param rules what becomes of values that do not fit, by column
   */
  public static Crossing of(Outline outline, Engine into, Map<ColumnName, Unfit> rules) {
    Map<TableName, TableName> names = names(outline, into);
    Map<ColumnName, String> columnNames = columnNames(outline, into);
    Engine.Translated translated = into.translated(outline.renamed(columnNames), names);
    Crossing crossing = new Crossing(names, columnNames, translated, rules);
    for (Outline.TableOutline table : outline.tables()) {
      List<Column> columns = table.table().written();
      DataType[] types = new DataType[columns.size()];
      for (int i = 0; i < types.length; i++) {
        types[i] = crossing.type(table.table().name(columns.get(i)));
      }
      crossing.types.put(table.table().name(), types);
      crossing.required.put(table.table().name(), crossing.required(table.table(), columns));
    }
    return crossing;
  }

  /** Which columns must hold a value there, though the source may leave them without. */
  private boolean[] required(Table table, List<Column> columns) {
    Table made = made(table);
    boolean[] required = new boolean[columns.size()];
    for (int i = 0; i < required.length; i++) {
      required[i] =
          columns.get(i).nullable()
              && made.column(column(table.name(columns.get(i))))
                  .filter(c -> !c.nullable())
                  .isPresent();
    }
    return required;
  }

  /** A table of a schema is {@code schema_table} where there are no schemas. */
  private static Map<TableName, TableName> names(Outline outline, Engine engine) {
    Engine.Family into = engine.family();
    boolean schemas = into.schemas();
    Map<TableName, TableName> names = new HashMap<>();
    Set<String> taken = new HashSet<>();
    List<Outline.TableOutline> ordered = new ArrayList<>(outline.tables());
    ordered.sort(java.util.Comparator.comparing(table -> table.table().name()));
    for (Outline.TableOutline table : ordered) {
      TableName name = table.table().name();
      String bare =
          schemas || name.schema().isEmpty() ? name.name() : name.schema() + "_" + name.name();
      bare = engine.tableName(bare);
      String free = shortened(bare, into.nameBytes());
      String scope = schemas ? name.schema() + "\u0000" : "";
      for (int i = 2;
          !taken.add(scope + (into.cased() ? free : free.toLowerCase(Locale.ROOT)));
          i++) {
        free = shortened(bare, into.nameBytes() - (into.nameBytes() > 0 ? NUMBER : 0)) + "_" + i;
      }
      names.put(name, new TableName(schemas ? name.schema() : "", free));
    }
    return names;
  }

  /** What columns are called whose name the other engine, or another column of it, cannot have. */
  private static Map<ColumnName, String> columnNames(Outline outline, Engine engine) {
    Engine.Family into = engine.family();
    Map<ColumnName, String> names = new HashMap<>();
    for (Outline.TableOutline table : outline.tables()) {
      Set<String> taken = new HashSet<>();
      for (Column column : table.table().columns()) {
        String bare = engine.columnName(column.name());
        String free = shortened(bare, into.nameBytes());
        for (int i = 2;
            !taken.add(into.columnsCased() ? free : free.toLowerCase(Locale.ROOT));
            i++) {
          free = shortened(bare, into.nameBytes() - (into.nameBytes() > 0 ? NUMBER : 0)) + "_" + i;
        }
        if (!free.equals(column.name())) {
          names.put(table.table().name(column), free);
        }
      }
    }
    return names;
  }

  /** As much of a name as an engine takes, in bytes of UTF-8; all of it where 0 says so. */
  private static String shortened(String name, int bytes) {
    String shortened = name;
    while (bytes > 0 && shortened.getBytes(StandardCharsets.UTF_8).length > bytes) {
      shortened = shortened.substring(0, shortened.offsetByCodePoints(shortened.length(), -1));
    }
    return shortened;
  }

  /** The structure that is made. */
  public Schema schema() {
    return translated.schema();
  }

  /** The source's tables. */
  Set<TableName> sources() {
    return names.keySet();
  }

  /** What a column of the source is called there. */
  String column(ColumnName source) {
    return columnNames.getOrDefault(source, source.column());
  }

  /** The columns of a table there, under the names that they have in the source. */
  List<Column> asInSource(TableName source, List<Column> columns) {
    Map<String, String> back = new HashMap<>();
    columnNames.forEach(
        (name, there) -> {
          if (name.table().equals(source)) {
            back.put(there, name.column());
          }
        });
    return columns.stream()
        .map(
            c ->
                new Column(
                    back.getOrDefault(c.name(), c.name()), c.type(), c.nullable(), c.generated()))
        .toList();
  }

  /** What a column of the source takes there; null for one that is not made. */
  private DataType type(ColumnName source) {
    return translated.types().get(new ColumnName(source.table(), column(source)));
  }

  /** Whether a column must hold a value there, in every row. */
  public boolean mustHold(Table table, Column column) {
    return isRequired(table, table.written().indexOf(column));
  }

  TableName name(TableName source) {
    return names.get(source);
  }

  /** The table that one of the source becomes. */
  Table made(Table source) {
    return schema().table(names.get(source.name()));
  }

  /**
   * Looks at a row, counts what does not fit, and settles it.
   *
   * @param values of {@link Table#written()}, changed in place to what the target takes
   */
  void take(Table table, Object[] values) {
    DataType[] columns = types.get(table.name());
    for (int i = 0; i < values.length; i++) {
      if (values[i] != null || isRequired(table, i)) {
        values[i] = settled(table, i, values, true);
        values[i] = values[i] == null ? null : translated.fitting().taken(columns[i], values[i]);
      }
    }
  }

  /** Counts what of a row does not fit. */
  public void look(Table table, Object[] values) {
    for (int i = 0; i < values.length; i++) {
      if (values[i] != null || isRequired(table, i)) {
        settled(table, i, values, true);
      }
    }
  }

  @Override
  public Object[] expected(Table table, Object[] values) {
    Object[] expected = new Object[values.length];
    for (int i = 0; i < values.length; i++) {
      boolean looked = values[i] != null || isRequired(table, i);
      Object settled = looked ? settled(table, i, values, false) : null;
      expected[i] = types.get(table.name())[i].normal(settled);
    }
    return expected;
  }

  @Override
  public Object[] found(Table table, Object[] values) {
    Object[] found = new Object[values.length];
    for (int i = 0; i < values.length; i++) {
      found[i] = types.get(table.name())[i].normal(values[i]);
    }
    return found;
  }

  @Override
  public TableName there(Table table) {
    return names.get(table.name());
  }

  @Override
  public String there(Table table, Column column) {
    return column(table.name(column));
  }

  @Override
  public List<Optional<DataType.Base>> types(Table table) {
    return Arrays.stream(types.get(table.name())).map(type -> Optional.of(type.base())).toList();
  }

  /** Where the source's counters stand, under the names of the target. */
  Counting counters(Counting source) {
    return () -> {
      Map<TableName, Long> counters = new TreeMap<>();
      source.counters().forEach((name, position) -> counters.put(names.get(name), position));
      return counters;
    };
  }

  private boolean isRequired(Table table, int position) {
    return required.get(table.name())[position];
  }

  private Object settled(Table table, int position, Object[] row, boolean counts) {
    Object value = row[position];
    DataType type = types.get(table.name())[position];
    Sentence misfit =
        value == null
            ? Misfit.NO_VALUE.of()
            : translated.fitting().misfit(type, type.normal(value));
    if (misfit.isEmpty()) {
      return value;
    }
    ColumnName column = table.name(table.written().get(position));
    Unfit rule = rules.getOrDefault(column, Unfit.REFUSE);
    if (rule.rule() == Unfit.Rule.TRIM && value instanceof String text) {
      Object trimmed = trimmed(type, text);
      if (translated.fitting().misfit(type, type.normal(trimmed)).isEmpty()) {
        return trimmed;
      }
    }
    if (rule.rule() == Unfit.Rule.CLEAR && value != null) {
      return null;
    }
    if (rule.rule() == Unfit.Rule.REPLACE) {
      return rule.value();
    }
    if (counts) {
      count(table, row, column, value, misfit);
    }
    return value;
  }

  private void count(Table table, Object[] row, ColumnName column, Object value, Sentence misfit) {
    long before =
        misfits.computeIfAbsent(column, c -> new HashMap<>()).merge(misfit, 1L, Long::sum);
    if (before <= EXAMPLES) {
      String shown =
          value == null ? "NULL" : value instanceof byte[] ? "(binary)" : Values.text(value);
      examples.add(new Example(column, key(table, row), shown, misfit.toString()));
    }
  }

  /**
   * Counts truths that another row holds, too, in columns that hold none twice: a source that knows
   * no such type may have told {@code 'true'} from 1.
   *
   * @param row as it would be written
   */
  void once(Table table, Object[] row) {
    DataType[] all = types.get(table.name());
    for (int i = 0; i < row.length; i++) {
      Column column = table.written().get(i);
      if (row[i] != null
          && all[i].base() == DataType.Base.BOOLEAN
          && table.uniqueAlone(column.name())) {
        ColumnName name = table.name(column);
        Object truth = all[i].normal(row[i]);
        if (!truths.computeIfAbsent(name, n -> new HashSet<>()).add(truth)) {
          count(table, row, name, row[i], Misfit.SAME_TRUTH.of());
        }
      }
    }
  }

  private static String key(Table table, Object[] row) {
    List<String> parts = new ArrayList<>();
    for (String name : table.primaryKey()) {
      int position = table.written().indexOf(table.column(name).orElseThrow());
      parts.add(position < 0 || row[position] == null ? "" : Values.text(row[position]));
    }
    return String.join(",", parts);
  }

  /** A text without what does not fit: characters of the code zero, and what is too long. */
  private static String trimmed(DataType type, String text) {
    String clean = text.replace("\u0000", "");
    if (type.base() == DataType.Base.TEXT
        && type.length() > 0
        && clean.codePointCount(0, clean.length()) > type.length()) {
      return clean.substring(0, clean.offsetByCodePoints(0, type.length()));
    }
    return clean;
  }

  /** Why a value cannot be in the target's column; {@link Sentence#NONE} if it can. */
  public Sentence misfit(ColumnName column, String value) {
    DataType type = type(column);
    return type == null ? Sentence.NONE : translated.fitting().misfit(type, type.normal(value));
  }

  /** Some of the values that did not fit, as they would be after masking. */
  public List<Example> examples() {
    return examples;
  }

  /** What did not fit, and no rule settles: how many cells of each column, by the reason. */
  public Map<ColumnName, Map<Sentence, Long>> misfits() {
    return misfits;
  }
}
