package yemble.core.mask;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.crypto.SecretKey;
import yemble.core.kind.Kinds;
import yemble.core.mask.shape.NumberNoise.Spread;
import yemble.core.mask.step.As;
import yemble.core.mask.step.Clear;
import yemble.core.mask.step.Digest;
import yemble.core.mask.step.Filler;
import yemble.core.mask.step.Fixed;
import yemble.core.mask.step.FromList;
import yemble.core.mask.step.Hidden;
import yemble.core.mask.step.MailAt;
import yemble.core.mask.step.MaskStep;
import yemble.core.mask.step.Noise;
import yemble.core.mask.step.Patterned;
import yemble.core.mask.step.Plus;
import yemble.core.mask.step.Range;
import yemble.core.mask.step.Replace;
import yemble.core.mask.step.Shift;
import yemble.core.mask.text.FreeText;
import yemble.core.pattern.FinitePattern;
import yemble.core.pattern.PatternProblem;
import yemble.core.row.Empty;

/** What the masks promise that users put together. */
class RuleMasksTest {
  private static final LocalDate AS_OF = LocalDate.of(2026, 1, 1);
  private final SecretKey key = SecretKey.random();
  private final Masks masks = masks(SecretKey.random());
  private final Random random = new Random(11);

  private Masks masks(SecretKey fresh) {
    return new Masks(new Masks.Terms(key, fresh, AS_OF, Kinds.BUILT_IN, Map.of(), Set.of()));
  }

  private static MaskRule rule(MaskStep... steps) {
    return MaskRule.of(List.of(steps), null);
  }

  private static MaskRule scoped(String scope, MaskStep... steps) {
    return new MaskRule(
        List.of(steps), scope, "", "", null, Settings.NONE, List.of(), Set.of(), null);
  }

  private Mask mask(MaskStep... steps) {
    return masks.of("", rule(steps));
  }

  @Test
  void aPatternPermutesItsOwnTextsAndTakesInOthers() throws PatternProblem {
    Mask lockers =
        mask(
            new Patterned(
                List.of(FinitePattern.parse("[A-F]-\\d{2}"), FinitePattern.parse("[A-F]{2}/\\d"))));
    Set<String> seen = new HashSet<>();
    for (char c = 'A'; c <= 'F'; c++) {
      for (int i = 0; i < 100; i++) {
        String masked = lockers.apply(String.format("%c-%02d", c, i));
        assertThat(masked).matches("[A-F]-[0-9]{2}");
        assertThat(seen.add(masked)).isTrue();
      }
    }
    assertThat(lockers.apply("AB/7")).matches("[A-F]{2}/[0-9]");
    Set<Integer> shapes = new HashSet<>();
    for (int i = 0; i < 50; i++) {
      String masked = lockers.apply("somewhere " + i);
      assertThat(masked).matches("[A-F]-[0-9]{2}|[A-F]{2}/[0-9]");
      shapes.add(masked.indexOf('-'));
    }
    assertThat(shapes).hasSize(2);
    Mask large = mask(new Patterned(List.of(FinitePattern.parse("[A-Z0-9]{20}"))));
    assertThat(large.apply("x")).matches("[A-Z0-9]{20}").isNotEqualTo(large.apply("y"));
  }

  @Test
  void aListIsDrawnByItsWeights() {
    Mask list = mask(new FromList("decks", List.of("A", "B", "C"), List.of(70, 20, 10), true));
    Map<String, Integer> counts = new HashMap<>();
    for (int i = 0; i < 20_000; i++) {
      counts.merge(list.apply("value " + i), 1, Integer::sum);
    }
    assertThat(counts.get("A")).isBetween(13_600, 14_400);
    assertThat(counts.get("C")).isBetween(1_800, 2_200);
    assertThat(list.apply("Value 1")).isEqualTo(list.apply("value 1 "));
  }

