package yemble.core.official;

import static yemble.core.digits.CheckDigits.digit;
import static yemble.core.digits.CheckDigits.mod1110;
import static yemble.core.digits.CheckDigits.mod1110Digit;
import static yemble.core.digits.CheckDigits.number;
import static yemble.core.digits.CheckDigits.weighted;
import static yemble.core.digits.CheckDigits.wrongUnless;
import static yemble.core.official.NumberForm.ELEVEN;
import static yemble.core.official.NumberForm.NEVER_ISSUED;
import static yemble.core.official.NumberForm.NO_DAY;
import static yemble.core.official.NumberForm.Sort.HEALTH;
import static yemble.core.official.NumberForm.Sort.NATIONAL;
import static yemble.core.official.NumberForm.Sort.TAX;
import static yemble.core.official.Permuted.last;
import static yemble.core.official.Permuted.places;
import static yemble.core.official.Permuted.sameParity;

import java.time.LocalDate;
import java.util.List;

/** The official numbers of western Europe. */
final class WesternForms {
  private static final String IRISH = "ABCDEFGHIJKLMNOPQRSTUVW";

  private WesternForms() {}

  static NumberForm britishInsurance() {
    return NumberForm.of(
            NATIONAL,
            "GB",
            "national insurance number",
            "HM Revenue & Customs, National Insurance Manual NIM39110",
            "[A-Z]{2}[0-9]{6}[A-D]?",
            "[A-Z]{2} ?[0-9]{2} ?[0-9]{2} ?[0-9]{2} ?[A-D]?",
            s -> isBritishPrefix(s) ? null : NEVER_ISSUED)
        .permuted(asOf -> List.of(permutedBritishInsurance("[A-D]"), permutedBritishInsurance("")));
  }

  private static Permuted permutedBritishInsurance(String suffix) {
    return Permuted.of(
            5,
            "national insurance number",
            "[A-Z]{2}[0-9]{6}" + suffix,
            places(0, 8),
            new int[0],
            text -> text)
        .given(WesternForms::isBritishPrefix);
  }

  private static boolean isBritishPrefix(String text) {
    return "DFIQUV".indexOf(text.charAt(0)) < 0
        && "DFIOQUV".indexOf(text.charAt(1)) < 0
        && !List.of("BG", "GB", "KN", "NK", "NT", "TN", "ZZ").contains(text.substring(0, 2));
  }

  static NumberForm britishHealth() {
    return NumberForm.of(
            HEALTH,
            "GB",
            "NHS number",
            "NHS Data Dictionary, \"NHS number\": modulus 11, weights 10 to 2",
            "[0-9]{10}",
            "[0-9]{3} [0-9]{3} [0-9]{4}",
            s -> wrongUnless(s.equals(britishHealthChecked(s))))
        .permuted(asOf -> List.of(permutedBritishHealth()));
  }

  private static Permuted permutedBritishHealth() {
    return Permuted.of(
        16,
        "NHS number",
        "[0-9]{10}",
        places(0, 9),
        places(9, 10),
        WesternForms::britishHealthChecked);
  }

  private static String britishHealthChecked(String text) {
    return last(text, (11 - weighted(text, 10, 9, 8, 7, 6, 5, 4, 3, 2) % 11) % 11);
  }

  static NumberForm germanTax() {
    return NumberForm.of(
            TAX,
            "DE",
            "tax identification number",
            "Bundeszentralamt für Steuern: ISO 7064 MOD 11,10; one digit comes two or three times, not three times in a row",
            "[1-9][0-9]{10}",
            "[0-9]{2} ?[0-9]{3} ?[0-9]{3} ?[0-9]{3}",
            s -> repeatsADigit(s) ? wrongUnless(mod1110(s)) : "no digit repeats as it must")
        .permuted(asOf -> List.of(permutedGermanTax()));
  }

  /** One digit comes two or three times among the first ten. */
  private static Permuted permutedGermanTax() {
    return Permuted.of(
            10,
            "tax identification number",
            "[1-9][0-9]{10}",
            places(0, 10),
            places(10, 11),
            text -> last(text, mod1110Digit(text)))
        .given(WesternForms::repeatsADigit);
  }

  private static boolean repeatsADigit(String text) {
    int most = 0;
    int repeated = 0;
    boolean inARow = false;
    for (char c = '0'; c <= '9'; c++) {
      char digit = c;
      int times = (int) text.substring(0, 10).chars().filter(other -> other == digit).count();
      most = Math.max(most, times);
      repeated += times > 1 ? 1 : 0;
      inARow |= text.substring(0, 10).contains(("" + c).repeat(3));
    }
    return repeated == 1 && most <= 3 && !inARow;
  }

