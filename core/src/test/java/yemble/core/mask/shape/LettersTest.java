package yemble.core.mask.shape;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.mask.person.FamilyNames;
import yemble.core.mask.person.GivenNames;
import yemble.core.vocabulary.Vocabularies;

class LettersTest {
  /** Our own tables agree with Java's for the scripts that they cover. */
  @Test
  void caseAgreesWithJavaForLatinGreekAndCyrillic() {
    for (char c = 0; c < 0x460; c++) {
      boolean special =
          "İıŉſµÿŸςϐϑϕϖϰϱϴϵϷϸϹϺϻ".indexOf(c) >= 0
              || (c >= 0x180 && c < 0x386)
              || (c >= 0x3CC && c < 0x400);
      if (!special) {
        assertThat(Letters.lower(c)).as("lower of %x", (int) c).isEqualTo(Character.toLowerCase(c));
        if (Character.toUpperCase(c) < 0x460
            && Character.toLowerCase(Character.toUpperCase(c)) == c) {
          assertThat(Letters.upper(c))
              .as("upper of %x", (int) c)
              .isEqualTo(Character.toUpperCase(c));
        }
      }
    }
  }

  @ParameterizedTest
  @CsvSource({
    "Anna, maria, maria",
    "anna, Maria, maria",
    "ANNA, Maria, MARIA",
    "A, Maria, Maria",
    "aNNA, Maria, Maria",
    "ÜNAL, Maria, MARIA",
    "漢字, Maria, Maria"
  })
  void aWordTakesTheCaseOfAnother(String original, String word, String expected) {
    assertThat(Letters.inCaseOf(original, word)).isEqualTo(expected);
  }

  @Test
  void everyAlphabetIsApartFromTheOthersAndHoldsItsOwnLetters() {
    Set<Character> seen = new HashSet<>();
    for (char c : "09azAZàÀßøØαωΑΩабвАЯёЁאתアン漢가".toCharArray()) {
      Alphabet alphabet = Alphabet.of(c);
      assertThat(alphabet.isFixed()).as("%s", c).isFalse();
      assertThat(alphabet.letter(c, alphabet.index(c))).isEqualTo(c);
      for (int i = 0; i < alphabet.size(); i++) {
        assertThat(Alphabet.of(alphabet.letter(c, i))).isEqualTo(alphabet);
      }
      seen.add(alphabet.sign());
    }
    assertThat(seen).hasSizeGreaterThan(14);
    for (char c : " .-_@/\"'\n\u00a0×÷–“".toCharArray()) {
      assertThat(Alphabet.of(c).isFixed()).as("%x", (int) c).isTrue();
    }
  }

  @Test
  void vocabulariesAreLargeAndWithoutDoubles() {
    for (String name :
        new String[] {
          "given-female", "given-male", "given-both", "family-first", "family-second", "town-second"
        }) {
      assertThat(Vocabularies.load(name))
          .doesNotHaveDuplicates()
          .hasSizeGreaterThan(30)
          .allMatch(w -> w.matches("[A-Za-z]+"));
    }
    FamilyNames names = FamilyNames.load();
    List<String> all = new ArrayList<>();
    for (char letter : names.letters().toCharArray()) {
      all.addAll(names.choices("", letter));
    }
    assertThat(new HashSet<>(all))
        .hasSizeGreaterThan(18_000)
        .allMatch(w -> w.matches("[A-Z][a-z]+"))
        .noneMatch(w -> w.matches(".*(.)\\1\\1.*"));
  }

  @Test
  void thereAreEnoughGivenNamesOfEachGenderUnderEachLetter() {
    GivenNames names = GivenNames.load();
    for (char letter : names.letters().toCharArray()) {
      assertThat(names.choices("anna", letter)).as("women %s", letter).hasSizeGreaterThan(24);
      assertThat(names.choices("peter", letter)).as("men %s", letter).hasSizeGreaterThan(24);
      assertThat(names.choices("zzz", letter)).as("both %s", letter).hasSizeGreaterThan(19);
    }
    assertThat(Vocabularies.load("given-both")).hasSizeGreaterThan(300);
  }
}
