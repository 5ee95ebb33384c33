package yemble.jdbc.crossing;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.schema.Column;
import yemble.core.schema.DataType;
import yemble.core.schema.Link;
import yemble.core.schema.Outline;
import yemble.core.schema.Outline.ColumnOutline;
import yemble.core.schema.Outline.TableOutline;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.SchemaObject.Type;
import yemble.core.schema.Table;
import yemble.core.store.Engine;

/**
 * The nearest structure in another engine: tables with keys, checks, defaults and counters, then
 * indexes and foreign keys, each as a statement; and by name what could not be carried.
 */
public final class Translation {
  /** Half of what engines allow a name, with room for a number. */
  private static final int HALF = 28;

  /** The column of a table that has none. */
  private static final String HOLLOW = "nothing";

  /** A setting by which a schema is known to come from another engine. */
  public static final String TRANSLATED = "translated";

  private final Dialect dialect;
  private final Outline outline;
  private final Map<TableName, TableName> names;
  private final List<SchemaObject> objects = new ArrayList<>();
  private final List<SchemaObject> left = new ArrayList<>();
  private final Map<ColumnName, DataType> types = new HashMap<>();
  private int withCase;

  /** The types of the table that is being made, by column. */
  private final Map<String, String> written = new HashMap<>();

  private final Set<String> indexNames = new HashSet<>();

  private Translation(Dialect dialect, Outline outline, Map<TableName, TableName> names) {
    this.dialect = dialect;
    this.outline = alike(outline);
    this.names = names;
  }

  /**
   * The structure.
   *
   * @param names what each table is called in the other engine
   */
  public static Engine.Translated of(
      Dialect dialect, Outline outline, Map<TableName, TableName> names) {
    Translation translation = new Translation(dialect, outline, names);
    Schema schema = translation.schema();
    return new Engine.Translated(schema, translation.types, dialect);
  }

  /** The same with each column that refers to another one being what that is. */
  private static Outline alike(Outline outline) {
    Map<ColumnName, ColumnOutline> columns = new HashMap<>();
    for (TableOutline table : outline.tables()) {
      table
          .columns()
          .forEach(
              (name, of) -> columns.put(new ColumnName(table.table().name(), name), signed(of)));
    }
    boolean changed = true;
    for (int round = 0; changed && round < outline.tables().size(); round++) {
      changed = false;
      for (TableOutline table : outline.tables()) {
        for (Outline.Reference reference : table.references()) {
          changed |= adopt(reference.link(), columns);
        }
      }
    }
    return new Outline(
        outline.tables().stream()
            .map(
                table -> {
                  Map<String, ColumnOutline> own = new HashMap<>();
                  table
                      .columns()
                      .keySet()
                      .forEach(
                          name ->
                              own.put(
                                  name, columns.get(new ColumnName(table.table().name(), name))));
                  return new TableOutline(
                      table.table(), own, table.indexes(), table.checks(), table.references());
                })
            .toList(),
        outline.rest());
  }

  /**
   * Counters count signed numbers in other engines: an unsigned one becomes one, and a value beyond
   * is one that does not fit.
   */
  private static ColumnOutline signed(ColumnOutline column) {
    DataType type = column.type();
    return column.counted() && type.base() == DataType.Base.WHOLE && type.unsigned()
        ? new ColumnOutline(
            DataType.of(DataType.Base.WHOLE, Long.SIZE), column.caseless(), column.standard(), true)
        : column;
  }

  private static boolean adopt(Link link, Map<ColumnName, ColumnOutline> columns) {
    boolean changed = false;
    for (int i = 0; i < link.childColumns().size(); i++) {
      ColumnName child = new ColumnName(link.child(), link.childColumns().get(i));
      ColumnOutline from = columns.get(child);
      ColumnOutline to = columns.get(new ColumnName(link.parent(), link.parentColumns().get(i)));
      ColumnOutline adopted =
          new ColumnOutline(to.type(), to.caseless(), from.standard(), from.counted());
      changed |= !adopted.equals(from);
      columns.put(child, adopted);
    }
    return changed;
  }