  static NumberForm germanPension() {
    return NumberForm.of(
            NATIONAL,
            "DE",
            "pension insurance number",
            "Deutsche Rentenversicherung: day of birth, initial, serial; check digit of cross sums",
            "[0-9]{8}[A-Z][0-9]{3}",
            "[0-9]{2} ?[0-9]{6} ?[A-Z] ?[0-9]{3}",
            WesternForms::germanPension)
        .solved(
            5,
            "[0-9]{8}[A-Z][0-9]{3}",
            places(8, 11),
            11,
            Permuted.DIGITS,
            (way, asOf) ->
                way.born(Birth.at(6, 4, 2, Birth.latest(6, asOf)))
                    .alike((before, after) -> Permuted.sameHalf(before, after, 9)));
  }

  static NumberForm germanHealth() {
    return NumberForm.of(
            HEALTH,
            "DE",
            "health insurance number",
            "GKV-Spitzenverband: a letter, eight digits, check digit by Luhn's sums",
            "[A-Z][0-9]{9}",
            "[A-Z][0-9]{9}",
            WesternForms::germanHealth)
        .solved(16, "[A-Z][0-9]{9}", places(0, 9), 9, Permuted.DIGITS, (way, asOf) -> way);
  }

  static NumberForm french() {
    return NumberForm.of(
            NATIONAL,
            "FR",
            "social security number",
            "INSEE, numéro d'inscription au répertoire: 97 minus the remainder by 97; 2A and 2B as 19, 18",
            "[1-478][0-9]{4}(?:[0-9]{2}|2A|2B)[0-9]{8}",
            "[1-478] ?[0-9]{2} ?[0-9]{2} ?[0-9][0-9AB] ?[0-9]{3} ?[0-9]{3} ?[0-9]{2}",
            s ->
                wrongUnless(
                    frenchKey(s.substring(0, 13).replace("2A", "19").replace("2B", "18"))
                        == number(s, 13, 2)))
        .permuted(asOf -> List.of(permutedFrench(), permutedCorsican()));
  }

  /**
   * Gender and year stay; the month, which says too little of the day to agree with it, changes.
   */
  private static Permuted permutedFrench() {
    return Permuted.of(
            3,
            "social security number",
            "[1-478][0-9]{12}[0-9]{2}",
            places(3, 13),
            places(13, 15),
            text -> Birth.put(text, 13, frenchKey(text.substring(0, 13))))
        .given(
            text ->
                within(text, 3, 2, 1, 12)
                    && within(text, 5, 2, 1, 95)
                    && number(text, 5, 2) != 20
                    && within(text, 7, 3, 1, 990)
                    && within(text, 10, 3, 1, 999));
  }

  /** Born in Corsica, whose departments are 2A and 2B: that stays. */
  private static Permuted permutedCorsican() {
    return Permuted.of(
            3,
            "social security number of Corsica",
            "[1-478][0-9]{4}2[AB][0-9]{8}",
            new int[] {3, 4, 7, 8, 9, 10, 11, 12},
            places(13, 15),
            text ->
                Birth.put(
                    text,
                    13,
                    frenchKey(text.substring(0, 13).replace("2A", "19").replace("2B", "18"))))
        .given(
            text ->
                within(text, 3, 2, 1, 12)
                    && within(text, 7, 3, 1, 990)
                    && within(text, 10, 3, 1, 999));
  }

  private static int frenchKey(String thirteen) {
    return (int) (97 - Long.parseLong(thirteen) % 97);
  }

  static NumberForm dutch() {
    return NumberForm.of(
            NATIONAL,
            "NL",
            "citizen service number",
            "Logisch Ontwerp BSN: the test of eleven, the last digit counts negative",
            "[0-9]{9}",
            "[0-9]{4}\\.?[0-9]{2}\\.?[0-9]{3}",
            s -> wrongUnless(!s.equals("000000000") && s.equals(dutchChecked(s))))
        .permuted(asOf -> List.of(permutedDutch()));
  }

  private static Permuted permutedDutch() {
    return Permuted.of(
        18,
        "citizen service number",
        "[0-9]{9}",
        places(0, 8),
        places(8, 9),
        WesternForms::dutchChecked);
  }

  private static String dutchChecked(String text) {
    return last(text, weighted(text, 9, 8, 7, 6, 5, 4, 3, 2) % 11);
  }

  static NumberForm belgian() {
    return NumberForm.of(
            NATIONAL,
            "BE",
            "national register number",
            "Rijksregister: 97 minus the remainder by 97, from 2000 on with a 2 before",
            ELEVEN,
            "[0-9]{2}\\.?[0-9]{2}\\.?[0-9]{2}[- ]?[0-9]{3}[.-]?[0-9]{2}",
            s ->
                number(s, 2, 2) % 20 > 12
                    ? NO_DAY
                    : wrongUnless(
                        s.equals(belgianChecked(s, 1900)) || s.equals(belgianChecked(s, 2000))))
        .permuted(asOf -> List.of(permutedBelgian(1900), permutedBelgian(2000)));
  }

