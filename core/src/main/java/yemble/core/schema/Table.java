package yemble.core.schema;

import java.util.List;
import java.util.Optional;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;

/**
 * A table.
 *
 * @param columns in the order of the catalog
 * @param primaryKey the names of the key's columns, in the key's order; empty without a key
 * @param uniques the columns of each further unique key
 * @param handle what the engine that read the catalog needs to know of it, opaque to others; may be
 *     empty
 */
public record Table(
    TableName name,
    List<Column> columns,
    List<String> primaryKey,
    List<List<String>> uniques,
    String handle) {
  public Table {
    columns = List.copyOf(columns);
    primaryKey = List.copyOf(primaryKey);
    uniques = List.copyOf(uniques);
  }

  /** The column of a name, spelled exactly. */
  public Optional<Column> column(String column) {
    return columns.stream().filter(c -> c.name().equals(column)).findFirst();
  }

  /** The position of a column spelled exactly, from 0; -1 if there is none. */
  public int position(String column) {
    for (int i = 0; i < columns.size(); i++) {
      if (columns.get(i).name().equals(column)) {
        return i;
      }
    }
    return -1;
  }

  /** The columns that are written when a row is copied: all but the generated ones. */
  public List<Column> written() {
    return columns.stream().filter(c -> !c.generated()).toList();
  }

  /** The columns that identify a row: the primary key, or all that are written. */
  public List<Column> identity() {
    return primaryKey.isEmpty()
        ? written()
        : primaryKey.stream().map(name -> column(name).orElseThrow()).toList();
  }

  /**
   * Those of the columns that identify a row that are written; all written ones if none of them is.
   * A generated column of a key adds nothing that the others do not say.
   */
  public List<Column> writtenIdentity() {
    List<Column> written = identity().stream().filter(column -> !column.generated()).toList();
    return written.isEmpty() ? written() : written;
  }

  /** Whether a column is part of the primary key or of a unique key. */
  public boolean inKey(String column) {
    return primaryKey.contains(column) || uniques.stream().anyMatch(u -> u.contains(column));
  }

  /** Whether no two rows may hold the same value in this column alone. */
  public boolean uniqueAlone(String column) {
    List<String> alone = List.of(column);
    return primaryKey.equals(alone) || uniques.contains(alone);
  }

  public ColumnName name(Column column) {
    return new ColumnName(name, column.name());
  }
}
