package yemble.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.row.RowSet;
import yemble.core.row.Values;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.store.Reader;

/** Rows as the user names them: by the values of the primary key. */
final class Rows {
  private Rows() {}

  /** The row of some key values, given one by one or joined by commas. */
  static long find(Reader source, Table table, List<String> values) {
    List<String> key = new ArrayList<>(values);
    if (values.size() == 1 && table.primaryKey().size() > 1) {
      key = List.of(values.get(0).split(","));
    }
    if (table.primaryKey().isEmpty()) {
      throw Problem.of(
              Failure.ROW_NAME,
              "the rows of " + table.name() + " have no name: it has no primary key")
          .remedy("look at some of them with: yemble preview " + table.name() + " --where …");
    }
    if (key.size() != table.primaryKey().size()) {
      throw Problem.of(
              Failure.ROW_NAME,
              "a row of "
                  + table.name()
                  + " is named by "
                  + Output.counted(table.primaryKey().size(), "value"))
          .remedy(
              "give "
                  + String.join(",", table.primaryKey())
                  + ", as in: yemble why "
                  + table.name()
                  + " "
                  + example(table));
    }
    OptionalLong row = source.find(table, key);
    if (row.isEmpty()) {
      throw Problem.of(Failure.ROW_NAME, "the source has no such row of " + table.name())
          .remedy("a row is named by its " + String.join(", ", table.primaryKey()));
    }
    return row.getAsLong();
  }

  /** A name as a row of a table could have it. */
  private static String example(Table table) {
    List<String> values = new ArrayList<>();
    for (Column column : table.identity()) {
      boolean number = column.type().matches("(?i).*(int|num|dec|serial).*");
      values.add(number ? (values.isEmpty() ? "12" : "1") : "A");
    }
    return String.join(",", values);
  }

  /** The name of a row: its key's values, or its number where it has no key. */
  static String name(Reader source, Table table, long row) {
    if (table.primaryKey().isEmpty()) {
      return "no. " + row;
    }
    List<String> names = new ArrayList<>();
    RowSet one = new RowSet();
    one.add(row);
    List<Column> key = table.identity();
    source.rows(
        table,
        one,
        key,
        (number, values) -> {
          for (Object value : values) {
            names.add(value == null ? "NULL" : Values.text(value));
          }
        });
    return String.join(",", names);
  }
}
