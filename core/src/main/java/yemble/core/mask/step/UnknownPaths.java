package yemble.core.mask.step;

import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.mask.Mask;
import yemble.core.yaml.YamlValue;

/**
 * JSON as its kind has it.
 *
 * @param stop whether a path that the register does not know stops the run, rather than losing all
 *     but the shape of its values
 */
public record UnknownPaths(boolean stop) implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "unknown-paths",
          "`unknown-paths: stop` or `mask`",
          "of JSON: whether a value at a path that the register does not know stops the run (3, nothing written), or loses all but its shape and is counted",
          "{\"enum\": [\"stop\", \"mask\"]}",
          List.of("stop", "mask"),
          StepSort.Takes.NO_BYTES,
          Set.of(StepSort.Trait.SETS_JSON),
          UnknownPaths::read);

  /** What becomes of values at paths that the register does not know. */
  private enum Unknown {
    STOP,
    MASK
  }

  private static MaskStep read(YamlValue value, StepSort.Known known) {
    return new UnknownPaths(value.oneOf(Unknown.class) == Unknown.STOP);
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public String words() {
    return stop ? "known paths only" : "unknown paths by shape";
  }

  @Override
  public Mask mask(Making making) {
    return making.masks().json(Map.of(), null);
  }
}
