package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What survey and register show and decide, by the built program. */
class SurveyIT {
  @TempDir Path folder;
  private Sandbox sandbox;

  @BeforeEach
  void ready() throws Exception {
    sandbox = new Sandbox(folder).quick();
    List<String> sql =
        new ArrayList<>(
            List.of(
                "BEGIN",
                "CREATE TABLE staff (id INTEGER PRIMARY KEY, vorname TEXT, e_mail TEXT, card_no TEXT,"
                    + " locker TEXT, diagnosis TEXT, tier TEXT, letter TEXT)",
                "CREATE TABLE pier (code TEXT PRIMARY KEY, name TEXT, opened DATE)"));
    for (int i = 0; i < 60; i++) {
      sql.add(
          "INSERT INTO staff VALUES ("
              + i
              + ", '"
              + List.of("Anna", "Peter", "Klaus").get(i % 3)
              + "', 'person"
              + i
              + (i % 10 == 0 ? "" : "@site.example")
              + "', '"
              + (i % 2 == 0
                  ? "4000001234567899"
                  : "400000123456789" + List.of(0, 1, 2, 3).get(i % 4))
              + "', '"
              + (char) ('A' + i % 5)
              + "-"
              + (100 + i)
              + "', 'migraine', '"
              + List.of("blue", "gold").get(i % 2)
              + "', '<l><to mail=\"p"
              + i
              + "@site.example\">x</to></l>')");
    }
    sql.add("INSERT INTO pier VALUES ('N', 'North Pier', '1990-01-01')");
    sql.add("COMMIT");
    sandbox.sql("live.db", sql.toArray(String[]::new));
    sandbox.key(Sandbox.KEY);
    sandbox.write("yemble.yaml", Sandbox.PROJECT);
  }

  private String good(String... args) {
    Program.Result result = sandbox.yemble(args);
    assertThat(result.exitCode()).as(result.all()).isZero();
    return result.out();
  }

  private String refused(int code, String... args) {
    Program.Result result = sandbox.yemble(args);
    assertThat(result.exitCode()).as(result.all()).isEqualTo(code);
    return result.err();
  }

  @Test
  void evidenceIsShownWithoutValues() throws Exception {
    String overview = good("survey");
    assertThat(overview)
        .contains("11 columns in 2 tables", "1 email", "1 card-number", "Undecided:")
        .doesNotContain("4000001234567899", "person3@", "Anna");
    String card = good("survey", "staff.card_no");
    assertThat(card)
        .contains("card-number", "its name says \"card", ": check digit is wrong", "beside")
        .doesNotContain("4000001234567");
    assertThat(good("survey", "staff"))
        .contains("XML that holds $.l.to['@mail'] email", "staff.vorname", "given-name");
    try (var files = Files.walk(folder.resolve(".yemble"))) {
      for (Path file : files.filter(Files::isRegularFile).toList()) {
        assertThat(Files.readString(file)).doesNotContain("4000001234567899", "person3@", "Anna");
      }
    }
  }

  @Test
  void valuesAreShownWhereSomebodyAsksForThem() {
    assertThat(refused(2, "survey", "--show-values")).contains("--show-values needs a table");
    assertThat(good("survey", "staff.card_no", "--show-values"))
        .contains("such as     4000001234567899", "but not     400000123456789");
  }

  @Test
  void aPageNeedsNoNetworkAndHoldsNoValue() throws Exception {
    sandbox.sql("live.db", "CREATE TABLE \"x</script>\" (a TEXT)");
    good("survey", "--page", sandbox.file("map.html").toString());
    assertThat(sandbox.read("map.html"))
        .doesNotContain("x</script>")
        .contains("staff", "card-number", "echarts", "default-src 'none'")
        .doesNotContain("src=\"http", "href=\"http", "{{", "4000001234567899", "person3@");
    assertThat(refused(4, "survey", "--page", "no/such/folder/map.html"))
        .contains("there is no folder for this file");
  }

