package yemble.core.mask.step;

import java.util.List;
import java.util.Set;
import yemble.core.mask.Constant;
import yemble.core.mask.Mask;
import yemble.core.yaml.YamlValue;

/** Always the same value. */
public record Fixed(String value) implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "fixed",
          "`fixed: VALUE`",
          "always the same",
          StepSort.SCALAR,
          List.of("removed", "0"),
          StepSort.Takes.ALL,
          Set.of(StepSort.Trait.MAKES_VALUES, StepSort.Trait.CONSTANT, StepSort.Trait.NOT_ON_KEYS),
          Fixed::read);

  private static MaskStep read(YamlValue value, StepSort.Known known) {
    return new Fixed(value.text());
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public Mask mask(Making making) {
    return new Constant(value);
  }
}
