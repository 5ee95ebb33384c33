package yemble.core.mask.step;

import java.util.List;
import java.util.Set;
import yemble.core.mask.Mask;
import yemble.core.mask.secret.PasswordHash;
import yemble.core.mask.shape.Shape;
import yemble.core.yaml.YamlValue;

/** The hash of one password, in the scheme of the hash that it replaces. */
public record Password(String word) implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "password",
          "`password: WORD`",
          "the hash of the word, in the scheme of the hash that stood there",
          StepSort.SCALAR,
          List.of("harbour-test"),
          StepSort.Takes.NO_BYTES,
          Set.of(StepSort.Trait.CONSTANT),
          Password::read);

  private static MaskStep read(YamlValue value, StepSort.Known known) {
    return new Password(value.word());
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public Mask mask(Making making) {
    return new PasswordHash(making.prf(), word, new Shape(making.prf()));
  }
}
