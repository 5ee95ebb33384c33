package yemble.core.survey;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Comparator;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.kind.Kinds;
import yemble.core.project.Conventions;

class NameEvidenceTest {
  private final NameEvidence names = new NameEvidence(Conventions.NONE);

  @ParameterizedTest
  @CsvSource({
    "givenName, given-name",
    "psgr_fnm, given-name",
    "fam_nm, family-name",
    "LAST_NAME, family-name",
    "vorname, given-name",
    "nachname, family-name",
    "dob, birth-date",
    "dateOfBirth, birth-date",
    "brthdt, birth-date",
    "emailAddress, email",
    "mobile_no, phone",
    "home_addr, street-address",
    "plz, postcode",
    "card_no, card-number",
    "salary_iban, iban",
    "pwd_hash, password-hash",
    "national_id, national-id",
    "number_plate, vehicle-plate",
    "remark, note",
    "geburtsdatum, birth-date",
    "date_de_naissance, birth-date",
    "fecha_nacimiento, birth-date",
    "codice_fiscale, national-id",
    "numero_de_tarjeta, card-number",
    "apellidos, family-name",
    "data_nascimento, birth-date",
    "geboortedatum, birth-date",
    "nazwisko, family-name",
    "soyadi, family-name",
    "e_mail, email",
    "ipv4, ip-address",
    "kontoinhaber, full-name",
    "StaatsAngehörigkeit, nationality",
    "Staatsangehoerigkeit, nationality",
    "gebjahr, birth-date",
    "famstand, marital-status",
    "nombres_pila, given-name",
    "geraet_id, device-id",
    "kennwort_md5, password-hash",
    "exp_mmyy, card-expiry",
    "förnamn, given-name",
    "efternavn, family-name",
    "fødselsdato, birth-date",
    "henkilötunnus, national-id",
    "rodné_číslo, national-id",
    "PSČ, postcode",
    "număr_telefon, phone",
    "születési_hely, birth-place",
    "seinengappi, birth-date",
    "yubin_bango, postcode",
    "activation_key, secret",
    "face_vec, biometric"
  })
  void aNameSpeaksForItsKind(String column, String kind) {
    Map<String, NameEvidence.Said> said = names.of(column);
    assertThat(said).containsKey(kind);
    assertThat(said.get(kind).strength()).isGreaterThanOrEqualTo(0.5);
    assertThat(
            said.entrySet().stream()
                .max(Comparator.comparingDouble(e -> e.getValue().strength()))
                .orElseThrow()
                .getValue()
                .strength())
        .isEqualTo(said.get(kind).strength());
  }

  @ParameterizedTest
  @CsvSource({
    "email_sent_at, email",
    "phone_type, phone",
    "birth_date_verified, birth-date",
    "is_email_confirmed, email",
    "password_changed_at, password"
  })
  void aNameThatIsAboutAValueSpeaksLess(String column, String kind) {
    assertThat(names.of(column).get(kind).strength()).isLessThan(0.35);
  }

  @ParameterizedTest
  @CsvSource({"amount_cents", "departs_at", "minutes", "qty", "version", "sku"})
  void ordinaryNamesSpeakForNothing(String column) {
    assertThat(names.of(column)).isEmpty();
  }

  @ParameterizedTest
  @CsvSource({"LFPLZ, postcode", "PGEB, birth-date", "LFTEL, phone"})
  void theEndOfShortCapitalsSpeaksALittle(String column, String kind) {
    assertThat(names.ofEnd(column).get(kind).strength()).isBetween(0.2, 0.6);
    assertThat(names.ofEnd(column.toLowerCase())).isEmpty();
  }

  @ParameterizedTest
  @CsvSource({
    "kennwort_regel, password",
    "salary_review_month, salary",
    "memory_address, street-address",
    "gehaltsgruppe_id, salary"
  })
  void aNameOfARuleOrAThingSpeaksLess(String column, String kind) {
    NameEvidence.Said said = names.of(column).get(kind);
    assertThat(said == null ? 0 : said.strength()).isLessThan(0.6);
  }

  @Test
  void everyKindIsSpokenForByItsOwnName() {
    for (String kind : Kinds.BUILT_IN.names()) {
      if (!kind.equals("various")) { // The column beside it tells, and no name.
        assertThat(names.of(kind.replace('-', '_'))).as(kind).containsKey(kind);
      }
    }
  }

  @Test
  void everyPhraseIsOfAKindThatExists() {
    assertThat(Kinds.signs()).allMatch(sign -> Kinds.BUILT_IN.of(sign.kind()).isPresent());
  }
}
