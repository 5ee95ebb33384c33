package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.apache.commons.codec.digest.DigestUtils;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Agreed stand-ins come out in every table, by run, by pack and load, and by rewrite, as often as a
 * target is refreshed; by plain queries of the databases.
 */
class PinsIT {
  private static final String PINS =
      """
      pins:
        staff:
          file: pins/staff.csv
          by: person.national_id
          remember: true
          gives:
            person.name: name
            account.username: login
            account.secret: { password: password }
          patterns: { login: 'tester-[0-9]{4}' }
      """;

  @TempDir Path folder;

  /** Changes some values of the line with so many lines before it. */
  private void edit(PeopleWorld world, int line, String name, String login, String password)
      throws Exception {
    List<String> lines = new ArrayList<>(world.files.read("pins/staff.csv").lines().toList());
    String key = lines.get(line).split(",")[0];
    lines.set(line, key + "," + name + "," + login + "," + password);
    world.files.write("pins/staff.csv", String.join("\n", lines) + "\n");
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void standInsComeOutInEveryTable(String engine) throws Exception {
    PeopleWorld world = new PeopleWorld(engine, folder);
    world.add(70, "Berta Pierhead"); // She bears the name that somebody else's stand-in has.
    world.project(PINS);
    Program.Result added =
        world.files.reading(PeopleWorld.nationalId(7) + "\n", "pins", "add", "staff", "-");
    assertThat(added.out()).as(added.all()).contains("Added: 1 line in pins/staff.csv");
    edit(world, 1, "Berta Pierhead", "testa", "cabin-key");

    Program.Result first = world.yemble(0, "run", "--yes");
    assertThat(first.out())
        .contains("stand-ins of staff: 61 pinned, 60 new")
        .doesNotContain("fails");
    String remembered = world.files.read("pins/staff.csv");
    assertThat(remembered.lines()).hasSize(PeopleWorld.PEOPLE + 2);
    assertThat(world.one("dev", "SELECT name FROM person WHERE id = 7"))
        .isEqualTo("Berta Pierhead");
    assertThat(world.one("dev", "SELECT username, secret FROM account WHERE person_id = 7"))
        .isEqualTo("testa|" + DigestUtils.sha256Hex("cabin-key"));
    assertThat(world.one("dev", "SELECT username FROM login WHERE no = 7")).isEqualTo("testa");
    assertThat(world.one("dev", "SELECT body FROM note WHERE id = 7"))
        .isEqualTo("Rang Berta Pierhead about the cabin");
    assertThat(world.one("dev", "SELECT name FROM person WHERE id = 70"))
        .isNotEqualTo("Berta Pierhead");
    assertThat(world.rows("dev", "SELECT username FROM account WHERE person_id <> 7"))
        .hasSize(PeopleWorld.PEOPLE)
        .doesNotHaveDuplicates()
        .allMatch(login -> login.matches("tester-[0-9]{4}"));
    assertThat(world.rows("dev", "SELECT DISTINCT secret FROM account"))
        .hasSize(PeopleWorld.PEOPLE + 1);

    // A newcomer is filled once; somebody who has changed their name keeps their stand-in.
    world.add(71, "Corvan Gullane");
    world.sql("live", List.of("UPDATE person SET name = 'Tavin Tideask' WHERE id = 8"));
    String eight = world.one("dev", "SELECT name FROM person WHERE id = 8");
    assertThat(world.yemble(0, "run", "--yes").out()).contains("62 pinned, 1 new");
    assertThat(world.files.read("pins/staff.csv")).startsWith(remembered);
    assertThat(world.one("dev", "SELECT name FROM person WHERE id = 8")).isEqualTo(eight);
    final Map<String, List<String>> wanted = world.content("dev");
    final String kept = world.files.read("pins/staff.csv");
    assertThat(world.yemble(0, "run", "--yes").out()).contains("stand-ins of staff: 62 pinned\n");
    assertThat(world.content("dev")).isEqualTo(wanted);
    assertThat(world.yemble(0, "verify").out()).doesNotContain("fails");

    world.yemble(0, "pack");
    world.yemble(0, "load", "all", "--into", "other", "--yes");
    assertThat(world.content("other")).isEqualTo(wanted);

    world.confirm();
    assertThat(world.yemble(0, "rewrite").out()).contains("stand-ins of staff: 62 pinned");
    assertThat(world.content("live")).isEqualTo(wanted);

    // Masked data masked again changes nothing, and nobody is on the list twice.
    world.yemble(0, "rewrite");
    assertThat(world.content("live")).isEqualTo(wanted);
    // Without what refers to a login: nobody could follow that any more.
    world.sql(
        "live",
        List.of(
            "INSERT INTO person VALUES (72, 'Berta Pierhead', '"
                + PeopleWorld.nationalId(72)
                + "')"));
    assertThat(world.yemble(0, "rewrite").out())
        .contains("stand-ins of staff: 1 pinned, 1 new, 62 already replaced");
    assertThat(world.one("live", "SELECT name FROM person WHERE id = 72"))
        .isNotEqualTo("Berta Pierhead");
    assertThat(world.one("live", "SELECT name FROM person WHERE id = 7"))
        .isEqualTo("Berta Pierhead");
    assertThat(world.files.read("pins/staff.csv")).startsWith(kept).hasLineCount(64);
    noOriginals(world);
  }

  /** Keys are digests, in the list and wherever else something was written. */
  private void noOriginals(PeopleWorld world) throws Exception {
    for (Path file : world.written()) {
      if (file.toString().endsWith(".db")) {
        continue;
      }
      String bytes = Files.readString(file, StandardCharsets.ISO_8859_1);
      for (int i : new int[] {1, 7, 59, 72}) {
        assertThat(bytes).as("in " + file).doesNotContain(PeopleWorld.nationalId(i));
      }
      assertThat(bytes).as("in " + file).doesNotContain("Gullane").doesNotContain("tgullane");
    }
  }

  @Test
  void whoHasNoneIsCountedAndFilled() throws Exception {
    PeopleWorld world = new PeopleWorld("sqlite", folder);
    world.project(PINS.replace("    remember: true\n", ""));
    world.yemble(0, "pins", "add", "staff", "--where", "id < 5");
    world.files.reading("nobody\n", "pins", "add", "staff", "-");
    assertThat(world.yemble(0, "pins", "--json").out())
        .contains("\"lines\" : 6", "\"without\" : 60", "\"unused\" : 1", "\"unfilled\" : 6");
    assertThat(world.yemble(0, "pins", "fill", "staff", "--listed", "--json").out())
        .contains("\"added\" : 0", "\"filled\" : 5", "\"passwords\" : 5", "\"password_bits\" : 45");
    String five = world.files.read("pins/staff.csv");
    assertThat(five).hasLineCount(7);
    assertThat(world.yemble(0, "pins", "fill", "staff", "--where", "id < 10").out())
        .contains("Filled: 5 lines in pins/staff.csv, 5 of them new");
    assertThat(world.files.read("pins/staff.csv")).startsWith(five);
    assertThat(world.yemble(0, "pins", "fill", "staff", "--where", "id < 10").out())
        .contains("Filled: 0 lines");

    // Two lines of one key: neither counts.
    String line = five.lines().toList().get(2);
    world.files.write("pins/staff.csv", five + line.split(",")[0] + ",Another Name,other,word\n");
    assertThat(world.yemble(0, "pins").out()).contains("pins/staff.csv:3:1 and pins/staff.csv:8:1");
    assertThat(world.yemble(0, "run", "--yes").out()).contains("4 pinned, 1 ambiguous, 55 without");
  }

  @Test
  void aListSurvivesASpreadsheet() throws Exception {
    PeopleWorld world = new PeopleWorld("sqlite", folder);
    world.project(PINS);
    world.files.reading(PeopleWorld.nationalId(7) + "\n", "pins", "add", "staff", "-");
    String key = world.files.read("pins/staff.csv").lines().toList().get(1).split(",")[0];
    world.files.write(
        "pins/staff.csv",
        "\uFEFFkey;password;login;name\r\n" + key + ";'=word;testa;\"Test; A\"\r\n");
    world.yemble(0, "run", "--yes");
    assertThat(world.one("dev", "SELECT name FROM person WHERE id = 7")).isEqualTo("Test; A");
    assertThat(world.one("dev", "SELECT username, secret FROM account WHERE person_id = 7"))
        .isEqualTo("testa|" + DigestUtils.sha256Hex("=word"));
  }

  @Test
  void aStandInThatAnotherRowMeetsIsAProblemBeforeTheLoad() throws Exception {
    PeopleWorld world = new PeopleWorld("sqlite", folder);
    world.project("");
    world.yemble(0, "run", "--yes");
    String taken = world.one("dev", "SELECT username FROM account WHERE person_id = 9");
    world.project(PINS.replace("    remember: true\n", ""));
    world.yemble(0, "pins", "add", "staff", "--where", "id IN (7, 8)");
    edit(world, 1, "", taken, "");
    edit(world, 2, "", "same", "");
    Program.Result generated = world.yemble(2, "run", "--yes");
    assertThat(generated.err())
        .contains("the login at pins/staff.csv:2:1 meets what username makes for another row");
    edit(world, 1, "", "same", "");
    Program.Result twice = world.yemble(2, "run", "--yes");
    assertThat(twice.err()).contains("pins/staff.csv:2:1", "pins/staff.csv:3:1", "is unique");
    assertThat(generated.all() + twice.all()).doesNotContain(taken).doesNotContain("\"same\"");
  }
}
