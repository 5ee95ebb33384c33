package yemble.jdbc.rows;

import java.sql.SQLException;
import java.util.List;
import yemble.core.name.TableName;
import yemble.core.problem.Problem;
import yemble.core.schema.Column;

/** What {@link Merger} needs to know of an engine, and the connection that it works on. */
public interface MergeDialect {
  String quoted(String name);

  /** How statements name a table of the target. */
  String target(TableName table);

  /** How statements name the rows that wait for a table. */
  String staged(TableName table);

  /** How statements name a table that old and new keys are kept in. */
  String memory(String name);

  /** Whether there is a table that old and new keys are kept in. */
  boolean remembers(String name) throws SQLException;

  /** What makes a table of the session alone from a query. */
  String temporary(String name, String query);

  /**
   * The same for a table of keys.
   *
   * @param columns of the query; those that begin with {@code o_} or {@code n_} are the key's
   * @param key the target's columns that they are values of
   */
  default List<String> keyTable(String name, List<String> columns, List<Column> key, String query) {
    return List.of(temporary(name, query));
  }

  /** What removes a table of the session alone, if it is there. */
  default String removed(String name) {
    return "DROP TABLE IF EXISTS " + name;
  }

  /** What makes statistics of a table of the session alone; empty where none are needed. */
  default String analyzed(String name) {
    return "";
  }

  /**
   * What makes indexes on columns of a table of the session alone; nothing where joins need none.
   *
   * @param letter what the names of the columns begin with: {@code o_1}, {@code o_2}, …
   * @param key the target's columns that they are values of
   */
  default List<String> indexed(String name, char letter, List<Column> key) {
    return List.of();
  }

  /** How keys of rows are held against each other. */
  default String sameKey(String one, String other) {
    return one + " = " + other;
  }

  /** What joins tables in the order in which they are written, each found through its index. */
  default String inOrder() {
    return " JOIN ";
  }

  /** Whether two values of a column are not the very same, NULL included. */
  String differs(Column column, String one, String other);

  /** What stands between the columns of an INSERT and its query. */
  default String inserting() {
    return "";
  }

  /**
   * What updates rows of a table that is called {@code t} from a query that is called {@code x}.
   *
   * @param set columns, quoted, each of which gets the value of the same name in {@code x}
   * @param on a condition over {@code t} and {@code x}
   */
  String update(String table, List<String> set, String query, String on);

  /** A text in quotes. */
  String literal(String text);

  /** How a query shows a value of a column, so that {@link #literal(Column, String)} reads it. */
  default String shown(Column column, String value) {
    return value;
  }

  /** What makes of a value the text by which statements of a script write it, NULL included. */
  String shownLiteral(Column column, String value);

  /** A value of a column as statements write it. */
  default String literal(Column column, String shown) {
    return shown.matches("-?\\d+") ? shown : literal(shown);
  }

  /** Texts behind one another. */
  default String joined(String one, String number, String other) {
    return literal(one) + " || " + number + " || " + literal(other);
  }

  /** Two texts behind one another. */
  default String concatenated(String one, String other) {
    return one + " || " + other;
  }

  /** A value of a column as a text, other texts for other values. */
  String text(Column column, String value);

  /**
   * What gives a table a column that old keys are kept in.
   *
   * @param column quoted
   */
  default List<String> helper(String table, String column) {
    return List.of("ALTER TABLE " + table + " ADD COLUMN " + column + " text");
  }

  void execute(String sql) throws SQLException;

  /** The first value of the first row as text; null if there is none. */
  String one(String sql) throws SQLException;

  /** Sees the rows of a result. */
  void query(String sql, ServerSession.RowAction action) throws SQLException;

  /** What a failure of the engine means to the user. */
  Problem problem(SQLException e, String what, String where);
}