  @Test
  void theColumnsOwnValuesComeAsOftenAsTheyDoThere() {
    List<String> values = List.of("F", "M");
    Mask weighted = mask(new FromList("own", values, List.of(90, 10), false));
    int same = 0;
    for (int i = 0; i < 10_000; i++) {
      same += weighted.apply("value " + i).equals("F") ? 1 : 0;
    }
    assertThat(same).isBetween(8_800, 9_200);
    Mask each = mask(new FromList("own", values, List.of(1, 1), true));
    assertThat(each.apply("F")).isEqualTo("M");
    assertThat(each.apply("M")).isEqualTo("F");
  }

  @Test
  void cellsWithoutAValueAreMaskedWhereThatIsAskedFor() throws PatternProblem {
    Mask fixed = mask(new Fixed("none"));
    assertThat(masks.values(fixed).apply(null)).isNull();
    assertThat(masks.values(fixed).apply("")).isEqualTo("");
    Set<Empty> nulls = Set.of(Empty.NULL);
    assertThat(masks.values(fixed, nulls).apply(null)).isEqualTo("none");
    assertThat(masks.values(fixed, nulls).apply("")).isEqualTo("");
    assertThat(masks.values(fixed, Set.of(Empty.EMPTY)).apply("")).isEqualTo("none");
    Mask pattern = mask(new Patterned(List.of(FinitePattern.parse("[A-F]-[0-9]{2}"))));
    assertThat((String) masks.values(pattern, nulls).apply(null)).matches("[A-F]-[0-9]{2}");
  }

  @Test
  void wordsAreReplacedAsWholeWordsAndTheRestStays() {
    Mask replace =
        mask(new Replace("words", Map.of("old quay", "North Pier", "skipper", "master")));
    assertThat(replace.apply("The Skipper left OLD QUAY; skippers, oldquay, old quays."))
        .isEqualTo("The master left North Pier; skippers, oldquay, old quays.");
  }

  @Test
  void theLongerOfTwoPhrasesIsReplacedWhateverTheirOrder() {
    Map<String, String> words = new HashMap<>();
    for (String word : List.of("Old", "Old Quay", "Old Quay Inn", "Quay", "Inn", "Quay Inn")) {
      words.put(word, "<" + word.length() + ">");
    }
    MaskStep replace = new Replace("words", words);
    assertThat(mask(replace).apply("Old Quay Inn, Old Quay, Old, the Quay Inn"))
        .isEqualTo("<12>, <8>, <3>, the <8>");
    assertThat(masks.text(List.of(replace)).apply("Old Quay Inn, Old Quay, Old, the Quay Inn"))
        .isEqualTo("<12>, <8>, <3>, the <8>");
  }

  @Test
  void theUsersOwnReplacementsComeFirstInFreeText() {
    FreeText note =
        masks.text(List.of(new Replace("words", Map.of("Mrs Tidewick", "the owner", "45", "n"))));
    assertThat(note.apply("Mrs Tidewick of cabin 45 wrote from orla.tidewick@site.example."))
        .isEqualTo(
            "the owner of cabin n wrote from "
                + masks.of("email").apply("orla.tidewick@site.example")
                + ".");
  }

  @Test
  void fillerHasTheLengthAndTheLinesOfTheTextAndNothingElse() {
    Mask filler = mask(new Filler());
    Random random = new Random(3);
    for (int i = 0; i < 500; i++) {
      StringBuilder text = new StringBuilder("Q");
      for (int left = random.nextInt(120); left > 0; left--) {
        text.append("QZ \n\r".charAt(random.nextInt(5)));
      }
      String masked = filler.apply(text.toString());
      assertThat(masked).hasSameSizeAs(text).doesNotContain("Q", "Z");
      assertThat(masked.replaceAll("[^\n\r]", "."))
          .isEqualTo(text.toString().replaceAll("[^\n\r]", "."));
      assertThat(masked).isEqualTo(filler.apply(text.toString()));
    }
  }

  @Test
  void hiddenKeepsTheEndsItIsToldToAndWhatPartsThem() {
    Mask hidden = mask(new Hidden(2, 4, '#'));
    assertThat(hidden.apply("4000 0012 3456 7899")).isEqualTo("40## #### #### 7899");
    assertThat(hidden.apply("123456")).isEqualTo("######");
    assertThat(mask(new Hidden(1, 0, '*')).apply("Øre & Ål")).isEqualTo("Ø** & **");
  }

