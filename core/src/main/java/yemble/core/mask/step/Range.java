package yemble.core.mask.step;

import java.math.BigDecimal;
import java.util.List;
import java.util.Set;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Between;
import yemble.core.problem.Failure;
import yemble.core.yaml.YamlValue;

/** A number between two others, as precise as they are. */
public record Range(BigDecimal from, BigDecimal to) implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "range",
          "`range: [A, B]`",
          "a number between two",
          """
          {"type": "array", "minItems": 2, "maxItems": 2, "items": {"type": "number"}}""",
          List.of("[1000, 5000]", "[-0.5, 0.5]"),
          StepSort.Takes.NUMBERS,
          Set.of(StepSort.Trait.MAKES_VALUES, StepSort.Trait.NOT_ON_KEYS, StepSort.Trait.BOUNDED),
          Range::read);

  private static MaskStep read(YamlValue value, StepSort.Known known) {
    List<YamlValue> ends = value.items();
    if (ends.size() != 2) {
      throw value
          .place()
          .problem(Failure.VALUE_FORM, "a range has two ends")
          .remedy("write it as [1000, 5000]");
    }
    BigDecimal from = number(ends.get(0), ends.get(0).word());
    BigDecimal to = number(ends.get(1), ends.get(1).word());
    if (to.compareTo(from) <= 0) {
      throw value
          .place()
          .problem(Failure.VALUE_FORM, "a range goes from the smaller number to the greater one");
    }
    return new Range(from, to);
  }

  static BigDecimal number(YamlValue value, String text) {
    if (!text.matches("-?[0-9]{1,30}(\\.[0-9]{1,20})?")) {
      throw value.place().problem(Failure.VALUE_FORM, "expected a number here");
    }
    return new BigDecimal(text);
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public Mask mask(Making making) {
    Between between = Between.of(making.settings());
    BigDecimal least = between.nearest(from);
    BigDecimal most = between.nearest(to);
    return least.compareTo(most) < 0
        ? new NumberRange(making.prf(), least, most)
        : new NumberRange(making.prf(), from, to);
  }
}
