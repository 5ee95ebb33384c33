package yemble.core.parcel;

import yemble.core.schema.Table;

/**
 * Rows as they lie in a parcel, see {@link RowText}, for those who can take their fields without
 * making values of them.
 */
public interface PackedRows {
  /** Shows all rows of a table. */
  void packed(Table table, Visitor visitor);

  /** Sees a row. */
  interface Visitor {
    /**
     * Sees one.
     *
     * @param line holds its fields, a tab between them; may be used again afterwards
     * @param ends where each field ends; the first one is the row's number
     */
    void row(byte[] line, int[] ends);
  }
}
