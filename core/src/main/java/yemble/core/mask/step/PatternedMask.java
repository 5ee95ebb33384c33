package yemble.core.mask.step;

import java.math.BigInteger;
import java.util.List;
import yemble.core.crypto.Permutation;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.pattern.FinitePattern;

/**
 * The mask that makes texts of patterns. A text that matches one of them becomes another text of
 * that one, by a permutation of all of its texts, so that different ones stay different; any other
 * text becomes one of a pattern drawn by its value.
 *
 * <p>Normal form: the text.
 */
final class PatternedMask implements Mask {
  private final Prf prf;
  private final List<FinitePattern> patterns;
  private final Permutation[] permutations;

  PatternedMask(Prf prf, List<FinitePattern> patterns) {
    this.prf = prf;
    this.patterns = patterns;
    this.permutations = new Permutation[patterns.size()];
  }

  /** Different texts that match stay different; others may meet by chance. */
  @Override
  public boolean leavesBlanks() {
    return false;
  }

  @Override
  public boolean keepsDifferent() {
    return patterns.stream()
        .allMatch(pattern -> pattern.count().compareTo(BigInteger.ONE.shiftLeft(40)) > 0);
  }

  @Override
  public boolean mayMeet() {
    return true;
  }

  @Override
  public String apply(String text) {
    for (int i = 0; i < permutations.length; i++) {
      FinitePattern pattern = patterns.get(i);
      if (pattern.matches(text)) {
        return pattern.isNumbered()
            ? pattern.text(permutation(i).of(pattern.number(text)))
            : drawn(i, text);
      }
    }
    return drawn((int) prf.below("which " + text, permutations.length), text);
  }

  private Permutation permutation(int i) {
    if (permutations[i] == null) {
      FinitePattern pattern = patterns.get(i);
      permutations[i] = prf.permutation(pattern.count().longValue(), pattern.toString());
    }
    return permutations[i];
  }

  private String drawn(int i, String text) {
    FinitePattern pattern = patterns.get(i);
    if (pattern.isNumbered()) {
      return pattern.text(prf.below(text, pattern.count().longValue()));
    }
    int bytes = pattern.count().bitLength() / 8 + 9;
    BigInteger number = new BigInteger(1, prf.draw(text).bytes(bytes));
    return pattern.text(number.mod(pattern.count()));
  }
}
