package yemble.core.official;

import static yemble.core.digits.CheckDigits.day;
import static yemble.core.digits.CheckDigits.digit;
import static yemble.core.digits.CheckDigits.mod1110;
import static yemble.core.digits.CheckDigits.number;
import static yemble.core.digits.CheckDigits.weighted;
import static yemble.core.digits.CheckDigits.wrongUnless;
import static yemble.core.official.NumberForm.ELEVEN;
import static yemble.core.official.NumberForm.NO_DAY;
import static yemble.core.official.NumberForm.Sort.HEALTH;
import static yemble.core.official.NumberForm.Sort.NATIONAL;
import static yemble.core.official.NumberForm.Sort.TAX;
import static yemble.core.official.Permuted.last;
import static yemble.core.official.Permuted.places;
import static yemble.core.official.Permuted.sameParity;

import java.time.LocalDate;
import java.util.List;

/** The official numbers of eastern and south-eastern Europe. */
final class EasternForms {
  private EasternForms() {}

  static NumberForm polish() {
    return NumberForm.of(
            NATIONAL,
            "PL",
            "PESEL",
            "Ministerstwo Cyfryzacji: weights 1, 3, 7, 9",
            ELEVEN,
            ELEVEN,
            s ->
                number(s, 2, 2) % 20 < 1 || number(s, 2, 2) % 20 > 12 || number(s, 4, 2) > 31
                    ? NO_DAY
                    : wrongUnless(s.equals(polishChecked(s))))
        .permuted(asOf -> List.of(permutedPolish()));
  }

  private static Permuted permutedPolish() {
    return Permuted.of(
            11, "PESEL", "[0-9]{11}", places(6, 10), places(10, 11), EasternForms::polishChecked)
        .born(
            new Birth() {
              @Override
              public LocalDate read(String text) {
                int month = Birth.two(text, 2);
                int century = new int[] {1900, 2000, 2100, 2200, 1800}[month / 20];
                return Birth.day(century + Birth.two(text, 0), month % 20, Birth.two(text, 4));
              }

              @Override
              public String write(String text, LocalDate day) {
                int more = Math.floorMod(day.getYear() / 100 - 19, 5) * 20;
                String out = Birth.put(text, 0, day.getYear());
                out = Birth.put(out, 2, day.getMonthValue() + more);
                return Birth.put(out, 4, day.getDayOfMonth());
              }
            })
        .alike((before, after) -> sameParity(before, after, 9));
  }

  private static String polishChecked(String text) {
    return last(text, (10 - weighted(text, 1, 3, 7, 9, 1, 3, 7, 9, 1, 3) % 10) % 10);
  }

  static NumberForm polishTax() {
    return NumberForm.of(
            TAX,
            "PL",
            "NIP",
            "Ministerstwo Finansów: modulus 11",
            "[1-9][0-9]{9}",
            "[0-9]{3}-?[0-9]{3}-?[0-9]{2}-?[0-9]{2}",
            s -> wrongUnless(weighted(s, 6, 5, 7, 2, 3, 4, 5, 6, 7) % 11 == digit(s, 9)))
        .solved(16, "[1-9][0-9]{9}", places(0, 9), 9, Permuted.DIGITS, (way, asOf) -> way);
  }

  static NumberForm birthNumber(String country) {
    return NumberForm.of(
            NATIONAL,
            country,
            "birth number",
            "Act 133/2000 (CZ) and 301/1995 (SK): divisible by 11; women add 50 to the month; nine digits without a check before 1954",
            "[0-9]{9,10}",
            "[0-9]{6}/?[0-9]{4}|[0-9]{6}/[0-9]{3}",
            s -> {
              if (s.length() == 9) {
                return permutedOldBirthNumber().fits(s) ? null : NO_DAY;
              }
              int month = number(s, 2, 2) % 50 % 20;
              boolean exists =
                  month >= 1 && month <= 12 && number(s, 4, 2) <= 31 && number(s, 4, 2) > 0;
              return exists ? wrongUnless(s.equals(birthNumberChecked(s))) : NO_DAY;
            })
        .permuted(asOf -> List.of(permutedBirthNumber(), permutedOldBirthNumber()));
  }

