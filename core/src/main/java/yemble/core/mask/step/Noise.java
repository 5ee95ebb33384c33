package yemble.core.mask.step;

import java.math.BigDecimal;
import java.util.List;
import java.util.Set;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.NumberNoise;
import yemble.core.problem.Failure;
import yemble.core.yaml.YamlValue;

/**
 * A number near the value.
 *
 * @param most how far away at the most; in percent of the value, if {@code percent}
 */
public record Noise(BigDecimal most, boolean percent) implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "noise",
          "`noise: 10%` or `500`",
          "a number not farther away; sign, digits, places behind the point and zeros at the end stay",
          "{\"type\": [\"string\", \"number\"]}",
          List.of("10%", "500"),
          StepSort.Takes.NUMBERS,
          Set.of(StepSort.Trait.NOT_ON_KEYS),
          Noise::read);

  private static MaskStep read(YamlValue value, StepSort.Known known) {
    String word = value.word();
    boolean percent = word.endsWith("%");
    BigDecimal most =
        Range.number(value, percent ? word.substring(0, word.length() - 1).strip() : word);
    if (most.signum() <= 0 || (percent && most.compareTo(BigDecimal.valueOf(100)) >= 0)) {
      throw value
          .place()
          .problem(Failure.VALUE_FORM, "noise is above 0" + (percent ? " and below 100%" : ""))
          .remedy("write it as 10% or 500");
    }
    return new Noise(most, percent);
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public Mask mask(Making making) {
    return new NumberNoise(making.prf(), most, percent, making.shape());
  }
}
