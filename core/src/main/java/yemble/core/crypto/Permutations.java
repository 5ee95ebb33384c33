package yemble.core.crypto;

import java.util.HashMap;
import java.util.Map;
import java.util.function.Supplier;

/** The permutations of one PRF, each made once, as making one costs more than using it. */
public final class Permutations {
  private static final int MOST = 4_096;

  private final Prf prf;
  private final Map<String, Permutation> made = new HashMap<>();

  public Permutations(Prf prf) {
    this.prf = prf;
  }

  /** The permutation of the numbers from 0 to size - 1 under a tweak, which no other size has. */
  public Permutation of(long size, String tweak) {
    return made(tweak, () -> prf.permutation(size, tweak));
  }

  /** The same for those who walk long cycles. */
  public Permutation walking(long size, String tweak) {
    return made("walking " + tweak, () -> prf.walking(size, tweak));
  }

  private Permutation made(String tweak, Supplier<Permutation> maker) {
    Permutation permutation = made.get(tweak);
    if (permutation == null) {
      if (made.size() >= MOST) {
        made.clear();
      }
      permutation = maker.get();
      made.put(tweak, permutation);
    }
    return permutation;
  }
}
