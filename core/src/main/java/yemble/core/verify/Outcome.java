package yemble.core.verify;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * The outcome of one check.
 *
 * @param check its name
 * @param result what came of it
 * @param figures in words, without any value of the data
 * @param details what exactly fails, a line each; empty if it holds
 * @param counts the figures by name, for machines; none where there is nothing to count
 */
public record Outcome(
    String check, Result result, String figures, List<String> details, Map<String, Long> counts) {
  public Outcome(String check, Result result, String figures, List<String> details) {
    this(check, result, figures, details, Map.of());
  }

  /** The same with its figures by name, in this order. */
  public Outcome counting(Object... namesAndNumbers) {
    Map<String, Long> counted = new LinkedHashMap<>();
    for (int i = 0; i < namesAndNumbers.length; i += 2) {
      counted.put((String) namesAndNumbers[i], ((Number) namesAndNumbers[i + 1]).longValue());
    }
    return new Outcome(check, result, figures, details, counted);
  }

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

  public Outcome {
    details = List.copyOf(details);
    counts = Collections.unmodifiableMap(new LinkedHashMap<>(counts));
  }

  /** A check that holds unless there are faults; with what to say in either case. */
  static Outcome of(String check, List<String> faults, String holding, String failing) {
    boolean holds = faults.isEmpty();
    return new Outcome(
        check, holds ? Result.HOLDS : Result.FAILS, holds ? holding : failing, faults);
  }

  public boolean fails() {
    return result == Result.FAILS;
  }
}
