package yemble.core.mask.person;

import static org.assertj.core.api.Assertions.assertThat;

import java.text.Normalizer;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.crypto.SecretKey;
import yemble.core.mask.Mask;
import yemble.core.mask.Masks;
import yemble.core.mask.shape.NameForm;
import yemble.core.vocabulary.Vocabularies;

/** Names, addresses and logins of one person agree, as functions of the value alone. */
class NamesAgreeTest {
  private static final int PEOPLE = 2_000;

  private final Masks masks = new Masks(SecretKey.random(), LocalDate.of(2026, 11, 30));
  private final Mask given = masks.of("given-name");
  private final Mask family = masks.of("family-name");
  private final Mask full = masks.of("full-name");
  private final Random random = new Random(26);

  private static String plain(String name) {
    return Normalizer.normalize(name, Normalizer.Form.NFD)
        .replaceAll("[^A-Za-z]", "")
        .toLowerCase(Locale.ROOT);
  }

  private String local(String address) {
    String masked = masks.of("email").apply(address + "@site.example");
    return masked.substring(0, masked.lastIndexOf('.', masked.indexOf('@')));
  }

  private String oneOf(List<String> names) {
    return names.get(random.nextInt(names.size()));
  }

  @Test
  void addressesOfNamesThatNobodyKnowsFollowThemWhereTheirPartsAreApart() {
    for (int i = 0; i < PEOPLE; i++) {
      String g = oneOf(List.of("Corvan", "Ilvane", "Lisk", "Yselle", "Ondrel", "Zoë", "Þórhild"));
      String f = "Q" + "aeiou".charAt(random.nextInt(5)) + "gullane" + (char) ('a' + i % 26);
      String mg = plain(given.apply(g));
      String mf = plain(family.apply(f));
      assertThat(local(plain(g.replace("Þ", "Th")) + "." + plain(f))).isEqualTo(mg + "." + mf);
      assertThat(local(g.charAt(0) + "_" + f).replaceAll("^[^a-z]", ""))
          .isEqualTo(mg.charAt(0) + "_" + mf);
      assertThat(local(plain(f))).isEqualTo(mf);
    }
  }

  @Test
  void addressesOfKnownNamesFollowThemThoughTheyAreRunTogether() {
    List<String> givens = new ArrayList<>(Vocabularies.load("known-female"));
    givens.addAll(Vocabularies.load("given-male"));
    List<String> families = Vocabularies.load("known-family");
    int[] followed = new int[5];
    for (int i = 0; i < PEOPLE; i++) {
      String g = oneOf(givens);
      String f = oneOf(families);
      String mg = plain(given.apply(g));
      String mf = plain(family.apply(f));
      g = plain(g);
      f = plain(f);
      followed[0] += local(g + f).equals(mg + mf) ? 1 : 0;
      followed[1] += local(g.charAt(0) + f).equals(mg.charAt(0) + mf) ? 1 : 0;
      followed[2] += local(f + g.charAt(0)).equals(mf + mg.charAt(0)) ? 1 : 0;
      followed[3] += local(g + "." + f).equals(mg + "." + mf) ? 1 : 0;
      followed[4] += local(f + "-" + g).equals(mf + "-" + mg) ? 1 : 0;
    }
    assertThat(followed[0]).isGreaterThan(PEOPLE * 90 / 100);
    assertThat(followed[1]).isGreaterThan(PEOPLE * 90 / 100);
    assertThat(followed[2]).isGreaterThan(PEOPLE * 88 / 100);
    assertThat(followed[3]).isGreaterThan(PEOPLE * 95 / 100);
    assertThat(followed[4]).isGreaterThan(PEOPLE * 93 / 100);
  }

  @Test
  void aWordForAnOfficeStaysAloneAndIsANameBesideOne() {
    assertThat(local("info")).isEqualTo("info");
    assertThat(local("info.sales")).isEqualTo("info.sales");
    assertThat(local("john.guest"))
        .endsWith("." + plain(family.apply("Guest")))
        .doesNotContain("guest");
    assertThat(local("store_mary")).doesNotContain("store").doesNotContain("mary");
  }

