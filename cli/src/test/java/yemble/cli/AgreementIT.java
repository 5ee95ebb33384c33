package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.text.Normalizer;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What belongs together in a row belongs together in the copy, by the built program. */
class AgreementIT {
  private static final String[] GIVEN = {
    "Corvan", "Ilvane", "Zoë", "Anne-Marie", "Lisk", "Søren", "Orla", "Bryluen"
  };
  private static final String[] FAMILY = {
    "Gullane", "van der Torr", "O'Storr", "Vennask-Pellane", "Kelpaster", "Tidewick", "Müllane"
  };

  @TempDir Path folder;
  private Sandbox sandbox;

  private static String plain(String name) {
    return Normalizer.normalize(name.replace("ø", "o"), Normalizer.Form.NFD)
        .replaceAll("[^A-Za-z]", "")
        .toLowerCase(Locale.ROOT);
  }

  /** An address in one of the forms in which people write them. */
  private static String local(int form, String given, String family, String sign) {
    String g = plain(given);
    String f = plain(family);
    return switch (form) {
      case 0 -> g + sign + f;
      case 1 -> g.charAt(0) + sign + f;
      case 2 -> f + sign + g;
      case 3 -> g + f;
      case 4 -> g.charAt(0) + f;
      case 5 -> g;
      default -> f + g.charAt(0);
    };
  }

  @BeforeEach
  void ready() throws Exception {
    sandbox = new Sandbox(folder).quick();
    sandbox.sql(
        "live.db",
        "CREATE TABLE guest (id INTEGER PRIMARY KEY, first_name TEXT, last_name TEXT,"
            + " email TEXT UNIQUE, login TEXT UNIQUE, postcode TEXT, city TEXT)");
    for (int i = 0; i < 400; i++) {
      String given = GIVEN[i % GIVEN.length];
      String family = FAMILY[i % FAMILY.length];
      sandbox.sql(
          "live.db",
          "INSERT INTO guest VALUES ("
              + i
              + ", '"
              + given
              + "', '"
              + family.replace("'", "''")
              + "', '"
              + local(i / 8 % 7, given, family, ".")
              + i
              + "@site.example', '"
              + local(i / 56 % 7, given, family, "_")
              + i
              + "', 'OR"
              + (10 + i % 5)
              + " "
              + (1 + i % 9)
              + "AB', 'Town"
              + i % 5
              + "')");
    }
    sandbox.write("yemble.yaml", Sandbox.PROJECT);
    sandbox.key(Sandbox.KEY);
  }

  @Test
  void surveyWritesTheRulesOnceAndAddressesFollowTheNamesOfTheirRow() throws Exception {
    Program.Result survey = sandbox.yemble("survey");
    assertThat(survey.all()).contains("guest.email: { follow-names: true }");
    assertThat(sandbox.yemble("survey").all()).doesNotContain("Written into");
    assertThat(sandbox.read("yemble.yaml")).containsOnlyOnce("guest.email:");
    sandbox.yemble("register", "mask", "guest.login", "--as", "username");
    sandbox.yemble("register", "mask", "guest.postcode", "--as", "postcode");
    sandbox.yemble("register", "mask", "guest.city", "--as", "city");
    sandbox.yemble("register", "mask", "guest.first_name", "--as", "given-name");
    sandbox.yemble("register", "mask", "guest.last_name", "--as", "family-name");
    assertThat(sandbox.yemble("survey").all()).contains("guest.city: { keyed-by: postcode }");
    assertThat(sandbox.read("yemble.yaml")).contains("guest.login: { follow-names: true }");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();

    List<List<Object>> rows =
        sandbox.query("dev.db", "SELECT id, first_name, last_name, email, login FROM guest");
    assertThat(rows).hasSize(400);
    for (List<Object> row : rows) {
      int i = ((Number) row.get(0)).intValue();
      String given = (String) row.get(1);
      String family = (String) row.get(2);
      assertThat(((String) row.get(3)).replaceAll("[0-9]+\\.[a-z0-9]{8}@.*", ""))
          .as("%s of %s %s", row.get(3), given, family)
          .isEqualTo(local(i / 8 % 7, given, family, "."));
      assertThat(((String) row.get(4)).replaceAll("[0-9]+_[a-z0-9]{6}$", ""))
          .as("%s of %s %s", row.get(4), given, family)
          .isEqualTo(local(i / 56 % 7, given, family, "_"));
    }
    assertThat(
            sandbox.query(
                "dev.db",
                "SELECT substr(postcode, 1, 4) FROM guest GROUP BY 1"
                    + " HAVING count(DISTINCT city) > 1"))
        .isEmpty();
  }