  @Test
  void noiseKeepsSignDigitsAndGranularity() {
    for (Noise noise :
        List.of(
            new Noise(BigDecimal.TEN, true, Spread.EVEN),
            new Noise(BigDecimal.valueOf(500), false, Spread.EVEN))) {
      Mask mask = mask(noise);
      int same = 0;
      for (int i = 0; i < 5_000; i++) {
        BigDecimal number =
            BigDecimal.valueOf(random.nextInt(2_000_000) - 1_000_000L, random.nextInt(3));
        String masked = mask.apply(number.toPlainString());
        BigDecimal result = new BigDecimal(masked);
        assertThat(result.signum()).as(number + " " + masked).isEqualTo(number.signum());
        assertThat(result.scale()).isEqualTo(number.scale());
        assertThat(masked).hasSameSizeAs(number.toPlainString());
        BigDecimal most = noise.percent() ? number.abs().movePointLeft(1) : BigDecimal.valueOf(500);
        assertThat(result.subtract(number).abs()).isLessThanOrEqualTo(most);
        same += result.equals(number) ? 1 : 0;
      }
      assertThat(same).isLessThan(60);
    }
    Mask percent = mask(new Noise(BigDecimal.TEN, true, Spread.EVEN));
    for (int i = 10; i < 99; i++) {
      assertThat(percent.apply(i + "0000")).matches("[0-9]{2}[0-9]000");
    }
    assertThat(percent.apply("0")).isEqualTo("0");
    assertThat(percent.apply("n/a")).matches("[a-z]/[a-z]");
  }

  private Mask bounded(MaskStep step, String least, String most) {
    return masks.of("", MaskRule.of(List.of(step), null).bounded(least, most));
  }

  @Test
  void noiseAndDaysStayBetweenTheirEnds() {
    Mask noise = bounded(new Noise(BigDecimal.valueOf(50), false, Spread.EVEN), "10", "60");
    Set<String> seen = new HashSet<>();
    for (int i = 10; i <= 60; i++) {
      String masked = noise.apply(Integer.toString(i));
      assertThat(Integer.parseInt(masked)).isBetween(10, 60);
      seen.add(masked);
    }
    assertThat(seen).hasSizeGreaterThan(15);
    assertThat(noise.apply("9")).isEqualTo("10");
    Mask shift = bounded(new Shift(400 * Shift.DAY, List.of()), "2026-01-05", "2026-02-20");
    for (int day = 5; day <= 28; day++) {
      String masked = shift.apply(String.format("2026-01-%02d 10:30:00", day));
      assertThat(masked).isBetween("2026-01-05", "2026-02-21").endsWith(" 10:30:00");
    }
    Mask range = bounded(new Range(BigDecimal.ZERO, BigDecimal.valueOf(1000)), "990", "");
    for (int i = 0; i < 200; i++) {
      assertThat(Integer.parseInt(range.apply("v" + i))).isBetween(990, 1000);
    }
    assertThat(bounded(new Plus(BigDecimal.TEN), "", "15").apply("7")).isEqualTo("15");
  }

  @Test
  void aConstantIsAddedAsPreciselyAsItIsWritten() {
    Mask plus = mask(new Plus(new BigDecimal("-0.5")));
    assertThat(List.of(plus.apply("3"), plus.apply("-1.25"), plus.apply("0.50")))
        .containsExactly("2.5", "-1.75", "0.00");
    assertThat(plus.apply("ab-1")).matches("[a-z]{2}-[0-9]");
    assertThat(plus.keepsDifferent()).isTrue();
  }

