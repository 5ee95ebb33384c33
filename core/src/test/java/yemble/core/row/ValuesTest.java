package yemble.core.row;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** One spelling for one value. */
class ValuesTest {
  @ParameterizedTest
  @CsvSource({
    "0.0, 0",
    "-0.0, 0",
    "1e21, 1000000000000000000000",
    "1e-7, 0.0000001",
    "0.1, 0.1",
    "100.0, 100",
    "-12.50, -12.5",
    "4.9e-324, 4.9e-324",
    "123456789012345680000, 123456789012345680000"
  })
  void aNumberIsWrittenPlainly(double number, String text) {
    assertThat(Values.text(number))
        .isEqualTo(text.contains("e-324") ? new java.math.BigDecimal(text).toPlainString() : text);
  }

  /** Read again it is the same number, and no shorter text is. */
  @Test
  void aNumberIsReadAsItWas() {
    Random random = new Random(5);
    for (int i = 0; i < 20_000; i++) {
      double number =
          i % 2 == 0
              ? Double.longBitsToDouble(random.nextLong())
              : random.nextInt(1_000_000) / 100.0;
      if (Double.isNaN(number) || Double.isInfinite(number)) {
        continue;
      }
      String text = Values.text(number);
      assertThat(Double.parseDouble(text)).as(text).isEqualTo(number == 0 ? 0.0 : number);
      assertThat(text).doesNotContain("E").doesNotContain("e");
      assertThat(text.contains(".") && text.endsWith("0")).as(text).isFalse();
    }
  }

  @Test
  void whatIsNoNumberIsItself() {
    assertThat(Values.text("x")).isEqualTo("x");
    assertThat(Values.text(7L)).isEqualTo("7");
    assertThat(Values.text(Double.NaN)).isEqualTo("NaN");
    assertThat(Values.text(Double.NEGATIVE_INFINITY)).isEqualTo("-Infinity");
  }
}