  private static Permuted permutedBelgian(int century) {
    return Permuted.of(
            century == 1900 ? 7 : 8,
            "national register number",
            "[0-9]{11}",
            places(6, 9),
            places(9, 11),
            text -> belgianChecked(text, century))
        .born(
            new Birth() {
              @Override
              public LocalDate read(String text) {
                return Birth.day(
                    century + Birth.two(text, 0), Birth.two(text, 2), Birth.two(text, 4));
              }

              @Override
              public String write(String text, LocalDate day) {
                String out = Birth.put(text, 0, day.getYear());
                out = Birth.put(out, 2, day.getMonthValue());
                return Birth.put(out, 4, day.getDayOfMonth());
              }
            })
        .alike((before, after) -> sameParity(before, after, 8));
  }

  /** From 2000 on the check is computed with a 2 before the number. */
  private static String belgianChecked(String text, int century) {
    long before = century == 2000 ? 2_000_000_000L : 0;
    long body = before + Long.parseLong(text.substring(0, 9));
    return Birth.put(text, 9, (int) (97 - body % 97));
  }

  static NumberForm irish() {
    return NumberForm.of(
            NATIONAL,
            "IE",
            "PPS number",
            "Department of Social Protection: the letter at the remainder by 23",
            "[0-9]{7}[A-W][A-IW]?",
            "[0-9]{7}[A-W][A-IW]?",
            s -> {
              int sum = weighted(s, 8, 7, 6, 5, 4, 3, 2);
              sum += s.length() == 9 && s.charAt(8) != 'W' ? 9 * (s.charAt(8) - 'A' + 1) : 0;
              return wrongUnless("WABCDEFGHIJKLMNOPQRSTUV".charAt(sum % 23) == s.charAt(7));
            })
        .solved(16, "[0-9]{7}[A-W]", places(0, 7), 7, IRISH, (way, asOf) -> way)
        .solved(16, "[0-9]{7}[A-W][A-IW]", places(0, 7), 7, IRISH, (way, asOf) -> way);
  }

  static NumberForm swiss() {
    return NumberForm.of(
            NATIONAL,
            "CH",
            "AHV number",
            "Zentrale Ausgleichsstelle: an EAN-13 with the prefix 756",
            "756[0-9]{10}",
            "756\\.?[0-9]{4}\\.?[0-9]{4}\\.?[0-9]{2}",
            s -> wrongUnless(s.equals(swissChecked(s))))
        .permuted(asOf -> List.of(permutedSwiss()));
  }

  private static Permuted permutedSwiss() {
    return Permuted.of(
        4, "AHV number", "756[0-9]{10}", places(3, 12), places(12, 13), WesternForms::swissChecked);
  }

  private static String swissChecked(String text) {
    return last(text, (10 - weighted(text, 1, 3, 1, 3, 1, 3, 1, 3, 1, 3, 1, 3) % 10) % 10);
  }

  static NumberForm austrian() {
    return NumberForm.of(
            NATIONAL,
            "AT",
            "insurance number",
            "Dachverband der Sozialversicherungsträger: weights 3 7 9 5 8 4 2 1 6, modulus 11",
            "[1-9][0-9]{9}",
            "[0-9]{4}[ -/]?[0-9]{6}",
            s -> {
              int sum =
                  weighted(s, 3, 7, 9)
                      + 5 * digit(s, 4)
                      + 8 * digit(s, 5)
                      + 4 * digit(s, 6)
                      + 2 * digit(s, 7)
                      + digit(s, 8)
                      + 6 * digit(s, 9);
              boolean exists =
                  number(s, 4, 2) >= 1
                      && number(s, 4, 2) <= 31
                      && number(s, 6, 2) >= 1
                      && number(s, 6, 2) <= 15;
              return exists ? wrongUnless(sum % 11 == digit(s, 3)) : NO_DAY;
            })
        .solved(
            14,
            "[1-9][0-9]{9}",
            places(0, 3),
            3,
            Permuted.DIGITS,
            (way, asOf) -> way.born(Birth.at(8, 6, 4, Birth.latest(8, asOf))));
  }

  private static String germanPension(String s) {
    int letter = s.charAt(8) - 'A' + 1;
    String digits = s.substring(0, 8) + (letter < 10 ? "0" : "") + letter + s.substring(9, 11);
    int[] weights = {2, 1, 2, 5, 7, 1, 2, 1, 2, 1, 2, 1};
    int sum = 0;
    for (int i = 0; i < weights.length; i++) {
      int product = digit(digits, i) * weights[i];
      sum += product / 10 + product % 10;
    }
    int month = number(s, 4, 2);
    return month < 1 || month > 12 || number(s, 2, 2) % 50 > 31
        ? NO_DAY
        : wrongUnless(sum % 10 == digit(s, 11));
  }

  private static String germanHealth(String s) {
    int letter = s.charAt(0) - 'A' + 1;
    String digits = (letter < 10 ? "0" : "") + letter + s.substring(1, 9);
    int sum = 0;
    for (int i = 0; i < digits.length(); i++) {
      int product = digit(digits, i) * (i % 2 + 1);
      sum += product / 10 + product % 10;
    }
    return wrongUnless(sum % 10 == digit(s, 9));
  }

  private static boolean within(String text, int at, int length, int least, int most) {
    int number = number(text, at, length);
    return number >= least && number <= most;
  }
}
