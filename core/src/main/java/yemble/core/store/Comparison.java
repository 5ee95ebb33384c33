package yemble.core.store;

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
}
