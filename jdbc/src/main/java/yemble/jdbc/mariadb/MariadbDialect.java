package yemble.jdbc.mariadb;

import java.util.stream.Collectors;
import yemble.core.schema.DataType;
import yemble.core.schema.DataType.Base;
import yemble.core.schema.Misfit;
import yemble.core.schema.Outline.ColumnOutline;
import yemble.core.wording.Sentence;
import yemble.jdbc.crossing.Dialect;

/** What other engines' structures become in MariaDB. */
final class MariadbDialect implements Dialect {
  /** Texts of this many characters lie in the row, and can be part of a key. */
  private static final int SHORT = 255;

  private static final int MOST_DIGITS = 65;
  private static final int MOST_SCALE = 30;

  /** Compares like most other engines do: by the characters alone, and to the last one. */
  private static final String EXACT = " CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin";

  /** Case does not count, accents do. */
  static final String CASELESS_COLLATION = "utf8mb4_uca1400_nopad_as_ci";

  @Override
  public String quoted(String name) {
    return Sql.quoted(name);
  }

  @Override
  public String type(String name, ColumnOutline column, boolean indexed) {
    DataType type = taken(column.type(), indexed);
    String collation =
        column.caseless() ? " CHARACTER SET utf8mb4 COLLATE " + CASELESS_COLLATION : EXACT;
    return switch (type.base()) {
      case BOOLEAN -> "BOOLEAN";
      case WHOLE -> whole(type) + (type.unsigned() ? " UNSIGNED" : "");
      case DECIMAL -> "DECIMAL(" + type.length() + "," + type.scale() + ")";
      case FLOAT -> "FLOAT";
      case DOUBLE -> "DOUBLE";
      case TEXT ->
          (type.length() > 0 && (type.length() <= SHORT || indexed)
                  ? "VARCHAR(" + type.length() + ")"
                  : "LONGTEXT")
              + collation;
      case BINARY -> indexed ? "VARBINARY(" + SHORT + ")" : "LONGBLOB";
      case DATE -> "DATE";
      case TIME -> "TIME(6)";
      case MOMENT, INSTANT -> "DATETIME(6)";
      case UUID -> "CHAR(36)" + EXACT;
      case JSON -> "JSON"; // But as a key: see what is taken.
      case ENUM -> "ENUM(" + labels(type) + ")" + collation;
      case SET -> "SET(" + labels(type) + ")" + collation;
      case ANY, OTHER -> "LONGTEXT" + collation;
    };
  }

  private static String labels(DataType type) {
    return type.labels().stream().map(Sql::literal).collect(Collectors.joining(", "));
  }

  private static String whole(DataType type) {
    int bits = type.length() == 0 ? 64 : type.length();
    return bits <= 8
        ? "TINYINT"
        : bits <= 16 ? "SMALLINT" : bits <= 24 ? "MEDIUMINT" : bits <= 32 ? "INT" : "BIGINT";
  }

  @Override
  public String counted() {
    return "NOT NULL AUTO_INCREMENT";
  }

  @Override
  public boolean isCaseless(boolean indexed) {
    return true;
  }

  @Override
  public DataType taken(DataType type, boolean indexed) {
    if (type.base() == Base.DECIMAL) {
      int scale = type.scale() < 0 ? MOST_SCALE : Math.min(type.scale(), MOST_SCALE);
      int digits =
          type.length() == 0 ? MOST_DIGITS : Math.max(scale, Math.min(type.length(), MOST_DIGITS));
      return DataType.decimal(digits, type.length() == 0 || type.scale() >= 0 ? scale : 0);
    }
    if (!indexed) {
      return type;
    }
    // Part of a key is what has a length.
    return switch (type.base()) {
      case TEXT -> type.length() == 0 ? DataType.of(Base.TEXT, SHORT) : type;
      case JSON, ANY, OTHER -> DataType.of(Base.TEXT, SHORT);
      case BINARY -> DataType.of(Base.BINARY, SHORT);
      default -> type;
    };
  }

  @Override
  public Sentence misfit(DataType type, Object value) {
    if (value instanceof Double number && (Double.isNaN(number) || Double.isInfinite(number))) {
      return Misfit.NOT_FINITE.of();
    }
    if (type.base() == Base.TIME
        && value.toString().matches("-?[0-8]?\\d\\d:[0-5]\\d:[0-5]\\d.*")) {
      return Sentence.NONE;
    }
    if (value instanceof byte[] && type.base() == Base.ANY) {
      return Misfit.BINARY_AMONG_TEXTS.of();
    }
    Sentence general = Misfit.why(type, value);
    // Days that no calendar has, as long as they look like days.
    boolean lenient =
        !general.isEmpty()
            && switch (type.base()) {
              case DATE, MOMENT, INSTANT ->
                  value.toString().matches("\\d{4}-(0\\d|1[0-2])-([0-2]\\d|3[01])( [0-2]\\d:.*)?");
              default -> false;
            };
    return lenient ? Sentence.NONE : general;
  }
}
