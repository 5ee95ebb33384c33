package yemble.core.verify;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import yemble.core.wording.Sentence;

/**
 * The outcome of one check.
 *
 * @param check what was checked
 * @param result what came of it
 * @param figures what came of it, without any value of the data
 * @param details what exactly fails, a line each; empty if it holds
 * @param counts the figures by name, for machines; none where there is nothing to count
 */
public record Outcome(
    Check check,
    Result result,
    Sentence figures,
    List<Sentence> details,
    Map<String, Long> counts) {
  public Outcome(Check check, Result result, Sentence figures, List<Sentence> details) {
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
    /** Nothing that has to hold: worth knowing. */
    NOTED,
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
  public static Outcome of(Check check, List<Sentence> faults, Sentence holding, Sentence failing) {
    boolean holds = faults.isEmpty();
    return new Outcome(
        check, holds ? Result.HOLDS : Result.FAILS, holds ? holding : failing, faults);
  }

  /** A check that nobody could make. */
  public static Outcome unchecked(Check check, Sentence why) {
    return new Outcome(check, Result.NOT_CHECKED, why, List.of());
  }

  public boolean fails() {
    return result == Result.FAILS;
  }
}
