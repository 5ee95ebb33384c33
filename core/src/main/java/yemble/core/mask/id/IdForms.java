package yemble.core.mask.id;

import static yemble.core.digits.CheckDigits.digit;
import static yemble.core.digits.CheckDigits.number;
import static yemble.core.digits.CheckDigits.weighted;

import java.time.LocalDate;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.stream.IntStream;

/**
 * The forms that are known, in the order in which a number is looked for among them. Where each
 * rule comes from stands beside the same number in {@code recognition/OfficialIds}.
 */
final class IdForms {
  private static final String SPANISH = "TRWAGMYFPDXBNJZSQVHLCKE";
  private static final String FINNISH = "0123456789ABCDEFHJKLMNPRSTUVWXY";
  private static final String MONTHS = "ABCDEHLMPRST";

  private IdForms() {}

  /**
   * All forms, among those of one length the ones first that fewest numbers are of by chance.
   *
   * @param asOf the day at which two digits of a year are understood
   */
  static List<IdForm> all(LocalDate asOf) {
    return List.of(
        italian(asOf),
        finnish(),
        spanish(),
        french(),
        swiss(),
        britishInsurance(),
        norwegian(),
        belgian(1900),
        belgian(2000),
        brazilian(),
        german(),
        polish(),
        baltic(),
        swedish(asOf, 2),
        swedish(asOf, 0),
        czech(),
        british(),
        danish(),
        dutch(),
        american());
  }

  private static int[] places(int from, int to) {
    return IntStream.range(from, to).toArray();
  }

  /** A number with its last character replaced; null for a check value that has none. */
  private static String last(String text, int check) {
    return check > 9 ? null : text.substring(0, text.length() - 1) + check;
  }

  private static boolean sameParity(String before, String after, int at) {
    return digit(before, at) % 2 == digit(after, at) % 2;
  }

  /** Luhn's check digit of all digits from a place on but the last. */
  private static int luhn(String text, int from) {
    int sum = 0;
    for (int i = text.length() - 2, twice = 1; i >= from; i--, twice ^= 1) {
      int product = digit(text, i) * (1 + twice);
      sum += product / 10 + product % 10;
    }
    return (10 - sum % 10) % 10;
  }

  /** YYMMDDNNNC or YYYYMMDDNNNC; a sign before NNN may say that somebody is a hundred or older. */
  private static IdForm swedish(LocalDate asOf, int century) {
    UnaryOperator<String> check = text -> last(text, luhn(text, century));
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
            return year < 1850 ? null : Birth.day(year, Birth.two(text, century + 2), plain);
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
    return IdForm.of(
            "SE",
            "personnummer",
            century == 2 ? "[0-9]{12}" : "[0-9]{10}",
            places(century + 6, century + 9),
            places(century + 9, century + 10),
            check)
        .born(birth)
        .alike((before, after) -> sameParity(before, after, century + 8));
  }

