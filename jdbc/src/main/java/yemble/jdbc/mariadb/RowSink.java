package yemble.jdbc.mariadb;

import java.util.concurrent.Future;

/** Where the rows of one table go. */
interface RowSink extends AutoCloseable {
  /** Writes a row of values as a reader gives them. */
  void write(Object[] values);

  /** Hands over rows that are still in the making; they come in the order of this call. */
  void hand(Future<LoadText.Block> rows);

  /** Sends what is left; the rows are in the table afterwards. */
  void complete();

  /** Gives the rows up unless they are complete. */
  @Override
  void close();
}
