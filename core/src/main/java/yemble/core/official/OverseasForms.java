package yemble.core.official;

import static yemble.core.digits.CheckDigits.day;
import static yemble.core.digits.CheckDigits.digit;
import static yemble.core.digits.CheckDigits.luhn;
import static yemble.core.digits.CheckDigits.mod112;
import static yemble.core.digits.CheckDigits.number;
import static yemble.core.digits.CheckDigits.verhoeff;
import static yemble.core.digits.CheckDigits.weighted;
import static yemble.core.digits.CheckDigits.wrongUnless;
import static yemble.core.official.NumberForm.NEVER_ISSUED;
import static yemble.core.official.NumberForm.NO_DAY;
import static yemble.core.official.NumberForm.Sort.HEALTH;
import static yemble.core.official.NumberForm.Sort.NATIONAL;
import static yemble.core.official.NumberForm.Sort.TAX;
import static yemble.core.official.Permuted.places;
import static yemble.core.official.Permuted.sameParity;

/** The official numbers of Asia, Africa and Oceania. */
final class OverseasForms {
  private static final String HONG_KONG = "0123456789A";

  private OverseasForms() {}

  static NumberForm indian() {
    return NumberForm.of(
            NATIONAL,
            "IN",
            "Aadhaar number",
            "UIDAI: Verhoeff; never begins with 0 or 1",
            "[0-9]{12}",
            "[0-9]{4} ?[0-9]{4} ?[0-9]{4}",
            s -> s.charAt(0) < '2' ? NEVER_ISSUED : wrongUnless(verhoeff(s)))
        .solved(16, "[2-9][0-9]{11}", places(1, 11), 11, Permuted.DIGITS, (way, asOf) -> way);
  }

  static NumberForm indianTax() {
    return NumberForm.of(
            TAX,
            "IN",
            "PAN",
            "Income Tax Department: the fourth letter says who it is; the check letter's rule is secret",
            "[A-Z]{5}[0-9]{4}[A-Z]",
            "[A-Z]{5}[0-9]{4}[A-Z]",
            s -> "ABCFGHLJPTE".indexOf(s.charAt(3)) >= 0 ? null : "no such sort of holder")
        .solved(
            18,
            "[A-Z]{3}[ABCFGHLJPTE][A-Z][0-9]{4}[A-Z]",
            new int[] {0, 1, 2, 4, 5, 6, 7, 8, 9},
            -1,
            Permuted.DIGITS,
            (way, asOf) -> way);
  }

  static NumberForm chinese() {
    return NumberForm.of(
            NATIONAL,
            "CN",
            "resident identity number",
            "GB 11643-1999: ISO 7064 MOD 11-2",
            "[1-9][0-9]{16}[0-9X]",
            "[0-9]{17}[0-9Xx]",
            s ->
                day(number(s, 6, 4), number(s, 10, 2), number(s, 12, 2))
                    ? wrongUnless(mod112(s))
                    : NO_DAY)
        .solved(
            3,
            "[1-9][0-9]{16}[0-9X]",
            places(14, 17),
            17,
            "0123456789X",
            (way, asOf) ->
                way.born(
                        Birth.at(
                            8,
                            10,
                            12,
                            text ->
                                number(text, 6, 2) / 2 == 9 || number(text, 6, 2) == 20
                                    ? number(text, 6, 2) * 100
                                    : -1))
                    .alike((before, after) -> sameParity(before, after, 16)));
  }

  static NumberForm korean() {
    return NumberForm.of(
            NATIONAL,
            "KR",
            "resident registration number",
            "Resident Registration Act (KR): modulus 11, weights 2 to 9, 2 to 5",
            "[0-9]{6}[1-8][0-9]{6}",
            "[0-9]{6}-[0-9]{7}",
            s ->
                day(s, 0)
                    ? wrongUnless(
                        (11 - weighted(s, 2, 3, 4, 5, 6, 7, 8, 9, 2, 3, 4, 5) % 11) % 10
                            == digit(s, 12))
                    : NO_DAY)
        .solved(
            13,
            "[0-9]{6}[1-8][0-9]{6}",
            places(7, 12),
            12,
            Permuted.DIGITS,
            (way, asOf) ->
                way.born(Birth.at(0, 2, 4, text -> (digit(text, 6) - 1) % 4 < 2 ? 1900 : 2000))
                    .given(text -> number(text, 7, 2) <= 96));
  }

