package yemble.jdbc.rows;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;

/**
 * The numbers of a table's rows: the key itself where that is one whole number; else an entry of a
 * dictionary of keys; and in a table without a key the place of the row in a scan, which is always
 * the same one in the order of the clustered index.
 */
public final class RowNumbers {
  private static final int MOST_TUPLES = 1_000;

  /** The column that holds a row's place in a scan, in a table without a key. */
  public static final String ORDINAL = "yemble_n";

  private final KeyedTable storage;
  private final TupleDictionary tuples;

  public RowNumbers(KeyedTable storage) {
    this.storage = storage;
    this.tuples =
        storage.key().isEmpty() || storage.numbered()
            ? null
            : new TupleDictionary(storage.key().size());
  }

  /** Whether rows can be asked for one by one; else a scan is the only way. */
  public boolean isKeyed() {
    return !storage.key().isEmpty();
  }

  public int batch() {
    return tuples == null ? storage.batch() : Math.min(storage.batch(), MOST_TUPLES);
  }

  /** How many fields of a row tell its number. */
  public int width() {
    return tuples == null ? 1 : storage.key().size();
  }

  /** The fields that tell the number of the row of {@code alias}. */
  public String columns(String alias) {
    if (!isKeyed()) {
      return alias + "." + ORDINAL;
    }
    List<String> fields = new ArrayList<>();
    for (String column : storage.key()) {
      fields.add(storage.read(column, alias + "." + storage.quoted(column)));
    }
    return String.join(", ", fields);
  }

  /** The number of the row whose {@link #columns} begin at a position of a result. */
  public long number(ResultSet row, int at) throws SQLException {
    if (!isKeyed()) {
      return row.getLong(at);
    }
    if (tuples == null) {
      Object value = storage.value(storage.key().get(0), row, at);
      return value instanceof Long number ? number : Long.parseUnsignedLong(value.toString());
    }
    return tuples.number(tuple(row, at));
  }

  private Object[] tuple(ResultSet row, int at) throws SQLException {
    Object[] tuple = new Object[storage.key().size()];
    for (int i = 0; i < tuple.length; i++) {
      tuple[i] = storage.value(storage.key().get(i), row, at + i);
    }
    return tuple;
  }

  /** A FROM clause of all rows that satisfy a condition of the user's, as {@code alias}. */
  public String from(String alias, String condition) {
    String name = storage.quoted(storage.table().name().name());
    String where = condition.isEmpty() ? "" : " WHERE (\n" + condition + "\n)";
    if (!isKeyed()) {
      return "(SELECT * FROM (" + storage.ordinals(ORDINAL) + ") " + name + where + ") " + alias;
    }
    return condition.isEmpty()
        ? storage.relation() + " " + alias
        : "(SELECT " + name + ".* FROM " + storage.relation() + " " + name + where + ") " + alias;
  }

  /** A condition that holds for some rows of {@code alias}, which has a key. */
  public String in(String alias, long[] rows, int length) {
    StringBuilder sql = new StringBuilder(length * 12);
    if (tuples == null) {
      boolean unsigned = storage.unsigned();
      sql.append(alias).append('.').append(storage.quoted(storage.key().get(0))).append(" IN (");
      for (int i = 0; i < length; i++) {
        sql.append(i == 0 ? "" : ",")
            .append(unsigned ? Long.toUnsignedString(rows[i]) : Long.toString(rows[i]));
      }
      return sql.append(')').toString();
    }
    List<String> names =
        storage.key().stream().map(column -> alias + "." + storage.quoted(column)).toList();
    if (!storage.comparesRows()) {
      return oneByOne(names, rows, length);
    }
    sql.append('(').append(String.join(", ", names)).append(") IN (");
    for (int i = 0; i < length; i++) {
      sql.append(i == 0 ? "(" : ",(");
      Object[] tuple = tuples.tuple((int) rows[i]);
      for (int j = 0; j < tuple.length; j++) {
        sql.append(j == 0 ? "" : ",").append(storage.literal(storage.key().get(j), tuple[j]));
      }
      sql.append(')');
    }
    return sql.append(')').toString();
  }

  private String oneByOne(List<String> names, long[] rows, int length) {
    List<String> cases = new ArrayList<>();
    for (int i = 0; i < length; i++) {
      Object[] tuple = tuples.tuple((int) rows[i]);
      List<String> parts = new ArrayList<>();
      for (int j = 0; j < tuple.length; j++) {
        parts.add(names.get(j) + " = " + storage.literal(storage.key().get(j), tuple[j]));
      }
      cases.add("(" + String.join(" AND ", parts) + ")");
    }
    return "(" + String.join(" OR ", cases) + ")";
  }

  /** The order of the key. */
  public String order(String alias) {
    return String.join(
        ", ", storage.key().stream().map(column -> alias + "." + storage.quoted(column)).toList());
  }

  /** A condition that holds for the rows that come after one in the order of the key. */
  public String after(String alias, ResultSet last) throws SQLException {
    Object[] tuple = tuple(last, 1);
    List<String> cases = new ArrayList<>();
    StringBuilder equal = new StringBuilder();
    for (int i = 0; i < tuple.length; i++) {
      String column = alias + "." + storage.quoted(storage.key().get(i));
      String literal = storage.literal(storage.key().get(i), tuple[i]);
      cases.add(equal + column + " > " + literal);
      equal.append(column).append(" = ").append(literal).append(" AND ");
    }
    return "(" + String.join(" OR ", cases) + ")";
  }
}
