package yemble.core.official;

import static yemble.core.digits.CheckDigits.digit;
import static yemble.core.digits.CheckDigits.luhn;
import static yemble.core.digits.CheckDigits.weighted;
import static yemble.core.digits.CheckDigits.wrongUnless;
import static yemble.core.official.NumberForm.ELEVEN;
import static yemble.core.official.NumberForm.NEVER_ISSUED;
import static yemble.core.official.NumberForm.Sort.NATIONAL;
import static yemble.core.official.NumberForm.Sort.TAX;
import static yemble.core.official.Permuted.last;
import static yemble.core.official.Permuted.places;

import java.util.List;

/** The official numbers of the Americas. */
final class AmericanForms {
  private static final String CHILEAN = "0123456789K";

  private AmericanForms() {}

  static NumberForm american() {
    return NumberForm.of(
            NATIONAL,
            "US",
            "social security number",
            "Social Security Administration, \"Social Security Number Randomization\" (2011): no check digit; areas 000, 666 and 900-999, group 00 and serial 0000 are never issued",
            "[0-9]{9}",
            "[0-9]{3}[- ][0-9]{2}[- ][0-9]{4}",
            AmericanForms::neverIssued)
        .permuted(asOf -> List.of(permutedAmerican()));
  }

  private static Permuted permutedAmerican() {
    return Permuted.of(
            19, "social security number", "[0-9]{9}", places(0, 9), new int[0], text -> text)
        .given(text -> neverIssued(text) == null);
  }

  private static String neverIssued(String text) {
    if (text.startsWith("000") || text.startsWith("666") || text.charAt(0) == '9') {
      return NEVER_ISSUED;
    }
    return text.startsWith("00", 3) || text.endsWith("0000") ? "part of zeros" : null;
  }

  static NumberForm brazilian() {
    return NumberForm.of(
            NATIONAL,
            "BR",
            "CPF",
            "Receita Federal: two digits by modulus 11",
            ELEVEN,
            "[0-9]{3}\\.?[0-9]{3}\\.?[0-9]{3}[-/]?[0-9]{2}",
            s -> {
              return s.chars().distinct().count() == 1
                  ? "one digit only"
                  : wrongUnless(s.equals(brazilianChecked(s)));
            })
        .permuted(asOf -> List.of(permutedBrazilian()));
  }

  private static Permuted permutedBrazilian() {
    return Permuted.of(
        9, "CPF", "[0-9]{11}", places(0, 9), places(9, 11), AmericanForms::brazilianChecked);
  }

  private static String brazilianChecked(String text) {
    int first = weighted(text, 10, 9, 8, 7, 6, 5, 4, 3, 2) * 10 % 11 % 10;
    String with = text.substring(0, 9) + first + text.charAt(10);
    return last(with, weighted(with, 11, 10, 9, 8, 7, 6, 5, 4, 3, 2) * 10 % 11 % 10);
  }

  static NumberForm argentine() {
    return NumberForm.of(
            TAX,
            "AR",
            "CUIT or CUIL",
            "AFIP: modulus 11, weights 5 4 3 2 7 6 5 4 3 2",
            "(?:20|23|24|27|30|33|34)[0-9]{9}",
            "[0-9]{2}-?[0-9]{8}-?[0-9]",
            s ->
                wrongUnless(
                    (11 - weighted(s, 5, 4, 3, 2, 7, 6, 5, 4, 3, 2) % 11) % 11 == digit(s, 10)))
        .solved(
            12,
            "[23][03467][0-9]{9}",
            places(2, 10),
            10,
            Permuted.DIGITS,
            (way, asOf) ->
                way.given(
                    text ->
                        !text.startsWith("26")
                            && !text.startsWith("36")
                            && !text.startsWith("37")));
  }

  static NumberForm chilean() {
    return NumberForm.of(
            NATIONAL,
            "CL",
            "RUT",
            "Registro Civil: modulus 11, the check digit may be a K",
            "[0-9]{7,8}[0-9K]",
            "[0-9]{1,2}\\.?[0-9]{3}\\.?[0-9]{3}-[0-9Kk]",
            s -> {
              int sum = 0;
              for (int i = s.length() - 2, weight = 2;
                  i >= 0;
                  i--, weight = weight == 7 ? 2 : weight + 1) {
                sum += digit(s, i) * weight;
              }
              return wrongUnless("0K987654321".charAt(sum % 11) == s.charAt(s.length() - 1));
            })
        .solved(16, "[0-9]{7}[0-9K]", places(0, 7), 7, CHILEAN, (way, asOf) -> way)
        .solved(18, "[0-9]{8}[0-9K]", places(0, 8), 8, CHILEAN, (way, asOf) -> way);
  }

  static NumberForm mexican() {
    return NumberForm.of(
            NATIONAL,
            "MX",
            "CURP",
            "RENAPO, Instructivo normativo CURP",
            "[A-Z]{4}[0-9]{6}[HMX][A-Z]{5}[0-9A-Z][0-9]",
            "[A-Z]{4}[0-9]{6}[A-Z0-9]{8}",
            AmericanForms::mexican)
        .solved(
            3,
            "[A-Z]{4}[0-9]{6}[HMX][A-Z]{5}[0-9A-Z][0-9]",
            new int[] {0, 1, 2, 3, 13, 14, 15},
            17,
            Permuted.DIGITS,
            (way, asOf) ->
                way.born(Birth.at(4, 6, 8, text -> text.charAt(16) <= '9' ? 1900 : 2000)));
  }

  static NumberForm canadian() {
    return NumberForm.of(
            NATIONAL,
            "CA",
            "social insurance number",
            "Employment and Social Development Canada: Luhn; none begins with 8",
            "[0-9]{9}",
            "[0-9]{3}[- ][0-9]{3}[- ][0-9]{3}",
            s -> s.charAt(0) == '8' ? NEVER_ISSUED : wrongUnless(luhn(s)))
        .solved(18, "[0-79][0-9]{8}", places(1, 8), 8, Permuted.DIGITS, (way, asOf) -> way);
  }

  private static String mexican(String s) {
    int sum = 0;
    for (int i = 0; i < 17; i++) {
      char c = s.charAt(i);
      int value = c >= 'A' ? c - 'A' + (c > 'N' ? 11 : 10) : c - '0';
      sum += value * (18 - i);
    }
    return wrongUnless((10 - sum % 10) % 10 == digit(s, 17));
  }
}
