package yemble.core.verify;

/** What is checked of a load, in the order in which it is shown. */
public enum Check {
  /** The source is what it was when the run began. */
  SOURCE_UNTOUCHED("source untouched"),

  /** Rows are what the last load has left. */
  AS_LOADED("as loaded"),

  /** What was changed in the target since it was loaded. */
  CHANGED_SINCE("changed since"),

  /** What the source would become now, and did not then. */
  SOURCE_SINCE("source since"),

  /** Exactly the rows that the rules ask for are there. */
  ROWS("rows"),

  /** Every reference leads to a row. */
  REFERENCES("references"),

  /** Unmasked cells are what they were. */
  KEPT_VALUES("kept values"),

  /** Masked cells are what the masks make of the source's. */
  NO_LEAK("no leak"),

  /** Masked columns hold other values than before. */
  MASKS_CHANGE("masks change"),

  /** No original is found where none belongs. */
  ABSENCE("absence"),

  /** Equal values have become equal ones. */
  EQUAL_STAYS_EQUAL("equal stays equal"),

  /** No key has a duplicate. */
  UNIQUE_STAYS_UNIQUE("unique stays unique"),

  /** What a row says of itself goes together as it did. */
  AGREEMENT("rows agree"),

  /** Every path inside JSON is in the register. */
  PATHS_IN_JSON("paths in JSON"),

  /** Rows from a parcel are those that were proved. */
  AS_PACKED("as packed"),

  /** Rows that came beside others are in as they waited. */
  MERGED("merged"),

  /** The target's own rows are what they were. */
  OWN_ROWS("own rows"),

  /** What resolved in the target resolves still. */
  REFERENCES_IN_THE_TARGET("references in the target"),

  /** Rows in place are those that were proved beside them. */
  REWRITTEN("rewritten"),

  /** What a job left as it was, as it is not its. */
  ROWS_OF_THE_JOB_ALONE("rows of the job alone"),

  /** Rows that a rewrite has masked before. */
  ROWS_OF_BEFORE("rows of before"),

  /** New rows are masked like those of before. */
  AS_BEFORE("as before"),

  /** Rows are what they were before the rewrite. */
  PUT_BACK("put back"),

  /** Whether all of a job was loaded. */
  THE_WHOLE_JOB("the whole job"),

  /** Whether somebody can lead values back. */
  WAY_BACK("way back");

  private final String words;

  Check(String words) {
    this.words = words;
  }

  /** Its name, as people and programs know it. */
  @Override
  public String toString() {
    return words;
  }
}
