package yemble.core.mask.step;

import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Between;
import yemble.core.mask.shape.NumberNoise;
import yemble.core.problem.Failure;
import yemble.core.yaml.YamlValue;

/**
 * A number near the value.
 *
 * @param most how far away at the most; in percent of the value, if {@code percent}
 */
public record Noise(BigDecimal most, boolean percent, NumberNoise.Spread spread)
    implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "noise",
          "`noise: 10%` or `500`",
          "a number not farther away; sign, digits, places behind the point and zeros at the end stay. `noise: { most: 10%, spread: normal }` (or `laplace`): small changes more often than large ones",
          """
          {"anyOf": [{"type": ["string", "number"]}, {"type": "object", "required": ["most"],
            "additionalProperties": false, "properties": {"most": {"type": ["string", "number"]},
            "spread": {"enum": ["even", "normal", "laplace"]}}}]}""",
          List.of("10%", "500", "{ most: 20%, spread: normal }"),
          StepSort.Takes.NUMBERS,
          Set.of(StepSort.Trait.NOT_ON_KEYS, StepSort.Trait.BOUNDED),
          Noise::read);

  private static MaskStep read(YamlValue value, StepSort.Known known) {
    if (!value.isMapping()) {
      return read(value, NumberNoise.Spread.EVEN);
    }
    Map<String, YamlValue> fields = value.fields(Set.of("most", "spread"));
    if (!fields.containsKey("most")) {
      throw value
          .place()
          .problem(Failure.MASK_RULE, "how far may a number move?")
          .remedy("write noise: { most: 10%, spread: normal }");
    }
    return read(
        fields.get("most"),
        fields.containsKey("spread")
            ? fields.get("spread").oneOf(NumberNoise.Spread.class)
            : NumberNoise.Spread.EVEN);
  }

  private static MaskStep read(YamlValue value, NumberNoise.Spread spread) {
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
    return new Noise(most, percent, spread);
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public Mask mask(Making making) {
    return new NumberNoise(
        making.prf(), most, percent, spread, Between.of(making.settings()), making.shape());
  }
}
