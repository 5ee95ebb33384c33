package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Columns that hold another thing in each row, by the built program. */
class CasesIT {
  @TempDir Path folder;
  private Sandbox sandbox;

  @BeforeEach
  void ready() throws Exception {
    sandbox = new Sandbox(folder).quick();
    sandbox.sql(
        "live.db",
        "CREATE TABLE guest (id INTEGER PRIMARY KEY, given TEXT)",
        "INSERT INTO guest VALUES (1, 'Corvan'), (2, 'Ilvane'), (3, 'Lisk')",
        "CREATE TABLE answer (id INTEGER PRIMARY KEY, guest_id INTEGER REFERENCES guest (id),"
            + " field INTEGER, value TEXT)");
    int id = 0;
    for (int guest = 1; guest <= 3; guest++) {
      for (String[] one :
          new String[][] {
            {"3", "+44 7700 900" + (100 + guest)},
            {"7", "197" + guest + "-04-2" + guest},
            {"8", "deck " + guest},
            {"9", Integer.toString(guest)},
            {"4", "Told Corvan and Ilvane and Lisk to wait"},
            {"5", "xyz" + guest}
          }) {
        sandbox.sql(
            "live.db",
            "INSERT INTO answer VALUES ("
                + ++id
                + ", "
                + guest
                + ", "
                + one[0]
                + ", '"
                + one[1]
                + "')");
      }
    }
    sandbox.key(Sandbox.KEY);
  }

  private void project(String columns, String links) throws Exception {
    sandbox.write("yemble.yaml", Sandbox.PROJECT + links + "columns:\n" + columns);
    sandbox.register("live.db", Map.of("guest.given", "given-name", "answer.value", "various"));
  }

  private List<String> values(String database, int field) throws Exception {
    return sandbox
        .query(database, "SELECT value FROM answer WHERE field = " + field + " ORDER BY id")
        .stream()
        .map(row -> (String) row.get(0))
        .toList();
  }

  private static final String CASES =
      """
        answer.value:
          cases:
            - { when: "field = 3", as: phone }
            - { when: "field = 7", as: birth-date }
            - { when: "field = 8", keep: true }
            - { when: "field = 9", keep: true }
            - { when: "field = 4", as: note }
            - { else: shape }
      """;

  @Test
  void eachRowIsMaskedAsItsCaseSaysAndWhatStaysIsSaid() throws Exception {
    project(CASES, "links: { answer.value -> guest.id: { if: \"field = 9\" } }\n");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(run.all()).contains("6 of 18 rows stay as they are", "answer.value");
    assertThat(values("dev.db", 3))
        .allMatch(phone -> phone.matches("\\+44 \\d{4} \\d{6}"))
        .doesNotContainAnyElementsOf(values("live.db", 3));
    assertThat(values("dev.db", 7)).allMatch(day -> day.matches("197[123]-\\d\\d-\\d\\d"));
    assertThat(values("dev.db", 8)).isEqualTo(values("live.db", 8));
    assertThat(values("dev.db", 9)).isEqualTo(values("live.db", 9));
    assertThat(values("dev.db", 5)).allMatch(text -> text.matches("[a-z]{3}\\d"));
    // A text knows the names of the row it belongs to, through the link.
    List<String> given =
        sandbox.query("dev.db", "SELECT given FROM guest ORDER BY id").stream()
            .map(row -> (String) row.get(0))
            .toList();
    assertThat(values("dev.db", 4).get(0)).contains(given.get(0)).doesNotContain("Corvan");
    assertThat(values("dev.db", 4).get(1)).contains(given.get(1)).doesNotContain("Ilvane");
    // The same again, and proved any day later.
    assertThat(sandbox.yemble("verify").exitCode()).isZero();
    Program.Result preview = sandbox.yemble("preview", "--check");
    assertThat(preview.all()).contains("stays, by your rules", "6 of 18 rows");
  }

  @Test
  void surveyTellsTheSortsOfRowsApartAndWritesTheCases() throws Exception {
    sandbox.sql(
        "live.db",
        "CREATE TABLE trait (id INTEGER PRIMARY KEY, guest_id INTEGER REFERENCES guest (id),"
            + " meta_key TEXT, meta_value TEXT)");
    for (int i = 1; i <= 90; i++) {
      int guest = 1 + i % 3;
      String[] one =
          switch (i % 3) {
            case 0 -> new String[] {"billing_email", "orla.tidewick" + i + "@site.example"};
            case 1 -> new String[] {"deck's", List.of("sun", "upper", "car").get(i / 3 % 3)};
            default -> new String[] {"born", (1940 + i % 60) + "-04-1" + i % 10};
          };
      sandbox.sql(
          "live.db",
          "INSERT INTO trait VALUES ("
              + i
              + ", "
              + guest
              + ", '"
              + one[0].replace("'", "''")
              + "', '"
              + one[1]
              + "')");
    }
    sandbox.write("yemble.yaml", Sandbox.PROJECT);
    Program.Result survey = sandbox.yemble("survey");
    assertThat(survey.exitCode()).as(survey.all()).isZero();
    assertThat(sandbox.read("register.csv")).containsPattern("trait.meta_value,TEXT,various,mask");
    assertThat(sandbox.read("yemble.yaml"))
        .contains(
            "trait.meta_value: { cases: [{ when: 'meta_key = ''billing_email''', as: email },"
                + " { when: 'meta_key = ''born''', as: birth-date }, { else: shape }] }");
    assertThat(sandbox.yemble("survey").all()).doesNotContain("Written into");
    sandbox.register("live.db", Map.of("guest.given", "given-name", "trait.meta_value", "various"));
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(
            sandbox.query(
                "dev.db",
                "SELECT count(*) FROM trait WHERE CASE meta_key"
                    + " WHEN 'billing_email' THEN meta_value GLOB '*@*.example'"
                    + " WHEN 'born' THEN meta_value GLOB '19[4-9][0-9]-[01][0-9]-[0-3][0-9]'"
                    + " ELSE meta_value NOT IN ('sun', 'upper', 'car') END"))
        .isEqualTo(List.of(List.of(90)));
  }

