package yemble.jdbc.sqlite;

import java.math.BigDecimal;
import java.util.IdentityHashMap;
import java.util.Map;
import java.util.regex.Pattern;
import yemble.core.mark.Comparison;
import yemble.core.schema.Table;

/**
 * What SQLite makes of values when it stores them: the affinity of a column turns numbers without a
 * fraction into whole ones, and texts that are numbers into these ("Datatypes In SQLite", section
 * 3).
 */
final class StoredForm implements Comparison {
  private static final Pattern NUMBER =
      Pattern.compile("\\s*[+-]?(?:[0-9]+\\.?[0-9]*|\\.[0-9]+)(?:[eE][+-]?[0-9]+)?\\s*");
  private static final Pattern WHOLE = Pattern.compile("[+-]?[0-9]+");

  /** The affinities of a table's written columns; only the thread that expects rows asks. */
  private final Map<Table, String[]> affinities = new IdentityHashMap<>();

  @Override
  public Object[] expected(Table table, Object[] values) {
    String[] of = affinities.computeIfAbsent(table, StoredForm::affinities);
    Object[] stored = values;
    for (int i = 0; i < values.length; i++) {
      Object form = stored(of[i], values[i]);
      if (form != values[i]) {
        stored = stored == values ? values.clone() : stored;
        stored[i] = form;
      }
    }
    return stored;
  }

  private static String[] affinities(Table table) {
    return table.written().stream()
        .map(column -> Sql.affinity(column.type()))
        .toArray(String[]::new);
  }

  @Override
  public Object[] found(Table table, Object[] values) {
    return values;
  }

  private static Object stored(String affinity, Object value) {
    if (value == null || value instanceof byte[]) {
      return value;
    }
    return switch (affinity) {
      case "INTEGER", "NUMERIC" -> whole(value instanceof String text ? number(text) : value);
      case "REAL" -> {
        Object number = value instanceof String text ? number(text) : value;
        yield number instanceof Long whole ? (Object) whole.doubleValue() : number;
      }
      case "TEXT" -> value instanceof Long whole ? whole.toString() : value;
      default -> value;
    };
  }

  private static Object whole(Object value) {
    if (value instanceof Double real
        && real == Math.rint(real)
        && Math.abs(real) < Long.MAX_VALUE) {
      return real.longValue();
    }
    return value;
  }

  /** The number that a text is, if it is nothing else; the text itself if not. */
  private static Object number(String text) {
    if (!NUMBER.matcher(text).matches()) {
      return text;
    }
    String bare = text.strip();
    try {
      BigDecimal number = new BigDecimal(bare);
      return WHOLE.matcher(bare).matches() && number.toBigInteger().bitLength() < Long.SIZE
          ? (Object) number.longValue()
          : (Object) number.doubleValue();
    } catch (NumberFormatException e) {
      return text;
    }
  }
}
