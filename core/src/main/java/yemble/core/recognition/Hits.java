package yemble.core.recognition;

import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * What a check has said of the values of a column: how many it knew, held for possible and refused,
 * by the sort that it took them for. Holds counts alone, no values.
 */
public final class Hits {
  private static final int MOST_REASONS = 20;
  private static final double LESS = 0.3;

  private static final class Count {
    private long known;
    private long possible;
    private final Map<String, Long> refused = new LinkedHashMap<>();
  }

  private final Map<String, Count> sorts = new LinkedHashMap<>();
  private long weight = 1;
  private Verdict last = Verdict.NO;

  /** Says how often the values that follow occur. */
  public void weight(long times) {
    weight = times;
    last = Verdict.NO;
  }

  void add(Verdict verdict) {
    if (verdict.grade().compareTo(last.grade()) < 0 || last == Verdict.NO) {
      last = verdict;
    }
    if (verdict == Verdict.NO) {
      return;
    }
    Count count = sorts.computeIfAbsent(verdict.hint(), h -> new Count());
    switch (verdict.grade()) {
      case KNOWN -> count.known += weight;
      case POSSIBLE -> count.possible += weight;
      case NO -> {
        if (count.refused.size() < MOST_REASONS || count.refused.containsKey(verdict.why())) {
          count.refused.merge(verdict.why(), weight, Long::sum);
        }
      }
    }
  }

  /** What was said of the last value; of several sorts, the one that accepted it. */
  public Verdict last() {
    return last;
  }

  /** The sort that most values were taken for; empty if there is one sort only, or none. */
  public String sort() {
    return sorts.entrySet().stream()
        .max(Comparator.comparingDouble(e -> e.getValue().known + LESS * e.getValue().possible))
        .map(Map.Entry::getKey)
        .orElse("");
  }

  /** Whether no value has been accepted, or refused for a reason. */
  public boolean isEmpty() {
    return sorts.isEmpty();
  }

  private Count best() {
    return sorts.getOrDefault(sort(), new Count());
  }

  /** How many values of that sort were known. */
  public long known() {
    return best().known;
  }

  /** How many values of that sort were held for possible only. */
  public long possible() {
    return best().possible;
  }

  /** Both together. */
  public long accepted() {
    return known() + possible();
  }

  /** Why values that nearly were of that sort were refused, with how many. */
  public Map<String, Long> refused() {
    return best().refused;
  }
}
