package yemble.jdbc.standard;

import java.math.BigDecimal;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.sql.Types;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import yemble.core.schema.DataType;
import yemble.core.schema.DataType.Base;
import yemble.core.schema.Table;
import yemble.jdbc.rows.KeyedTable;

/**
 * A table as the driver's metadata show it.
 *
 * @param key the columns by which its rows are told apart; empty where there is no such key
 * @param types of its columns, by name
 * @param counted the columns that the database numbers by itself
 * @param standards the defaults of its columns, by name
 * @param quote what stands around names
 * @param spelling what of the standard's SQL is known
 */
record StandardTable(
    Table table,
    List<String> key,
    Map<String, DataType> types,
    List<String> counted,
    Map<String, String> standards,
    String relation,
    String quote,
    Spelling spelling)
    implements KeyedTable {
  private static final int BATCH = 500;

  /** The type of a column by the standard's number, as drivers name it. */
  static DataType type(int number, int size, int scale) {
    return switch (number) {
      case Types.BIT, Types.BOOLEAN -> DataType.of(Base.BOOLEAN);
      case Types.TINYINT, Types.SMALLINT -> DataType.of(Base.WHOLE, 16);
      case Types.INTEGER -> DataType.of(Base.WHOLE, 32);
      case Types.BIGINT -> DataType.of(Base.WHOLE, 64);
      case Types.DECIMAL, Types.NUMERIC ->
          scale == 0 && size > 0 && size <= 18
              ? DataType.of(Base.WHOLE, 64)
              : size <= 0 || size > 1000 ? DataType.decimal(0, -1) : DataType.decimal(size, scale);
      case Types.REAL -> DataType.of(Base.FLOAT);
      case Types.FLOAT, Types.DOUBLE -> DataType.of(Base.DOUBLE);
      case Types.CHAR, Types.VARCHAR, Types.NCHAR, Types.NVARCHAR ->
          DataType.of(Base.TEXT, size > 1_000_000 ? 0 : size);
      case Types.LONGVARCHAR, Types.LONGNVARCHAR, Types.CLOB, Types.NCLOB -> DataType.of(Base.TEXT);
      case Types.BINARY, Types.VARBINARY, Types.LONGVARBINARY, Types.BLOB ->
          DataType.of(Base.BINARY);
      case Types.DATE -> DataType.of(Base.DATE);
      case Types.TIME -> DataType.of(Base.TIME);
      case Types.TIMESTAMP -> DataType.of(Base.MOMENT);
      case Types.TIMESTAMP_WITH_TIMEZONE -> DataType.of(Base.INSTANT);
      default -> DataType.of(Base.OTHER);
    };
  }

  @Override
  public double estimate() {
    return 0;
  }

  @Override
  public boolean numbered() {
    return key.size() == 1 && types.get(key.get(0)).base() == Base.WHOLE;
  }

  @Override
  public boolean unsigned() {
    return false;
  }

  @Override
  public String ordinals(String name) {
    List<String> all = table.columns().stream().map(c -> quoted(c.name())).toList();
    List<String> ordered =
        table.columns().stream()
            .filter(c -> orders(types.get(c.name())))
            .map(c -> quoted(c.name()))
            .toList();
    String order = ordered.isEmpty() ? "" : " ORDER BY " + String.join(", ", ordered);
    boolean within = spelling.ordersNumbers();
    return "SELECT "
        + String.join(", ", all)
        + ", ROW_NUMBER() OVER ("
        + (within ? order.strip() : "")
        + ") AS "
        + name
        + " FROM "
        + (within ? relation : "(SELECT * FROM " + relation + order + ") yemble_o");
  }

  /** Whether rows can be put in order by a column; what is large or strange often cannot. */
  private static boolean orders(DataType type) {
    return switch (type.base()) {
      case BINARY, OTHER, JSON -> false;
      case TEXT -> type.length() > 0;
      default -> true;
    };
  }

  @Override
  public String quoted(String name) {
    return quote.isBlank() ? name : quote + name.replace(quote, quote + quote) + quote;
  }

  @Override
  public int batch() {
    return BATCH;
  }

  @Override
  public boolean comparesRows() {
    return false;
  }

  @Override
  public String read(String column, String expression) {
    return expression;
  }

  @Override
  public Object value(String column, ResultSet row, int at) throws SQLException {
    DataType type = types.get(column);
    switch (type.base()) {
      case BOOLEAN -> {
        boolean truth = row.getBoolean(at);
        return row.wasNull() ? null : (Object) (truth ? 1L : 0L);
      }
      case WHOLE -> {
        long number = row.getLong(at);
        return row.wasNull() ? null : (Object) number;
      }
      case DECIMAL -> {
        BigDecimal number = row.getBigDecimal(at);
        return number == null ? null : number.toPlainString();
      }
      case FLOAT -> {
        float number = row.getFloat(at);
        return row.wasNull() ? null : (Object) Double.valueOf(Float.toString(number));
      }
      case DOUBLE -> {
        double number = row.getDouble(at);
        return row.wasNull() ? null : (Object) number;
      }
      case BINARY -> {
        return row.getBytes(at);
      }
      case MOMENT -> {
        LocalDateTime moment = moment(row, at);
        return moment == null ? null : type.normal(moment.toString());
      }
      case INSTANT -> {
        OffsetDateTime moment = row.getObject(at, OffsetDateTime.class);
        return moment == null
            ? null
            : type.normal(moment.withOffsetSameInstant(ZoneOffset.UTC).toLocalDateTime().toString())
                + "+00";
      }
      case DATE, TIME -> {
        String text = row.getString(at);
        return text == null ? null : type.normal(text);
      }
      default -> {
        return row.getString(at);
      }
    }
  }

  /** Newer drivers give a moment as it is; others as one of the machine's time zone. */
  private static LocalDateTime moment(ResultSet row, int at) throws SQLException {
    try {
      return row.getObject(at, LocalDateTime.class);
    } catch (SQLException older) {
      Timestamp moment = row.getTimestamp(at);
      return moment == null ? null : moment.toLocalDateTime();
    }
  }

  @Override
  public String literal(String column, Object value) {
    if (value instanceof byte[] blob) {
      return "X'" + HexFormat.of().formatHex(blob) + "'";
    }
    if (value instanceof Double) {
      return value.toString().contains("E") ? value.toString() : value + "E0";
    }
    String text = "'" + value.toString().replace("'", "''") + "'";
    return switch (types.get(column).base()) {
      case WHOLE, DECIMAL -> value.toString();
      case BOOLEAN -> value.equals(1L) ? "TRUE" : "FALSE";
      case DATE -> spelling.literal("DATE", text);
      case TIME -> spelling.literal("TIME", text);
      case MOMENT -> spelling.literal("TIMESTAMP", text);
      case INSTANT -> "TIMESTAMP WITH TIME ZONE " + text;
      default -> text;
    };
  }
}
