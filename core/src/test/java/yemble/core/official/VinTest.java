package yemble.core.official;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Numbers that textbooks use, and an arithmetic of our own beside the one that is tested. */
class VinTest {
  private static final String LETTERS = "0123456789ABCDEFGHJKLMNPRSTUVWXYZ";

  @ParameterizedTest
  @CsvSource({"1M8GDM9AXKP042788, X", "11111111111111111, 1", "5GZCZ43D13S812715, 1"})
  void theCheckIsTheOneOfTheTextbook(String number, char check) {
    assertThat(Vin.matches(number)).isTrue();
    assertThat(Vin.check(number)).isEqualTo(check);
    assertThat(number.charAt(Vin.CHECK)).isEqualTo(check);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "1M8GDM9AXKP04278",
        "1M8GDM9AXKP0427888",
        "1m8gdm9axkp042788",
        "IM8GDM9AXKP042788"
      })
  void anythingElseIsNone(String text) {
    assertThat(Vin.matches(text)).isFalse();
  }

  /** 49 CFR 565.15: values of letters as its table has them, letter by letter. */
  private static int value(char c) {
    for (String row : List.of("AJ", "BKS", "CLT", "DMU", "ENV", "FW", "GPX", "HY", "RZ")) {
      if (row.indexOf(c) >= 0) {
        return List.of("AJ", "BKS", "CLT", "DMU", "ENV", "FW", "GPX", "HY", "RZ").indexOf(row) + 1;
      }
    }
    return c - '0';
  }

  @Test
  void theCheckIsTheRemainderByEleven() {
    int[] weights = {8, 7, 6, 5, 4, 3, 2, 10, 0, 9, 8, 7, 6, 5, 4, 3, 2};
    Random random = new Random(17);
    for (int i = 0; i < 5_000; i++) {
      StringBuilder number = new StringBuilder();
      int sum = 0;
      for (int weight : weights) {
        char c = LETTERS.charAt(random.nextInt(LETTERS.length()));
        number.append(c);
        sum += weight * value(c);
      }
      String check = sum % 11 == 10 ? "X" : String.valueOf(sum % 11);
      assertThat(String.valueOf(Vin.check(number.toString())))
          .as(number.toString())
          .isEqualTo(check);
    }
  }
}
