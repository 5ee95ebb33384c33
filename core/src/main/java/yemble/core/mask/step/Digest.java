package yemble.core.mask.step;

import java.util.List;
import java.util.Set;
import yemble.core.mask.Mask;
import yemble.core.problem.Failure;
import yemble.core.yaml.YamlValue;

/** A digest under the key, in so many hexadecimal digits. */
public record Digest(int length) implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "digest",
          "`digest: N`",
          "N hexadecimal digits of the PRF",
          "{\"type\": \"integer\", \"minimum\": 4, \"maximum\": 32}",
          List.of("16"),
          StepSort.Takes.NO_BYTES,
          Set.of(StepSort.Trait.MAKES_VALUES),
          Digest::read);

  private static MaskStep read(YamlValue value, StepSort.Known known) {
    long length = value.number(4);
    if (length > 32) {
      throw value
          .place()
          .problem(Failure.VALUE_FORM, "a digest has from 4 to 32 hexadecimal digits")
          .because("the function behind it gives 128 bits");
    }
    return new Digest((int) length);
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public Mask mask(Making making) {
    return new KeyedDigest(making.prf(), length);
  }
}
