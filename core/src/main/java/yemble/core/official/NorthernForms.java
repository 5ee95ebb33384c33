package yemble.core.official;

import static yemble.core.digits.CheckDigits.day;
import static yemble.core.digits.CheckDigits.digit;
import static yemble.core.digits.CheckDigits.luhn;
import static yemble.core.digits.CheckDigits.luhnDigit;
import static yemble.core.digits.CheckDigits.number;
import static yemble.core.digits.CheckDigits.weighted;
import static yemble.core.digits.CheckDigits.wrongUnless;
import static yemble.core.official.NumberForm.ELEVEN;
import static yemble.core.official.NumberForm.NO_DAY;
import static yemble.core.official.NumberForm.Sort.NATIONAL;
import static yemble.core.official.Permuted.last;
import static yemble.core.official.Permuted.places;
import static yemble.core.official.Permuted.sameParity;

import java.time.LocalDate;
import java.util.List;
import java.util.function.UnaryOperator;

/** The official numbers of northern Europe. */
final class NorthernForms {
  private static final String FINNISH = "0123456789ABCDEFHJKLMNPRSTUVWXY";

  private NorthernForms() {}

  static NumberForm swedish() {
    return NumberForm.of(
            NATIONAL,
            "SE",
            "personal number",
            "Skatteverket, SKV 704: Luhn over ten digits; coordination numbers add 60 to the day",
            "(?:19|20)?[0-9]{10}",
            "(?:19|20)?[0-9]{6}[-+][0-9]{4}|(?:19|20)[0-9]{10}",
            s -> {
              String ten = s.substring(s.length() - 10);
              int day = number(ten, 4, 2);
              boolean exists = day(ten.substring(0, 4) + (day % 60 < 10 ? "0" : "") + day % 60, 0);
              return exists ? wrongUnless(luhn(ten)) : NO_DAY;
            })
        .permuted(asOf -> List.of(permutedSwedish(asOf, 2), permutedSwedish(asOf, 0)));
  }

  /** YYMMDDNNNC or YYYYMMDDNNNC; a sign before NNN may say that somebody is a hundred or older. */
  private static Permuted permutedSwedish(LocalDate asOf, int century) {
    UnaryOperator<String> check = text -> last(text, luhnDigit(text, century));
    Birth birth =
        new Birth() {
          @Override
          public LocalDate read(String text) {
            int day = Birth.two(text, century + 4);
            int plain = day > 60 ? day - 60 : day;
            int two = Birth.two(text, century);
            int year =
                century == 2
                    ? Birth.two(text, 0) * 100 + two
                    : two + (two <= asOf.getYear() % 100 ? 2000 : 1900);
            return year < 1900 || year > 2099
                ? null
                : Birth.day(year, Birth.two(text, century + 2), plain);
          }

          @Override
          public String write(String text, LocalDate day) {
            int more = Birth.two(text, century + 4) > 60 ? 60 : 0;
            String out = Birth.put(text, century, day.getYear());
            out = Birth.put(out, century + 2, day.getMonthValue());
            out = Birth.put(out, century + 4, day.getDayOfMonth() + more);
            return century == 2 ? Birth.put(out, 0, day.getYear() / 100) : out;
          }
        };
    return Permuted.of(
            century == 2 ? 13 : 14,
            "personnummer",
            century == 2 ? "[0-9]{12}" : "[0-9]{10}",
            places(century + 6, century + 9),
            places(century + 9, century + 10),
            check)
        .born(birth)
        .alike((before, after) -> sameParity(before, after, century + 8));
  }

  static NumberForm norwegian() {
    return NumberForm.of(
            NATIONAL,
            "NO",
            "birth number",
            "Skatteetaten, fødselsnummer: two digits by modulus 11; D-numbers add 40 to the day",
            ELEVEN,
            "[0-9]{6} ?[0-9]{5}",
            s -> {
              int day = number(s, 0, 2) % 40;
              int month = number(s, 2, 2) % 40;
              if (day < 1 || day > 31 || month < 1 || month > 12) {
                return NO_DAY;
              }
              return wrongUnless(s.equals(norwegianChecked(s)));
            })
        .permuted(asOf -> List.of(permutedNorwegian()));
  }

