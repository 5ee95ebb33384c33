package yemble.core.pattern;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.math.BigInteger;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.TreeSet;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Patterns are counted and numbered as a brute-force twin counts and sorts them. */
class FinitePatternTest {
  private final Random random = new Random(3);

  private String pattern(int depth) {
    return switch (random.nextInt(depth == 0 ? 3 : 6)) {
      case 0 -> List.of("a", "b", "c").get(random.nextInt(3));
      case 1 -> List.of("[ab]", "[a-c]", "[bc]").get(random.nextInt(3));
      case 2 -> "";
      case 3 -> pattern(depth - 1) + pattern(depth - 1);
      case 4 -> "(" + pattern(depth - 1) + "|" + pattern(depth - 1) + ")";
      default ->
          "("
              + pattern(depth - 1)
              + ")"
              + List.of("?", "{2}", "{0,2}", "{1,3}").get(random.nextInt(4));
    };
  }

  /** All texts of a, b and c up to a length. */
  private static List<String> texts(int length) {
    List<String> texts = new ArrayList<>(List.of(""));
    for (int from = 0, round = 0; round < length; round++) {
      int to = texts.size();
      for (int i = from; i < to; i++) {
        for (String letter : List.of("a", "b", "c")) {
          texts.add(texts.get(i) + letter);
        }
      }
      from = to;
    }
    return texts;
  }

  @Test
  void textsAreCountedAndNumberedInTheirOrder() throws PatternProblem {
    List<String> all = texts(7);
    int checked = 0;
    while (checked < 300) {
      String written = pattern(3);
      FinitePattern pattern = FinitePattern.parse(written);
      if (pattern.longest() > 7) {
        continue;
      }
      checked++;
      Pattern twin = Pattern.compile(written);
      TreeSet<String> matching = new TreeSet<>();
      all.stream().filter(text -> twin.matcher(text).matches()).forEach(matching::add);
      assertThat(pattern.count()).as(written).isEqualTo(BigInteger.valueOf(matching.size()));
      long number = 0;
      for (String text : matching) {
        assertThat(pattern.number(text)).as(written).isEqualTo(number);
        assertThat(pattern.text(number)).as(written).isEqualTo(text);
        number++;
      }
      all.forEach(
          text -> assertThat(pattern.matches(text)).as(written).isEqualTo(matching.contains(text)));
    }
  }

  @Test
  void aLockerIsOneOfManyThousands() throws PatternProblem {
    FinitePattern pattern = FinitePattern.parse("[A-F]-\\d{3}");
    assertThat(pattern.count()).isEqualTo(6_000);
    assertThat(pattern.text(5_999)).isEqualTo("F-999");
    FinitePattern large = FinitePattern.parse("[A-Z0-9]{16}");
    assertThat(large.isNumbered()).isFalse();
    assertThat(large.text(large.count().subtract(BigInteger.ONE))).isEqualTo("Z".repeat(16));
  }

  @ParameterizedTest
  @CsvSource(
      quoteCharacter = '"',
      value = {
        "a+, 2, without end",
        "[a-, 3, not closed",
        "(ab, 3, not closed",
        "a), 2, never opened",
        "[^a], 2, not which not",
        "a.c, 2, any character",
        "(?=a)b, 2, look around",
        "\\p{L}, 2, not known",
        "\"a{3,1}\", 2, from few to many",
        "{3}, 1, nothing here to repeat"
      })
  void whatIsNoFinitePatternIsSaidWithItsPlace(String written, int at, String why) {
    PatternProblem problem =
        catchThrowableOfType(PatternProblem.class, () -> FinitePattern.parse(written));
    assertThat(problem).hasMessageContaining(why);
    assertThat(problem.at()).isEqualTo(at);
  }

  /** Numbers of 64 bits are counted by themselves; the others as before. */
  @Test
  void numbersLargeAndSmallGiveTheSameTexts() throws Exception {
    for (String written :
        List.of("[A-F]-[0-9]{3}|x{0,9}", "40[0-9]{14}", "([a-z]{2,5}[.])?[0-9]{1,9}")) {
      FinitePattern pattern = FinitePattern.parse(written);
      long count = pattern.count().longValueExact();
      for (int i = 0; i < 2_000; i++) {
        long number =
            i < 100 ? i : i < 200 ? count - 1 - (i - 100) : Math.floorMod(random.nextLong(), count);
        String text = pattern.text(number);
        assertThat(text).isEqualTo(pattern.text(BigInteger.valueOf(number)));
        assertThat(pattern.number(text)).isEqualTo(number);
      }
    }
  }
}