  /** Half of normal amounts lie within 0.225 of three deviations, of Laplace's within 0.151. */
  @ParameterizedTest
  @CsvSource({"EVEN, 0.5", "NORMAL, 0.225", "LAPLACE, 0.1505"})
  void amountsAreSpreadAsTheRuleSays(Spread spread, double half) {
    Mask noise = mask(new Noise(BigDecimal.valueOf(100_000), false, spread));
    int within = 0;
    int above = 0;
    for (int i = 0; i < 4_000; i++) {
      long number = 50_000_000_001L + i * 2L;
      long moved = Long.parseLong(noise.apply(Long.toString(number))) - number;
      assertThat(Math.abs(moved)).isBetween(1L, 100_000L);
      within += Math.abs(moved) <= half * 100_000 ? 1 : 0;
      above += moved > 0 ? 1 : 0;
    }
    assertThat(within).isBetween(1_800, 2_200);
    assertThat(above).isBetween(1_800, 2_200);
  }

  @Test
  void aRangeIsNotLeft() {
    Mask range = mask(new Range(new BigDecimal("-2"), new BigDecimal("3.5")));
    Set<BigDecimal> seen = new HashSet<>();
    for (int i = 0; i < 3_000; i++) {
      BigDecimal masked = new BigDecimal(range.apply("" + i));
      assertThat(masked).isBetween(new BigDecimal("-2.0"), new BigDecimal("3.5"));
      assertThat(masked.scale()).isEqualTo(1);
      seen.add(masked);
    }
    assertThat(seen).hasSize(56);
  }

  @Test
  void aShiftedDateKeepsItsPrecisionAndItsPlaceAtTheEdgeOfAMonth() {
    Mask shift = mask(new Shift(30 * Shift.DAY, List.of()));
    for (int i = 0; i < 3_000; i++) {
      LocalDate day = LocalDate.of(1990, 1, 1).plusDays(random.nextInt(12_000));
      LocalDate masked = LocalDate.parse(shift.apply(day.toString()));
      if (day.getDayOfMonth() == 1 || day.getDayOfMonth() == day.lengthOfMonth()) {
        assertThat(masked.getDayOfMonth() == 1).isEqualTo(day.getDayOfMonth() == 1);
        assertThat(Math.abs(masked.toEpochDay() - day.toEpochDay())).isLessThanOrEqualTo(60);
      } else {
        assertThat(Math.abs(masked.toEpochDay() - day.toEpochDay())).isBetween(1L, 30L);
      }
    }
    assertThat(shift.apply("2024-05-06 07:08:09.123")).matches("2024-0[456]-.. 07:08:09\\.123");
    assertThat(shift.apply("2024-05-06T07:08Z")).matches("2024-0[456]-..T07:08Z");
    Mask minutes = mask(new Shift(90 * 60, List.of()));
    assertThat(minutes.apply("2024-05-06 12:08:09")).matches("2024-05-06 1[0-3]:..:09");
    assertThat(shift.apply("2024-02-31")).matches("[1-9][0-9]{3}-0[1-9]-[1-9][0-9]");
  }

  @Test
  void aDigestHasItsLengthAndTellsValuesApart() {
    Mask digest = mask(new Digest(16));
    Set<String> seen = new HashSet<>();
    for (int i = 0; i < 20_000; i++) {
      assertThat(seen.add(digest.apply("value " + i))).isTrue();
    }
    assertThat(digest.apply("value 1")).matches("[0-9a-f]{16}");
  }

  @Test
  void stepsFollowOneAnother() {
    Mask chain = mask(new As("phone"), new Hidden(0, 4, '*'));
    String phone = masks.of("phone").apply("+44 7700 900123");
    assertThat(chain.apply("+44 7700 900123"))
        .isEqualTo("+** **** **" + phone.substring(phone.length() - 4));
  }

  @Test
  void columnsOfOneScopeAgreeAndThoseOfAnotherDiffer() {
    MaskStep name = new As("full-name");
    Mask one = masks.of("full-name", scoped("members", name));
    Mask same = masks(SecretKey.random()).of("", scoped("members", name));
    Mask other = masks.of("full-name", scoped("guests", name));
    Mask usual = masks.of("full-name");
    int differ = 0;
    for (int i = 0; i < 50; i++) {
      String value = "Ann" + (char) ('a' + i % 26) + " Lee" + (char) ('a' + i / 2);
      assertThat(same.apply(value)).isEqualTo(one.apply(value));
      differ += one.apply(value).equals(other.apply(value)) ? 0 : 1;
      differ += one.apply(value).equals(usual.apply(value)) ? 0 : 1;
    }
    assertThat(differ).isGreaterThan(95);
  }

