package yemble.core.store;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Random;
import org.junit.jupiter.api.Test;
import yemble.core.row.RowSet;

class RandomSampleTest {
  /**
   * Whatever is drawn last must not come from the beginning of the table more than from its end.
   */
  @Test
  void whatFillsASampleIsDrawnFromAllOfIt() {
    long low = 0;
    int runs = 400;
    for (int seed = 0; seed < runs; seed++) {
      RowSet sample = new RowSet();
      sample.addRange(1, 900);
      RowSet drawn = new RowSet();
      drawn.addRange(1, 2_000);
      RandomSample.fill(sample, drawn, 1_000, new Random(seed));
      assertThat(sample.size()).isEqualTo(1_000);
      for (long row = 901; row <= 1_450; row++) {
        low += sample.contains(row) ? 1 : 0;
      }
    }
    assertThat(low / (double) runs).isBetween(48.0, 52.0);
  }
}
