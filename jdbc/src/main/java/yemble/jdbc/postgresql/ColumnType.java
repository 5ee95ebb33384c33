package yemble.jdbc.postgresql;

import yemble.jdbc.ways.CopyLines;

/** How the text of a column's values becomes an object, by the column's base type. */
enum ColumnType implements CopyLines.Field {
  WHOLE,
  FLOATING,
  BINARY,
  TRUTH,
  TEXT;

  /** The type of a base type's name in the catalog. */
  static ColumnType of(String name) {
    return switch (name) {
      case "int2", "int4", "int8" -> WHOLE;
      case "float4", "float8" -> FLOATING;
      case "bytea" -> BINARY;
      case "bool" -> TRUTH;
      default -> TEXT;
    };
  }

  @Override
  public Object value(byte[] line, int from, int to) {
    if (CopyText.isNull(line, from, to)) {
      return null;
    }
    return switch (this) {
      case WHOLE -> CopyText.number(line, from, to);
      case FLOATING -> Double.valueOf(CopyText.text(line, from, to));
      case BINARY -> CopyText.binary(line, from, to);
      case TRUTH -> line[from] == 't' ? 1L : 0L;
      case TEXT -> CopyText.text(line, from, to);
    };
  }
}
