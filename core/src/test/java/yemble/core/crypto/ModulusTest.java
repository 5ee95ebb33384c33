package yemble.core.crypto;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Random;
import org.junit.jupiter.api.Test;

class ModulusTest {
  @Test
  void remaindersAreThoseOfTheProcessor() {
    Random random = new Random(7);
    for (int i = 0; i < 200_000; i++) {
      long divisor = 1 + (random.nextLong() >>> 2 + random.nextInt(61));
      long number = random.nextLong() >>> random.nextInt(64);
      assertThat(Modulus.of(divisor).remainder(number))
          .as("%s mod %d", Long.toUnsignedString(number), divisor)
          .isEqualTo(Long.remainderUnsigned(number, divisor));
    }
  }

  @Test
  void remaindersAreRightAtTheEdges() {
    for (long divisor : new long[] {1, 2, 3, 4, 5, 7, 10, 1L << 31, (1L << 62) - 1, 1L << 62}) {
      for (long near : new long[] {0, divisor, 2 * divisor, 3 * divisor, Long.MIN_VALUE, -1}) {
        for (long number = near - 2; number != near + 3; number++) {
          assertThat(Modulus.of(divisor).remainder(number))
              .isEqualTo(Long.remainderUnsigned(number, divisor));
        }
      }
    }
  }

  @Test
  void otherDivisorsAreRefused() {
    for (long divisor : new long[] {0, -1, (1L << 62) + 1}) {
      assertThatThrownBy(() -> Modulus.of(divisor)).isInstanceOf(IllegalArgumentException.class);
    }
  }
}
