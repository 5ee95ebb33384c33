package yemble.core.digits;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Random;
import org.apache.commons.validator.routines.checkdigit.CheckDigitException;
import org.apache.commons.validator.routines.checkdigit.LuhnCheckDigit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Against a library, and against the examples of the standards. */
class CheckDigitsTest {
  private static String digits(Random random, int length) {
    StringBuilder digits = new StringBuilder();
    for (int i = 0; i < length; i++) {
      digits.append((char) ('0' + random.nextInt(10)));
    }
    return digits.toString();
  }

  @Test
  void luhnIsAsTheLibraryHasIt() throws CheckDigitException {
    Random random = new Random(3);
    for (int i = 0; i < 5_000; i++) {
      String body = "1" + digits(random, 1 + random.nextInt(17));
      String check = LuhnCheckDigit.LUHN_CHECK_DIGIT.calculate(body);
      assertThat(CheckDigits.luhnDigit(body + "?", 0)).as(body).hasToString(check);
      assertThat(CheckDigits.luhnDigit("77" + body + "?", 2)).as(body).hasToString(check);
      assertThat(CheckDigits.luhn(body + check)).isTrue();
    }
  }

  /** ISO/IEC 7064 prints 07945 for MOD 11,10 and 07940 for MOD 11-2. */
  @ParameterizedTest
  @CsvSource({"0794, 5, 0794, 0", "079, X, 079, X"})
  void theExamplesOfTheStandard(String hybrid, String hybridCheck, String pure, String check) {
    for (char c : "0123456789X".toCharArray()) {
      boolean right = check.equals(String.valueOf(c));
      if (pure.length() == 4) {
        assertThat(CheckDigits.mod112(pure + c)).as(pure + c).isEqualTo(right);
      }
      if (hybrid.length() == 4 && c != 'X') {
        assertThat(CheckDigits.mod1110(hybrid + c))
            .as(hybrid + c)
            .isEqualTo(hybridCheck.equals(String.valueOf(c)));
      }
    }
  }

  /**
   * What each of them is for: one digit that is wrong is always found, neighbours swapped nearly.
   */
  @Test
  void aWrongDigitIsFound() {
    Random random = new Random(4);
    for (int i = 0; i < 2_000; i++) {
      String body = digits(random, 10);
      String right = body + CheckDigits.mod1110Digit(body + "?");
      assertThat(CheckDigits.mod1110(right)).isTrue();
      int at = random.nextInt(right.length());
      char other = (char) ('0' + (right.charAt(at) - '0' + 1 + random.nextInt(9)) % 10);
      String wrong = right.substring(0, at) + other + right.substring(at + 1);
      assertThat(CheckDigits.mod1110(wrong)).as(right + " " + wrong).isFalse();
    }
  }

  @ParameterizedTest
  @CsvSource({
    "000229, 0, true",
    "990229, 0, false",
    "040229, 0, true",
    "991301, 0, false",
    "990100, 0, false",
    "x240430, 1, true",
    "x240431, 1, false"
  })
  void daysOfSomeCentury(String text, int from, boolean exists) {
    assertThat(CheckDigits.day(text, from)).isEqualTo(exists);
  }
}