  /** Addresses that are not made of the names of their rows in the form that they had. */
  private List<String> unfollowing(String rows) throws Exception {
    List<String> others = new ArrayList<>();
    String asked = "SELECT id, first_name, last_name, email FROM guest WHERE " + rows;
    for (List<Object> row : sandbox.query("dev.db", asked)) {
      int form = ((Number) row.get(0)).intValue() / 8 % 7;
      String local = ((String) row.get(3)).replaceAll("[0-9]+\\.[a-z0-9]{8}@.*", "");
      if (!local.equals(local(form, (String) row.get(1), (String) row.get(2), "."))) {
        others.add(row.toString());
      }
    }
    return others;
  }

  @Test
  void namesThatWereLearnedTellAddressesByTheirValueAlone() throws Exception {
    sandbox.register(
        "live.db",
        Map.of(
            "guest.first_name", "given-name",
            "guest.last_name", "family-name",
            "guest.email", "email",
            "guest.login", "username"));
    Program.Result before = sandbox.yemble("run", "--yes");
    assertThat(before.out()).contains("no longer go together");
    assertThat(sandbox.yemble("names", "learn").out())
        .contains("become others than before", "Nothing was written");
    sandbox.write("yemble.yaml", Sandbox.PROJECT + "names: learned\n");
    Program.Result without = sandbox.yemble("run", "--yes");
    assertThat(without.exitCode()).isEqualTo(2);
    assertThat(without.err()).contains("learned-names", "missing", "yemble names learn");
    assertThat(sandbox.yemble("names", "learn", "--yes").out()).contains("Written into");
    assertThat(sandbox.read("learned-names.txt"))
        .contains("generation 1 ")
        .doesNotContainIgnoringCase("gullane")
        .doesNotContainIgnoringCase("corvan");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    // Of "annemarie" nobody can tell whether it is one name or two.
    assertThat(unfollowing("id % 8 <> 3")).isEmpty();
    assertThat(unfollowing("id % 8 = 3")).hasSizeLessThan(50);
    assertThat(sandbox.yemble("verify").out()).contains("What was checked holds");

    // What is understood stays as it is, whatever is learned later.
    List<List<Object>> first = sandbox.query("dev.db", "SELECT id, email, login FROM guest");
    sandbox.sql(
        "live.db",
        "INSERT INTO guest VALUES (900, 'Gull', 'Ane', 'gull.ane@site.example', 'x', NULL, NULL)",
        "INSERT INTO guest VALUES (901, 'Quorv', 'Abb', 'quorvabb@site.example', 'y', NULL, NULL)");
    assertThat(sandbox.yemble("names", "learn", "--yes").out()).contains("Written into");
    assertThat(sandbox.yemble("names").out()).containsPattern("(?s) 1  .* 2  ");
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
    assertThat(sandbox.query("dev.db", "SELECT id, email, login FROM guest WHERE id < 900"))
        .isEqualTo(first);

    sandbox.write("learned-names.txt", "generation 1 2026-01-01\ng Corvan\n");
    Program.Result odd = sandbox.yemble("run", "--yes");
    assertThat(odd.exitCode()).isEqualTo(2);
    assertThat(odd.err()).contains("learned-names.txt:2").doesNotContain("Corvan");
  }

  @Test
  void whereAllNamesAreKnownAFileWithoutAnyIsABeginning() throws Exception {
    sandbox.sql("live.db", "UPDATE guest SET first_name = 'Anna', last_name = 'Weber'");
    sandbox.write("yemble.yaml", Sandbox.PROJECT + "names: learned\n");
    sandbox.register(
        "live.db", Map.of("guest.first_name", "given-name", "guest.last_name", "family-name"));
    assertThat(sandbox.yemble("names", "learn", "--yes").out())
        .contains("0 given names and 0 family names", "Written into");
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
    assertThat(sandbox.yemble("names", "learn", "--yes").out()).doesNotContain("Written into");
  }

  @Test
  void whereNoLineCanBeAddedTheRulesAreSaidAndSurveyGoesOn() throws Exception {
    String project = Sandbox.PROJECT + "columns: { guest.id: shape }\n";
    sandbox.write("yemble.yaml", project);
    Program.Result survey = sandbox.yemble("survey");
    assertThat(survey.exitCode()).as(survey.all()).isZero();
    assertThat(survey.out()).contains("in braces", "guest.email: { follow-names: true }");
    assertThat(sandbox.read("yemble.yaml")).isEqualTo(project);
  }

