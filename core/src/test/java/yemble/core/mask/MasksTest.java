package yemble.core.mask;

import static org.assertj.core.api.Assertions.assertThat;

import com.google.i18n.phonenumbers.NumberParseException;
import com.google.i18n.phonenumbers.PhoneNumberUtil;
import com.google.i18n.phonenumbers.PhoneNumberUtil.PhoneNumberFormat;
import com.google.i18n.phonenumbers.PhoneNumberUtil.PhoneNumberType;
import com.google.i18n.phonenumbers.Phonenumber.PhoneNumber;
import java.time.LocalDate;
import java.time.Period;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.apache.commons.validator.routines.checkdigit.CheckDigitException;
import org.apache.commons.validator.routines.checkdigit.LuhnCheckDigit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.core.crypto.SecretKey;
import yemble.core.digits.CheckDigits;
import yemble.core.kind.Kinds;
import yemble.core.mask.contact.NumberingPlan;
import yemble.core.mask.money.Iban;
import yemble.core.mask.person.GivenNames;
import yemble.core.mask.shape.NameForm;
import yemble.core.mask.shape.Script;

/** What each mask promises, over many values. */
class MasksTest {
  private static final LocalDate AS_OF = LocalDate.of(2026, 1, 1);
  private final SecretKey key = SecretKey.random();
  private final Masks masks = new Masks(key, AS_OF);
  private final Random random = new Random(3);

  private String word() {
    StringBuilder word = new StringBuilder();
    for (int i = 2 + random.nextInt(8); i > 0; i--) {
      word.append((char) ('a' + random.nextInt(26)));
    }
    return word.substring(0, 1).toUpperCase() + word.substring(1);
  }

