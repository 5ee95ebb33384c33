package yemble.core.yaml;

import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/**
 * Where something is written: a file with line and column, both counted from 1; or 0 for neither.
 */
public record Place(String file, int line, int column) {
  /** A place that is no file's, as an option of a command. */
  public static Place of(String what) {
    return new Place(what, 0, 0);
  }

  /** A problem at this place. */
  public Problem problem(Failure failure, String what) {
    return Problem.of(failure, what).at(toString());
  }

  @Override
  public String toString() {
    return line == 0 ? file : file + ":" + line + ":" + column;
  }
}
