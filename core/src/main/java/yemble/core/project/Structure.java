package yemble.core.project;

/** Where the tables of a target come from. */
public enum Structure {
  /** A load makes them as they are in the source. */
  CREATE,
  /** They are there already, made by the team's own migrations. */
  EXISTING
}