  static NumberForm japanese() {
    return NumberForm.of(
            NATIONAL,
            "JP",
            "individual number",
            "Ordinance of the Ministry of Internal Affairs 85/2014 (JP), article 5",
            "[0-9]{12}",
            "[0-9]{4}[ -]?[0-9]{4}[ -]?[0-9]{4}",
            s -> {
              int rest = weighted(s, 6, 5, 4, 3, 2, 7, 6, 5, 4, 3, 2) % 11;
              return wrongUnless((rest <= 1 ? 0 : 11 - rest) == digit(s, 11));
            })
        .solved(16, "[0-9]{12}", places(0, 11), 11, Permuted.DIGITS, (way, asOf) -> way);
  }

  static NumberForm southAfrican() {
    return NumberForm.of(
            NATIONAL,
            "ZA",
            "identity number",
            "Identification Act 68 of 1997 (ZA): day of birth, citizenship, Luhn",
            "[0-9]{10}[012][0-9]{2}",
            "[0-9]{13}",
            s -> day(s, 0) ? wrongUnless(luhn(s)) : NO_DAY)
        .solved(
            13,
            "[0-9]{10}[012][0-9]{2}",
            places(6, 10),
            12,
            Permuted.DIGITS,
            (way, asOf) ->
                way.born(Birth.at(0, 2, 4, Birth.latest(0, asOf)))
                    .alike((before, after) -> Permuted.sameHalf(before, after, 6)));
  }

  static NumberForm australianTax() {
    return NumberForm.of(
            TAX,
            "AU",
            "tax file number",
            "Australian Taxation Office: weights 1 4 3 7 5 8 6 9 10, modulus 11",
            "[0-9]{9}",
            "[0-9]{3} ?[0-9]{3} ?[0-9]{3}",
            s -> wrongUnless(weighted(s, 1, 4, 3, 7, 5, 8, 6, 9, 10) % 11 == 0))
        .solved(18, "[0-9]{9}", places(0, 8), 8, Permuted.DIGITS, (way, asOf) -> way);
  }

  static NumberForm australianHealth() {
    return NumberForm.of(
            HEALTH,
            "AU",
            "Medicare number",
            "Department of Human Services: weights 1 3 7 9 1 3 7 9",
            "[2-6][0-9]{9}",
            "[2-6][0-9]{3} [0-9]{5} [0-9]",
            s -> wrongUnless(weighted(s, 1, 3, 7, 9, 1, 3, 7, 9) % 10 == digit(s, 8)))
        .solved(16, "[2-6][0-9]{9}", places(1, 8), 8, Permuted.DIGITS, (way, asOf) -> way);
  }

  static NumberForm israeli() {
    return NumberForm.of(
            NATIONAL,
            "IL",
            "identity number",
            "Population Registry (IL): Luhn over nine digits",
            "[0-9]{9}",
            "[0-9]{9}",
            s -> wrongUnless(luhn(s)))
        .solved(18, "[0-9]{9}", places(0, 8), 8, Permuted.DIGITS, (way, asOf) -> way);
  }

  static NumberForm taiwanese() {
    return NumberForm.of(
            NATIONAL,
            "TW",
            "national identification number",
            "Household Registration (TW): the letter as two digits, weights 1 9 8 … 1 1",
            "[A-Z][1289][0-9]{8}",
            "[A-Z][0-9]{9}",
            s -> {
              int letter = "ABCDEFGHJKLMNPQRSTUVXYWZIO".indexOf(s.charAt(0)) + 10;
              int sum = letter / 10 + letter % 10 * 9;
              for (int i = 1; i < 9; i++) {
                sum += digit(s, i) * (9 - i);
              }
              return wrongUnless((sum + digit(s, 9)) % 10 == 0);
            })
        .solved(16, "[A-Z][1289][0-9]{8}", places(2, 9), 9, Permuted.DIGITS, (way, asOf) -> way);
  }