  /** Of the Czech Republic and Slovakia, ten digits; women's months are 50 greater. */
  private static Permuted permutedBirthNumber() {
    return Permuted.of(
            14,
            "birth number",
            "[0-9]{10}",
            places(6, 9),
            places(9, 10),
            EasternForms::birthNumberChecked)
        .born(
            new Birth() {
              @Override
              public LocalDate read(String text) {
                int month = Birth.two(text, 2) % 50;
                int year = Birth.two(text, 0);
                return Birth.day(
                    year + (year < 54 ? 2000 : 1900),
                    month > 20 ? month - 20 : month,
                    Birth.two(text, 4));
              }

              @Override
              public String write(String text, LocalDate day) {
                int month = Birth.two(text, 2);
                int more = month / 50 * 50 + (month % 50 > 20 ? 20 : 0);
                String out = Birth.put(text, 0, day.getYear());
                out = Birth.put(out, 2, day.getMonthValue() + more);
                return Birth.put(out, 4, day.getDayOfMonth());
              }
            });
  }

  /** Nine digits, of those who were born before 1954. */
  private static Permuted permutedOldBirthNumber() {
    return Permuted.of(
            17, "birth number of nine", "[0-9]{9}", places(6, 9), new int[0], text -> text)
        .born(
            new Birth() {
              @Override
              public LocalDate read(String text) {
                int year = Birth.two(text, 0);
                return year > 53
                    ? null
                    : Birth.day(1900 + year, Birth.two(text, 2) % 50, Birth.two(text, 4));
              }

              @Override
              public String write(String text, LocalDate day) {
                String out = Birth.put(text, 0, day.getYear());
                out = Birth.put(out, 2, day.getMonthValue() + Birth.two(text, 2) / 50 * 50);
                return Birth.put(out, 4, day.getDayOfMonth());
              }
            })
        .given(text -> !text.endsWith("000"));
  }

  private static String birthNumberChecked(String text) {
    int rest = (int) (Long.parseLong(text.substring(0, 9)) % 11);
    int year = Birth.two(text, 0);
    return last(text, year >= 54 && year < 85 ? rest % 10 : rest); // No remainder of 10 since 1985.
  }

  static NumberForm hungarian() {
    return NumberForm.of(
            NATIONAL,
            "HU",
            "personal identifier",
            "Act XX of 1996: digits weighted by position, modulus 11; the weights fall for those born from 1997 on",
            "[1-8][0-9]{10}",
            "[1-8][- ]?[0-9]{6}[- ]?[0-9]{4}",
            s -> {
              boolean before1997 =
                  digit(s, 0) % 4 != 3 && digit(s, 0) % 4 != 0 && number(s, 1, 2) < 97;
              int sum =
                  before1997
                      ? weighted(s, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10)
                      : weighted(s, 10, 9, 8, 7, 6, 5, 4, 3, 2, 1);
              return day(s, 1) ? wrongUnless(sum % 11 == digit(s, 10)) : NO_DAY;
            })
        .solved(
            11,
            "[1-8][0-9]{10}",
            places(7, 10),
            10,
            Permuted.DIGITS,
            (way, asOf) ->
                way.born(Birth.at(1, 3, 5, text -> (digit(text, 0) - 1) % 4 < 2 ? 1900 : 2000)));
  }

  static NumberForm hungarianHealth() {
    return NumberForm.of(
            HEALTH,
            "HU",
            "TAJ number",
            "Hungarian social security: weights 3 and 7 in turn",
            "[0-9]{9}",
            "[0-9]{3}[- ][0-9]{3}[- ][0-9]{3}",
            s -> wrongUnless(weighted(s, 3, 7, 3, 7, 3, 7, 3, 7) % 10 == digit(s, 8)))
        .solved(18, "[0-9]{9}", places(0, 8), 8, Permuted.DIGITS, (way, asOf) -> way);
  }

  static NumberForm romanian() {
    return NumberForm.of(
            NATIONAL,
            "RO",
            "CNP",
            "Government ordinance 97/2005: key 279146358279, modulus 11",
            "[1-9][0-9]{12}",
            "[0-9]{13}",
            s -> {
              int rest = weighted(s, 2, 7, 9, 1, 4, 6, 3, 5, 8, 2, 7, 9) % 11;
              return day(s, 1) ? wrongUnless((rest == 10 ? 1 : rest) == digit(s, 12)) : NO_DAY;
            })
        .solved(
            13,
            "[1-9][0-9]{12}",
            places(9, 12),
            12,
            Permuted.DIGITS,
            (way, asOf) ->
                way.born(
                        Birth.at(
                            1,
                            3,
                            5,
                            text ->
                                switch (digit(text, 0)) {
                                  case 1, 2 -> 1900;
                                  case 3, 4 -> 1800;
                                  case 5, 6 -> 2000;
                                  default -> Birth.latest(1, asOf).applyAsInt(text);
                                }))
                    .given(text -> !text.startsWith("000", 9)));
  }

