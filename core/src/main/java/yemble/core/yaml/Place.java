package yemble.core.yaml;

import yemble.core.problem.Problem;

/** Where something is written: a file with line and column, both counted from 1. */
public record Place(String file, int line, int column) {
  /** A usage problem at this place. */
  public Problem problem(String what) {
    return Problem.usage(what).at(toString());
  }

  @Override
  public String toString() {
    return file + ":" + line + ":" + column;
  }
}
