package yemble.core.recognition;

import java.util.function.Function;

/** A check that values are put to. */
@FunctionalInterface
public interface Look {
  /** Says what it thinks of a value. */
  void at(Value value, Hits hits);

  /** A check with one answer. */
  static Look of(Function<Value, Verdict> check) {
    return (value, hits) -> hits.add(check.apply(value));
  }
}
