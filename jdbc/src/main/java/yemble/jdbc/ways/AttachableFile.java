package yemble.jdbc.ways;

import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import yemble.core.name.TableName;

/** A file that SQLite attaches to the connection that writes. */
public interface AttachableFile {
  /** Whether a connection that begins to read now sees the rows that this source gives. */
  boolean isStill() throws SQLException;

  /** Attaches it for reading alone. */
  void attach(Statement statement, String name) throws SQLException;

  /** How rows of a table are spoken of. */
  Keys keys(TableName table);

  /** How SQL speaks of the rows of one table by their numbers. */
  interface Keys {
    /** The columns in whose order a scan sees the rows; by one alone it is their number. */
    String order();

    /** How many rows go into one query. */
    int batch();

    /** A FROM clause that yields a batch of {@code length} rows of a table as {@code alias}. */
    String from(String tableName, String alias, int length);

    /** Sets the parameters of {@link #from}. */
    void bind(PreparedStatement statement, long[] rows, int length) throws SQLException;
  }
}
