package yemble.jdbc.ways;

import java.util.Optional;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.store.RowSource;

/** Rows for MariaDB's LOAD DATA, in which kept values may stay the bytes that they are. */
public interface LoadDataRows {
  /**
   * In which form a column's values lie as bytes: they pass into a column of the same form; empty
   * for those that must be read.
   */
  Optional<String> form(Table table, Column column);

  /**
   * The rows of a set with all columns of {@link Table#written()}.
   *
   * @param raw whose values are given as their bytes
   */
  void rows(Table table, RowSet rows, boolean[] raw, RowSource.RowVisitor visitor);

  /** Whether cells of an enumeration hold none of its labels. */
  boolean holdsNoLabel(Table table, Column column);
}
