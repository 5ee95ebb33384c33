package yemble.core.mask.step;

import java.util.List;
import java.util.Set;
import yemble.core.mask.Constant;
import yemble.core.mask.Mask;
import yemble.core.problem.Failure;
import yemble.core.yaml.YamlValue;

/** NULL. */
public record Clear() implements MaskStep {
  /** That it is written with, alone, too. */
  public static final String WORD = "clear";

  static final StepSort SORT =
      new StepSort(
          WORD,
          "`clear: true`",
          "NULL",
          StepSort.TRUE,
          List.of("true"),
          StepSort.Takes.ALL,
          Set.of(StepSort.Trait.CONSTANT),
          Clear::read);

  private static MaskStep read(YamlValue value, StepSort.Known known) {
    return only(value, new Clear());
  }

  /** What is said by {@code true} alone. */
  static MaskStep only(YamlValue value, MaskStep step) {
    if (!value.flag()) {
      throw value
          .place()
          .problem(Failure.MASK_RULE, "false says nothing here")
          .remedy("leave it out");
    }
    return step;
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public Mask mask(Making making) {
    return new Constant(null);
  }
}
