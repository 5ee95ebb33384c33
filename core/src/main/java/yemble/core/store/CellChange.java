package yemble.core.store;

import java.util.function.UnaryOperator;

/** What becomes of one column's values: a pure function of the value. Belongs to one thread. */
public interface CellChange extends UnaryOperator<Object> {
  /** The value passes through; engines need not look at it. */
  CellChange KEEP = value -> value;

  /** The value becomes NULL. */
  CellChange CLEAR = value -> null;
}
