package yemble.jdbc.sqlite;

import java.util.Locale;
import yemble.core.name.TableName;

/** Pieces of this engine's SQL. */
final class Sql {
  private Sql() {}

  /** A name in double quotes. */
  static String quoted(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }

  /** A text in single quotes. */
  static String literal(String text) {
    return "'" + text.replace("'", "''") + "'";
  }

  static String quoted(TableName table) {
    return quoted(table.name());
  }

  /**
   * The affinity of a declared type, by the rules of "Datatypes In SQLite", section 3.1.
   *
   * @return one of INTEGER, TEXT, BLOB, REAL, NUMERIC
   */
  static String affinity(String declared) {
    String type = declared.toUpperCase(Locale.ROOT);
    if (type.contains("INT")) {
      return "INTEGER";
    }
    if (type.contains("CHAR") || type.contains("CLOB") || type.contains("TEXT")) {
      return "TEXT";
    }
    if (type.isEmpty() || type.contains("BLOB")) {
      return "BLOB";
    }
    if (type.contains("REAL") || type.contains("FLOA") || type.contains("DOUB")) {
      return "REAL";
    }
    return "NUMERIC";
  }
}
