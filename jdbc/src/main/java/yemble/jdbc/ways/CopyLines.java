package yemble.jdbc.ways;

import java.sql.SQLException;
import java.util.List;
import yemble.core.row.RowSet;
import yemble.core.schema.Table;

/** Rows as the lines of PostgreSQL's text form of COPY. */
public interface CopyLines {
  /**
   * Hands over rows with all columns of {@link Table#written()}.
   *
   * @param numbered whether their numbers are needed, in whose order they then come
   */
  void lines(Table table, RowSet rows, boolean numbered, LineVisitor visitor);

  /** What is to be known of the fields of {@link Table#written()} to read their values. */
  List<Field> fields(Table table);

  /** Reads a field. */
  interface Field {
    /** The value of the bytes from one position to before another; null if they say so. */
    Object value(byte[] line, int from, int to);
  }

  /** Sees a row as bytes. */
  interface LineVisitor {
    /**
     * A row.
     *
     * @param row its number; 0 if it was not asked for
     * @param line with the line feed at its end
     * @param ends of the fields; the first {@code skip} of them are not of the table's columns
     */
    void line(long row, byte[] line, int[] ends, int skip) throws SQLException;
  }
}
