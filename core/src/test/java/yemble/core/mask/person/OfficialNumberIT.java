package yemble.core.mask.person;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import yemble.core.crypto.SecretKey;
import yemble.core.kind.Kinds;
import yemble.core.mask.Mask;
import yemble.core.mask.Masks;
import yemble.core.official.NumberForm;
import yemble.core.official.NumberForms;
import yemble.core.official.Permuted;

/**
 * Official numbers stay right or wrong, held against what the published rules say, written here a
 * second time.
 */
class OfficialNumberIT {
  private static final LocalDate AS_OF = LocalDate.of(2026, 1, 1);
  private final SecretKey key = SecretKey.random();
  private final Masks masks = new Masks(key, AS_OF);
  private final Random random = new Random(17);

  private Masks of(String country) {
    return new Masks(new Masks.Terms(key, key, AS_OF, Kinds.BUILT_IN, Map.of(), Set.of(country)));
  }

  private String masked(String value) {
    return masks.of("national-id").apply(value);
  }

  private LocalDate day() {
    return LocalDate.of(1931, 1, 1).plusDays(random.nextInt(27_000));
  }

  private String born(LocalDate day) {
    return masks.of("birth-date").apply(day.toString());
  }

  private static int sum(String digits, int... weights) {
    int sum = 0;
    for (int i = 0; i < weights.length; i++) {
      sum += (digits.charAt(i) - '0') * weights[i];
    }
    return sum;
  }

  /** Numbers made by a rule until one is: all must stay by it, and differ. */
  private void stays(
      String country, Supplier<String> numbers, java.util.function.Predicate<String> rule) {
    Mask mask = of(country).of("national-id");
    int taken = 0;
    int meeting = 0;
    Set<String> before = new HashSet<>();
    Set<String> after = new HashSet<>();
    int same = 0;
    for (int made = 0; made < 1_500; ) {
      String number = numbers.get();
      if (rule.test(number) && before.add(number)) {
        made++;
        String masked = mask.apply(number);
        taken += rule.test(masked(number)) ? 1 : 0;
        assertThat(rule.test(masked)).as(number + " " + masked).isTrue();
        meeting += after.add(masked) ? 0 : 1;
        same += masked.equals(number) ? 1 : 0;
      }
    }
    assertThat(same).isLessThan(15);
    assertThat(meeting).isLessThanOrEqualTo(country.equals("NO") ? 2 : 0);
    assertThat(taken).as("without knowing the country").isGreaterThan(1_400);
  }

  static Stream<Arguments> forms() {
    return NumberForms.ALL.stream()
        .flatMap(
            form ->
                form.permutations().apply(AS_OF).stream()
                    .map(way -> Arguments.of(form.country() + " " + way.name(), form, way)));
  }

  @Test
  void everyFormThatIsRecognisedCanBeMasked() {
    assertThat(NumberForms.ALL).allMatch(form -> !form.permutations().apply(AS_OF).isEmpty());
    assertThat(NumberForms.ALL.stream().map(NumberForm::country).distinct()).hasSize(52);
  }