  static NumberForm hongKong() {
    return NumberForm.of(
            NATIONAL,
            "HK",
            "identity card",
            "Immigration Department (HK): modulus 11 over letters and digits",
            "[A-Z]{1,2}[0-9]{6}[0-9A]",
            "[A-Z]{1,2}[0-9]{6}\\(?[0-9A]\\)?",
            s -> {
              String nine = s.length() == 8 ? " " + s : s;
              int sum = 0;
              for (int i = 0; i < 8; i++) {
                char c = nine.charAt(i);
                int value = c == ' ' ? 36 : c >= 'A' ? c - 'A' + 10 : c - '0';
                sum += value * (9 - i);
              }
              int check = (11 - sum % 11) % 11;
              return wrongUnless(nine.charAt(8) == (check == 10 ? 'A' : (char) ('0' + check)));
            })
        .solved(16, "[A-Z][0-9]{6}[0-9A]", places(0, 7), 7, HONG_KONG, (way, asOf) -> way)
        .solved(16, "[A-Z]{2}[0-9]{6}[0-9A]", places(0, 8), 8, HONG_KONG, (way, asOf) -> way);
  }

  static NumberForm singaporean() {
    return NumberForm.of(
            NATIONAL,
            "SG",
            "NRIC or FIN",
            "National Registration Act (SG): weights 2 7 6 5 4 3 2, letter by the sort of number",
            "[STFG][0-9]{7}[A-Z]",
            "[STFG][0-9]{7}[A-Z]",
            s -> {
              int sum = weighted(s.substring(1), 2, 7, 6, 5, 4, 3, 2);
              sum += s.charAt(0) == 'T' || s.charAt(0) == 'G' ? 4 : 0;
              String letters =
                  s.charAt(0) == 'S' || s.charAt(0) == 'T' ? "JZIHGFEDCBA" : "XWUTRQPNMLK";
              return wrongUnless(letters.charAt(sum % 11) == s.charAt(8));
            })
        .solved(
            16,
            "[STFG][0-9]{7}[A-Z]",
            places(1, 8),
            8,
            "ABCDEFGHIJKLMNOPQRSTUVWXYZ",
            (way, asOf) -> way);
  }

  static NumberForm malaysian() {
    return NumberForm.of(
            NATIONAL,
            "MY",
            "identity card",
            "National Registration Department (MY): day of birth and place, no check digit",
            "[0-9]{12}",
            "[0-9]{6}-[0-9]{2}-[0-9]{4}",
            s -> day(s, 0) ? null : NO_DAY)
        .solved(
            15,
            "[0-9]{12}",
            places(8, 12),
            -1,
            Permuted.DIGITS,
            (way, asOf) ->
                way.born(Birth.at(0, 2, 4, Birth.latest(0, asOf)))
                    .alike((before, after) -> sameParity(before, after, 11)));
  }

  static NumberForm thai() {
    return NumberForm.of(
            NATIONAL,
            "TH",
            "identity number",
            "Department of Provincial Administration (TH): modulus 11, weights 13 to 2",
            "[1-8][0-9]{12}",
            "[0-9][ -]?[0-9]{4}[ -]?[0-9]{5}[ -]?[0-9]{2}[ -]?[0-9]",
            s ->
                wrongUnless(
                    (11 - weighted(s, 13, 12, 11, 10, 9, 8, 7, 6, 5, 4, 3, 2) % 11) % 10
                        == digit(s, 12)))
        .solved(16, "[1-8][0-9]{12}", places(1, 12), 12, Permuted.DIGITS, (way, asOf) -> way);
  }
}