  private String value(String kind) {
    return switch (kind) {
      case "given-name", "family-name" -> word();
      case "full-name" -> random.nextBoolean() ? word() + " " + word() : word() + ", " + word();
      case "email" -> word().toLowerCase() + "." + word() + random.nextInt(99) + "@site.example";
      case "phone" ->
          String.format("+44 %d %07d", 1000 + random.nextInt(8999), random.nextInt(9_999_999));
      case "birth-date" -> LocalDate.of(1930, 1, 1).plusDays(random.nextInt(34_000)).toString();
      default -> word() + "-" + random.nextInt(100_000) + word().toUpperCase();
    };
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"given-name", "family-name", "full-name", "email", "phone", "birth-date", ""})
  void aMaskIsAFunctionOfTheValueAndTheKeyAlone(String kind) {
    Masks sameKey = new Masks(key, AS_OF);
    Masks otherKey = new Masks(SecretKey.random(), AS_OF);
    int agree = 0;
    int unchanged = 0;
    for (int i = 0; i < 3_000; i++) {
      String value = value(kind);
      String masked = masks.of(kind).apply(value);
      assertThat(masked).isNotEmpty();
      assertThat(sameKey.of(kind).apply(value)).isEqualTo(masked);
      agree += otherKey.of(kind).apply(value).equals(masked) ? 1 : 0;
      unchanged += value.equals(masked) ? 1 : 0;
    }
    int byChance = kind.equals("birth-date") ? 60 : kind.equals("given-name") ? 40 : 10;
    assertThat(agree).as("agree under another key").isLessThan(byChance);
    assertThat(unchanged).as("left as they are").isLessThan(byChance);
  }

  @ParameterizedTest
  @ValueSource(strings = {"email", "phone", "birth-date"})
  void differentValuesStayDifferent(String kind) {
    assertThat(masks.of(kind).keepsDifferent()).isTrue();
    Map<String, String> seen = new HashMap<>();
    for (int i = 0; i < 30_000; i++) {
      String value = value(kind).toLowerCase();
      String before = seen.putIfAbsent(masks.of(kind).apply(value), value);
      assertThat(before == null || before.equals(value)).isTrue();
    }
  }

  @Test
  void everyTextOfAShapeGoesToADifferentOneOfThatShape() {
    Set<String> images = new HashSet<>();
    for (int i = 0; i < 26; i++) {
      for (int n = 0; n < 1_000; n++) {
        String text = String.format("%c-%03d", 'a' + i, n);
        String masked = masks.of("").apply(text);
        assertThat(masked).matches("[a-z]-[0-9]{3}");
        images.add(masked);
      }
    }
    assertThat(images).hasSize(26_000);
  }

  @ParameterizedTest
  @CsvSource({
    "7, [1-9]",
    "0, 0",
    "007, 00[1-9]",
    "-41, -[1-9][0-9]",
    "12.50, [1-9][0-9]\\.[1-9][0-9]",
    "Ab-9/x, [A-Z][a-z]-[1-9]/[a-z]",
    "Ünal, [À-Þ][a-z]{3}",
    "Пётр, [А-ЯЀ-Я][а-яѐ-џ]{3}"
  })
  void theShapeStays(String text, String pattern) {
    assertThat(masks.of("").apply(text)).matches(pattern);
  }

  @ParameterizedTest
  @ValueSource(
      longs = {
        32_767,
        32_000,
        40_000,
        65_535,
        2_147_483_647L,
        2_000_000_000L,
        4_294_967_295L,
        Long.MAX_VALUE,
        Long.MIN_VALUE,
        -2_147_483_648L,
        -32_768,
        5,
        12_345
      })
  void aNumberStaysInTheRangeOfItsType(long number) {
    for (int i = 0; i < 50; i++) {
      Object masked = new Masks(SecretKey.random(), AS_OF).values("").apply(number);
      assertThat(masked).isInstanceOf(Long.class);
      long size = Math.abs((Long) masked);
      for (long limit : new long[] {32_767, 65_535, 2_147_483_647L, 4_294_967_295L}) {
        if (Math.abs(number) <= limit && number != Long.MIN_VALUE) {
          assertThat(size).isLessThanOrEqualTo(limit + 1);
          break;
        }
      }
      assertThat(Long.toString((Long) masked)).hasSameSizeAs(Long.toString(number));
    }
  }

  @Test
  void nullAndTheEmptyTextStay() {
    for (String kind : Kinds.BUILT_IN.names()) {
      assertThat(masks.values(kind).apply(null)).isNull();
      assertThat(masks.values(kind).apply("")).isEqualTo("");
    }
  }

  @Test
  void binaryValuesKeepTheirLengthAlone() {
    byte[] blob = new byte[100];
    Object masked = masks.values("").apply(blob);
    assertThat((byte[]) masked).hasSize(100).isNotEqualTo(blob);
    assertThat(masks.values("").apply(blob.clone())).isEqualTo(masked);
  }

  @Test
  void aFullNameBecomesWhatItsPartsBecome() {
    String given = masks.of("given-name").apply("Orla");
    String family = masks.of("family-name").apply("Tidewick");
    Mask full = masks.of("full-name");
    assertThat(full.apply("Orla Tidewick")).isEqualTo(given + " " + family);
    assertThat(full.apply("Tidewick, Orla")).isEqualTo(family + ", " + given);
    assertThat(full.apply("TIDEWICK Orla")).isEqualTo(family.toUpperCase() + " " + given);
    assertThat(full.apply("ORLA TIDEWICK")).isEqualTo((given + " " + family).toUpperCase());
    assertThat(full.apply("Dr. Orla van Tidewick")).isEqualTo("Dr. " + given + " van " + family);
    String venn = masks.of("family-name").apply("Vennack");
    assertThat(full.apply("Orla Tidewick-Vennack")).isEqualTo(given + " " + family + "-" + venn);
    assertThat(full.apply("Tidewick")).isEqualTo(family);
  }

  @Test
  void anEmailIsMadeOfTheMaskedNames() {
    String given = masks.of("given-name").apply("orla");
    String family = masks.of("family-name").apply("tidewick");
    Mask email = masks.of("email");
    assertThat(email.apply("orla.tidewick@site.example"))
        .matches(given + "\\." + family + "\\.[a-z2-90]{8}@[a-z]+\\.example");
    assertThat(email.apply("Orla_Tidewick7@site.example"))
        .matches(given + "_" + family + "[0-9]\\.[a-z2-90]{8}@[a-z]+\\.example");
    assertThat(email.apply("mailto:orla.tidewick@site.example"))
        .isEqualTo("mailto:" + email.apply("orla.tidewick@site.example"));
    assertThat(email.apply("SIP:orla@site.example"))
        .isEqualTo("SIP:" + email.apply("orla@site.example"));
    assertThat(email.apply("ORLA.TIDEWICK@SITE.EXAMPLE"))
        .isEqualTo(email.apply("orla.tidewick@site.example").toUpperCase());
    assertThat(email.apply("no address")).doesNotContain("@").hasSize(10);
  }

  @Test
  void namesKeepCaseHyphensParticlesAndPlaceholders() {
    Mask given = masks.of("given-name");
    assertThat(given.apply("ANNA")).isUpperCase().isEqualTo(given.apply("Anna").toUpperCase());
    assertThat(given.apply("anna")).isLowerCase();
    assertThat(given.apply("Anna-Maria"))
        .isEqualTo(given.apply("Anna") + "-" + given.apply("Maria"));
    assertThat(masks.of("family-name").apply("van der Torr"))
        .isEqualTo("van der " + masks.of("family-name").apply("Torr"));
    assertThat(given.apply("unknown")).isEqualTo("unknown");
    assertThat(given.apply("N/A")).isEqualTo("N/A");
    assertThat(given.apply("J.")).matches("[A-Z]\\.");
    assertThat(GivenNames.gender("anna")).isEqualTo(GivenNames.Gender.FEMALE);
  }

  @ParameterizedTest
  @CsvSource({
    "Анна, anna, [А-Я][а-я]+",
    "Иванова, ivanova, [А-Я][а-я]+",
    "ЖУКОВ, zhukov, [А-Я]+",
    "Ελένη, eleni, [Α-Ω][α-ω]+",
    "Παπάς, papas, [Α-Ω][α-ω]+"
  })
  void aNameKeepsItsScriptAndAgreesWithHowItIsWrittenInLatin(
      String name, String latin, String pattern) {
    boolean given = GivenNames.isKnown(latin);
    Mask family = masks.of(given ? "given-name" : "family-name");
    assertThat(family.apply(name)).matches(pattern).isNotEqualTo(name);
    String mail = masks.of("email").apply("x." + latin + "@site.example");
    String local = mail.split("\\.")[1];
    assertThat(Script.of(name).written(family.apply(latin), name, null))
        .isEqualToIgnoringCase(family.apply(name));
    assertThat(local).isEqualTo(family.apply(latin));
    assertThat(masks.of("email").apply(name + "@site.example")).matches("[a-z]+\\..*@.*");
  }

  @ParameterizedTest
  @CsvSource({
    "Tidewick Orla, F G",
    "TIDEWICK Orla, F G",
    "Orla TIDEWICK, G F",
    "Van Skerrack Tavin, - F G",
    "Vennask-Pellane Mirel Anna, F-F G G",
    "Dr Tidewick Orla, - F G",
    "Tidewick, F"
  })
  void theFamilyNameComesFirstWhereTheKindSaysSo(String name, String sorts) {
    String masked = masks.of("name-family-first").apply(name);
    String[] before = name.split("[ -]");
    String[] after = masked.split("[ -]");
    String[] sort = sorts.split("[ ]|(?<=[A-Z])-");
    for (int i = 0; i < before.length; i++) {
      String kind = sort[i].equals("F") ? "family-name" : "given-name";
      assertThat(after[i])
          .isEqualTo(sort[i].equals("-") ? before[i] : masks.of(kind).apply(before[i]));
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"山田", "김민준", "דוד", "محمد", "やまだ", "สมชาย"})
  void aNameOfAnotherScriptBecomesOneOfIt(String name) {
    String masked = masks.of("family-name").apply(name);
    assertThat(masked).isNotEqualTo(name);
    for (int i = 0; i < masked.length(); i++) {
      assertThat(Character.UnicodeScript.of(masked.charAt(i)))
          .isEqualTo(Character.UnicodeScript.of(name.charAt(0)));
    }
  }

  @Test
  void aGivenNameOfAnotherScriptKeepsItsBelievedGender() {
    assertThat(GivenNames.gender(NameForm.of("Анна"))).isEqualTo(GivenNames.Gender.FEMALE);
  }

  @Test
  void cardsAreAsRightOrWrongAsTheLibrarySays() {
    Mask cards = masks.of("card-number");
    Random random = new Random(11);
    for (int i = 0; i < 2_000; i++) {
      StringBuilder digits = new StringBuilder();
      for (int left = 12 + random.nextInt(8); left > 0; left--) {
        digits.append(random.nextInt(10));
      }
      String card = i % 2 == 0 ? digits.toString() : completed(digits.toString());
      assertThat(CheckDigits.luhn(cards.apply(card)))
          .as(card)
          .isEqualTo(LuhnCheckDigit.LUHN_CHECK_DIGIT.isValid(card));
    }
  }

  private static String completed(String digits) {
    try {
      String body = digits.substring(0, digits.length() - 1);
      return body + LuhnCheckDigit.LUHN_CHECK_DIGIT.calculate(body);
    } catch (CheckDigitException e) {
      throw new IllegalArgumentException(e);
    }
  }

  /** Against the library itself: whether there is such a number, and what sort of line it has. */
  @Test
  void aPhoneNumberIsAsRightAndOfTheSameSortAsTheLibrarySays() throws NumberParseException {
    PhoneNumberUtil library = PhoneNumberUtil.getInstance();
    Random random = new Random(9);
    Mask phone = masks.of("phone");
    int valid = 0;
    int all = 0;
    for (int code : NumberingPlan.codes()) {
      String region = library.getRegionCodeForCountryCode(code);
      for (PhoneNumberType type : PhoneNumberType.values()) {
        PhoneNumber example =
            region.equals("001")
                ? library.getExampleNumberForNonGeoEntity(code)
                : library.getExampleNumberForType(region, type);
        if (example == null) {
          continue;
        }
        String number = library.format(example, PhoneNumberFormat.E164);
        for (int i = 0; i < 6; i++) {
          char[] other = number.toCharArray();
          int national = 2 + Integer.toString(code).length();
          for (int at = Math.max(national, other.length - i); at < other.length; at++) {
            other[at] = (char) ('0' + random.nextInt(10));
          }
          PhoneNumber before = library.parse(new String(other), null);
          PhoneNumber after = library.parse(phone.apply(new String(other)), null);
          assertThat(library.isValidNumber(after))
              .as(new String(other))
              .isEqualTo(library.isValidNumber(before));
          assertThat(library.getNumberType(after))
              .as(new String(other))
              .isEqualTo(library.getNumberType(before));
          valid += library.isValidNumber(before) ? 1 : 0;
          all++;
        }
      }
    }
    assertThat(all).isGreaterThan(5_000);
    assertThat(valid).isBetween(all / 2, all - 100);
  }

  /**
   * All numbers of five digits behind two others: some there are in Iceland, most there are not.
   */
  @ParameterizedTest
  @ValueSource(strings = {"38", "69", "00"})
  void noTwoPhonesOfAKnownCountryMeet(String begin) {
    Mask phone =
        new Masks(new Masks.Terms(key, key, AS_OF, Kinds.BUILT_IN, Map.of(), Set.of("IS", "GB")))
            .of("phone");
    Set<String> all = new HashSet<>();
    for (int i = 0; i < 100_000; i++) {
      all.add(phone.apply(begin + String.format("%05d", i)));
    }
    assertThat(all).hasSize(100_000);
  }

  @Test
  void nationalAndInternationalFormsAgreeWhereTheCountryIsKnown() {
    Mask phone =
        new Masks(new Masks.Terms(key, key, AS_OF, Kinds.BUILT_IN, Map.of(), Set.of("GB", "DE")))
            .of("phone");
    Random random = new Random(2);
    for (int i = 0; i < 500; i++) {
      String digits = String.format("%06d", random.nextInt(1_000_000));
      String national = phone.apply("07400 " + digits);
      assertThat(phone.apply("+44 7400 " + digits).substring(4)).isEqualTo(national.substring(1));
      assertThat(phone.apply("0044 7400 " + digits).substring(5)).isEqualTo(national.substring(1));
      assertThat(phone.apply("(030) 12" + digits))
          .endsWith(phone.apply("+49 30 12" + digits).substring(7));
    }
  }

  @Test
  void aPhoneKeepsItsFormatAndAgreesInEveryFormat() {
    Mask phone = masks.of("phone");
    String masked = phone.apply("+44 7700 9001234");
    assertThat(masked).matches("\\+44 7700 [0-9]{7}");
    String last = masked.substring(masked.length() - 7);
    assertThat(phone.apply("07700-9001234 ext. 12")).isEqualTo("07700-" + last + " ext. 12");
    assertThat(phone.apply("(0044) 7700/900 12 34"))
        .isEqualTo(
            "(0044) 7700/"
                + last.substring(0, 3)
                + " "
                + last.substring(3, 5)
                + " "
                + last.substring(5));
    assertThat(phone.apply("12 34")).matches("12 [0-9]{2}");
  }

  @Test
  void aBirthDateKeepsItsYearAndTheSideOfAnAgeLimit() {
    Mask mask = masks.of("birth-date");
    for (LocalDate date = LocalDate.of(1955, 1, 1);
        date.getYear() < 2026;
        date = date.plusDays(1)) {
      LocalDate masked = LocalDate.parse(mask.apply(date.toString()));
      int before = Period.between(date, AS_OF).getYears();
      int after = Period.between(masked, AS_OF).getYears();
      assertThat(Math.abs(masked.getYear() - date.getYear())).isLessThanOrEqualTo(1);
      for (int limit : new int[] {12, 14, 16, 18, 21, 65}) {
        assertThat(after >= limit)
            .as("%s → %s at %d", date, masked, limit)
            .isEqualTo(before >= limit);
      }
    }
  }

  @Test
  void datesAgreeInEveryFormat() {
    Mask mask = masks.of("birth-date");
    String[] iso = mask.apply("1990-12-31").split("-");
    assertThat(mask.apply("19901231")).isEqualTo(String.join("", iso));
    assertThat(mask.apply("31.12.1990")).isEqualTo(iso[2] + "." + iso[1] + "." + iso[0]);
    assertThat(mask.apply("12/31/1990")).isEqualTo(iso[1] + "/" + iso[2] + "/" + iso[0]);
    assertThat(mask.apply("1990-12-31 00:00:00")).isEqualTo(String.join("-", iso) + " 00:00:00");
    assertThat(mask.apply("03/04/1990")).matches("(0[1-9]|1[0-2])/(0[1-9]|1[0-2])/1990");
    assertThat(mask.apply("2001-02-31")).matches("[0-9]{4}-[0-9]{2}-[0-9]{2}");
  }

  @Test
  void theCheckDigitsOfAnAccountAreThoseOfTheLibrary() throws Exception {
    java.util.Random random = new java.util.Random(7);
    for (int i = 0; i < 2_000; i++) {
      StringBuilder account = new StringBuilder();
      for (int n = 11 + random.nextInt(20); n > 0; n--) {
        account.append("ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789".charAt(random.nextInt(36)));
      }
      String country = "" + (char) ('A' + random.nextInt(26)) + (char) ('A' + random.nextInt(26));
      assertThat(Iban.check(country, account.toString()))
          .isEqualTo(
              Integer.parseInt(
                  org.apache.commons.validator.routines.checkdigit.IBANCheckDigit.IBAN_CHECK_DIGIT
                      .calculate(country + "00" + account)));
    }
  }
}
