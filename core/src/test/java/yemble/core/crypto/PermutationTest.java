package yemble.core.crypto;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.BitSet;
import java.util.HashSet;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class PermutationTest {
  private final SecretKey key = SecretKey.random();

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 10, 365, 999, 70_000, 999_999, 1_000_000, 1_300_001})
  void everyNumberGoesSomewhereAndNoTwoToTheSame(long size) {
    Permutation permutation = key.prf("s").permutation(size, "tweak");
    BitSet seen = new BitSet((int) size);
    for (long i = 0; i < size; i++) {
      long image = permutation.of(i);
      assertThat(image).isBetween(0L, size - 1);
      assertThat(seen.get((int) image)).as("%d seen before", image).isFalse();
      seen.set((int) image);
    }
  }

  @ParameterizedTest
  @ValueSource(longs = {1L << 40, (1L << 61) + 12_345, Long.MAX_VALUE})
  void largeDomainsStayInsideAndApart(long size) {
    Permutation permutation = key.prf("s").permutation(size, "tweak");
    Set<Long> seen = new HashSet<>();
    for (long i = 0; i < 3_000; i++) {
      long image = permutation.of(i * (size / 3_000));
      assertThat(image).isBetween(0L, size - 1);
      assertThat(seen.add(image)).isTrue();
    }
  }

  @Test
  void anotherKeyOrTweakGivesAnotherPermutation() {
    Permutation one = key.prf("s").permutation(5_000, "a");
    Permutation sameAgain = key.prf("s").permutation(5_000, "a");
    Permutation otherTweak = key.prf("s").permutation(5_000, "b");
    Permutation otherKey = SecretKey.random().prf("s").permutation(5_000, "a");
    int agreeTweak = 0;
    int agreeKey = 0;
    for (int i = 0; i < 5_000; i++) {
      assertThat(sameAgain.of(i)).isEqualTo(one.of(i));
      agreeTweak += one.of(i) == otherTweak.of(i) ? 1 : 0;
      agreeKey += one.of(i) == otherKey.of(i) ? 1 : 0;
    }
    assertThat(agreeTweak).as("fixed by chance, 1 expected").isLessThan(12);
    assertThat(agreeKey).as("fixed by chance, 1 expected").isLessThan(12);
  }
}
