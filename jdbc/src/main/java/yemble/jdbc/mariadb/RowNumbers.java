package yemble.jdbc.mariadb;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import yemble.core.schema.Column;
import yemble.jdbc.rows.TupleDictionary;

/**
 * The numbers of a table's rows: the key itself where that is one whole number; else an entry of a
 * dictionary of keys; and in a table without a key the place of the row in a scan, which is always
 * the same one in the order of the clustered index.
 */
final class RowNumbers {
  /** How many rows are asked for in one query. */
  private static final int BATCH = 5_000;

  private static final int TUPLE_BATCH = 1_000;
  private static final String ORDINAL = "yemble_n";

  private final Storage storage;
  private final TupleDictionary tuples;

  RowNumbers(Storage storage) {
    this.storage = storage;
    this.tuples =
        storage.key().isEmpty() || storage.numbered()
            ? null
            : new TupleDictionary(storage.key().size());
  }

  /** Whether rows can be asked for one by one; else a scan is the only way. */
  boolean isKeyed() {
    return !storage.key().isEmpty();
  }

  int batch() {
    return tuples == null ? BATCH : TUPLE_BATCH;
  }

  /** How many fields of a row tell its number. */
  int width() {
    return tuples == null ? 1 : storage.key().size();
  }

  /** The fields that tell the number of the row of {@code alias}. */
  String columns(String alias) {
    if (!isKeyed()) {
      return alias + "." + ORDINAL;
    }
    List<String> fields = new ArrayList<>();
    for (String column : storage.key()) {
      fields.add(storage.form(column).read(alias + "." + Sql.quoted(column)));
    }
    return String.join(", ", fields);
  }

  /** The number of the row whose {@link #columns} begin at a position of a result. */
  long number(ResultSet row, int at) throws SQLException {
    if (!isKeyed()) {
      return row.getLong(at);
    }
    if (tuples == null) {
      Object value = storage.form(storage.key().get(0)).value(row, at);
      return value instanceof Long number ? number : Long.parseUnsignedLong(value.toString());
    }
    return tuples.number(tuple(row, at));
  }

  private Object[] tuple(ResultSet row, int at) throws SQLException {
    Object[] tuple = new Object[storage.key().size()];
    for (int i = 0; i < tuple.length; i++) {
      tuple[i] = storage.form(storage.key().get(i)).value(row, at + i);
    }
    return tuple;
  }

  /** A FROM clause of all rows that satisfy a condition of the user's, as {@code alias}. */
  String from(String alias, String condition) {
    String name = Sql.quoted(storage.table().name());
    String where = condition.isEmpty() ? "" : " WHERE (\n" + condition + "\n)";
    if (isKeyed()) {
      return condition.isEmpty()
          ? storage.relation() + " " + alias
          : "(SELECT "
              + name
              + ".* FROM "
              + storage.relation()
              + " AS "
              + name
              + where
              + ") "
              + alias;
    }
    String ignored =
        storage.indexes().isEmpty() ? "" : " IGNORE INDEX (" + Sql.quoted(storage.indexes()) + ")";
    List<String> all = storage.table().columns().stream().map(Column::name).toList();
    return "(SELECT * FROM (SELECT "
        + Sql.quoted(all)
        + ", ROW_NUMBER() OVER () AS "
        + ORDINAL
        + " FROM "
        + storage.relation()
        + ignored
        + ") AS "
        + name
        + where
        + ") "
        + alias;
  }

  /** A condition that holds for some rows of {@code alias}, which has a key. */
  String in(String alias, long[] rows, int length) {
    StringBuilder sql = new StringBuilder(length * 12);
    if (tuples == null) {
      boolean unsigned = isUnsigned();
      sql.append(alias).append('.').append(Sql.quoted(storage.key().get(0))).append(" IN (");
      for (int i = 0; i < length; i++) {
        sql.append(i == 0 ? "" : ",")
            .append(unsigned ? Long.toUnsignedString(rows[i]) : Long.toString(rows[i]));
      }
      return sql.append(')').toString();
    }
    List<String> names =
        storage.key().stream().map(column -> alias + "." + Sql.quoted(column)).toList();
    sql.append('(').append(String.join(", ", names)).append(") IN (");
    for (int i = 0; i < length; i++) {
      sql.append(i == 0 ? "(" : ",(");
      Object[] tuple = tuples.tuple((int) rows[i]);
      for (int j = 0; j < tuple.length; j++) {
        sql.append(j == 0 ? "" : ",").append(Sql.literal(tuple[j]));
      }
      sql.append(')');
    }
    return sql.append(')').toString();
  }

  private boolean isUnsigned() {
    return storage.table().column(storage.key().get(0)).orElseThrow().type().contains("unsigned");
  }

  /** The order of the key. */
  String order(String alias) {
    return String.join(
        ", ", storage.key().stream().map(column -> alias + "." + Sql.quoted(column)).toList());
  }

  /** A condition that holds for the rows that come after one in the order of the key. */
  String after(String alias, ResultSet last) throws SQLException {
    Object[] tuple = tuple(last, 1);
    List<String> cases = new ArrayList<>();
    StringBuilder equal = new StringBuilder();
    for (int i = 0; i < tuple.length; i++) {
      String column = alias + "." + Sql.quoted(storage.key().get(i));
      String literal = Sql.literal(tuple[i]);
      cases.add(equal + column + " > " + literal);
      equal.append(column).append(" = ").append(literal).append(" AND ");
    }
    return "(" + String.join(" OR ", cases) + ")";
  }
}