  private static IdForm norwegian() {
    return IdForm.of(
            "NO",
            "fødselsnummer",
            "[0-9]{11}",
            places(6, 9),
            places(9, 11),
            text -> {
              int first = (11 - weighted(text, 3, 7, 6, 1, 8, 9, 4, 5, 2) % 11) % 11;
              if (first > 9) {
                return null;
              }
              String with = text.substring(0, 9) + first + text.charAt(10);
              return last(with, (11 - weighted(with, 5, 4, 3, 2, 7, 6, 5, 4, 3, 2) % 11) % 11);
            })
        .born(
            new DayMonthYear() {
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

  /** Days that stand as DDMMYY at the beginning, and a century that stands elsewhere. */
  private abstract static class DayMonthYear implements Birth {
    /** The century as 1900; -1 if there is none. */
    abstract int century(String text);

    @Override
    public LocalDate read(String text) {
      int century = century(text);
      return century < 0
          ? null
          : Birth.day(century + Birth.two(text, 4), Birth.two(text, 2), Birth.two(text, 0));
    }

    @Override
    public String write(String text, LocalDate day) {
      String out = Birth.put(text, 0, day.getDayOfMonth());
      out = Birth.put(out, 2, day.getMonthValue());
      return Birth.put(out, 4, day.getYear());
    }
  }

  /** Since 2007 numbers are given out that do not satisfy the old check: nothing is kept of it. */
  private static IdForm danish() {
    return IdForm.of("DK", "CPR number", "[0-9]{10}", places(6, 10), new int[0], text -> text)
        .born(
            new DayMonthYear() {
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

  private static IdForm finnish() {
    return IdForm.of(
            "FI",
            "henkilötunnus",
            "[0-9]{6}[-+A-FU-Y][0-9]{3}[0-9A-Y]",
            places(7, 10),
            places(10, 11),
            text ->
                text.substring(0, 10)
                    + FINNISH.charAt(
                        (int) (Long.parseLong(text.substring(0, 6) + text.substring(7, 10)) % 31)))
        .letters(FINNISH)
        .given(text -> number(text, 7, 3) >= 2)
        .born(
            new DayMonthYear() {
              @Override
              int century(String text) {
                char sign = text.charAt(6);
                return sign == '+' ? 1800 : sign >= 'A' && sign <= 'F' ? 2000 : 1900;
              }
            })
        .alike((before, after) -> sameParity(before, after, 9));
  }

  private static IdForm polish() {
    return IdForm.of(
            "PL",
            "PESEL",
            "[0-9]{11}",
            places(6, 10),
            places(10, 11),
            text -> last(text, (10 - weighted(text, 1, 3, 7, 9, 1, 3, 7, 9, 1, 3) % 10) % 10))
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

  /** Of Estonia and Lithuania: the first digit tells gender and century. */
  private static IdForm baltic() {
    return IdForm.of(
            "EE",
            "isikukood",
            "[1-8][0-9]{10}",
            places(7, 10),
            places(10, 11),
            text -> {
              int rest = weighted(text, 1, 2, 3, 4, 5, 6, 7, 8, 9, 1) % 11;
              rest = rest < 10 ? rest : weighted(text, 3, 4, 5, 6, 7, 8, 9, 1, 2, 3) % 11;
              return last(text, rest % 10);
            })
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

  /** From 2000 on the check is computed with a 2 before the number. */
  private static IdForm belgian(int century) {
    return IdForm.of(
            "BE",
            "national register number",
            "[0-9]{11}",
            places(6, 9),
            places(9, 11),
            text -> {
              long before = century == 2000 ? 2_000_000_000L : 0;
              long body = before + Long.parseLong(text.substring(0, 9));
              return Birth.put(text, 9, (int) (97 - body % 97));
            })
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

  /** Of the Czech Republic and Slovakia, ten digits; women's months are 50 greater. */
  private static IdForm czech() {
    return IdForm.of(
            "CZ",
            "birth number",
            "[0-9]{10}",
            places(6, 9),
            places(9, 10),
            text -> last(text, (int) (Long.parseLong(text.substring(0, 9)) % 11 % 10)))
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

  /**
   * Gender and year stay; the month, which says too little of the day to agree with it, changes.
   */
  private static IdForm french() {
    return IdForm.of(
            "FR",
            "social security number",
            "[1-478][0-9]{12}[0-9]{2}",
            places(3, 13),
            places(13, 15),
            text -> Birth.put(text, 13, (int) (97 - Long.parseLong(text.substring(0, 13)) % 97)))
        .given(
            text ->
                within(text, 3, 2, 1, 12)
                    && within(text, 5, 2, 1, 95)
                    && number(text, 5, 2) != 20
                    && within(text, 7, 3, 1, 990)
                    && within(text, 10, 3, 1, 999));
  }

  private static boolean within(String text, int at, int length, int least, int most) {
    int number = number(text, at, length);
    return number >= least && number <= most;
  }

  /** The letters of the name become others, vowels vowels; they know nothing of the masked name. */
  private static IdForm italian(LocalDate asOf) {
    int[] odd = {
      1, 0, 5, 7, 9, 13, 15, 17, 19, 21, 2, 4, 18, 20, 11, 3, 6, 8, 12, 14, 16, 10, 22, 25, 24, 23
    };
    return IdForm.of(
            "IT",
            "codice fiscale",
            "[A-Z]{6}[0-9]{2}[A-EHLMPR-T][0-9]{2}[A-Z][0-9]{3}[A-Z]",
            new int[] {0, 1, 2, 3, 4, 5, 12, 13, 14},
            places(15, 16),
            text -> {
              int sum = 0;
              for (int i = 0; i < 15; i++) {
                char c = text.charAt(i);
                int index = c >= 'A' ? c - 'A' : c - '0';
                sum += i % 2 == 0 ? odd[index] : index;
              }
              return text.substring(0, 15) + (char) ('A' + sum % 26);
            })
        .letters("ABCDEFGHIJKLMNOPQRSTUVWXYZ")
        .born(
            new Birth() {
              @Override
              public LocalDate read(String text) {
                int day = Birth.two(text, 9);
                int year = Birth.two(text, 6);
                return Birth.day(
                    year + (year <= asOf.getYear() % 100 ? 2000 : 1900),
                    MONTHS.indexOf(text.charAt(8)) + 1,
                    day > 40 ? day - 40 : day);
              }

              @Override
              public String write(String text, LocalDate day) {
                int more = Birth.two(text, 9) > 40 ? 40 : 0;
                String out = Birth.put(text, 6, day.getYear());
                out = Birth.put(out, 9, day.getDayOfMonth() + more);
                return out.substring(0, 8)
                    + MONTHS.charAt(day.getMonthValue() - 1)
                    + out.substring(9);
              }
            });
  }

  private static IdForm spanish() {
    return IdForm.of(
            "ES",
            "DNI or NIE",
            "[0-9XYZ][0-9]{7}[A-Z]",
            places(1, 8),
            places(8, 9),
            text -> {
              String digits =
                  text.substring(0, 8).replace('X', '0').replace('Y', '1').replace('Z', '2');
              return text.substring(0, 8) + SPANISH.charAt(Integer.parseInt(digits) % 23);
            })
        .letters(SPANISH);
  }

  private static IdForm swiss() {
    return IdForm.of(
        "CH",
        "AHV number",
        "756[0-9]{10}",
        places(3, 12),
        places(12, 13),
        text -> last(text, (10 - weighted(text, 1, 3, 1, 3, 1, 3, 1, 3, 1, 3, 1, 3) % 10) % 10));
  }

  private static IdForm britishInsurance() {
    return IdForm.of(
            "GB",
            "national insurance number",
            "[A-Z]{2}[0-9]{6}[A-D]",
            places(0, 8),
            new int[0],
            text -> text)
        .given(
            text ->
                "DFIQUV".indexOf(text.charAt(0)) < 0
                    && "DFIOQUV".indexOf(text.charAt(1)) < 0
                    && !List.of("BG", "GB", "KN", "NK", "NT", "TN", "ZZ")
                        .contains(text.substring(0, 2)));
  }

  private static IdForm british() {
    return IdForm.of(
        "GB",
        "NHS number",
        "[0-9]{10}",
        places(0, 9),
        places(9, 10),
        text -> last(text, (11 - weighted(text, 10, 9, 8, 7, 6, 5, 4, 3, 2) % 11) % 11));
  }

  private static IdForm dutch() {
    return IdForm.of(
        "NL",
        "citizen service number",
        "[0-9]{9}",
        places(0, 8),
        places(8, 9),
        text -> last(text, weighted(text, 9, 8, 7, 6, 5, 4, 3, 2) % 11));
  }

  private static IdForm brazilian() {
    return IdForm.of(
        "BR",
        "CPF",
        "[0-9]{11}",
        places(0, 9),
        places(9, 11),
        text -> {
          int first = weighted(text, 10, 9, 8, 7, 6, 5, 4, 3, 2) * 10 % 11 % 10;
          String with = text.substring(0, 9) + first + text.charAt(10);
          return last(with, weighted(with, 11, 10, 9, 8, 7, 6, 5, 4, 3, 2) * 10 % 11 % 10);
        });
  }

  /** One digit comes two or three times among the first ten. */
  private static IdForm german() {
    return IdForm.of(
            "DE",
            "tax identification number",
            "[1-9][0-9]{10}",
            places(0, 10),
            places(10, 11),
            text -> {
              int product = 10;
              for (int i = 0; i < 10; i++) {
                int sum = (digit(text, i) + product) % 10;
                product = (sum == 0 ? 10 : sum) * 2 % 11;
              }
              return last(text, (11 - product) % 10);
            })
        .given(
            text -> {
              long different = text.substring(0, 10).chars().distinct().count();
              return different == 8 || different == 9;
            });
  }

  private static IdForm american() {
    return IdForm.of(
            "US", "social security number", "[0-9]{9}", places(0, 9), new int[0], text -> text)
        .given(
            text ->
                !text.startsWith("000")
                    && !text.startsWith("666")
                    && text.charAt(0) != '9'
                    && !text.startsWith("00", 3)
                    && !text.endsWith("0000"));
  }
}
