package yemble.core.mask.step;

import java.util.List;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Shape;
import yemble.core.pattern.FinitePattern;

/**
 * The mask of values that a store leads back from: a permutation of all texts that are like a
 * pattern, so that no two of them meet, and nobody need be asked which token a value has. A text
 * that is not like it is no value for a token, and loses all but its shape for ever.
 *
 * <p>Normal form: the text.
 */
public final class TokenMask implements Mask {
  private final FinitePattern like;
  private final PatternedMask permutation;
  private final Shape other;

  TokenMask(Prf prf, FinitePattern like, Shape other) {
    this.like = like;
    this.permutation = new PatternedMask(prf, List.of(like));
    this.other = other;
  }

  /** Whether a value can be led back to. */
  public boolean isFor(String value) {
    return like.matches(value);
  }

  @Override
  public boolean leavesBlanks() {
    return false;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public String apply(String text) {
    return isFor(text) ? permutation.apply(text) : other.apply(text);
  }
}
