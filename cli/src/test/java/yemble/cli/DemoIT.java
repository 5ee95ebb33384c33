package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The demo, as a newcomer sees it. */
class DemoIT {
  @TempDir static Path folder;
  private static Program.Result demo;
  private static Sandbox sandbox;

  @BeforeAll
  static void runTheDemo() {
    demo = Program.run(folder, "demo", "ferry");
    sandbox = new Sandbox(folder.resolve("ferry"));
  }

  @Test
  void itShowsEachCommandBeforeItsOutputAndEndsWell() {
    assertThat(demo.exitCode()).as(demo.all()).isZero();
    assertThat(demo.out())
        .containsSubsequence(
            "$ yemble doctor",
            "$ yemble survey",
            "$ yemble register accept",
            "$ yemble register mask",
            "$ yemble register keep --open",
            "$ yemble preview passenger",
            "$ yemble gauge --changes",
            "$ yemble why",
            "$ yemble run --yes",
            "Done: ",
            "$ yemble verify",
            "Everything holds.",
            "yemble init jdbc:sqlite:FILE");
    assertThat(demo.err()).isEmpty();
  }

  @Test
  void surveyFindsEveryPersonalColumn() throws Exception {
    Map<String, String> kinds = new TreeMap<>();
    for (String line : Files.readAllLines(sandbox.file("register.csv"))) {
      String[] fields = line.split(",", -1);
      kinds.put(fields[0], fields[2] + " " + fields[3]);
    }
    Map<String, List<String>> expected =
        Map.of(
            "given-name", List.of("crew.gvn_nm", "passenger.given_name"),
            "family-name", List.of("crew.fam_nm", "passenger.family_name"),
            "full-name",
                List.of(
                    "consignment.sender",
                    "consignment.recipient",
                    "payment.payer",
                    "newsletter.name",
                    "loyalty_member.full_name",
                    "audit_log.actor",
                    "web_session.data $.user.name"),
            "email",
                List.of(
                    "crew.work_email",
                    "passenger.email",
                    "newsletter.email",
                    "loyalty_member.email",
                    "consignment.sender_email",
                    "web_session.data $.user.email"),
            "phone",
                List.of(
                    "crew.phone",
                    "passenger.phone",
                    "loyalty_member.mobile",
                    "consignment.recipient_phone",
                    "web_session.data $.support.callback"),
            "birth-date", List.of("crew.dob", "passenger.birth_date"),
            "national-id", List.of("crew.national_id", "passenger.national_id"),
            "iban", List.of("crew.salary_iban", "payment.iban"),
            "note", List.of("note.body", "booking.remark", "incident.summary"),
            "vehicle-plate", List.of("vehicle.plate", "vehicle_passage.plate"));
    expected.forEach(
        (kind, columns) ->
            columns.forEach(column -> assertThat(kinds).containsEntry(column, kind + " mask")));
    Map<String, String> others =
        Map.of(
            "passenger_address.street", "street-address",
            "passenger_address.city", "city",
            "passenger_address.postcode", "postcode",
            "payment.card_no", "card-number",
            "account.username", "username",
            "web_session.username", "username",
            "account.pwd_hash", "password-hash",
            "web_session.data", "json",
            "crew.sex", "gender",
            "passenger.gender", "gender");
    others.forEach((column, kind) -> assertThat(kinds).containsEntry(column, kind + " mask"));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "no reference is broken | SELECT count(*) FROM pragma_foreign_key_check",
        "no name stays | SELECT count(*) FROM passenger m JOIN live.passenger l USING (id) WHERE m.family_name = l.family_name AND l.family_name <> 'N/A'",
        "no address stays | SELECT count(*) FROM passenger_address m JOIN live.passenger_address l USING (id) WHERE m.street = l.street",
        "no plate stays | SELECT count(*) FROM vehicle WHERE plate IN (SELECT plate FROM live.vehicle)",
        "no hash stays | SELECT count(*) FROM account WHERE pwd_hash IN (SELECT pwd_hash FROM live.account)",
        "no note names its passenger | SELECT count(*) FROM note n JOIN live.passenger p ON p.id = n.subject_id WHERE n.subject = 'P' AND instr(lower(n.body), lower(p.family_name)) > 0 AND instr(lower((SELECT body FROM live.note o WHERE o.id = n.id)), lower(p.family_name)) > 0",
        "every invalid card stays invalid | SELECT count(*) FROM payment m JOIN live.payment l USING (id) WHERE length(m.card_no) <> length(l.card_no)",
        "ages stay | SELECT count(*) FROM passenger m JOIN live.passenger l USING (id) WHERE abs(substr(m.birth_date, 1, 4) - substr(l.birth_date, 1, 4)) > 1",
      })
  void nothingPersonalIsLeft(String what, String sql) throws Exception {
    assertThat(
            sandbox
                .query("dev.db", "ATTACH '" + sandbox.file("live.db") + "' AS live", sql)
                .get(0)
                .get(0))
        .as(what)
        .isEqualTo(0);
  }

  @Test
  void itCanBeRunAgainInItsOwnFolderButInNoOther() {
    Program.Result again = Program.run(folder, "demo", "ferry");
    assertThat(again.exitCode()).isZero();
    Program.Result other = Program.run(folder.getParent(), "demo", folder.toString());
    assertThat(other.exitCode()).isEqualTo(3);
  }

  @ParameterizedTest
  @CsvSource({"postgresql, PostgreSQL", "mariadb, MariaDB"})
  void theDemoOnAServerStartsOneOfItsOwnAndEndsWell(String engine, String named) throws Exception {
    Program.Result result =
        Program.run(
            folder,
            Map.of(),
            Program.commandWithServers("demo", "--engine", engine, "on-" + engine));
    assertThat(result.exitCode()).as(result.all()).isZero();
    assertThat(result.out())
        .containsSubsequence(
            "a " + named + " server of its own",
            "read only",
            "$ yemble run --yes",
            named + " localhost:",
            "Done: 1,9",
            "$ yemble verify",
            "Everything holds.")
        .doesNotContain("fails ");
    assertThat(result.err()).isEmpty();
  }

  @Test
  void anEngineThatTheDemoDoesNotKnowIsRefused() {
    Program.Result result = Program.run(folder, "demo", "--engine", "postgres", "other");
    assertThat(result.exitCode()).isEqualTo(2);
    assertThat(result.err()).contains("unknown engine", "postgresql");
    assertThat(folder.resolve("other").resolve("yemble.yaml")).doesNotExist();
  }
}
