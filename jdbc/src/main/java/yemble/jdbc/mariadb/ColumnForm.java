package yemble.jdbc.mariadb;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/**
 * How a column's values are asked for, read, and written by LOAD DATA in the character set {@code
 * binary}.
 *
 * @param sort what its values are here
 * @param charset of a text; empty for others
 * @param collation of a text; empty for others
 */
record ColumnForm(Sort sort, String charset, String collation) {
  private static final Set<String> UTF8 = Set.of("utf8mb4", "utf8mb3", "utf8", "ascii");

  /** What values of a column are. */
  enum Sort {
    WHOLE,
    /** Read and written as a number. */
    BITS,
    /** A float of four bytes, which the server shows with six digits if it is not told better. */
    SHORT_FLOAT,
    FLOAT,
    BINARY,
    /** The server's own form: four bytes of SRID, then WKB. */
    GEOMETRY,
    /** A day or a time, with as many digits of a second as it needs. */
    MOMENT,
    /** A number by its digits: a decimal, a year. */
    DIGITS,
    /** What is neither text nor number, by the text that the server makes of it. */
    PLAIN,
    TEXT
  }

  /** The form of a type of the catalog. */
  static ColumnForm of(String dataType, String charset, String collation) {
    Sort sort =
        switch (dataType.toLowerCase(Locale.ROOT)) {
          case "tinyint", "smallint", "mediumint", "int", "bigint" -> Sort.WHOLE;
          case "bit" -> Sort.BITS;
          case "float" -> Sort.SHORT_FLOAT;
          case "double" -> Sort.FLOAT;
          case "binary", "varbinary", "tinyblob", "blob", "mediumblob", "longblob" -> Sort.BINARY;
          case "geometry",
              "point",
              "linestring",
              "polygon",
              "multipoint",
              "multilinestring",
              "multipolygon",
              "geometrycollection" ->
              Sort.GEOMETRY;
          case "decimal", "year" -> Sort.DIGITS;
          case "date", "datetime", "timestamp", "time" -> Sort.MOMENT;
          default -> charset == null ? Sort.PLAIN : Sort.TEXT;
        };
    return new ColumnForm(sort, charset == null ? "" : charset, collation == null ? "" : collation);
  }

  /** Whether the bytes of its texts are those of UTF-8. */
  boolean isUtf8() {
    return UTF8.contains(charset);
  }

  /** Whether values of this column and of another compare as they are. */
  boolean comparesWith(ColumnForm other) {
    return group() == other.group();
  }

  private int group() {
    return switch (sort) {
      case WHOLE, BITS, SHORT_FLOAT, FLOAT, DIGITS -> 0;
      case TEXT -> 1;
      case MOMENT -> 2;
      case BINARY -> 3;
      case GEOMETRY -> 4;
      case PLAIN -> 5;
    };
  }

  /** The expression by which a column is asked for. */
  String read(String column) {
    return switch (sort) {
      case BITS -> column + " + 0";
      case SHORT_FLOAT -> "CAST(" + column + " AS DOUBLE)";
      case MOMENT, PLAIN, DIGITS -> "CAST(" + column + " AS CHAR)";
      default -> column;
    };
  }

  /** The value at a position of a result; null for NULL. */
  Object value(ResultSet row, int at) throws SQLException {
    switch (sort) {
      case WHOLE, BITS -> {
        String digits = row.getString(at);
        return digits == null ? null : whole(digits);
      }
      case SHORT_FLOAT -> {
        double number = row.getDouble(at);
        return row.wasNull() ? null : (Object) Double.valueOf(Float.toString((float) number));
      }
      case FLOAT -> {
        double number = row.getDouble(at);
        return row.wasNull() ? null : (Object) number;
      }
      case BINARY, GEOMETRY -> {
        return row.getBytes(at);
      }
      case MOMENT -> {
        return moment(row.getString(at));
      }
      default -> {
        return row.getString(at);
      }
    }
  }

  /** A number; by its digits where it does not fit 63 bits and a sign. */
  private static Object whole(String digits) {
    try {
      return Long.valueOf(digits);
    } catch (NumberFormatException tooLarge) {
      return digits;
    }
  }

  /**
   * A value as it is written: a float of four bytes by all its digits, so that none is rounded up.
   */
  Object stored(Object value) {
    return sort == Sort.SHORT_FLOAT && value instanceof Double number
        ? (Object) (double) number.floatValue()
        : value;
  }

  private static String moment(String text) {
    int end = text == null ? 0 : text.length();
    if (text == null || text.indexOf('.') < 0) {
      return text;
    }
    while (text.charAt(end - 1) == '0') {
      end--;
    }
    return text.substring(0, text.charAt(end - 1) == '.' ? end - 1 : end);
  }

  /**
   * The form in which values lie as bytes, which a column of the same form takes as they are; empty
   * for those that must be read.
   */
  Optional<String> asBytes() {
    return switch (sort) {
      case TEXT -> Optional.of("text " + charset);
      case WHOLE, FLOAT, MOMENT, DIGITS, PLAIN -> Optional.of(sort.name().toLowerCase(Locale.ROOT));
      case BITS, SHORT_FLOAT, BINARY, GEOMETRY -> Optional.empty();
    };
  }

  /** The expression by which these bytes are asked for. */
  String raw(String column) {
    return sort != Sort.TEXT
        ? "CAST(" + column + " AS CHAR)"
        : isUtf8() ? column : "CAST(" + column + " AS BINARY)";
  }

  /**
   * What LOAD DATA makes of a field, given as a variable; empty where the field is the value.
   *
   * @param raw whether the field holds a text's bytes as they lie in the source
   */
  String written(String variable, boolean raw) {
    return switch (sort) {
      case BITS -> "CAST(" + variable + " AS UNSIGNED)";
      case GEOMETRY ->
          "ST_GeomFromWKB(SUBSTR("
              + variable
              + ", 5), CONV(HEX(REVERSE(LEFT("
              + variable
              + ", 4))), 16, 10))";
      case PLAIN -> "CONVERT(" + variable + " USING utf8mb4)";
      case TEXT -> raw || isUtf8() ? "" : "CONVERT(" + variable + " USING utf8mb4)";
      default -> "";
    };
  }
}
