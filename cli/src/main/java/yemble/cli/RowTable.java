package yemble.cli;

import java.util.List;
import yemble.core.row.RowSet;
import yemble.core.row.Values;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.store.Reader;

/** Rows of the source with their values, for the screen of somebody who may see them. */
final class RowTable {
  private RowTable() {}

  static TextTable of(Reader source, Table table, RowSet rows, List<Column> columns) {
    TextTable shown = new TextTable(columns.stream().map(Column::name).toArray(String[]::new));
    source.rows(
        table,
        rows,
        columns,
        (row, values) -> {
          Object[] cells = new Object[values.length];
          for (int i = 0; i < values.length; i++) {
            cells[i] =
                values[i] == null
                    ? "NULL"
                    : values[i] instanceof byte[] blob
                        ? Output.counted(blob.length, "byte")
                        : Visible.of(Values.text(values[i]));
          }
          shown.row(cells);
        });
    return shown;
  }
}