  @Test
  void whatIsFreshIsOtherInEachRunAndTheSameWithinOne() {
    MaskRule fresh =
        new MaskRule(List.of(), "", "", "", true, Settings.NONE, List.of(), Set.of(), null);
    SecretKey run = SecretKey.random();
    for (String kind : List.of("family-name", "email", "phone", "card-number")) {
      String value = Kinds.BUILT_IN.known(kind).samples().get(0);
      String masked = masks(run).of(kind, fresh).apply(value);
      assertThat(masks(run).of(kind, fresh).apply(value)).isEqualTo(masked);
      assertThat(masks(SecretKey.random()).of(kind, fresh).apply(value)).isNotEqualTo(masked);
    }
  }

  @Test
  void spellingsOfOnePersonBecomeOneWhereAnotherColumnStandsIn() {
    MaskRule keyed =
        new MaskRule(
            List.of(), "", "member_id", "", null, Settings.NONE, List.of(), Set.of(), null);
    Masks within = masks.within(keyed);
    for (int i = 0; i < 200; i++) {
      within.keying().set("member " + i);
      String first = masks.of("full-name", keyed).apply("Orla Tidewick");
      within.keying().set("member " + i);
      assertThat(masks.of("full-name", keyed).apply("Orla Tidewyck")).isEqualTo(first);
      within.keying().set("member " + i);
      assertThat(masks.of("full-name", keyed).apply("TIDEWYCK, Orla"))
          .isEqualToIgnoringCase(swapped(first));
      within.keying().set("member " + (i + 1_000));
      assertThat(masks.of("full-name", keyed).apply("Orla Tidewick")).isNotEqualTo(first);
    }
    for (String kind : List.of("birth-date", "card-number", "phone", "email", "iban", "city")) {
      Set<String> seen = new HashSet<>();
      String value = Kinds.BUILT_IN.known(kind).samples().get(0);
      for (int i = 0; i < 40; i++) {
        within.keying().set("member " + i);
        seen.add(masks.of(kind, keyed).apply(value));
      }
      assertThat(seen).as(kind).hasSizeGreaterThan(30);
    }
  }

  private static String swapped(String name) {
    int space = name.indexOf(' ');
    return name.substring(space + 1) + ", " + name.substring(0, space);
  }

  @Test
  void mailsGoToTheUsersOwnDomainAndAreTheSameOtherwise() {
    String address = "orla.tidewick@site.example";
    String usual = masks.of("email").apply(address);
    assertThat(mask(new MailAt("test.orlisay.example")).apply(address))
        .isEqualTo(usual.substring(0, usual.indexOf('@')) + "@test.orlisay.example");
  }

  @Test
  void whatIsClearedIsGoneFromTextsJsonAndAddresses() {
    MaskRule clear = rule(new Clear());
    Masks cleared =
        new Masks(
            new Masks.Terms(
                key,
                key,
                AS_OF,
                Kinds.BUILT_IN,
                Map.of("phone", clear, "family-name", clear, "given-name", clear),
                Set.of()));
    assertThat(cleared.of("note").apply("Mr Tidewick rang +44 7700 900123 today."))
        .isEqualTo("Mr … rang … today.");
    assertThat(
            cleared
                .json(Map.of("$.a", cleared.of("phone")), null)
                .apply("{\"a\":\"+44 7700 900123\",\"b\":[]}"))
        .isEqualTo("{\"a\":null,\"b\":[]}");
    assertThat(cleared.of("email").apply("orla.tidewick@site.example"))
        .matches("[a-z0-9]{8}@[a-z]+\\.example");
    assertThat(cleared.of("full-name").apply("Orla Tidewick")).isBlank();
  }

  @Test
  void aDayAloneMovesEvenIfOnlyHoursAreAllowed() {
    Mask hours = mask(new Shift(2 * 3_600, List.of()));
    assertThat(hours.apply("2024-05-06")).isIn("2024-05-05", "2024-05-07");
  }
}