  @Test
  void withoutALastCaseAllOtherRowsLoseAllButTheirShape() throws Exception {
    project("  answer.value: { cases: [ { when: \"field = 3\", as: phone } ] }\n", "");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(values("dev.db", 8)).doesNotContainAnyElementsOf(values("live.db", 8));
    assertThat(run.all()).doesNotContain("stay as they are");
  }

  @Test
  void aLinkNeedsACaseOfTheSameWords() throws Exception {
    project(CASES, "links: { answer.value -> guest.id: { if: \"field=9\" } }\n");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).isEqualTo(2);
    assertThat(run.err()).contains("needs a case of its own", "the same condition");
    project(
        CASES.replace("\"field = 9\", keep: true", "\"field = 9\", as: shape"),
        "links: { answer.value -> guest.id: { if: \"field = 9\" } }\n");
    assertThat(sandbox.yemble("run", "--yes").err()).contains("would break");
  }

  @Test
  void aStepWithAConditionIsTakenInItsRowsAlone() throws Exception {
    project("  answer.value: { steps: [ shape, { fixed: gone, when: \"field = 8\" } ] }\n", "");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(values("dev.db", 8)).containsOnly("gone");
    assertThat(values("dev.db", 5)).doesNotContain("gone").doesNotContain("xyz1", "xyz2", "xyz3");
    assertThat(run.all()).doesNotContain("stay as they are");
    project("  answer.value: { fixed: gone, when: \"field = 8\" }\n", "");
    assertThat(sandbox.yemble("run", "--yes").all()).contains("15 of 18 rows stay as they are");
  }

  @Test
  void whatIsSaidOfAllPassesOverKeysAndLinksAndSaysSo() throws Exception {
    sandbox.sql(
        "live.db",
        "CREATE TABLE locker (code TEXT PRIMARY KEY, note TEXT NOT NULL, hint TEXT)",
        "CREATE TABLE lease (id INTEGER PRIMARY KEY, code TEXT REFERENCES locker (code))",
        "INSERT INTO locker VALUES ('AB-17', 'north', 'under'), ('CD-28', 'south', 'over')",
        "INSERT INTO lease VALUES (1, 'AB-17'), (2, 'CD-28')");
    sandbox.write("yemble.yaml", Sandbox.PROJECT + "masks: { all: { fresh: true } }\n");
    sandbox.register(
        "live.db",
        Map.of(
            "locker.code", "national-id",
            "lease.code", "national-id",
            "locker.note", "city",
            "locker.hint", "city"));
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(run.all()).contains("locker.code", "lease.code", "in a key or a link");
    List<List<Object>> first = sandbox.query("dev.db", "SELECT code FROM locker ORDER BY 1");
    List<List<Object>> notes = sandbox.query("dev.db", "SELECT note FROM locker ORDER BY code");
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
    assertThat(sandbox.query("dev.db", "SELECT code FROM locker ORDER BY 1")).isEqualTo(first);
    assertThat(sandbox.query("dev.db", "SELECT note FROM locker ORDER BY code"))
        .isNotEqualTo(notes);

    sandbox.write("yemble.yaml", Sandbox.PROJECT + "masks: { all: clear }\n");
    Program.Result cleared = sandbox.yemble("run", "--yes");
    assertThat(cleared.exitCode()).as(cleared.all()).isZero();
    assertThat(cleared.all()).contains("it must hold a value", "in a key or a link");
    assertThat(sandbox.query("dev.db", "SELECT count(hint), count(note) FROM locker"))
        .containsExactly(List.of(0, 2));
  }

  @Test
  void noiseStaysBetweenWhatTheTableAllows() throws Exception {
    sandbox.sql(
        "live.db",
        "CREATE TABLE fare (id INTEGER PRIMARY KEY, price INTEGER CHECK (price >= 40 AND price <= 60),"
            + " booked TEXT CHECK (booked BETWEEN '2026-01-10' AND '2026-01-20'))");
    for (int i = 0; i < 200; i++) {
      sandbox.sql(
          "live.db",
          "INSERT INTO fare VALUES ("
              + i
              + ", "
              + (40 + i % 21)
              + ", '2026-01-"
              + (10 + i % 11)
              + "')");
    }
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT
            + "columns: { fare.price: { noise: 40 }, fare.booked: { shift: { days: 300 } } }\n");
    sandbox.register("live.db", Map.of("fare.price", "salary", "fare.booked", "birth-date"));
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(
            sandbox.query(
                "dev.db",
                "SELECT min(price) >= 40, max(price) <= 60, count(DISTINCT price) > 5,"
                    + " min(booked) >= '2026-01-10', max(booked) <= '2026-01-20',"
                    + " count(DISTINCT booked) > 3 FROM fare"))
        .containsExactly(List.of(1, 1, 1, 1, 1, 1));
  }
}
