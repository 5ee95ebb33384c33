package yemble.core.name;

/** The name of a column of a table. */
public record ColumnName(TableName table, String column) implements Comparable<ColumnName> {
  @Override
  public int compareTo(ColumnName other) {
    int byTable = table.compareTo(other.table);
    return byTable != 0 ? byTable : column.compareTo(other.column);
  }

  /** As a project file writes it: quoted where needed. */
  @Override
  public String toString() {
    return table + "." + DottedName.quoted(column);
  }
}
