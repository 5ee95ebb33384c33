package yemble.core.official;

import static yemble.core.digits.CheckDigits.day;
import static yemble.core.digits.CheckDigits.digit;
import static yemble.core.digits.CheckDigits.luhn;
import static yemble.core.digits.CheckDigits.weighted;
import static yemble.core.digits.CheckDigits.wrongUnless;
import static yemble.core.official.NumberForm.ELEVEN;
import static yemble.core.official.NumberForm.NO_DAY;
import static yemble.core.official.NumberForm.Sort.NATIONAL;
import static yemble.core.official.NumberForm.Sort.TAX;
import static yemble.core.official.Permuted.places;

import java.time.LocalDate;
import java.util.List;

/** The official numbers of southern Europe and Turkey. */
final class SouthernForms {
  private static final String SPANISH = "TRWAGMYFPDXBNJZSQVHLCKE";
  private static final String LETTERS = "LMNPQRSTUV";
  private static final int[] REPLACED = {6, 7, 9, 10, 12, 13, 14};
  private static final String MONTHS = "ABCDEHLMPRST";

  private SouthernForms() {}

  static NumberForm italian() {
    return NumberForm.of(
            NATIONAL,
            "IT",
            "codice fiscale",
            "Ministero delle Finanze, D.M. 23/12/1976",
            "[A-Z]{6}[0-9LMNPQRSTUV]{2}[ABCDEHLMPRST][0-9LMNPQRSTUV]{2}[A-Z][0-9LMNPQRSTUV]{3}[A-Z]",
            "[A-Za-z]{6} ?[0-9A-Za-z]{5} ?[A-Za-z][0-9A-Za-z]{3}[A-Za-z]",
            s -> wrongUnless(s.equals(italianChecked(s))))
        .permuted(asOf -> List.of(permutedItalian(asOf), permutedReplaced(asOf)));
  }