  private Schema schema() {
    List<Table> tables = new ArrayList<>();
    List<Link> links = new ArrayList<>();
    List<SchemaObject> later = new ArrayList<>();
    boolean caseless =
        outline.tables().stream()
            .anyMatch(t -> t.columns().values().stream().anyMatch(ColumnOutline::caseless));
    if (caseless && !dialect.caselessNeeds().isEmpty()) {
      objects.add(
          new SchemaObject(Type.EXTENSION, "for texts without case", "", dialect.caselessNeeds()));
    }
    for (TableOutline table : outline.tables()) {
      written.clear();
      String statement = create(table);
      TableName name = names.get(table.table().name());
      renamed(table.table().name(), name);
      List<Column> columns = columns(table.table());
      tables.add(
          new Table(name, columns, table.table().primaryKey(), uniques(table.table()), statement));
      objects.add(new SchemaObject(Type.TABLE, shown(name), "", statement));
      indexes(table, later);
      for (Outline.Reference reference : table.references()) {
        if (!pointsAtKey(reference.link())) {
          left.add(
              new SchemaObject(
                  Type.FOREIGN_KEY,
                  reference.link() + ": what it refers to is not unique",
                  "",
                  ""));
          continue;
        }
        links.add(renamed(reference.link()));
        if (!dialect.keysWithTable()) {
          String key =
              unused(shortened(name.name()) + "_" + reference.link().childColumns().get(0));
          later.add(
              new SchemaObject(
                  Type.FOREIGN_KEY,
                  key,
                  shown(name),
                  "ALTER TABLE "
                      + relation(name)
                      + " ADD CONSTRAINT "
                      + dialect.quoted(key)
                      + " "
                      + foreignKey(reference)
                      + dialect.added()));
        }
      }
    }
    if (withCase > 0) {
      left.add(
          new SchemaObject(
              Type.OTHER,
              "comparing without case in "
                  + withCase
                  + (withCase == 1 ? " column" : " columns")
                  + ": it counts there",
              "",
              ""));
    }
    objects.addAll(later);
    objects.addAll(left);
    objects.addAll(outline.rest());
    return new Schema(tables, links, objects, Map.of(TRANSLATED, "true"));
  }

  /**
   * Whether a foreign key refers to columns that are a key; some engines ask for no more than an
   * index.
   */
  private boolean pointsAtKey(Link link) {
    Set<String> columns = Set.copyOf(link.parentColumns());
    return outline
        .table(link.parent())
        .map(TableOutline::table)
        .filter(
            parent ->
                columns.equals(Set.copyOf(parent.primaryKey()))
                    || uniques(parent).stream().anyMatch(u -> columns.equals(Set.copyOf(u))))
        .isPresent();
  }

  /** The columns that are made; where there is none to make, one that stays without a value. */
  private List<Column> columns(Table table) {
    if (table.written().isEmpty()) {
      return List.of(new Column(HOLLOW, "INTEGER", true, false));
    }
    return table.written().stream()
        .map(
            c ->
                new Column(
                    c.name(),
                    written.get(c.name()),
                    c.nullable() && !table.primaryKey().contains(c.name()),
                    false))
        .toList();
  }

  private static String shown(TableName name) {
    return name.schema().isEmpty() ? name.name() : name.schema() + "." + name.name();
  }

  private String relation(TableName name) {
    return name.schema().isEmpty()
        ? dialect.quoted(name.name())
        : dialect.quoted(name.schema()) + "." + dialect.quoted(name.name());
  }

  /** A name that could not be kept is said. */
  private void renamed(TableName source, TableName there) {
    String joined =
        source.schema().isEmpty() ? source.name() : source.schema() + "_" + source.name();
    if (!there.name().equals(source.name()) && !there.name().equals(joined)) {
      left.add(
          new SchemaObject(
              Type.OTHER, "the name of table " + source + ": it is " + there + " there", "", ""));
    }
  }

