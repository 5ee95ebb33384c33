package yemble.jdbc.ways;

import java.util.List;

/** Where the sequences of a database stand that has such apart from its tables. */
public interface Sequences {
  /** Every sequence of the user's schemas. */
  List<Position> sequences();

  /**
   * Where a sequence stands.
   *
   * @param name as a statement names it
   * @param tableSchema of the table whose column it feeds; empty for the connection's own schema
   * @param table whose column it feeds, or an empty string
   * @param column that it feeds, or an empty string
   * @param increment negative for one that counts down
   * @param position its last value, or, if it has not been called, its next one
   * @param called whether it has given out {@code position}
   */
  record Position(
      String name,
      String tableSchema,
      String table,
      String column,
      long increment,
      long position,
      boolean called) {}
}