  /** A number of a form, made of characters that its spelling has. */
  private String made(Permuted way, List<String> places) {
    while (true) {
      StringBuilder text = new StringBuilder();
      for (String may : places) {
        text.append(may.charAt(random.nextInt(may.length())));
      }
      String dated =
          way.birth() == null ? text.toString() : way.birth().write(text.toString(), day());
      String right = way.form().matches(dated) ? way.checked().apply(dated) : null;
      if (right != null && way.isRight(right)) {
        return right;
      }
    }
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("forms")
  void numbersOfEveryFormStayRightAndApartAndAgreeWithTheDay(
      String name, NumberForm form, Permuted way) {
    Mask named = of(form.country()).of("national-id");
    Mask unnamed = masks.of("national-id");
    Set<String> before = new HashSet<>();
    Set<String> after = new HashSet<>();
    Set<String> unnamedAfter = new HashSet<>();
    List<String> places = IntStream.range(0, way.length()).mapToObj(way.form()::at).toList();
    int unchanged = 0;
    int taken = 0;
    for (int i = 0; i < 300; i++) {
      String number = made(way, places);
      boolean old = way.birth() != null && way.birth().read(number).getYear() < 1850;
      if (old || form.refusal(number) != null || !before.add(number)) {
        continue;
      }
      String masked = named.apply(number);
      assertThat(form.refusal(OfficialNumber.compact(masked))).as(number + " " + masked).isNull();
      unchanged += masked.equals(number) ? 1 : 0;
      after.add(masked);
      String also = unnamed.apply(number);
      unnamedAfter.add(also);
      taken += form.refusal(OfficialNumber.compact(also)) == null ? 1 : 0;
      if (way.birth() != null) {
        LocalDate day = way.birth().read(number);
        assertThat(way.birth().read(masked)).isEqualTo(LocalDate.parse(born(day)));
      }
    }
    assertThat(before).hasSizeGreaterThan(50);
    assertThat(after).hasSizeGreaterThanOrEqualTo(before.size() - (name.startsWith("NO") ? 2 : 0));
    assertThat(unnamedAfter).hasSizeGreaterThanOrEqualTo(before.size() - 6);
    assertThat(unchanged).as("unchanged").isLessThan(before.size() / 10 + 1);
    assertThat(taken)
        .as("right without knowing the country")
        .isGreaterThan(before.size() * 88 / 100);
  }

  @Test
  void aSwedishNumberHoldsTheMaskedBirthDateAndTheGender() {
    for (int i = 0; i < 1_500; i++) {
      LocalDate day = day();
      String date = day.toString().replace("-", "");
      String body = date.substring(2) + String.format("%03d", random.nextInt(1_000));
      String number = date.substring(0, 2) + body + luhn(body);
      String masked = masked(number);
      assertThat(masked.substring(0, 8)).isEqualTo(born(day).replace("-", ""));
      assertThat(masked.charAt(10) % 2).isEqualTo(number.charAt(10) % 2);
      assertThat(luhn(masked.substring(2, 11))).isEqualTo(masked.charAt(11) - '0');
    }
  }

  private static int luhn(String body) {
    int sum = 0;
    for (int i = 0; i < body.length(); i++) {
      int digit = (body.charAt(body.length() - 1 - i) - '0') * (i % 2 == 0 ? 2 : 1);
      sum += digit / 10 + digit % 10;
    }
    return (10 - sum % 10) % 10;
  }

  @Test
  void aFinnishNumberKeepsItsSignAndItsCheckCharacter() {
    String letters = "0123456789ABCDEFHJKLMNPRSTUVWXY";
    Set<String> after = new HashSet<>();
    for (int i = 0; i < 1_500; i++) {
      LocalDate day = day();
      String date =
          String.format(
              "%02d%02d%02d", day.getDayOfMonth(), day.getMonthValue(), day.getYear() % 100);
      String serial = String.format("%03d", 2 + random.nextInt(898));
      String sign = day.getYear() < 2000 ? "-" : "A";
      char check = letters.charAt((int) (Long.parseLong(date + serial) % 31));
      String masked = masked(date + sign + serial + check);
      String number = masked.substring(0, 6) + masked.substring(7, 10);
      assertThat(masked.charAt(10)).isEqualTo(letters.charAt((int) (Long.parseLong(number) % 31)));
      assertThat(masked.substring(6, 7)).isEqualTo(sign);
      LocalDate becomes = LocalDate.parse(born(day));
      assertThat(masked.substring(0, 4))
          .isEqualTo(String.format("%02d%02d", becomes.getDayOfMonth(), becomes.getMonthValue()));
      after.add(masked);
    }
    assertThat(after).hasSizeGreaterThan(1_480);
  }

  @Test
  void aNorwegianNumberStaysRight() {
    stays(
        "NO",
        () -> {
          LocalDate day = day();
          return String.format(
              "%02d%02d%02d%03d%02d",
              day.getDayOfMonth(),
              day.getMonthValue(),
              day.getYear() % 100,
              random.nextInt(500),
              random.nextInt(100));
        },
        n ->
            sum(n, 3, 7, 6, 1, 8, 9, 4, 5, 2, 1) % 11 == 0
                && sum(n, 5, 4, 3, 2, 7, 6, 5, 4, 3, 2, 1) % 11 == 0);
  }

  @Test
  void aPolishNumberStaysRight() {
    stays(
        "PL",
        () -> {
          LocalDate day = day();
          return String.format(
              "%02d%02d%02d%05d",
              day.getYear() % 100,
              day.getMonthValue() + (day.getYear() < 2000 ? 0 : 20),
              day.getDayOfMonth(),
              random.nextInt(100_000));
        },
        n -> sum(n, 1, 3, 7, 9, 1, 3, 7, 9, 1, 3, 1) % 10 == 0);
  }

  @Test
  void aBelgianNumberStaysRightOnBothSidesOfTheCentury() {
    stays(
        "BE",
        () -> {
          LocalDate day = day();
          String body =
              String.format(
                  "%02d%02d%02d%03d",
                  day.getYear() % 100,
                  day.getMonthValue(),
                  day.getDayOfMonth(),
                  1 + random.nextInt(997));
          long number = Long.parseLong((day.getYear() < 2000 ? "" : "2") + body);
          return body + String.format("%02d", 97 - number % 97);
        },
        n ->
            97 - Long.parseLong(n.substring(0, 9)) % 97 == Long.parseLong(n.substring(9))
                || 97 - Long.parseLong("2" + n.substring(0, 9)) % 97
                    == Long.parseLong(n.substring(9)));
  }

  @Test
  void aDutchAndABrazilianNumberStayRight() {
    stays(
        "NL",
        () -> String.format("%09d", random.nextInt(1_000_000_000)),
        n -> sum(n, 9, 8, 7, 6, 5, 4, 3, 2, -1) % 11 == 0 && !n.equals("000000000"));
    stays(
        "BR",
        () -> {
          String body = String.format("%09d", random.nextInt(1_000_000_000));
          body += sum(body, 10, 9, 8, 7, 6, 5, 4, 3, 2) * 10 % 11 % 10;
          return body + sum(body, 11, 10, 9, 8, 7, 6, 5, 4, 3, 2) * 10 % 11 % 10;
        },
        n ->
            sum(n, 10, 9, 8, 7, 6, 5, 4, 3, 2) * 10 % 11 % 10 == n.charAt(9) - '0'
                && sum(n, 11, 10, 9, 8, 7, 6, 5, 4, 3, 2) * 10 % 11 % 10 == n.charAt(10) - '0');
  }

  @Test
  void aSpanishAndAFrenchNumberStayRight() {
    stays(
        "ES",
        () -> {
          int number = random.nextInt(100_000_000);
          return String.format("%08d", number) + "TRWAGMYFPDXBNJZSQVHLCKE".charAt(number % 23);
        },
        n ->
            "TRWAGMYFPDXBNJZSQVHLCKE".charAt(Integer.parseInt(n.substring(0, 8)) % 23)
                == n.charAt(8));
    stays(
        "FR",
        () -> {
          String body =
              String.format(
                  "%d%02d%02d%02d%03d%03d",
                  1 + random.nextInt(2),
                  random.nextInt(100),
                  1 + random.nextInt(12),
                  1 + random.nextInt(19),
                  1 + random.nextInt(900),
                  1 + random.nextInt(900));
          return body + String.format("%02d", 97 - Long.parseLong(body) % 97);
        },
        n ->
            97 - Long.parseLong(n.substring(0, 13)) % 97 == Long.parseLong(n.substring(13))
                && n.substring(3, 5).compareTo("13") < 0);
  }

  @ParameterizedTest
  @CsvSource({
    "640823-3234, [0-9]{6}-[0-9]{4}",
    "756.9217.0769.85, 756(\\.[0-9]{4}){2}\\.[0-9]{2}",
    "AB 12 34 56 C, [A-Z]{2} [0-9]{2} [0-9]{2} [0-9]{2} C",
    "RSSMRA85T10A562S, [A-Z]{6}[0-9]{2}[A-T][0-9]{2}A[0-9]{3}[A-Z]",
    "rssmra85t10a562s, [a-z]{6}[0-9]{2}[a-t][0-9]{2}a[0-9]{3}[a-z]"
  })
  void theWayItIsWrittenStays(String number, String form) {
    assertThat(masked(number)).matches(form).isNotEqualTo(number);
    assertThat(masked(number.toLowerCase())).isEqualToIgnoringCase(masked(number));
  }

  @Test
  void aSignTellsFinnishFromSwedishOnlyWhereTheCheckCharacterAgrees() {
    String masked = masked("640823-3234").replace("-", "");
    assertThat(luhn(masked.substring(0, 9))).isEqualTo(masked.charAt(9) - '0');
    assertThat(masked).startsWith(born(LocalDate.of(1964, 8, 23)).replace("-", "").substring(2));
    assertThat(masked("131052-308T")).matches("....52-...[0-9A-Y]").isNotEqualTo("131052-308T");
  }

  @Test
  void aWrongNumberStaysWrong() {
    Mask spanish = of("ES").of("national-id");
    for (int i = 0; i < 1_000; i++) {
      int number = random.nextInt(100_000_000);
      String letters = "TRWAGMYFPDXBNJZSQVHLCKE";
      int by = 1 + random.nextInt(22);
      String wrong = String.format("%08d", number) + letters.charAt((number + by) % 23);
      String masked = spanish.apply(wrong);
      assertThat(letters.charAt((Integer.parseInt(masked.substring(0, 8)) + by) % 23))
          .isEqualTo(masked.charAt(8));
    }
  }

  @Test
  void aVehicleKeepsItsMakerAndItsCheckDigit() {
    String masked = masks.of("vin").apply("1M8GDM9AXKP042788");
    assertThat(masked).startsWith("1M8").hasSize(17).isNotEqualTo("1M8GDM9AXKP042788");
    String values = "12345678.12345.7.923456789";
    for (int i = 0; i < 500; i++) {
      masked = masks.of("vin").apply(masked);
      int[] weights = {8, 7, 6, 5, 4, 3, 2, 10, 0, 9, 8, 7, 6, 5, 4, 3, 2};
      int sum = 0;
      for (int at = 0; at < 17; at++) {
        char c = masked.charAt(at);
        sum += weights[at] * ((c > '9' ? values.charAt(c - 'A') : c) - '0');
      }
      assertThat(masked.charAt(8)).isEqualTo("0123456789X".charAt(sum % 11));
    }
  }

  @Test
  void devicesAndBanksKeepWhoMadeThemAndWhereTheyAre() {
    Set<String> seen = new HashSet<>();
    for (int i = 0; i < 2_000; i++) {
      String device = "49015420" + String.format("%06d", i * 37);
      device += luhn(device);
      String masked = masks.of("device-id").apply(device);
      assertThat(masked).startsWith("49015420").hasSize(15);
      assertThat(luhn(masked.substring(0, 14))).isEqualTo(masked.charAt(14) - '0');
      assertThat(seen.add(masked)).isTrue();
      String mac = String.format("00:00:5e:00:%02x:%02x", i / 256, i % 256);
      assertThat(seen.add(masks.of("mac-address").apply(mac))).isTrue();
      assertThat(masks.of("mac-address").apply(mac)).startsWith("00:00:5e:");
    }
    String uuid = "6f1f2a3e-0b7c-4d58-9a61-1c2d3e4f5a6b";
    assertThat(masks.of("device-id").apply(uuid))
        .matches("[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}")
        .isNotEqualTo(uuid);
    assertThat(masks.of("bic").apply("ORLIQOPPXXX")).matches("[A-Z]{4}QO[A-Z]{2}XXX");
    assertThat(masks.of("bic").apply("orliqopp")).matches("[a-z]{4}qo[a-z]{2}");
  }
}
