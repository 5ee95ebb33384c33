package yemble.core.store;

import java.util.List;
import yemble.core.row.CellChange;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Table;

/**
 * What becomes of the rows of one table on their way from a source. The unit is a row's number with
 * what it was and what it is to be: whoever rewrites in place, undoes or gives new keys needs all
 * three. For one thread.
 */
public interface Passage {
  /**
   * What becomes of each of {@link Table#written()}, where no column depends on what another one
   * becomes; empty otherwise, and rows must go one by one.
   */
  List<CellChange> cells();

  /** Hands over the rows of a set; no order is promised. */
  void rows(RowSet rows, Visitor visitor);

  /** The rows as they are. */
  static Passage unchanged(RowSource source, Table table) {
    return new Passage() {
      @Override
      public List<CellChange> cells() {
        return table.written().stream().map(column -> CellChange.KEEP).toList();
      }

      @Override
      public void rows(RowSet rows, Visitor visitor) {
        List<Column> columns = table.written();
        source.rows(table, rows, columns, (row, values) -> visitor.row(row, values, values));
      }
    };
  }

  /** Sees a row before and after; both arrays are reused, and may be the same one. */
  @FunctionalInterface
  interface Visitor {
    void row(long row, Object[] before, Object[] after);
  }
}