  private static Permuted permutedNorwegian() {
    return Permuted.of(
            6,
            "fødselsnummer",
            "[0-9]{11}",
            places(6, 9),
            places(9, 11),
            NorthernForms::norwegianChecked)
        .born(
            new Birth.DayMonthYear() {
              @Override
              int century(String text) {
                int individual = number(text, 6, 3);
                int year = Birth.two(text, 4);
                if (individual < 500) {
                  return 1900;
                }
                if (individual < 750 && year >= 54) {
                  return 1800;
                }
                if (year < 40) {
                  return 2000;
                }
                return individual >= 900 ? 1900 : -1;
              }
            })
        .alike((before, after) -> sameParity(before, after, 8))
        .gaps(text -> "" + digit(text, 8) % 2);
  }

  private static String norwegianChecked(String text) {
    int first = (11 - weighted(text, 3, 7, 6, 1, 8, 9, 4, 5, 2) % 11) % 11;
    if (first > 9) {
      return null;
    }
    String with = text.substring(0, 9) + first + text.charAt(10);
    return last(with, (11 - weighted(with, 5, 4, 3, 2, 7, 6, 5, 4, 3, 2) % 11) % 11);
  }

  static NumberForm danish() {
    return NumberForm.of(
            NATIONAL,
            "DK",
            "CPR number",
            "CPR-kontoret: the modulus 11 of old is not kept since 2007, so the day alone counts",
            "[0-9]{10}",
            "[0-9]{6}-[0-9]{4}",
            s -> day(s.substring(4, 6) + s.substring(2, 4) + s.substring(0, 2), 0) ? null : NO_DAY)
        .permuted(asOf -> List.of(permutedDanish()));
  }

  /** Since 2007 numbers are given out that do not satisfy the old check: nothing is kept of it. */
  private static Permuted permutedDanish() {
    return Permuted.of(15, "CPR number", "[0-9]{10}", places(6, 10), new int[0], text -> text)
        .born(
            new Birth.DayMonthYear() {
              @Override
              int century(String text) {
                int sign = digit(text, 6);
                int year = Birth.two(text, 4);
                if (sign < 4) {
                  return 1900;
                }
                if (sign == 4 || sign == 9) {
                  return year < 37 ? 2000 : 1900;
                }
                return year < 58 ? 2000 : 1800;
              }
            })
        .alike((before, after) -> sameParity(before, after, 9));
  }

  static NumberForm finnish() {
    return NumberForm.of(
            NATIONAL,
            "FI",
            "personal identity code",
            "Digi- ja väestötietovirasto: the character at the remainder by 31",
            "[0-9]{6}[A-FUVWXY]?[0-9]{3}[0-9A-Y]",
            "[0-9]{6}[-+A-FU-Y][0-9]{3}[0-9A-Y]",
            s -> {
              String digits = s.substring(0, 6) + s.substring(s.length() - 4, s.length() - 1);
              return !day(s.substring(4, 6) + s.substring(2, 4) + s.substring(0, 2), 0)
                  ? NO_DAY
                  : wrongUnless(finnishCheck(digits) == s.charAt(s.length() - 1));
            })
        .permuted(asOf -> List.of(permutedFinnish()));
  }

  private static Permuted permutedFinnish() {
    return Permuted.of(
            1,
            "henkilötunnus",
            "[0-9]{6}[-+A-FU-Y][0-9]{3}[0-9A-Y]",
            places(7, 10),
            places(10, 11),
            text ->
                text.substring(0, 10) + finnishCheck(text.substring(0, 6) + text.substring(7, 10)))
        .letters(FINNISH)
        .given(text -> number(text, 7, 3) >= 2)
        .born(
            new Birth.DayMonthYear() {
              @Override
              int century(String text) {
                char sign = text.charAt(6);
                return sign == '+' ? 1800 : sign >= 'A' && sign <= 'F' ? 2000 : 1900;
              }
            })
        .alike(
            (before, after) ->
                sameParity(before, after, 9) && isForTests(before) == isForTests(after));
  }

  /** Numbers from 900 on are nobody's for good. */
  private static boolean isForTests(String text) {
    return text.charAt(7) == '9';
  }

  private static char finnishCheck(String digits) {
    return FINNISH.charAt(Integer.parseInt(digits) % 31);
  }

