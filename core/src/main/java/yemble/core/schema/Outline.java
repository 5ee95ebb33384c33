package yemble.core.schema;

import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
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
    /** The same where some columns, declared as truths, hold small numbers. */
    public TableOutline with(Collection<String> numbers) {
      Map<String, ColumnOutline> others = new HashMap<>(columns);
      for (String name : numbers) {
        ColumnOutline column = columns.get(name);
        others.put(
            name,
            new ColumnOutline(
                DataType.of(DataType.Base.WHOLE, Short.SIZE),
                column.caseless(),
                column.standard(),
                column.counted()));
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
   */
  public record ColumnOutline(DataType type, boolean caseless, String standard, boolean counted) {}

  /** An index that is no key. */
  public record Index(String name, List<String> columns) {}

  /**
   * A foreign key.
   *
   * @param actions what follows {@code REFERENCES …}: {@code ON DELETE CASCADE} and the like
   */
  public record Reference(Link link, String actions) {}
}
