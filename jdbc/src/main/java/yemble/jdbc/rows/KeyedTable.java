package yemble.jdbc.rows;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import yemble.core.schema.Table;

/** A table whose rows are known by a key, and how an engine speaks of it. */
public interface KeyedTable {
  Table table();

  /** The name that statements use, quoted. */
  String relation();

  /** About how many rows it has; 0 or less if nobody knows. */
  double estimate();

  /**
   * The columns by which its rows are told apart, none of them NULL; empty where there is no such
   * key.
   */
  List<String> key();

  /** Whether the one column of the key is a whole number: then that is the row's number. */
  boolean numbered();

  /** Whether that number may lie above what 63 bits hold. */
  boolean unsigned();

  /** Some columns, and the place of each row in a scan that is always the same: a SELECT. */
  String ordinals(String name);

  String quoted(String name);

  /** How many rows are asked for at a time where a key is one number. */
  int batch();

  /** Whether rows of values can be compared with a list of such. */
  boolean comparesRows();

  /** The expression by which a column is asked for. */
  String read(String column, String expression);

  /** The value of a column at a position of a result; null for NULL. */
  Object value(String column, ResultSet row, int at) throws SQLException;

  /** A value of a column in SQL. */
  String literal(String column, Object value);
}
