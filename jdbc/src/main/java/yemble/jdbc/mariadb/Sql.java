package yemble.jdbc.mariadb;

import java.util.Collection;
import java.util.HexFormat;
import java.util.List;
import java.util.stream.Collectors;
import yemble.core.name.TableName;
import yemble.core.schema.Column;

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
    StringBuilder literal = new StringBuilder(text.length() + 2).append('\'');
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      switch (c) {
        case '\\' -> literal.append("\\\\");
        case '\'' -> literal.append("''");
        case 0 -> literal.append("\\0");
        case '\n' -> literal.append("\\n"); // The client takes a CR before a line's end away.
        case '\r' -> literal.append("\\r");
        case 0x1a -> literal.append("\\Z");
        default -> literal.append(c);
      }
    }
    return literal.append('\'').toString();
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

  /** The beginning of an INSERT. */
  static String insert(String table, List<Column> columns) {
    return "INSERT INTO "
        + table
        + " ("
        + quoted(columns.stream().map(Column::name).toList())
        + ") VALUES ";
  }

  /** A row of an INSERT, in parentheses. */
  static void row(StringBuilder sql, ColumnForm[] forms, Object[] values) {
    sql.append('(');
    for (int i = 0; i < values.length; i++) {
      Object value = forms[i].stored(values[i]);
      sql.append(i == 0 ? "" : ",").append(value == null ? "NULL" : literal(forms[i], value));
    }
    sql.append(')');
  }

  private static String literal(ColumnForm form, Object value) {
    return switch (form.sort()) {
      case GEOMETRY -> form.written(literal(value), false);
      case BITS -> value.toString();
      default -> literal(value);
    };
  }
}
