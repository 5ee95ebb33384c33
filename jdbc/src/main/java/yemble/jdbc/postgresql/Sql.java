package yemble.jdbc.postgresql;

import java.util.Collection;
import java.util.stream.Collectors;
import yemble.core.name.TableName;

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

  /** A text in single quotes; the sessions of this package read backslashes as they are. */
  static String literal(String text) {
    return "'" + text.replace("'", "''") + "'";
  }
}
