package yemble.core.survey;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.mask.Kinds;
import yemble.core.mask.Recognition;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;

class EvidenceTest {
  @ParameterizedTest
  @CsvSource({
    "passenger, givenName, given-name", "psgr, psgr_fnm, given-name", "crew, fam_nm, family-name",
    "users, LAST_NAME, family-name", "kunde, vorname, given-name", "kunde, nachname, family-name",
    "client, dob, birth-date", "x, dateOfBirth, birth-date", "t, emailAddress, email",
    "t, mobile_no, phone", "t, home_addr, street-address", "t, plz, postcode",
    "pay, card_no, card-number", "pay, salary_iban, iban", "t, pwd_hash, password-hash",
    "t, national_id, national-id", "car, number_plate, vehicle-plate", "log, remark, note"
  })
  void aNameSpeaksForItsKind(String table, String column, String kind) {
    Map<String, Double> evidence = NameEvidence.of(table, column);
    assertThat(evidence).containsKey(kind);
    assertThat(evidence.get(kind)).isGreaterThanOrEqualTo(0.5);
  }

  @ParameterizedTest
  @CsvSource({"vessel, name", "port, name", "product, name", "setting, key_name"})
  void theNameOfAThingIsNoPersons(String table, String column) {
    assertThat(NameEvidence.of(table, column).getOrDefault("full-name", 0.0)).isLessThan(0.3);
    assertThat(NameEvidence.of("customer", "name").get("full-name")).isGreaterThan(0.6);
  }

  @ParameterizedTest
  @CsvSource({
    "booking, amount_cents",
    "sailing, departs_at",
    "route, minutes",
    "t, state",
    "t, version"
  })
  void ordinaryNamesSpeakForNothing(String table, String column) {
    assertThat(NameEvidence.of(table, column)).isEmpty();
  }

  private static Recognition of(String kind) {
    return Recognition.ALL.stream().filter(r -> r.kind().equals(kind)).findFirst().orElseThrow();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "email | ann@site.example | true",
        "email | ann@site | false",
        "email | {\"m\":\"ann@site.example\"} | false",
        "iban | QO14ORLI1234567890123 | false",
        "card-number | 4000001234567899 | true",
        "card-number | 4000001234567890 | false",
        "phone | +990 41 1234567 | true",
        "phone | 0000000 | false",
        "phone | 42 | false",
        "gender | F | true",
        "gender | Q | false",
        "birth-date | 1974-04-29 | true",
        "birth-date | 1874-04-29 | false",
        "json | {\"a\":1} | true",
        "json | {a | false",
        "street-address | 12 Harbour Road | true",
        "street-address | deck 12 | false",
        "full-name | Orla Tidewick | true",
        "full-name | in transit | false",
        "note | spoke to him about it | true",
        "note | done | false",
      })
  void aValueIsRecognised(String kind, String value, boolean accepted) {
    assertThat(of(kind).refusal(value) == null).isEqualTo(accepted);
  }

  @Test
  void aRefusalSaysWhyWithoutTheValue() {
    assertThat(of("card-number").refusal("4000001234567890")).isEqualTo("check digit is wrong");
    assertThat(of("iban").refusal("QO11ORLI1234567890123")).isEqualTo("check digits are wrong");
  }

  @Test
  void everyRecognisedKindExists() {
    assertThat(Recognition.ALL.stream().map(Recognition::kind).collect(Collectors.toSet()))
        .isSubsetOf(Kinds.names());
  }

  private static Finding finding(String column, String kind, double confidence, boolean sure) {
    return new Finding(
        new ColumnName(TableName.of("t"), column),
        "",
        "TEXT",
        kind,
        confidence,
        kind.isEmpty() ? Decision.KEEP : Decision.MASK,
        sure,
        "evidence",
        9,
        9,
        List.of(),
        List.of());
  }

  private static RegisterLine line(String column, String kind, Decision decision, String by) {
    return new RegisterLine("t." + column, "TEXT", kind, decision, "", "", by, "2026-01-01", "", 2);
  }

  @Test
  void whatAPersonDecidedStays() {
    Register before =
        new Register(
            List.of(
                line("a", "", Decision.KEEP, "ann"),
                line("b", "email", Decision.MASK, Merge.SIGNATURE),
                line("gone", "", Decision.KEEP, "ann")));
    Merge merge =
        Merge.of(
            before,
            List.of(
                finding("a", "email", 0.95, true),
                finding("b", "phone", 0.9, true),
                finding("c", "", 0, false)),
            List.of(new Definitions.Found("definition of view v", "email", 1)),
            "2026-02-02");
    assertThat(merge.register().line("t.a").decision()).isEqualTo(Decision.KEEP);
    assertThat(merge.register().line("t.a").by()).isEqualTo("ann");
    assertThat(merge.contradicted()).containsExactly("t.a");
    assertThat(merge.register().line("t.b").kind()).isEqualTo("phone");
    assertThat(merge.added()).containsExactly("t.c", "definition of view v");
    assertThat(merge.register().line("t.c").decision()).isEqualTo(Decision.UNDECIDED);
    assertThat(merge.removed()).containsExactly("t.gone");
  }
}