  @Test
  void whatBeginsAndEndsMovesTogether() throws Exception {
    sandbox.sql(
        "live.db",
        "DROP TABLE guest",
        "CREATE TABLE stay (id INTEGER PRIMARY KEY, hired_on DATE, left_on DATE, seen_on DATE)");
    for (int i = 0; i < 50; i++) {
      sandbox.sql(
          "live.db",
          "INSERT INTO stay VALUES ("
              + i
              + ", date('2020-01-01', '+"
              + 3 * i
              + " days'), date('2020-01-01', '+"
              + 4 * i
              + " days'), date('2021-01-01'))");
    }
    sandbox.yemble("survey");
    for (String column : List.of("hired_on", "left_on", "seen_on")) {
      sandbox.yemble("register", "mask", "stay." + column);
    }
    assertThat(sandbox.yemble("survey").all())
        .contains("stay.hired_on: { shift: { days: 30, together: [hired_on, left_on] } }");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(
            sandbox.query(
                "dev.db",
                "SELECT count(*) FROM stay WHERE julianday(left_on) - julianday(hired_on) = id"))
        .isEqualTo(List.of(List.of(50)));
    assertThat(sandbox.yemble("survey").all()).doesNotContain("Written into");
  }

  @Test
  void aColumnThatCanHoldNothingElseStaysAmongItsOwnValues() throws Exception {
    sandbox.sql("live.db", "DROP TABLE guest");
    sandbox.sql(
        "live.db",
        "CREATE TABLE donor (id INTEGER PRIMARY KEY, blood TEXT CHECK (blood IN ('A1','A2','B1','?')),"
            + " deck TEXT CHECK (deck IN ('upper','lower','sun')))");
    for (int i = 0; i < 60; i++) {
      sandbox.sql(
          "live.db",
          "INSERT INTO donor VALUES ("
              + i
              + ", '"
              + new String[] {"A1", "A2", "B1", "?"}[i % 4]
              + "', '"
              + new String[] {"upper", "lower", "sun"}[i % 3]
              + "')");
    }
    sandbox.register("live.db", java.util.Map.of("donor.blood", "blood-group", "donor.deck", ""));
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(
            sandbox.query(
                "dev.db",
                "SELECT count(DISTINCT blood), count(DISTINCT deck), sum(blood = '?'),"
                    + " sum((id % 4 = 0) = (blood = 'A1')), sum((id % 3 = 0) = (deck = 'upper'))"
                    + " FROM donor WHERE id % 4 = 3 OR blood IN ('A1','A2','B1')"))
        .allSatisfy(
            row -> {
              assertThat(row.subList(0, 3))
                  .extracting(Object::toString)
                  .containsExactly("4", "3", "15");
              assertThat(((Number) row.get(3)).intValue()).isLessThan(60);
              assertThat(((Number) row.get(4)).intValue()).isLessThan(60);
            });
  }

  @Test
  void anAgeIsWhatTheDayOfBirthBesideItSays() throws Exception {
    sandbox.sql("live.db", "DROP TABLE guest");
    sandbox.sql("live.db", "CREATE TABLE sailor (id INTEGER PRIMARY KEY, born DATE, age INTEGER)");
    for (int i = 0; i < 120; i++) {
      sandbox.sql(
          "live.db",
          "INSERT INTO sailor SELECT "
              + i
              + ", d, cast((julianday('2026-01-01') - julianday(d)) / 365.25 AS INTEGER)"
              + " FROM (SELECT date('1950-01-01', '+"
              + i * 211
              + " days') AS d)");
    }
    sandbox.register("live.db", java.util.Map.of("sailor.born", "birth-date", "sailor.age", "age"));
    sandbox.write("yemble.yaml", "as-of: 2026-01-01\n" + Sandbox.PROJECT);
    assertThat(sandbox.yemble("survey").all()).contains("sailor.age: { keyed-by: born }");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(
            sandbox.query(
                "dev.db",
                "SELECT count(*), sum(abs((julianday('2026-01-01') - julianday(born)) / 365.25 - age - 0.5) > 0.51)"
                    + " FROM sailor"))
        .allSatisfy(
            row -> assertThat(row).extracting(Object::toString).containsExactly("120", "0"));
  }
}
