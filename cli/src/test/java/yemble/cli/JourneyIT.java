package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A new user's way through a project of their own, by the built program. */
class JourneyIT {
  @TempDir Path folder;

  private Program.Result good(Sandbox sandbox, String... args) {
    Program.Result result = sandbox.yemble(args);
    assertThat(result.exitCode()).as(result.all()).isZero();
    return result;
  }

  private Sandbox started() throws Exception {
    Sandbox sandbox = new Sandbox(folder);
    sandbox.sql(
        "live.db",
        "CREATE TABLE customer (id INTEGER PRIMARY KEY, login TEXT UNIQUE, first_name TEXT, surname"
            + " TEXT, e_mail TEXT, dob DATE, tier TEXT, lookup TEXT, boss INTEGER REFERENCES customer"
            + " (id))",
        "CREATE TABLE visit (login TEXT REFERENCES customer (login), data TEXT, remark TEXT)");
    List<String> rows = new ArrayList<>(List.of("BEGIN"));
    for (int i = 1; i <= 60; i++) {
      String given = List.of("Orla", "Tavin", "Mirel").get(i % 3);
      String family = List.of("Tidewick", "Skerrack").get(i % 2) + (char) ('a' + i % 20);
      rows.add(
          "INSERT INTO customer VALUES ("
              + i
              + ", 'user"
              + i
              + "', '"
              + given
              + "', '"
              + family
              + "', '"
              + given.toLowerCase()
              + i
              + "@site.example', '19"
              + (40 + i % 50)
              + "-03-0"
              + (1 + i % 9)
              + "', '"
              + List.of("blue", "gold").get(i % 2)
              + "', '"
              + family.toLowerCase()
              + " "
              + i
              + "', "
              + (i > 3 ? i % 3 + 1 : null)
              + ")");
      rows.add(
          "INSERT INTO visit VALUES ('user"
              + i
              + "', '{\"mail\":\""
              + given.toLowerCase()
              + i
              + "@site.example\",\"n\":"
              + i
              + "}', 'Mrs "
              + family
              + " asked for a cabin')");
    }
    rows.add("COMMIT");
    sandbox.sql("live.db", rows.toArray(String[]::new));
    return sandbox;
  }

  @Test
  void fromNothingToAProvenLoad() throws Exception {
    Sandbox sandbox = started();
    good(sandbox, "init", "live.db");
    assertThat(sandbox.read(".gitignore")).contains("yemble.key", ".yemble/");
    assertThat(sandbox.read("register.csv")).contains("customer.dob,DATE,,undecided");

    Program.Result survey = good(sandbox, "survey");
    assertThat(survey.out()).contains("live (production)", "personal columns in");
    assertThat(survey.all()).doesNotContain("Orla", "Tidewick", "@site");
    String register = sandbox.read("register.csv");
    assertThat(register)
        .contains("customer.first_name,TEXT,given-name,mask")
        .contains("customer.surname,TEXT,family-name,mask")
        .contains("customer.e_mail,TEXT,email,mask")
        .contains("customer.dob,DATE,birth-date,mask")
        .contains("customer.lookup,TEXT,note,mask")
        .containsPattern("visit.data,TEXT,json,mask")
        .containsPattern("visit.data \\$.mail,,email,mask")
        .doesNotContain("Orla", "Tidewick", "@site");
    assertThat(sandbox.yemble("register", "--check").exitCode()).isEqualTo(1);
    good(sandbox, "register", "accept");
    good(sandbox, "register", "mask", "customer.login", "--as", "username");
    assertThat(sandbox.read("register.csv"))
        .as("the linked column is decided alike")
        .containsPattern("visit.login,TEXT,username,mask");
    Program.Result keep = sandbox.yemble("register", "keep", "customer.e_mail");
    assertThat(keep.exitCode()).isEqualTo(2);
    assertThat(keep.err()).contains("looks personal (email)", "--reason");
    good(sandbox, "register", "keep", "--open", "--reason", "reviewed");
    good(sandbox, "register", "--check");

    sandbox.write(
        "yemble.yaml",
        sandbox
            .read("yemble.yaml")
            .replace("customer: { share: 5% }", "customer: { where: 'id = 7' }"));
    assertThat(good(sandbox, "gauge", "--changes").out())
        .containsPattern("customer +id = 7 +1 +1")
        .contains("visit.login -> customer.login");
    assertThat(good(sandbox, "why", "customer", "2").out())
        .contains("customer 7 was picked", "needs customer 2, which it refers to");
    assertThat(good(sandbox, "why", "customer", "9").out()).contains("is out", "No pick took it");
    Program.Result preview = good(sandbox, "preview", "customer", "--row", "7");
    assertThat(preview.out()).contains("Tavin").contains("given-name");
    assertThat(good(sandbox, "doctor").out()).contains("every column is settled");

    good(sandbox, "run", "--yes");
    good(sandbox, "verify");
    String masked = (String) sandbox.one("dev.db", "SELECT first_name FROM customer WHERE id = 7");
    assertThat(preview.out()).contains(masked);
    assertThat((String) sandbox.one("dev.db", "SELECT data FROM visit"))
        .doesNotContain("tavin7")
        .contains((String) sandbox.one("dev.db", "SELECT e_mail FROM customer WHERE id = 7"));
    assertThat((String) sandbox.one("dev.db", "SELECT remark FROM visit"))
        .contains((String) sandbox.one("dev.db", "SELECT surname FROM customer WHERE id = 7"));
  }

