package yemble.jdbc.mariadb;

import java.util.Collection;
import java.util.HexFormat;
import java.util.stream.Collectors;
import yemble.core.name.TableName;

/** Pieces of this engine's SQL. */
final class Sql {
  private Sql() {}

  /** A name in backquotes. */
  static String quoted(String name) {
    return '`' + name.replace("`", "``") + '`';
  }

  static String quoted(TableName table) {
    return quoted(table.name());
  }

  static String quoted(Collection<String> names) {
    return names.stream().map(Sql::quoted).collect(Collectors.joining(", "));
  }

  /** A text in single quotes; the sessions of this package read backslashes as escapes. */
  static String literal(String text) {
    return "'" + text.replace("\\", "\\\\").replace("'", "''").replace("\0", "\\0") + "'";
  }

  /** A value as a reader gives it; a text takes the collation of what it is compared with. */
  static String literal(Object value) {
    if (value instanceof byte[] blob) {
      return blob.length == 0 ? "''" : "x'" + HexFormat.of().formatHex(blob) + "'";
    }
    if (value instanceof Double) {
      String digits = value.toString();
      return digits.indexOf('E') < 0 ? digits + "e0" : digits; // else it would be a decimal
    }
    return value instanceof Long ? value.toString() : literal(value.toString());
  }
}
