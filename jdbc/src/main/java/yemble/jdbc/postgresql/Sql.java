package yemble.jdbc.postgresql;

import java.util.Collection;
import java.util.List;
import java.util.stream.Collectors;
import yemble.core.name.TableName;
import yemble.core.schema.Column;

/** Pieces of this engine's SQL. */
final class Sql {
  private Sql() {}

  /** A name in double quotes. */
  static String quoted(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }

  /** A table's name; one of the connection's own schema stands without it. */
  static String quoted(TableName table) {
    return table.schema().isEmpty()
        ? quoted(table.name())
        : quoted(table.schema()) + "." + quoted(table.name());
  }

  static String quoted(Collection<String> names) {
    return names.stream().map(Sql::quoted).collect(Collectors.joining(", "));
  }

  /** The list of some columns with a space before it; empty for none, which stands for all. */
  static String list(List<Column> columns) {
    return columns.isEmpty()
        ? ""
        : " (" + quoted(columns.stream().map(Column::name).toList()) + ")";
  }

  /** A text in single quotes; the sessions of this package read backslashes as they are. */
  static String literal(String text) {
    return "'" + text.replace("'", "''") + "'";
  }
}