  /** The letters of the name become others, vowels vowels; they know nothing of the masked name. */
  private static Permuted permutedItalian(LocalDate asOf) {
    return Permuted.of(
            0,
            "codice fiscale",
            "[A-Z]{6}[0-9]{2}[A-EHLMPR-T][0-9]{2}[A-Z][0-9]{3}[A-Z]",
            new int[] {0, 1, 2, 3, 4, 5, 12, 13, 14},
            places(15, 16),
            SouthernForms::italianChecked)
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

  /** Digits that are letters, since somebody has the same number; these stay letters. */
  private static Permuted permutedReplaced(LocalDate asOf) {
    Birth digits = permutedItalian(asOf).birth();
    return Permuted.of(
            1,
            "codice fiscale with letters for digits",
            "[A-Z]{6}[0-9LMNPQRSTUV]{2}[A-EHLMPR-T][0-9LMNPQRSTUV]{2}[A-Z][0-9LMNPQRSTUV]{3}[A-Z]",
            places(0, 6),
            places(15, 16),
            SouthernForms::italianChecked)
        .letters("ABCDEFGHIJKLMNOPQRSTUVWXYZ")
        .born(
            new Birth() {
              @Override
              public LocalDate read(String text) {
                return digits.read(withDigits(text));
              }

              @Override
              public String write(String text, LocalDate day) {
                char[] out = digits.write(withDigits(text), day).toCharArray();
                for (int at : REPLACED) {
                  boolean letter = text.charAt(at) > '9';
                  out[at] = letter ? LETTERS.charAt(out[at] - '0') : out[at];
                }
                return new String(out);
              }
            });
  }

  private static String withDigits(String text) {
    char[] out = text.toCharArray();
    for (int at : REPLACED) {
      int digit = LETTERS.indexOf(out[at]);
      out[at] = digit < 0 ? out[at] : (char) ('0' + digit);
    }
    return new String(out);
  }

  static NumberForm spanish() {
    return NumberForm.of(
            NATIONAL,
            "ES",
            "DNI or NIE",
            "Ministerio del Interior: the letter at the remainder by 23; X, Y, Z of foreigners as 0, 1, 2",
            "[0-9XYZ][0-9]{7}[A-Z]",
            "[0-9XYZ]?[ .-]?[0-9]{1,2}\\.?[0-9]{3}\\.?[0-9]{3}[ -]?[A-Z]",
            s -> wrongUnless(s.equals(spanishChecked(s))))
        .permuted(asOf -> List.of(permutedSpanish()));
  }

  private static Permuted permutedSpanish() {
    return Permuted.of(
            2,
            "DNI or NIE",
            "[0-9XYZ][0-9]{7}[A-Z]",
            places(1, 8),
            places(8, 9),
            SouthernForms::spanishChecked)
        .letters(SPANISH);
  }

  private static String spanishChecked(String text) {
    String digits = text.substring(0, 8).replace('X', '0').replace('Y', '1').replace('Z', '2');
    return text.substring(0, 8) + SPANISH.charAt(Integer.parseInt(digits) % 23);
  }

  static NumberForm portuguese() {
    return NumberForm.of(
            TAX,
            "PT",
            "NIF",
            "Autoridade Tributária: modulus 11, weights 9 to 2",
            "[1-35689][0-9]{8}",
            "[0-9]{3} ?[0-9]{3} ?[0-9]{3}",
            s -> {
              int rest = weighted(s, 9, 8, 7, 6, 5, 4, 3, 2) % 11;
              return wrongUnless((rest < 2 ? 0 : 11 - rest) == digit(s, 8));
            })
        .solved(18, "[1-35689][0-9]{8}", places(1, 8), 8, Permuted.DIGITS, (way, asOf) -> way);
  }

  static NumberForm turkish() {
    return NumberForm.of(
            NATIONAL,
            "TR",
            "identity number",
            "Nüfus ve Vatandaşlık İşleri",
            "[1-9][0-9]{10}",
            ELEVEN,
            s -> wrongUnless(s.equals(turkishChecked(s))))
        .permuted(
            asOf ->
                List.of(
                    Permuted.of(
                        9,
                        "identity number",
                        "[1-9][0-9]{10}",
                        places(0, 9),
                        places(9, 11),
                        SouthernForms::turkishChecked)));
  }

  private static String turkishChecked(String s) {
    int odd = digit(s, 0) + digit(s, 2) + digit(s, 4) + digit(s, 6) + digit(s, 8);
    int even = digit(s, 1) + digit(s, 3) + digit(s, 5) + digit(s, 7);
    int tenth = Math.floorMod(odd * 7 - even, 10);
    return s.substring(0, 9) + tenth + (odd + even + tenth) % 10;
  }

  static NumberForm greek() {
    return NumberForm.of(
            NATIONAL,
            "GR",
            "AMKA",
            "Law 3655/2008: day of birth, Luhn over all",
            ELEVEN,
            ELEVEN,
            s ->
                day(s.substring(4, 6) + s.substring(2, 4) + s.substring(0, 2), 0)
                    ? wrongUnless(luhn(s))
                    : NO_DAY)
        .solved(
            11,
            "[0-9]{11}",
            places(6, 10),
            10,
            Permuted.DIGITS,
            (way, asOf) ->
                way.born(Birth.at(4, 2, 0, Birth.latest(4, asOf)))
                    .alike((before, after) -> Permuted.sameParity(before, after, 9)));
  }

  private static String italianChecked(String text) {
    int[] odd = {
      1, 0, 5, 7, 9, 13, 15, 17, 19, 21, 2, 4, 18, 20, 11, 3, 6, 8, 12, 14, 16, 10, 22, 25, 24, 23
    };
    int sum = 0;
    for (int i = 0; i < 15; i++) {
      char c = text.charAt(i);
      int index = c >= 'A' ? c - 'A' : c - '0';
      sum += i % 2 == 0 ? odd[index] : index;
    }
    return text.substring(0, 15) + (char) ('A' + sum % 26);
  }
}
