package yemble.jdbc.mariadb;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.jdbc.rows.KeyedTable;

/**
 * How a table lies in the database.
 *
 * @param relation its name there, quoted: that of a load under way is another one
 * @param engine the storage engine's name
 * @param estimate about how many rows it has
 * @param rowBytes about how many bytes a row takes; 0 if the server does not know
 * @param key the columns by which its rows are told apart, none of them NULL; empty where there is
 *     no such key
 * @param counter the column that the table numbers its rows by; empty if there is none
 * @param next the number that the next row gets; 0 without a counter
 * @param forms of its columns, by name
 * @param indexed the columns that an index begins with
 * @param indexes the names of all indexes but the primary key
 */
record Storage(
    Table table,
    String relation,
    String engine,
    double estimate,
    double rowBytes,
    List<String> key,
    String counter,
    long next,
    Map<String, ColumnForm> forms,
    Set<String> indexed,
    List<String> indexes)
    implements KeyedTable {
  private static final int BATCH = 5_000;

  ColumnForm form(String column) {
    return forms.get(column);
  }

  ColumnForm[] forms(List<Column> columns) {
    return columns.stream().map(c -> forms.get(c.name())).toArray(ColumnForm[]::new);
  }

  @Override
  public boolean numbered() {
    return key.size() == 1 && form(key.get(0)).sort() == ColumnForm.Sort.WHOLE;
  }

  @Override
  public boolean unsigned() {
    return table.column(key.get(0)).orElseThrow().type().contains("unsigned");
  }

  /** The clustered index is always read in the same order; any other one is passed over. */
  @Override
  public String ordinals(String name) {
    return "SELECT "
        + Sql.quoted(table.columns().stream().map(Column::name).toList())
        + ", ROW_NUMBER() OVER () AS "
        + name
        + " FROM "
        + relation
        + (indexes.isEmpty() ? "" : " IGNORE INDEX (" + Sql.quoted(indexes) + ")");
  }

  @Override
  public int batch() {
    return BATCH;
  }

  @Override
  public boolean comparesRows() {
    return true;
  }

  @Override
  public String quoted(String name) {
    return Sql.quoted(name);
  }

  @Override
  public String read(String column, String expression) {
    return form(column).read(expression);
  }

  @Override
  public Object value(String column, ResultSet row, int at) throws SQLException {
    return form(column).value(row, at);
  }

  @Override
  public String literal(String column, Object value) {
    return Sql.literal(value);
  }
}