  static NumberForm estonian() {
    return NumberForm.of(
            NATIONAL,
            "EE",
            "personal code",
            "Estonian standard EVS 585",
            "[1-8][0-9]{10}",
            ELEVEN,
            NorthernForms::baltic)
        .permuted(asOf -> List.of(permutedBaltic("[1-8][0-9]{10}")));
  }

  /** Of Estonia and Lithuania: the first digit tells gender and century. */
  private static Permuted permutedBaltic(String form) {
    return Permuted.of(
            12, "isikukood", form, places(7, 10), places(10, 11), NorthernForms::balticChecked)
        .born(
            new Birth() {
              @Override
              public LocalDate read(String text) {
                int century = 1800 + (digit(text, 0) - 1) / 2 * 100;
                return Birth.day(
                    century + Birth.two(text, 1), Birth.two(text, 3), Birth.two(text, 5));
              }

              @Override
              public String write(String text, LocalDate day) {
                int gender = (digit(text, 0) - 1) % 2;
                int first = (day.getYear() / 100 - 18) * 2 + gender + 1;
                String out = Birth.put(first + text.substring(1), 1, day.getYear());
                out = Birth.put(out, 3, day.getMonthValue());
                return Birth.put(out, 5, day.getDayOfMonth());
              }
            });
  }

  static NumberForm lithuanian() {
    return NumberForm.of(
            NATIONAL,
            "LT",
            "personal code",
            "The Lithuanian population register, which has taken over Estonian standard EVS 585",
            "[1-69][0-9]{10}",
            ELEVEN,
            NorthernForms::baltic)
        .permuted(asOf -> List.of(permutedBaltic("[1-6][0-9]{10}")));
  }

  static NumberForm latvian() {
    return NumberForm.of(
            NATIONAL,
            "LV",
            "personal code",
            "Pilsonības un migrācijas lietu pārvalde; numbers from 2017 on begin with 32 and have no rule",
            ELEVEN,
            "[0-9]{6}-[0-9]{5}",
            s ->
                s.startsWith("32")
                    ? null
                    : !day(s.substring(4, 6) + s.substring(2, 4) + s.substring(0, 2), 0)
                        ? NO_DAY
                        : wrongUnless(
                            (1101 - weighted(s, 1, 6, 3, 7, 9, 10, 5, 8, 4, 2)) % 11
                                == digit(s, 10)))
        .solved(
            11,
            "[0-9]{11}",
            places(7, 10),
            10,
            Permuted.DIGITS,
            (way, asOf) ->
                way.born(
                    Birth.at(
                        4, 2, 0, text -> digit(text, 6) > 2 ? -1 : 1800 + digit(text, 6) * 100)))
        .solved(13, "32[0-9]{9}", places(2, 11), -1, Permuted.DIGITS, (way, asOf) -> way);
  }

  static NumberForm icelandic() {
    return NumberForm.of(
            NATIONAL,
            "IS",
            "kennitala",
            "Þjóðskrá: weights 3 2 7 6 5 4 3 2, modulus 11; the last digit is the century",
            "[0-9]{9}[089]",
            "[0-9]{6}-[0-9]{4}",
            s ->
                day(s.substring(4, 6) + s.substring(2, 4) + s.substring(0, 2), 0)
                    ? wrongUnless(
                        (11 - weighted(s, 3, 2, 7, 6, 5, 4, 3, 2) % 11) % 11 == digit(s, 8))
                    : NO_DAY)
        .solved(
            14,
            "[0-9]{9}[089]",
            places(6, 8),
            8,
            Permuted.DIGITS,
            (way, asOf) ->
                way.born(
                    Birth.at(
                        4,
                        2,
                        0,
                        text ->
                            text.charAt(9) == '0' ? 2000 : text.charAt(9) == '9' ? 1900 : 1800)));
  }

  private static String baltic(String s) {
    return day(s, 1) ? wrongUnless(s.equals(balticChecked(s))) : NO_DAY;
  }

  private static String balticChecked(String text) {
    int rest = weighted(text, 1, 2, 3, 4, 5, 6, 7, 8, 9, 1) % 11;
    rest = rest < 10 ? rest : weighted(text, 3, 4, 5, 6, 7, 8, 9, 1, 2, 3) % 11;
    return last(text, rest % 10);
  }
}
