package yemble.core.yaml;

import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/** Where something is written: a file with line and column, both counted from 1. */
public record Place(String file, int line, int column) {
  /** A problem at this place. */
  public Problem problem(Failure failure, String what) {
    return Problem.of(failure, what).at(toString());
  }

  @Override
  public String toString() {
    return file + ":" + line + ":" + column;
  }
}
