package yemble.jdbc.sqlite;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.schema.Table;
import yemble.jdbc.rows.TupleDictionary;
import yemble.jdbc.ways.AttachableFile;

/**
 * How the rows of one table are numbered, and how SQL speaks of a batch of them: by rowid through
 * {@code json_each}, or, WITHOUT ROWID, by the key's values in a list of {@code VALUES}.
 */
final class RowKey implements AttachableFile.Keys {
  /** How many rows are asked for in one query. */
  static final int BATCH = 5_000;

  /** SQLite takes 32,766 parameters in a statement. */
  private static final int MOST_PARAMETERS = 30_000;

  private final Table table;
  private final String rowid;
  private final boolean known;
  private final TupleDictionary tuples;

  RowKey(Table table, SqliteCatalog.Storage storage) {
    this.table = table;
    this.rowid = storage.rowid();
    this.known = storage.known();
    this.tuples = rowid.isEmpty() ? new TupleDictionary(table.primaryKey().size()) : null;
  }

  TableName table() {
    return table.name();
  }

  /** The table's name, quoted. */
  String tableName() {
    return Sql.quoted(table.name());
  }

  /** Whether rows are known by their keys' values. */
  boolean isTuples() {
    return tuples != null;
  }

  /** Whether rows can be told apart by a number or a key. */
  boolean isKnown() {
    return known;
  }

  /** Fails if they cannot. */
  private void known() {
    if (!known) {
      throw Problem.of(
              Failure.ROWS_INDISTINCT, "the rows of " + table.name() + " cannot be told apart")
          .at(table.name().toString())
          .because("its columns hide every name of the row's number: rowid, _rowid_ and oid")
          .remedy(
              "rename one of these columns, give the table an INTEGER PRIMARY KEY, or leave out the"
                  + " link");
    }
  }

  @Override
  public int batch() {
    return tuples == null
        ? BATCH
        : Math.min(BATCH, MOST_PARAMETERS / Math.max(1, table.primaryKey().size()));
  }

  /** How many result columns {@link #columns} takes. */
  int width() {
    return tuples == null ? 1 : table.primaryKey().size();
  }

  /** The result columns that identify a row of {@code alias}. */
  String columns(String alias) {
    known();
    if (tuples == null) {
      return alias + "." + rowid;
    }
    List<String> columns = new ArrayList<>();
    for (String column : table.primaryKey()) {
      columns.add(alias + "." + Sql.quoted(column));
    }
    return String.join(", ", columns);
  }

  /** The number of the row whose identifying columns begin at position {@code at} of a result. */
  long number(ResultSet row, int at) throws SQLException {
    if (tuples == null) {
      return row.getLong(at);
    }
    Object[] tuple = new Object[width()];
    for (int i = 0; i < tuple.length; i++) {
      tuple[i] = row.getObject(at + i);
    }
    return tuples.number(tuple);
  }

  /** A FROM clause that yields the rows of a batch of {@code length} rows as {@code alias}. */
  String from(String alias, int length) {
    return from(tableName(), alias, length);
  }

  @Override
  public String from(String tableName, String alias, int length) {
    known();
    if (tuples == null) {
      return "json_each(?) yemble_k CROSS JOIN "
          + tableName
          + " "
          + alias
          + " ON "
          + alias
          + "."
          + rowid
          + " = yemble_k.value";
    }
    String one = "(" + "?, ".repeat(width() - 1) + "?)";
    List<String> equal = new ArrayList<>();
    for (int i = 0; i < width(); i++) {
      equal.add(
          alias + "." + Sql.quoted(table.primaryKey().get(i)) + " = yemble_k.column" + (i + 1));
    }
    return "(VALUES "
        + (one + ", ").repeat(length - 1)
        + one
        + ") yemble_k CROSS JOIN "
        + tableName
        + " "
        + alias
        + " ON "
        + String.join(" AND ", equal);
  }

  @Override
  public void bind(PreparedStatement statement, long[] rows, int length) throws SQLException {
    if (tuples == null) {
      StringBuilder list = new StringBuilder(length * 8).append('[');
      for (int i = 0; i < length; i++) {
        list.append(i == 0 ? "" : ",").append(rows[i]);
      }
      statement.setString(1, list.append(']').toString());
      return;
    }
    int parameter = 1;
    for (int i = 0; i < length; i++) {
      for (Object value : tuples.tuple((int) rows[i])) {
        statement.setObject(parameter++, value);
      }
    }
  }

  /** A condition that holds when {@code one} and {@code other} are the same row. */
  String same(String one, String other) {
    if (tuples == null) {
      return one + "." + rowid + " = " + other + "." + rowid;
    }
    List<String> equal = new ArrayList<>();
    for (String column : table.primaryKey()) {
      equal.add(one + "." + Sql.quoted(column) + " = " + other + "." + Sql.quoted(column));
    }
    return String.join(" AND ", equal);
  }

  @Override
  public String order() {
    known();
    return tuples == null
        ? rowid
        : String.join(", ", table.primaryKey().stream().map(Sql::quoted).toList());
  }
}
