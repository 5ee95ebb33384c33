package yemble.jdbc.crossing;

import yemble.core.schema.DataType;
import yemble.core.schema.Outline.ColumnOutline;
import yemble.core.store.Fitting;

/** How an engine says what all engines know. */
public interface Dialect extends Fitting {
  /** A name, quoted. */
  String quoted(String name);

  /**
   * The type nearest to another engine's, collation included.
   *
   * @param name the column's, quoted
   * @param indexed whether the column is part of a key or an index
   */
  String type(String name, ColumnOutline column, boolean indexed);

  /** What makes a column number its rows, behind its type; empty if the key does so itself. */
  String counted();

  /** Whether foreign keys are said with the table, as they cannot be added later. */
  default boolean keysWithTable() {
    return false;
  }

  /** What follows a foreign key that is added later. */
  default String added() {
    return "";
  }

  /** A statement that must come before columns that compare without case; empty if none must. */
  default String caselessNeeds() {
    return "";
  }

  /**
   * Whether a column that compares without regard to case does so here.
   *
   * @param indexed whether the column is part of a key or an index
   */
  boolean isCaseless(boolean indexed);

  /**
   * What a column takes, if that is less than its own type does.
   *
   * @param indexed whether the column is part of a key or an index
   */
  default DataType taken(DataType type, boolean indexed) {
    return type;
  }

  @Override
  default Object taken(DataType type, Object value) {
    return type.base() == DataType.Base.JSON ? value : type.normal(value);
  }
}
