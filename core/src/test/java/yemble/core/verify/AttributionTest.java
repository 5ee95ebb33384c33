package yemble.core.verify;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import yemble.core.mark.BucketSums.Difference;

/** Of rows that differ in one bucket the changed ones are those that the bucket's sum tells. */
class AttributionTest {
  private final Random random = new Random(5);
  private final Attribution attribution = new Attribution();
  private final Set<Integer> changed = new HashSet<>();
  private final Set<Integer> moved = new HashSet<>();
  private final List<Boolean> certain = new ArrayList<>();

  private Difference any() {
    return new Difference(random.nextLong(), random.nextLong());
  }

  private Difference add(int row) {
    Difference difference = any();
    attribution.add(
        3,
        difference,
        sure -> {
          changed.add(row);
          certain.add(sure);
        },
        () -> moved.add(row));
    return difference;
  }

  @Test
  void theRowsThatAddUpToTheChangeAreTheChangedOnes() {
    for (int rows = 1; rows <= 10; rows++) {
      changed.clear();
      moved.clear();
      Set<Integer> wanted = new HashSet<>();
      Difference sum = Difference.NONE;
      for (int i = 0; i < rows; i++) {
        Difference difference = add(i);
        if (i == 0 || random.nextBoolean()) {
          wanted.add(i);
          sum = sum.plus(difference);
        }
      }
      Difference all = sum;
      attribution.settle(bucket -> all);
      assertThat(changed).isEqualTo(wanted);
      assertThat(moved).hasSize(rows - wanted.size());
    }
    assertThat(certain).isNotEmpty().containsOnly(true);
  }

  @Test
  void whereNoneAddUpAllCountAsChangedAndNoneAsCertain() {
    for (int i = 0; i < 5; i++) {
      add(i);
    }
    attribution.settle(bucket -> any());
    assertThat(changed).hasSize(5);
    assertThat(moved).isEmpty();
    assertThat(certain).containsOnly(false);
  }

  @Test
  void differencesAreThoseOfNumbersOf128Bits() {
    Difference one = new Difference(0, 1);
    Difference most = new Difference(-1, -1);
    assertThat(most.plus(one)).isEqualTo(Difference.NONE);
    assertThat(Difference.NONE.minus(one)).isEqualTo(most);
    Difference a = any();
    Difference b = any();
    assertThat(a.plus(b).minus(b)).isEqualTo(a);
  }
}
