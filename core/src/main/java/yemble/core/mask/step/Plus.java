package yemble.core.mask.step;

import java.math.BigDecimal;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Between;
import yemble.core.yaml.YamlValue;

/** The number with another one added, the same for all values. */
public record Plus(BigDecimal number) implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "plus",
          "`plus: N`",
          "the number with N added, as precise as the two are; hides nothing from who knows N",
          "{\"type\": [\"number\", \"string\"]}",
          List.of("1000", "-0.5"),
          StepSort.Takes.NUMBERS,
          Set.of(StepSort.Trait.BOUNDED),
          Plus::read);

  private static final Pattern NUMBER = Pattern.compile("-?[0-9]{1,40}(\\.[0-9]{1,20})?");

  private static MaskStep read(YamlValue value, StepSort.Known known) {
    return new Plus(Range.number(value, value.word()));
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public String words() {
    return (number.signum() < 0 ? "" : "+") + number.toPlainString();
  }

  @Override
  public Mask mask(Making making) {
    Between between = Between.of(making.settings());
    return new Mask() {
      @Override
      public String apply(String text) {
        return NUMBER.matcher(text).matches()
            ? between.nearest(new BigDecimal(text).add(number)).toPlainString()
            : making.shape().apply(text);
      }

      @Override
      public boolean keepsDifferent() {
        return between.equals(Between.ALL);
      }
    };
  }
}
