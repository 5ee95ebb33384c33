package yemble.core.official;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * The numbers are those that the states print in their own instructions as examples, or that
 * textbooks on check digits use: nobody has them.
 */
class NumberFormsTest {
  private static NumberForm id(String country, String name) {
    return NumberForms.ALL.stream()
        .filter(id -> id.country().equals(country) && id.name().equals(name))
        .findFirst()
        .orElseThrow();
  }

  @ParameterizedTest
  @CsvSource({
    "DE, tax identification number, 36574261809",
    "FR, social security number, 255081416802538",
    "IT, codice fiscale, RSSMRA85T10A562S",
    "ES, DNI or NIE, 12345678Z",
    "ES, DNI or NIE, X1234567L",
    "BE, national register number, 85073003328",
    "NL, citizen service number, 111222333",
    "PL, PESEL, 44051401359",
    "TR, identity number, 10000000146",
    "SE, personal number, 8112289874",
    "FI, personal identity code, 131052308T",
    "CH, AHV number, 7569217076985",
    "AT, insurance number, 1237010180",
    "EE, personal code, 37605030299",
    "BG, EGN, 7523169263",
    "SI, unique master citizen number, 0101006500006",
    "IS, kennitala, 1201743399",
    "BR, CPF, 52998224725",
    "CL, RUT, 123456785",
    "MX, CURP, BOXW310820HNERXN09",
    "IN, Aadhaar number, 234123412346",
    "CN, resident identity number, 11010519491231002X",
    "ZA, identity number, 8001015009087",
    "AU, tax file number, 123456782",
    "CA, social insurance number, 046454286",
    "SG, NRIC or FIN, S1234567D",
    "HK, identity card, A1234563",
    "TW, national identification number, A123456789",
    "GB, NHS number, 9434765919",
    "US, social security number, 219099999"
  })
  void whatIsPrintedAsAnExampleIsRight(String country, String name, String number) {
    assertThat(id(country, name).refusal(number)).isNull();
  }

  @Test
  void thirtyCountriesAndMore() {
    Set<String> countries =
        NumberForms.ALL.stream()
            .filter(id -> id.sort() == NumberForm.Sort.NATIONAL)
            .map(NumberForm::country)
            .collect(Collectors.toSet());
    assertThat(countries).hasSizeGreaterThanOrEqualTo(30);
  }

  @Test
  void eachFormIsSaidOnceAndWhoPublishesIt() {
    assertThat(NumberForms.ALL)
        .extracting(form -> form.country() + " " + form.name())
        .doesNotHaveDuplicates();
    assertThat(NumberForms.ALL).allMatch(form -> form.source().length() > 10);
  }

  /** What masks hold for right, recognition does: the two sides of a record agree. */
  @Test
  void whatMasksMakeIsRecognised() {
    Random random = new Random(7);
    for (NumberForm form : NumberForms.ALL) {
      for (Permuted way : form.permutations().apply(LocalDate.of(2026, 1, 1))) {
        List<String> places = IntStream.range(0, way.length()).mapToObj(way.form()::at).toList();
        int looked = 0;
        for (int i = 0; i < 40_000 && looked < 200; i++) {
          String text =
              places.stream()
                  .map(may -> may.substring(random.nextInt(may.length())).substring(0, 1))
                  .collect(Collectors.joining());
          String right = way.form().matches(text) ? way.checked().apply(text) : null;
          if (right != null && way.fits(right)) {
            assertThat(form.refusal(right.replaceAll("[-+]", "")))
                .as(form.name() + " " + right)
                .isNull();
            looked++;
          }
        }
        assertThat(looked).as(form.name() + " " + way.rank()).isPositive();
      }
    }
  }

  /** Of all numbers that differ in the last place alone, at the most two are right: a check. */
  @Test
  void mostNumbersAreRefused() {
    Set<String> withoutCheckDigit =
        Set.of(
            "US social security number",
            "GB national insurance number",
            "DK CPR number",
            "LV personal code",
            "IN PAN",
            "MY identity card");
    Random random = new Random(6);
    for (NumberForm id : NumberForms.ALL) {
      String name = id.country() + " " + id.name();
      if (withoutCheckDigit.contains(name)) {
        continue;
      }
      int looked = 0;
      int right = 0;
      for (int i = 0; i < 12_000; i++) {
        String number = of(id, random);
        if (id.form().matcher(number).matches()) {
          looked++;
          right += id.check().apply(number) == null ? 1 : 0;
        }
      }
      assertThat(looked).as(name).isPositive();
      assertThat((double) right / looked).as(name).isLessThan(0.16);
    }
  }

  /** A text that has a chance to be of an id's form: letters and digits where it has them. */
  private static String of(NumberForm id, Random random) {
    String written = id.form().pattern();
    StringBuilder text = new StringBuilder();
    int at = 0;
    while (at < written.length()) {
      char c = written.charAt(at);
      if (c == '[') {
        int end = written.indexOf(']', at);
        String set = expanded(written.substring(at + 1, end));
        int times = 1;
        at = end + 1;
        if (at < written.length() && written.charAt(at) == '{') {
          int close = written.indexOf('}', at);
          String[] bounds = written.substring(at + 1, close).split(",");
          times = Integer.parseInt(bounds[bounds.length - 1]);
          at = close + 1;
        } else if (at < written.length() && written.charAt(at) == '?') {
          times = random.nextInt(2);
          at++;
        }
        for (int i = 0; i < times; i++) {
          text.append(set.charAt(random.nextInt(set.length())));
        }
      } else if (c == '(') {
        int end = written.indexOf(')', at);
        String[] choices = written.substring(at + 3, end).split("\\|");
        String choice = choices[random.nextInt(choices.length)];
        at = end + 1;
        boolean optional = at < written.length() && written.charAt(at) == '?';
        at += optional ? 1 : 0;
        if (choice.startsWith("[")) {
          choice = "" + random.nextInt(10) + random.nextInt(10);
        }
        text.append(optional && random.nextBoolean() ? "" : choice);
      } else {
        text.append(c);
        at++;
      }
    }
    return text.toString();
  }

  private static String expanded(String set) {
    StringBuilder all = new StringBuilder();
    for (int i = 0; i < set.length(); i++) {
      if (i + 2 < set.length() && set.charAt(i + 1) == '-') {
        for (char c = set.charAt(i); c <= set.charAt(i + 2); c++) {
          all.append(c);
        }
        i += 2;
      } else {
        all.append(set.charAt(i));
      }
    }
    return all.toString();
  }
}
