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

  static Finding of(String check, List<String> faults, String figures) {
    return new Finding(check, faults.isEmpty() ? Result.HOLDS : Result.FAILS, figures, faults);
  }

  public boolean fails() {
    return result == Result.FAILS;
  }
}
