package yemble.core.store;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalLong;
import java.util.function.LongConsumer;
import yemble.core.mark.Mark;
import yemble.core.name.ColumnName;
import yemble.core.project.Condition;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Table;

/**
 * Reads a database, all of it at one moment: beside its rows, what only a database can tell of
 * them.
 *
 * <p>Conditions are SQL of the database's own, over the columns of the table they belong to; an
 * empty string stands for none.
 */
public interface Reader extends RowSource {
  /**
   * Whether, by what the engine tells, this reader has done nothing that could write, and nobody
   * else has written where it reads without locks.
   */
  default boolean undisturbed() {
    return true;
  }

  /** Yemble's mark, if the database has one. */
  default Optional<Mark> mark() {
    return Optional.empty();
  }

  /** The comments on columns in the catalog, as far as the engine has such; without empty ones. */
  default Map<ColumnName, String> comments() {
    return Map.of();
  }

  /**
   * Ends what another thread waits for in this reader, which is then good for nothing but to be
   * closed. Where the engine cannot do that, nothing happens.
   */
  default void abort() {}

  /**
   * Whether the database understands a condition.
   *
   * @throws yemble.core.problem.Problem of type USAGE with what the database says
   */
  void check(Table table, String condition);

  /** A name as conditions write it, whatever it holds. */
  default String quoted(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }

  /**
   * The rows that satisfy a condition that has parameters: its values are bound.
   *
   * @throws yemble.core.problem.Problem of type USAGE if the database does not understand it
   */
  RowSet matching(Table table, Condition condition);

  /** About how many rows a table has: what the engine's catalog says, or their number. */
  default long rowsAbout(Table table) {
    return count(table);
  }

  /**
   * How many bytes a row of a table takes on average by the engine's catalog, without indexes;
   * empty where it does not say.
   */
  default OptionalDouble rowBytes(Table table) {
    return OptionalDouble.empty();
  }

  /** All rows that satisfy a condition, with the values of some columns. */
  void rows(Table table, String condition, List<Column> columns, RowVisitor visitor);

  /** Those rows of a set that satisfy a condition; an empty one all of them do. */
  default RowSet meeting(Table table, String condition, RowSet rows) {
    if (condition.isEmpty()) {
      return rows;
    }
    RowSet meeting = new RowSet();
    RowVisitor add = (row, nothing) -> meeting.add(row);
    rows(table, condition, List.of(), add.within(rows));
    return meeting;
  }

  /**
   * The row of a primary key.
   *
   * @param key the values of the key's columns as text, in the key's order
   */
  OptionalLong find(Table table, List<String> key);

  /**
   * Rows drawn at random over the whole table; the same ones each time as long as the table is the
   * same.
   *
   * @param most how many at the most
   */
  void sample(Table table, List<Column> columns, int most, RowVisitor visitor);

  /**
   * The parents of a set of child rows: for each child row for which the link exists, every parent
   * row that matches, or {@link ParentVisitor#nothing} if none does.
   */
  void parents(Link link, RowSet children, ParentVisitor visitor);

  /**
   * The children of a set of parent rows.
   *
   * @param condition narrows the children
   * @param columns of the child, to be shown to the visitor
   */
  void children(
      Link link, RowSet parents, String condition, List<Column> columns, ChildVisitor visitor);

  /**
   * Whether an index leads from parents to their children; where none does, asking for children
   * reads the child table.
   */
  default boolean leadsToChildren(Link link) {
    return true;
  }

  /** The child rows of the whole table for which the link exists but no parent row matches. */
  void broken(Link link, LongConsumer visitor);

  /**
   * Whether values can be compared here as a database does it: for duplicates, and for what refers
   * to nothing.
   */
  default boolean comparesKeys() {
    return true;
  }

  /** How many groups of rows hold the same non-null values in all of some columns. */
  long duplicates(Table table, List<String> columns);

  /** Whether columns refuse what is not of their declared type. */
  default boolean enforcesTypes() {
    return true;
  }

  /**
   * How many rows the database would refuse, asked without writing anything.
   *
   * @param columns of the table, which the rows hold
   * @param condition that every row of the table satisfies; empty to ask for the types alone
   * @return empty where the database cannot tell
   */
  default OptionalLong refused(
      Table table, List<Column> columns, List<Object[]> rows, String condition) {
    return OptionalLong.empty();
  }

  /** Sees a child row with its parent row. */
  interface ParentVisitor {
    void parent(long child, long parent);

    void nothing(long child);

    /** Sees the children alone: those that find a parent, once for each, and those that do not. */
    static ParentVisitor ofChildren(LongConsumer found, LongConsumer broken) {
      return new ParentVisitor() {
        @Override
        public void parent(long child, long parent) {
          found.accept(child);
        }

        @Override
        public void nothing(long child) {
          broken.accept(child);
        }
      };
    }
  }

  /** Sees a parent row with one of its child rows. */
  interface ChildVisitor {
    void child(long parent, long child, Object[] values);
  }
}
