package yemble.core.project;

/** What becomes of a value that the target's column cannot hold. */
public enum Unfit {
  /** Nothing is loaded. */
  REFUSE,
  /** It becomes NULL. */
  CLEAR,
  /** A text loses what does not fit. */
  TRIM
}
