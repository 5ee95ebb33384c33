package yemble.core.recognition;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.entry;

import java.time.LocalDate;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.recognition.Verdict.Grade;

class LooksTest {
  private static final LocalDate AS_OF = LocalDate.of(2026, 1, 1);
  private final Looks looks = new Looks(List.of(), AS_OF);

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "email | ann@site.example | KNOWN",
        "email | ann@site | NO",
        "email | {\"m\":\"ann@site.example\"} | NO",
        "iban | QO14ORLI1234567890123 | NO",
        "iban | DE37 9999 9999 0123 4567 89 | KNOWN",
        "card-number | 4000001234567899 | KNOWN",
        "card-number | 4000001234567890 | NO",
        "card-number | 7992739871300000 | NO",
        "phone | +44 7700 900123 | POSSIBLE",
        "phone | +49 30 123456 | KNOWN",
        "phone | 030 123456 | KNOWN",
        "phone | 0000000 | NO",
        "phone | 42 | NO",
        "phone | 2025-06-01 10:00 | NO",
        "phone | 12.50 | NO",
        "phone | 12.04.1974 | NO",
        "username | anna.tidewick | KNOWN",
        "username | smithp | KNOWN",
        "username | psmith77 | KNOWN",
        "username | qx7zk | POSSIBLE",
        "username | anna.jpg | NO",
        "birth-date | 290474 | KNOWN",
        "birth-date | 740429 | KNOWN",
        "birth-date | 993999 | NO",
        "birth-date | 1974 | POSSIBLE",
        "birth-date | 1874 | NO",
        "marital-status | 2 | POSSIBLE",
        "ip-address | 4.5.22.152 | POSSIBLE",
        "ip-address | 10.0.3.7 | KNOWN",
        "gender | F | KNOWN",
        "gender | Q | NO",
        "birth-date | 1974-04-29 | POSSIBLE",
        "birth-date | 1874-04-29 | NO",
        "json | {\"a\":1} | KNOWN",
        "json | {a | NO",
        "street-address | 12 Harbour Road | KNOWN",
        "street-address | Hauptstraße 7 | KNOWN",
        "street-address | rue de la Gare 12 | KNOWN",
        "street-address | away until May | NO",
        "street-address | Backup of host one | NO",
        "full-name | Anna Tidewick | KNOWN",
        "full-name | Tidewick, Anna | KNOWN",
        "full-name | Orlin Tidewick | POSSIBLE",
        "full-name | Harbour Road | NO",
        "full-name | in transit | NO",
        "note | spoke to him about it yesterday | KNOWN",
        "note | done | NO",
        "ip-address | 203.0.113.17 | KNOWN",
        "ip-address | 2001:db8::17 | KNOWN",
        "ip-address | 1.2.3.400 | NO",
        "ip-address | 12:30:00 | NO",
        "mac-address | 00:00:5e:00:53:af | KNOWN",
        "vin | 1M8GDM9AXKP042788 | KNOWN",
        "bic | ORLIQOPP | NO",
        "bic | ORLIDEFFXXX | KNOWN",
        "job-title | Software Engineer | KNOWN",
        "job-title | Krankenpfleger | KNOWN",
        "company | Skerrow Net Works Ltd | KNOWN",
        "blood-group | AB+ | KNOWN",
        "diagnosis | J45.0 | KNOWN",
        "user-agent | Mozilla/5.0 (X11; Linux x86_64) Harbour/12.3 | KNOWN",
        "password-hash | $2b$12$abcdefghijklmnopqrstuuE1b2c3d4e5f6g7h8i9j0k1l2m3n4o5p6 | KNOWN",
        "card-expiry | 09/27 | KNOWN",
      })
  void aValueIsRecognised(String look, String value, Grade grade) {
    assertThat(looks.verdict(look, value).grade()).isEqualTo(grade);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "card-number | 4000001234567890 | check digit is wrong",
        "iban | DE36999999990123456789 | check digits are wrong",
        "phone | +999 1234567 | no such country code",
        "ip-address | 1.2.3.400 | a part above 255",
        "email | ann@site | not a complete address",
      })
  void aRefusalSaysWhyWithoutTheValue(String look, String value, String why) {
    assertThat(looks.verdict(look, value).why()).isEqualTo(why).doesNotContain(value);
  }

  @Test
  void theChecksOfAllKindsExist() {
    for (Kind kind : Kinds.BUILT_IN.all()) {
      if (!kind.look().name().isEmpty()) {
        assertThat(looks.of(kind.look().name())).as(kind.name()).isNotNull();
      }
    }
  }

  @Test
  void aColumnIsOfTheSortThatMostOfItsValuesAre() {
    Hits hits = new Hits();
    for (String value : List.of("36574261809", "36574261809", "12345678901")) {
      hits.weight(1);
      looks.of("tax-number").at(Value.of(value), hits);
    }
    assertThat(hits.sort()).isEqualTo("DE tax identification number");
    assertThat(hits.known()).isEqualTo(2);
  }

  @Test
  void valuesAreRefusedForWhatTheColumnIs() {
    Hits hits = new Hits();
    for (String value : List.of("219-09-9999", "219-09-9998", "666-12-3456")) {
      hits.weight(1);
      looks.of("national-id").at(Value.of(value), hits);
    }
    assertThat(hits.sort()).isEqualTo("US social security number");
    assertThat(hits.refused()).containsOnly(entry("prefix never issued", 1L));
  }

  @Test
  void countriesNarrowWhatIsLookedFor() {
    Looks german = new Looks(List.of("DE"), AS_OF);
    assertThat(german.verdict("tax-number", "36574261809").grade()).isEqualTo(Grade.KNOWN);
    assertThat(german.verdict("national-id", "123-45-6789").hint()).isEqualTo("any form");
  }

  @Test
  void whoIsBornAfterTheProjectsDayIsNotBornYet() {
    Looks later = new Looks(List.of(), AS_OF.plusYears(70));
    for (String day : List.of("2026-03-01", "2071-05-19")) {
      assertThat(looks.verdict("birth-date", day).grade()).as(day).isEqualTo(Verdict.Grade.NO);
      assertThat(later.verdict("birth-date", day).grade())
          .as(day)
          .isEqualTo(Verdict.Grade.POSSIBLE);
    }
  }
}
