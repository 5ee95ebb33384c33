package yemble.core.crypto;

import java.util.HashMap;
import java.util.Map;

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
    Permutation permutation = made.get(tweak);
    if (permutation == null) {
      if (made.size() >= MOST) {
        made.clear();
      }
      permutation = prf.permutation(size, tweak);
      made.put(tweak, permutation);
    }
    return permutation;
  }
}
