package yemble.jdbc.mariadb;

import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.schema.Column;
import yemble.core.schema.Table;

/**
 * How a table lies in the database.
 *
 * @param relation its name there, quoted: that of a load under way is another one
 * @param engine the storage engine's name
 * @param estimate about how many rows it has
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
    List<String> key,
    String counter,
    long next,
    Map<String, ColumnForm> forms,
    Set<String> indexed,
    List<String> indexes) {

  ColumnForm form(String column) {
    return forms.get(column);
  }

  ColumnForm[] forms(List<Column> columns) {
    return columns.stream().map(c -> forms.get(c.name())).toArray(ColumnForm[]::new);
  }

  /** Whether the one column of the key is a whole number: then that is the row's number. */
  boolean numbered() {
    return key.size() == 1 && form(key.get(0)).sort() == ColumnForm.Sort.WHOLE;
  }
}
