package yemble.core.verify;

import java.util.List;

/**
 * The outcome of one check.
 *
 * @param check its name
 * @param result what came of it
 * @param figures in words, without any value of the data
 * @param details what exactly fails, a line each; empty if it holds
 */
public record Finding(String check, Result result, String figures, List<String> details) {
  /** What comes of a check. */
  public enum Result {
    HOLDS,
    FAILS,
    NOT_CHECKED;

    @Override
    public String toString() {
      return name().toLowerCase(java.util.Locale.ROOT).replace('_', ' ');
    }
  }

  public Finding {
    details = List.copyOf(details);
  }

  /** A check that holds unless there are faults; with what to say in either case. */
  static Finding of(String check, List<String> faults, String holding, String failing) {
    boolean holds = faults.isEmpty();
    return new Finding(
        check, holds ? Result.HOLDS : Result.FAILS, holds ? holding : failing, faults);
  }

  public boolean fails() {
    return result == Result.FAILS;
  }
}
