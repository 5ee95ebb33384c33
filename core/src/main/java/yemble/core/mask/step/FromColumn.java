package yemble.core.mask.step;

import java.util.List;
import java.util.Set;
import yemble.core.mask.Mask;
import yemble.core.yaml.YamlValue;

/**
 * A value that the column holds somewhere in the source.
 *
 * @param weighted whether each comes as often as it does there, rather than all alike
 */
public record FromColumn(boolean weighted) implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "from-column",
          "`from-column: weighted` or `each`",
          "a value that the column holds somewhere in the source: as often as it comes there, or all alike. With `keyed-by` a key, shares stay as they are. Up to 10,000 different values; for columns alone. Of what tells a person, like addresses, it deals out originals: the proof's absence fails",
          "{\"enum\": [\"weighted\", \"each\"]}",
          List.of("weighted", "each"),
          StepSort.Takes.NO_BYTES,
          Set.of(StepSort.Trait.MAKES_VALUES, StepSort.Trait.NOT_ON_KEYS),
          FromColumn::read);

  /** How often each value of a column comes. */
  private enum Drawn {
    WEIGHTED,
    EACH
  }

  private static MaskStep read(YamlValue value, StepSort.Known known) {
    return new FromColumn(value.oneOf(Drawn.class) == Drawn.WEIGHTED);
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public String words() {
    return "values of the column";
  }

  @Override
  public Mask mask(Making making) {
    throw new IllegalArgumentException("no mask of a value alone: " + words());
  }
}
