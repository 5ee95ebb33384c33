package yemble.core.mark;

import java.util.Collections;
import java.util.List;
import java.util.Optional;
import yemble.core.name.TableName;
import yemble.core.schema.Column;
import yemble.core.schema.DataType;
import yemble.core.schema.Table;

/** The form in which rows of source and target are compared. */
public interface Comparison {
  /** Both are of one engine: values are compared as they are. */
  Comparison SAME =
      new Comparison() {
        @Override
        public Object[] expected(Table table, Object[] values) {
          return values;
        }

        @Override
        public Object[] found(Table table, Object[] values) {
          return values;
        }
      };

  /**
   * What a row of the source is to be in the target.
   *
   * @param values of {@link Table#written()}, left as they are
   */
  Object[] expected(Table table, Object[] values);

  /** What a row of the target is. */
  Object[] found(Table table, Object[] values);

  /** The name that a table of the source has in the target. */
  default TableName there(Table table) {
    return table.name();
  }

  /** The name that a column of a table of the source has in the target. */
  default String there(Table table, Column column) {
    return column.name();
  }

  /**
   * In the normal form of which types the values of a table are compared, one for each of {@link
   * Table#written()}; nothing for the form in which readers give them.
   */
  default List<Optional<DataType.Base>> types(Table table) {
    return Collections.nCopies(table.written().size(), Optional.empty());
  }
}
