package yemble.core.mask.step;

import java.util.List;
import java.util.Set;
import yemble.core.mask.Mask;
import yemble.core.yaml.YamlValue;

/** Text of words that say nothing, as long as the value. */
public record Filler() implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "filler",
          "`filler: true`",
          "words that say nothing, as many characters and lines as there were",
          StepSort.TRUE,
          List.of("true"),
          StepSort.Takes.TEXTS,
          Set.of(),
          Filler::read);

  private static MaskStep read(YamlValue value, StepSort.Known known) {
    return Clear.only(value, new Filler());
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public Mask mask(Making making) {
    return new FillerMask(making.prf());
  }
}