  static NumberForm bulgarian() {
    return NumberForm.of(
            NATIONAL,
            "BG",
            "EGN",
            "GRAO: months of the century before add 20, of the next one 40",
            "[0-9]{10}",
            "[0-9]{10}",
            s -> {
              int month = number(s, 2, 2) % 20;
              return month < 1 || month > 12 || number(s, 4, 2) > 31 || number(s, 4, 2) < 1
                  ? NO_DAY
                  : wrongUnless(weighted(s, 2, 4, 8, 5, 10, 9, 7, 3, 6) % 11 % 10 == digit(s, 9));
            })
        .solved(
            14,
            "[0-9]{10}",
            places(6, 9),
            9,
            Permuted.DIGITS,
            (way, asOf) ->
                way.born(new BulgarianBirth())
                    .alike((before, after) -> sameParity(before, after, 8)));
  }

  /** YYMMDD, months of the century before add 20, of the next one 40. */
  private static final class BulgarianBirth implements Birth {
    @Override
    public LocalDate read(String text) {
      int month = Birth.two(text, 2);
      int century = month > 40 ? 2000 : month > 20 ? 1800 : 1900;
      return Birth.day(century + Birth.two(text, 0), month % 20, Birth.two(text, 4));
    }

    @Override
    public String write(String text, LocalDate day) {
      int more = day.getYear() >= 2000 ? 40 : day.getYear() < 1900 ? 20 : 0;
      String out = Birth.put(text, 0, day.getYear());
      out = Birth.put(out, 2, day.getMonthValue() + more);
      return Birth.put(out, 4, day.getDayOfMonth());
    }
  }

  static NumberForm croatian() {
    return NumberForm.of(
            NATIONAL,
            "HR",
            "OIB",
            "Porezna uprava: ISO 7064 MOD 11,10",
            ELEVEN,
            ELEVEN,
            s -> wrongUnless(mod1110(s)))
        .solved(13, "[0-9]{11}", places(0, 10), 10, Permuted.DIGITS, (way, asOf) -> way);
  }

  static NumberForm masterNumber(String country) {
    return NumberForm.of(
            NATIONAL,
            country,
            "unique master citizen number",
            "Zakon o jedinstvenom matičnom broju (1976): modulus 11, weights 7 to 2 twice",
            "[0-9]{13}",
            "[0-9]{13}",
            s -> {
              int rest = 11 - weighted(s, 7, 6, 5, 4, 3, 2, 7, 6, 5, 4, 3, 2) % 11;
              boolean exists =
                  number(s, 0, 2) >= 1
                      && number(s, 0, 2) <= 31
                      && number(s, 2, 2) >= 1
                      && number(s, 2, 2) <= 12
                      && (s.charAt(4) == '9' || s.charAt(4) == '0');
              return exists ? wrongUnless(rest % 11 == digit(s, 12) && rest != 10) : NO_DAY;
            })
        .solved(
            13,
            "[0-9]{13}",
            places(9, 12),
            12,
            Permuted.DIGITS,
            (way, asOf) ->
                way.born(Birth.at(5, 2, 0, text -> text.charAt(4) == '9' ? 1900 : 2000))
                    .alike((before, after) -> Permuted.sameHalf(before, after, 9)));
  }

  static NumberForm ukrainian() {
    return NumberForm.of(
            TAX,
            "UA",
            "taxpayer card number",
            "State Tax Service (UA): weights -1 5 7 9 4 6 10 5 7, modulus 11",
            "[0-9]{10}",
            "[0-9]{10}",
            s ->
                wrongUnless(
                    Math.floorMod(weighted(s, -1, 5, 7, 9, 4, 6, 10, 5, 7), 11) % 10
                        == digit(s, 9)))
        .solved(
            14,
            "[0-9]{10}",
            places(5, 9),
            9,
            Permuted.DIGITS,
            (way, asOf) ->
                way.born(new UkrainianBirth(asOf))
                    .alike((before, after) -> sameParity(before, after, 8)));
  }

  /** The days from the end of 1899 on, in five digits. */
  private record UkrainianBirth(LocalDate asOf) implements Birth {
    private static final LocalDate START = LocalDate.of(1899, 12, 31);

    @Override
    public LocalDate read(String text) {
      LocalDate day = START.plusDays(number(text, 0, 5));
      return day.isAfter(asOf) || day.equals(START) ? null : day;
    }

    @Override
    public String write(String text, LocalDate day) {
      return String.format("%05d", day.toEpochDay() - START.toEpochDay()) + text.substring(5);
    }
  }
}