  private Link renamed(Link link) {
    return new Link(
        names.get(link.child()),
        link.childColumns(),
        names.get(link.parent()),
        link.parentColumns(),
        true,
        "");
  }

  private static List<List<String>> uniques(Table table) {
    Set<String> written = new HashSet<>(table.written().stream().map(Column::name).toList());
    return table.uniques().stream().filter(written::containsAll).distinct().toList();
  }

  private void leave(String what, TableName table) {
    left.add(new SchemaObject(Type.OTHER, what + " of " + table, "", ""));
  }

  private String create(TableOutline outline) {
    Table table = outline.table();
    Set<String> indexed = new TreeSet<>(table.primaryKey());
    table.uniques().forEach(indexed::addAll);
    outline.indexes().forEach(index -> indexed.addAll(index.columns()));
    outline.references().forEach(reference -> indexed.addAll(reference.link().childColumns()));
    boolean numbersItself =
        table.primaryKey().size() == 1
            && outline.columns().get(table.primaryKey().get(0)).counted();
    List<String> parts = new ArrayList<>();
    for (Column column : table.columns()) {
      if (column.generated()) {
        leave("generated column " + column.name(), table.name());
      } else {
        boolean isIndexed = indexed.contains(column.name());
        types.put(
            table.name(column),
            dialect.taken(outline.columns().get(column.name()).type(), isIndexed));
        parts.add(column(outline, column, isIndexed, numbersItself));
      }
    }
    if (parts.isEmpty()) {
      parts.add(dialect.quoted(HOLLOW) + " INTEGER");
      left.add(
          new SchemaObject(
              Type.OTHER,
              "table " + table.name() + " without columns: it has one there that stays empty",
              "",
              ""));
    }
    boolean inline = numbersItself && dialect.counted().contains("PRIMARY KEY");
    if (!table.primaryKey().isEmpty() && !inline) {
      parts.add("PRIMARY KEY (" + quoted(table.primaryKey()) + ")");
    }
    for (List<String> unique : uniques(table)) {
      parts.add("UNIQUE (" + quoted(unique) + ")");
    }
    checks(outline, parts);
    if (dialect.keysWithTable()) {
      outline.references().stream()
          .filter(reference -> pointsAtKey(reference.link()))
          .forEach(reference -> parts.add(foreignKey(reference)));
    }
    return "CREATE TABLE "
        + relation(names.get(table.name()))
        + " (\n  "
        + String.join(",\n  ", parts)
        + "\n)";
  }

  private String column(TableOutline outline, Column column, boolean indexed, boolean numbers) {
    ColumnOutline facts = outline.columns().get(column.name());
    if (facts.caseless() && !dialect.isCaseless(indexed)) {
      withCase++;
    }
    boolean counted = facts.counted() && numbers;
    StringBuilder sql = new StringBuilder(dialect.quoted(column.name()));
    String type = dialect.type(dialect.quoted(column.name()), facts, indexed);
    written.put(column.name(), type.replaceFirst(" (CHECK|CHARACTER SET|COLLATE) .*", ""));
    sql.append(' ').append(type);
    if (counted) {
      sql.append(' ').append(dialect.counted());
    } else {
      sql.append(column.nullable() ? "" : " NOT NULL");
      if (facts.counted()) {
        leave("counter of " + column.name(), outline.table().name());
      } else if (!facts.standard().isEmpty()) {
        Optional<String> standard = Expression.standard(facts.standard());
        boolean fits = standard.isPresent() && fits(facts.type(), standard.get());
        fits = fits && isTaken(facts.type(), standard.get());
        fits =
            fits && !(spelled(facts.type(), standard.get()).equals("NULL") && !column.nullable());
        if (fits) {
          sql.append(" DEFAULT ").append(spelled(facts.type(), standard.get()));
        } else {
          leave("default of " + column.name(), outline.table().name());
        }
      }
    }
    return sql.toString();
  }

