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
        s -> wrongUnless(weighted(s, 6, 5, 7, 2, 3, 4, 5, 6, 7) % 11 == digit(s, 9)));
  }

  static NumberForm birthNumber(String country) {
    return NumberForm.of(
            NATIONAL,
            country,
            "birth number",
            "Act 133/2000 (CZ) and 301/1995 (SK): divisible by 11; women add 50 to the month",
            "[0-9]{10}",
            "[0-9]{6}/?[0-9]{4}",
            s -> {
              int month = number(s, 2, 2) % 50 % 20;
              boolean exists =
                  month >= 1 && month <= 12 && number(s, 4, 2) <= 31 && number(s, 4, 2) > 0;
              return exists ? wrongUnless(s.equals(birthNumberChecked(s))) : NO_DAY;
            })
        .permuted(asOf -> country.equals("CZ") ? List.of(permutedBirthNumber()) : List.of());
  }

  /** Of the Czech Republic and Slovakia, ten digits; women's months are 50 greater. */
  private static Permuted permutedBirthNumber() {
    return Permuted.of(
            15,
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

  private static String birthNumberChecked(String text) {
    return last(text, (int) (Long.parseLong(text.substring(0, 9)) % 11 % 10));
  }

  static NumberForm hungarian() {
    return NumberForm.of(
        NATIONAL,
        "HU",
        "personal identifier",
        "Act XX of 1996: the tenth weight digit by position, modulus 11",
        "[1-8][0-9]{10}",
        "[1-8][- ]?[0-9]{6}[- ]?[0-9]{4}",
        s -> {
          int rising = weighted(s, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10) % 11;
          int falling = weighted(s, 10, 9, 8, 7, 6, 5, 4, 3, 2, 1) % 11;
          return day(s, 1)
              ? wrongUnless(rising == digit(s, 10) || falling == digit(s, 10))
              : NO_DAY;
        });
  }

  static NumberForm hungarianHealth() {
    return NumberForm.of(
        HEALTH,
        "HU",
        "TAJ number",
        "Hungarian social security: weights 3 and 7 in turn",
        "[0-9]{9}",
        "[0-9]{3}[- ][0-9]{3}[- ][0-9]{3}",
        s -> wrongUnless(weighted(s, 3, 7, 3, 7, 3, 7, 3, 7) % 10 == digit(s, 8)));
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
        });
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
        });
  }

  static NumberForm croatian() {
    return NumberForm.of(
        NATIONAL,
        "HR",
        "OIB",
        "Porezna uprava: ISO 7064 MOD 11,10",
        ELEVEN,
        ELEVEN,
        s -> wrongUnless(mod1110(s)));
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
        });
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
                Math.floorMod(weighted(s, -1, 5, 7, 9, 4, 6, 10, 5, 7), 11) % 10 == digit(s, 9)));
  }
}
