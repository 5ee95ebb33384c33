package yemble.core.verify;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.SplittableRandom;
import org.assertj.core.data.Percentage;
import org.junit.jupiter.api.Test;

class SampleTest {
  @Test
  void fewValuesAreCountedExactly() {
    Sample sample = new Sample();
    for (int round = 0; round < 3; round++) {
      SplittableRandom again = new SplittableRandom(5);
      for (int i = 0; i < 50_000; i++) {
        long key = again.nextLong();
        assertThat(sample.put(key, key % 7)).isEqualTo(key % 7);
      }
    }
    assertThat(sample.scale()).isEqualTo(1);
    assertThat(sample.distinct()).isEqualTo(50_000);
    assertThat(sample.distinctValues()).isEqualTo(13);
  }

  @Test
  void manyValuesAreEstimatedInBoundedSpace() {
    Sample sample = new Sample();
    SplittableRandom random = new SplittableRandom(6);
    for (int i = 0; i < 3_000_000; i++) {
      long key = random.nextLong();
      sample.put(key, key);
    }
    assertThat(sample.scale()).isGreaterThan(8);
    assertThat(sample.distinct()).isCloseTo(3_000_000, Percentage.withPercentage(1.5));
  }

  @Test
  void aSecondValueForTheSameKeyIsSeen() {
    Sample sample = new Sample();
    sample.put(17, 1);
    assertThat(sample.put(17, 2)).isEqualTo(1);
    assertThat(sample.contains(17)).isTrue();
    assertThat(sample.contains(18)).isFalse();
  }
}
