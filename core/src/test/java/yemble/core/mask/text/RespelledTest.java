package yemble.core.mask.text;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.core.crypto.SecretKey;
import yemble.core.kind.Kinds;
import yemble.core.mask.Masks;

/** What a row holds is replaced in its texts by the very same, however the text spells it. */
class RespelledTest {
  private static final SecretKey KEY =
      SecretKey.parse("b3JsaXNheS1mZXJyaWVzLWRlbW8ta2V5LTAwMDAwMDE").orElseThrow();

  private static Masks masks(String... countries) {
    return new Masks(
        new Masks.Terms(
            KEY, KEY, LocalDate.of(2026, 1, 1), Kinds.BUILT_IN, Map.of(), Set.of(countries)));
  }

  private static String masked(Masks masks, String kind, String value, String text) {
    Mentions row = new Mentions();
    row.add(kind, value);
    return masks.text().apply(text, row);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "07700 900123",
        "(07700) 900-123",
        "+44 7700 900123",
        "0044 7700 900 123",
        "7700.900.123"
      })
  void telephoneNumbersInAnySpelling(String spelled) {
    Masks masks = masks();
    String own = masks.of("phone").apply("+447700900123");
    String text = masked(masks, "phone", "+447700900123", "ring " + spelled + ", after 5");
    assertThat(text.replaceAll("[^0-9]", ""))
        .isEqualTo(
            spelled.replaceAll("[^0-9]", "").replaceAll(".{7}$", own.substring(own.length() - 7))
                + "5");
    assertThat(text.replaceAll("[0-9]", "0"))
        .isEqualTo("ring " + spelled.replaceAll("[0-9]", "0") + ", after 0");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "12.03.1984",
        "12/3/1984",
        "03/12/1984",
        "3-12-84",
        "12.03.84",
        "1984/03/12",
        "12 March 1984",
        "12th of March 1984",
        "March 12, 1984",
        "12. März 1984",
        "12 de marzo de 1984",
        "12 mars 1984",
        "12 Mar 1984",
        "12 MARCH 1984"
      })
  void daysInAnySpelling(String spelled) {
    Masks masks = masks();
    LocalDate own = LocalDate.parse(masks.of("birth-date").apply("1984-03-12"));
    assertThat(own).isNotEqualTo(LocalDate.of(1984, 3, 12));
    String text = masked(masks, "birth-date", "1984-03-12", "born " + spelled + "; 12.03.1985");
    assertThat(text).doesNotContain(spelled).endsWith("; 12.03.1985");
    String day = Integer.toString(own.getDayOfMonth());
    assertThat(text).containsPattern("(?<![0-9])0?" + day + "(?![0-9])");
    if (spelled.contains("March")) {
      assertThat(text).contains(own.format(DateTimeFormatter.ofPattern("MMMM", Locale.ENGLISH)));
    }
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "12 Harbour Street",
        "12, harbour street",
        "Harbour Street 12",
        "12 Harbour St.",
        "12 HARBOUR ST"
      })
  void streetAddressesInAnySpelling(String spelled) {
    Masks masks = masks();
    for (String value : new String[] {"12 Harbour Street", "12 Harbour Street, Flat 3"}) {
      String text = masked(masks, "street-address", value, "lives at " + spelled + " since May");
      assertThat(text).doesNotContainIgnoringCase("harbour").endsWith(" since May");
    }
    assertThat(masked(masks, "street-address", "12 Harbour Street", "at 14 Harbour Street, 12 pm"))
        .isEqualTo("at 14 Harbour Street, 12 pm");
    assertThat(masked(masks, "street-address", "Hafenstraße 7", "wohnt Hafenstr. 7."))
        .doesNotContain("Hafen");
  }

  @Test
  void numbersInNationalFormWhereACountryIsKnown() {
    String text = "ring 415-555-0132 or (415) 555 0199, order 12-345, at 10.30, on 2025-06-01";
    assertThat(masks().text().apply(text)).isEqualTo(text);
    assertThat(masks("US").text().apply(text))
        .doesNotContain("555-0132", "555 0199")
        .endsWith("order 12-345, at 10.30, on 2025-06-01");
  }
}