  @ParameterizedTest
  @CsvSource({"Müller, mueller", "Müller, muller", "Zoë, zoe", "Søren, soren", "Åsa, aasa"})
  void accentsAreFoldedBothWays(String accented, String plain) {
    assertThat(given.apply(plain)).isEqualToIgnoringCase(given.apply(accented));
    assertThat(family.apply(plain)).isEqualToIgnoringCase(family.apply(accented));
  }

  @ParameterizedTest
  @CsvSource({
    "O'Storr, ostorr",
    "van der Smith, vandersmith",
    "D'Angelo, dangelo",
    "De la Cruz, delacruz"
  })
  void particlesAndApostrophesMayBeRunTogether(String name, String written) {
    assertThat(local("orla." + written).replaceAll("^[a-z]+\\.", ""))
        .isEqualTo(plain(family.apply(name)));
  }

  @Test
  void aMaskedNameKeepsTheGenderThatIsKnownAndSaysNoneOtherwise() {
    for (String name : Vocabularies.load("known-female")) {
      GivenNames.Gender before = GivenNames.gender(NameForm.of(name));
      assertThat(GivenNames.gender(NameForm.of(given.apply(name)))).as(name).isEqualTo(before);
    }
    for (int i = 0; i < PEOPLE; i++) {
      String made = "Xq" + Integer.toString(random.nextInt(1 << 20), 26).replaceAll("[0-9]", "z");
      assertThat(GivenNames.gender(NameForm.of(given.apply(made))))
          .as(made)
          .isEqualTo(GivenNames.Gender.UNKNOWN);
    }
  }

  /** The family names between the brackets, all else given names, titles and signs. */
  @ParameterizedTest
  @CsvSource(
      delimiter = ';',
      value = {
        "Corvan [Gullane]",
        "[Gullane], Corvan",
        "[GULLANE]/CORVAN",
        "Corvan [Gullane]{, Jr.}",
        "{Dr. }Corvan [Gullane]{, PhD}",
        "[Gullane], Corvan{, MD}",
        "María [García] [López]",
        "María Isabel [García] [López]",
        "Corvan {van der }[Torr]",
        "Corvan {St. }[Gullane]",
        "Corvan [O'Storr]",
        "Anne-Marie [Vennask]-[Pellane]",
        "[Gullane]",
        "Maria",
        "Kenny [Le]",
        "{Frau Dr. }Lisk [Quillily]",
        "Phil [Gullane]",
        "Dona [Gullane]",
        "Corvan [Lord]",
        "{Lord }[Gullane]",
        "{Sig.ra }Lisk [Quillily]",
        "{VIP}",
        "{Customer Service}"
      })
  void thePartsOfAFullNameBecomeWhatTheNameColumnsSay(String marked) {
    StringBuilder expected = new StringBuilder();
    StringBuilder word = new StringBuilder();
    boolean stays = false;
    Mask mask = given;
    for (char c : (marked + "\n").toCharArray()) {
      boolean inWord = Character.isLetter(c) || c == '\'';
      if (inWord && !stays) {
        word.append(c);
        continue;
      }
      expected.append(word.isEmpty() ? "" : mask.apply(word.toString()));
      word.setLength(0);
      stays = c == '{' || stays && c != '}';
      mask = c == '[' ? family : c == ']' ? given : mask;
      expected.append("[]{}\n".indexOf(c) >= 0 ? "" : c);
    }
    assertThat(full.apply(marked.replaceAll("[\\[\\]{}]", ""))).isEqualTo(expected.toString());
  }

  @ParameterizedTest
  @CsvSource({
    "王小明, HAN",
    "山田太郎, HAN",
    "김민준, HANGUL",
    "やまだ さくら, HIRAGANA",
    "ヤマダ, KATAKANA",
    "محمد الحسن, ARABIC",
    "שרה כהן, HEBREW"
  })
  void namesInOtherScriptsAreNamesOfTheScript(String name, String script) {
    String masked = full.apply(name);
    assertThat(masked).isNotEqualTo(name);
    assertThat(masked.codePoints().filter(Character::isLetter))
        .allMatch(c -> Character.UnicodeScript.of(c).name().equals(script));
    assertThat(masked.chars().filter(c -> c == ' ').count())
        .isEqualTo(name.chars().filter(c -> c == ' ').count());
  }
}
