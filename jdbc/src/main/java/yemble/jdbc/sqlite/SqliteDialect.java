package yemble.jdbc.sqlite;

import java.util.stream.Collectors;
import yemble.core.schema.DataType;
import yemble.core.schema.DataType.Base;
import yemble.core.schema.Misfit;
import yemble.core.schema.Outline.ColumnOutline;
import yemble.core.wording.Sentence;
import yemble.jdbc.crossing.Dialect;

/**
 * What other engines' structures become in SQLite. A declared type is chosen by the affinity that
 * it has: one that would turn texts into numbers is kept from texts.
 */
final class SqliteDialect implements Dialect {
  /** SQLite keeps this many digits of a decimal that it makes a number of. */
  private static final int EXACT_DIGITS = 15;

  @Override
  public String quoted(String name) {
    return Sql.quoted(name);
  }

  @Override
  public String type(String name, ColumnOutline column, boolean indexed) {
    DataType type = column.type();
    String nocase = column.caseless() ? " COLLATE NOCASE" : "";
    return switch (type.base()) {
      case BOOLEAN -> "BOOLEAN";
      case WHOLE -> type.unsigned() && type.length() == 64 ? "TEXT" : "INTEGER";
      case DECIMAL ->
          type.length() > 0 && type.length() <= EXACT_DIGITS
              ? "DECIMAL(" + type.length() + "," + Math.max(0, type.scale()) + ")"
              : "TEXT";
      case FLOAT, DOUBLE -> "REAL";
      case TEXT -> (type.length() == 0 ? "TEXT" : "VARCHAR(" + type.length() + ")") + nocase;
      case BINARY -> "BLOB";
      case DATE -> "DATE";
      case TIME -> "TIME";
      case MOMENT -> "TIMESTAMP";
      case INSTANT -> "TIMESTAMP";
      case UUID, JSON, SET, OTHER -> "TEXT" + nocase;
      case ENUM ->
          "TEXT"
              + nocase
              + " CHECK ("
              + name
              + " IN ("
              + type.labels().stream()
                  .map(label -> "'" + label.replace("'", "''") + "'")
                  .collect(Collectors.joining(", "))
              + "))";
      case ANY -> "";
    };
  }

  @Override
  public String counted() {
    return "PRIMARY KEY AUTOINCREMENT";
  }

  @Override
  public boolean keysWithTable() {
    return true;
  }

  @Override
  public boolean isCaseless(boolean indexed) {
    return true;
  }

  /** Any column takes any value, but for what no SQLite value is. */
  @Override
  public Sentence misfit(DataType type, Object value) {
    if (value instanceof Double number && Double.isNaN(number)) {
      return Misfit.NOT_A_NUMBER.of();
    }
    boolean real = type.base() == Base.FLOAT || type.base() == Base.DOUBLE;
    if (real && value.equals(-0.0)) {
      return Misfit.NEGATIVE_ZERO.of();
    }
    if (type.base() == Base.ENUM && !type.labels().contains(value.toString())) {
      return Misfit.NO_LABEL.of();
    }
    return Sentence.NONE;
  }
}