  private static boolean fits(DataType type, String standard) {
    boolean moment = standard.toLowerCase(Locale.ROOT).startsWith("current_");
    return switch (type.base()) {
      case MOMENT, INSTANT -> true;
      case DATE -> !standard.equals("CURRENT_TIMESTAMP");
      case JSON, OTHER, SET, BINARY, UUID -> false;
      default -> !moment;
    };
  }

  /** Whether a literal is a value of the column's type. */
  private boolean isTaken(DataType type, String standard) {
    String word = standard.toLowerCase(Locale.ROOT);
    if (word.startsWith("current_") || word.equals("null")) {
      return true;
    }
    String literal =
        standard.startsWith("'")
            ? standard.substring(1, standard.length() - 1).replace("''", "'")
            : standard;
    return dialect.misfit(type, type.normal(literal)).isEmpty();
  }

  private static String spelled(DataType type, String standard) {
    if (type.base() == DataType.Base.BOOLEAN) {
      return switch (standard.toLowerCase(Locale.ROOT)) {
        case "1", "true", "'t'", "'1'", "'true'" -> "TRUE";
        case "0", "false", "'f'", "'0'", "'false'" -> "FALSE";
        default -> "NULL";
      };
    }
    boolean calendar =
        switch (type.base()) {
          case DATE, TIME, MOMENT, INSTANT -> standard.startsWith("'");
          default -> false;
        };
    return calendar
        ? "'" + type.normal(standard.substring(1, standard.length() - 1)) + "'"
        : standard;
  }

  private void checks(TableOutline outline, List<String> parts) {
    List<String> known =
        outline.table().written().stream()
            .map(Column::name)
            .filter(
                name ->
                    switch (outline.columns().get(name).type().base()) {
                      case WHOLE, DECIMAL, FLOAT, DOUBLE, TEXT, ENUM, DATE, MOMENT, TIME -> true;
                      default -> false;
                    })
            .toList();
    for (String check : outline.checks()) {
      Optional<String> condition = Expression.condition(check, known, dialect::quoted);
      if (condition.isPresent()) {
        parts.add("CHECK (" + condition.get() + ")");
      } else {
        leave("a check", outline.table().name());
      }
    }
  }

  private String foreignKey(Outline.Reference reference) {
    Link link = reference.link();
    return "FOREIGN KEY ("
        + quoted(link.childColumns())
        + ") REFERENCES "
        + relation(names.get(link.parent()))
        + " ("
        + quoted(link.parentColumns())
        + ")"
        + (reference.actions().isEmpty() ? "" : " " + reference.actions());
  }

  private void indexes(TableOutline table, List<SchemaObject> later) {
    Map<List<String>, Boolean> made = new HashMap<>();
    for (Outline.Index index : table.indexes()) {
      boolean plain =
          index.columns().stream()
              .allMatch(
                  name ->
                      table.table().written().stream().anyMatch(c -> c.name().equals(name))
                          && table.columns().get(name).type().base() != DataType.Base.JSON);
      if (!plain) {
        leave("index " + index.name(), table.table().name());
      } else if (made.put(index.columns(), true) == null) {
        String name = unused(index.name());
        later.add(
            new SchemaObject(
                Type.INDEX,
                name,
                shown(names.get(table.table().name())),
                "CREATE INDEX "
                    + dialect.quoted(name)
                    + " ON "
                    + relation(names.get(table.table().name()))
                    + " ("
                    + quoted(index.columns())
                    + ")"));
      }
    }
  }

  private static String shortened(String name) {
    return name.length() <= HALF ? name : name.substring(0, HALF);
  }

  /** A name that no other index or key has: elsewhere they may belong to the table alone. */
  private String unused(String written) {
    String name = written.length() <= 2 * HALF ? written : written.substring(0, 2 * HALF);
    String candidate = name;
    for (int i = 2; !indexNames.add(candidate.toLowerCase(Locale.ROOT)); i++) {
      candidate = name + "_" + i;
    }
    return candidate;
  }

  private String quoted(List<String> columns) {
    return String.join(", ", columns.stream().map(dialect::quoted).toList());
  }
}