  @Test
  void aSecondSurveyKeepsWhatPeopleDecidedAndShowsWhatIsNew() throws Exception {
    Sandbox sandbox = started();
    good(sandbox, "init", "live.db");
    good(sandbox, "survey");
    good(sandbox, "register", "keep", "customer.dob", "--reason", "needed for a test");
    sandbox.sql("live.db", "ALTER TABLE visit ADD COLUMN phone TEXT");
    Program.Result again = good(sandbox, "survey");
    assertThat(again.out()).contains("New since the last survey: visit.phone");
    assertThat(sandbox.read("register.csv")).contains("customer.dob,DATE,birth-date,keep");
  }

  @Test
  void machinesGetJson() throws Exception {
    Sandbox sandbox = Sandbox.ready(folder).quick();
    for (String[] command :
        List.of(
            new String[] {"doctor"},
            new String[] {"key"},
            new String[] {"register"},
            new String[] {"masks"},
            new String[] {"gauge", "--changes"},
            new String[] {"why", "person", "1"},
            new String[] {"preview", "person"},
            new String[] {"run", "--dry"},
            new String[] {"run", "--yes"},
            new String[] {"verify"},
            new String[] {"survey"})) {
      String[] args = java.util.Arrays.copyOf(command, command.length + 1);
      args[command.length] = "--json";
      Program.Result result = good(sandbox, args);
      assertThat(result.out().strip()).as(String.join(" ", args)).matches("(?s)[{\\[].*[}\\]]");
      new com.fasterxml.jackson.databind.ObjectMapper().readTree(result.out());
    }
  }

  @Test
  void triggersAndViewsComeAlongAndDoNotFireWhileLoading() throws Exception {
    Sandbox sandbox = Sandbox.ready(folder).quick();
    sandbox.sql(
        "live.db",
        "CREATE VIEW names AS SELECT name FROM person",
        "CREATE TRIGGER t AFTER INSERT ON person BEGIN INSERT INTO reader VALUES ('fired'); END");
    good(sandbox, "run", "--yes");
    good(sandbox, "run", "--yes");
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM names")).isEqualTo(5);
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM reader")).isEqualTo(4);
    sandbox.sql("dev.db", "INSERT INTO person VALUES (77, 'x', NULL, NULL)");
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM reader")).isEqualTo(5);
  }

  @Test
  void aRowThatReferstoNothingIsSettledByRule() throws Exception {
    for (String rule : List.of("keep", "\"null\"", "leave-out")) {
      Path place = java.nio.file.Files.createTempDirectory(folder, "case");
      Sandbox sandbox = Sandbox.ready(place).quick();
      sandbox.sql(
          "live.db",
          "INSERT INTO person VALUES (9, 'Fenna Storrask', NULL, 99)",
          "INSERT INTO purchase VALUES (9, 1, 'z')");
      sandbox.write(
          "yemble.yaml", Sandbox.PROJECT + "links: { person.boss_id: { broken: " + rule + " } }\n");
      good(sandbox, "run", "--yes");
      Object expected =
          rule.equals("keep") ? "[[99]]" : rule.equals("leave-out") ? "[]" : "[[null]]";
      assertThat(sandbox.query("dev.db", "SELECT boss_id FROM person WHERE id = 9"))
          .hasToString(expected.toString());
      assertThat(sandbox.one("dev.db", "SELECT count(*) FROM purchase WHERE person_id = 9"))
          .isEqualTo(rule.equals("leave-out") ? 0 : 1);
      good(sandbox, "verify");
    }
  }
}