  @Test
  void aProjectHasRulesKindsAndABaselineOfItsOwn() throws Exception {
    sandbox.write(
        "house.yaml",
        """
        version: 1
        kinds:
          locker-code: { category: identity, holds: the number of a locker }
        masks:
          locker-code: { as: shape }
        survey:
          off: [health]
          rules:
            lockers: { kind: locker-code, pattern: '[A-Z]-[0-9]{3}', at-least: 90% }
        """);
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT
            + """
            use: [house.yaml]
            survey:
              rules:
                tiers: { kind: social-handle, names: [tier] }
            """);
    good("survey");
    assertThat(sandbox.read("register.csv"))
        .contains("staff.locker,TEXT,locker-code,mask", "staff.tier,TEXT,social-handle")
        .contains("staff.diagnosis,TEXT,,");
    assertThat(good("masks", "locker-code")).contains("house.yaml:5:3");
    assertThat(good("masks", "try", "locker-code", "A-100")).containsPattern("[A-Z]-[0-9]{3}");
    sandbox.write("house.yaml", "version: 1\nkinds:\n  locker-code: { colour: red }\n");
    assertThat(refused(2, "survey")).contains("house.yaml:3:18", "unknown word \"colour\"");
    Files.delete(folder.resolve("house.yaml"));
    assertThat(refused(2, "survey")).contains("there is no baseline house.yaml", "yemble.yaml:");
  }

  @Test
  void aPatternThatWouldHangElsewhereDoesNot() throws Exception {
    sandbox.sql(
        "live.db",
        "UPDATE staff SET tier = 'aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa!'");
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT + "survey:\n  rules:\n    slow: { kind: note, pattern: '(a+)+' }\n");
    good("survey");
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT + "survey:\n  rules:\n    bad: { kind: note, pattern: '(a' }\n");
    assertThat(refused(2, "survey")).contains("yemble.yaml:12:33", "this is no pattern");
  }

  @Test
  void theRegisterIsFilteredAndDecidedInBulk() throws Exception {
    good("survey");
    assertThat(good("register", "--category", "finance"))
        .contains("staff.card_no", "1 line shown", "still open")
        .doesNotContain("staff.e_mail");
    assertThat(good("register", "--since", "2020-01-01")).contains("staff.id");
    assertThat(good("register", "--since", "2999-01-01")).contains("0 lines shown");
    assertThat(good("register", "--confidence-below", "0.3")).contains("staff.locker");
    assertThat(refused(2, "register", "--category", "finanz")).contains("finance");
    assertThat(refused(2, "register", "--since", "yesterday")).contains("2026-11-23");
    assertThat(refused(2, "register", "keep", "*.card_no")).contains("say why it is kept");
    good("register", "keep", "*.tier", "pier", "--reason", "about things");
    good("register", "mask", "*.l*er");
    assertThat(sandbox.read("register.csv"))
        .contains("pier.name,TEXT,,keep", "staff.tier,TEXT,,keep")
        .contains("staff.locker,TEXT,,mask", "about things");
    assertThat(refused(3, "register", "review")).contains("no terminal to ask on");
  }

  @Test
  void aSharedRegisterIsForDatabasesOfOneShape() throws Exception {
    good("survey");
    Files.copy(folder.resolve("live.db"), folder.resolve("other.db"));
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT.replace(
            "  dev:", "  other: { url: \"jdbc:sqlite:other.db\", environment: copy }\n  dev:"));
    good("survey", "--from", "other");
    sandbox.sql("other.db", "ALTER TABLE pier ADD COLUMN keeper TEXT");
    assertThat(refused(3, "survey", "--from", "other"))
        .contains("other (copy) has another shape than live", "pier.keeper", "register: FILE.csv");
    assertThat(sandbox.read("register.csv")).doesNotContain("keeper");
  }

  @Test
  void aSecondSurveyChangesNoDecisionAndShowsWhatIsNew() throws Exception {
    good("survey");
    good("register", "mask", "staff.e_mail", "--as", "phone");
    sandbox.sql(
        "live.db", "ALTER TABLE pier ADD COLUMN phone TEXT", "ALTER TABLE staff DROP COLUMN tier");
    assertThat(good("survey"))
        .contains("New since the last survey: pier.phone", "taken out of the register: staff.tier")
        .contains("Decided otherwise than the data says now: staff.e_mail");
    assertThat(sandbox.read("register.csv")).contains("staff.e_mail,TEXT,phone,mask");
  }
}
