package yemble.core.schema;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.UnaryOperator;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;

/**
 * What a database's structure is in words that every engine knows: enough to make the nearest
 * structure in another engine.
 *
 * @param rest what has no counterpart elsewhere: views, routines, triggers and the like, none of
 *     them carried
 */
public record Outline(List<TableOutline> tables, List<SchemaObject> rest) {
  public Outline {
    tables = List.copyOf(tables);
    rest = List.copyOf(rest);
  }

  /**
   * The same with other names of columns.
   *
   * @param names those that change, by their old ones; said among the rest
   */
  public Outline renamed(Map<ColumnName, String> names) {
    if (names.isEmpty()) {
      return this;
    }
    List<SchemaObject> said = new ArrayList<>(rest);
    new TreeMap<>(names)
        .forEach(
            (name, other) ->
                said.add(
                    new SchemaObject(
                        SchemaObject.Type.OTHER,
                        SchemaWording.COLUMN_NAME.of(name, other).toString(),
                        "",
                        "")));
    List<TableOutline> renamed = new ArrayList<>();
    for (TableOutline table : tables) {
      Table old = table.table();
      UnaryOperator<String> own = name -> name(names, old.name(), name);
      boolean any = old.columns().stream().anyMatch(c -> names.containsKey(old.name(c)));
      Map<String, ColumnOutline> columns = new HashMap<>();
      table.columns().forEach((name, column) -> columns.put(own.apply(name), column));
      if (any && !table.checks().isEmpty()) {
        said.add(
            new SchemaObject(
                SchemaObject.Type.OTHER, SchemaWording.CHECKS.of(old.name()).toString(), "", ""));
      }
      renamed.add(
          new TableOutline(
              new Table(
                  old.name(),
                  old.columns().stream()
                      .map(
                          c ->
                              new Column(
                                  own.apply(c.name()), c.type(), c.nullable(), c.generated()))
                      .toList(),
                  each(old.primaryKey(), own),
                  old.uniques().stream().map(unique -> each(unique, own)).toList(),
                  old.handle()),
              columns,
              table.indexes().stream()
                  .map(index -> new Index(index.name(), each(index.columns(), own)))
                  .toList(),
              any ? List.of() : table.checks(),
              table.references().stream()
                  .map(r -> new Reference(renamed(r.link(), names), r.actions()))
                  .toList()));
    }
    return new Outline(renamed, said);
  }

  private static Link renamed(Link link, Map<ColumnName, String> names) {
    return new Link(
        link.child(),
        each(link.childColumns(), name -> name(names, link.child(), name)),
        link.parent(),
        each(link.parentColumns(), name -> name(names, link.parent(), name)),
        link.declared(),
        link.condition());
  }

  private static String name(Map<ColumnName, String> names, TableName table, String column) {
    return names.getOrDefault(new ColumnName(table, column), column);
  }

  private static List<String> each(List<String> names, UnaryOperator<String> other) {
    return names.stream().map(other).toList();
  }

  /** The outline of a table. */
  public Optional<TableOutline> table(TableName name) {
    return tables.stream().filter(outline -> outline.table().name().equals(name)).findFirst();
  }

  /**
   * A table's.
   *
   * @param columns by name
   * @param checks conditions that every row satisfies, in the engine's SQL
   */
  public record TableOutline(
      Table table,
      Map<String, ColumnOutline> columns,
      List<Index> indexes,
      List<String> checks,
      List<Reference> references) {
    /** The same where some columns hold something else than they are declared for. */
    public TableOutline with(Collection<String> columnNames, DataType type) {
      Map<String, ColumnOutline> others = new HashMap<>(columns);
      for (String name : columnNames) {
        ColumnOutline column = columns.get(name);
        others.put(
            name, new ColumnOutline(type, column.caseless(), column.standard(), column.counted()));
      }
      return new TableOutline(table, others, indexes, checks, references);
    }
  }

  /**
   * A column's.
   *
   * @param caseless whether texts that differ in case alone are equal
   * @param standard the value that a row gets which names none, in the engine's SQL; empty for none
   * @param counted whether that value is the next number
   * @param conditions of its type that every value satisfies, in the engine's SQL, which calls it
   *     {@code VALUE}
   */
  public record ColumnOutline(
      DataType type, boolean caseless, String standard, boolean counted, List<String> conditions) {
    public ColumnOutline {
      conditions = List.copyOf(conditions);
    }

    /** Of a type without conditions. */
    public ColumnOutline(DataType type, boolean caseless, String standard, boolean counted) {
      this(type, caseless, standard, counted, List.of());
    }
  }

  /** An index that is no key. */
  public record Index(String name, List<String> columns) {}

  /**
   * A foreign key.
   *
   * @param actions what follows {@code REFERENCES …}: {@code ON DELETE CASCADE} and the like
   */
  public record Reference(Link link, String actions) {}
}
