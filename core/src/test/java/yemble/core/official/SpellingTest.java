package yemble.core.official;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class SpellingTest {
  @ParameterizedTest
  @ValueSource(
      strings = {"[0-9]{3}", "[0-9]{2}[-+A-C][0-9X]", "7[A-Z]{2}0", "[^0-9]", "[0-9]", "Z[013-9]"})
  void itMatchesWhatTheExpressionMatches(String form) {
    Spelling spelling = Spelling.of(form);
    Random random = new Random(form.hashCode());
    String letters = "0123789-+ABCXYZaé\u0130";
    for (int i = 0; i < 20_000; i++) {
      StringBuilder text = new StringBuilder();
      for (int left = spelling.length() - (random.nextInt(10) == 0 ? 1 : 0); left > 0; left--) {
        text.append(letters.charAt(random.nextInt(letters.length())));
      }
      boolean ascii = text.chars().allMatch(c -> c < 128);
      assertThat(spelling.matches(text.toString()))
          .as("%s in %s", text, form)
          .isEqualTo(ascii && text.toString().matches(form));
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"[0-9]+", "a", "[0-9]{2,3}", "(1)"})
  void anythingElseIsRefused(String form) {
    assertThatThrownBy(() -> Spelling.of(form)).isInstanceOf(IllegalArgumentException.class);
  }
}
