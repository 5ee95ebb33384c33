package yemble.core.row;

/** What stands in a cell that holds no value. */
public enum Empty {
  /** NULL. */
  NULL,
  /** The text of no characters. */
  EMPTY
}
