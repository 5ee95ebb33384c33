package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Verify, any day after the load: what was changed in the target, and what has moved on in the
 * source, are told apart, and an original that somebody puts back is found.
 */
class LaterIT {
  private static final Map<String, String> KINDS =
      Map.copyOf(
          Map.of(
              "person.name", "full-name",
              "person.email", "email",
              "reader.email", "email",
              "person.town", "city",
              "person.memo", "note"));

  @TempDir static Path template;
  @TempDir Path folder;
  private final Map<String, String> kinds = new HashMap<>(KINDS);
  private Sandbox sandbox;

  @BeforeAll
  static void load() throws IOException, SQLException {
    Sandbox first = Sandbox.ready(template);
    first.sql(
        "live.db",
        "ALTER TABLE person ADD COLUMN town TEXT",
        "ALTER TABLE person ADD COLUMN memo TEXT",
        "UPDATE person SET town = 'Lower Saltmark', memo = 'asked for a cabin' WHERE id < 3",
        "UPDATE person SET town = 'Westhaven' WHERE id > 2");
    first.register("live.db", KINDS);
    Program.Result run = first.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
  }

  @BeforeEach
  void copy() throws IOException {
    sandbox = new Sandbox(template).copy(folder).quick();
  }

  private void run() {
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
  }

  private String verify(int exitCode, String... options) {
    String[] args = new String[options.length + 1];
    args[0] = "verify";
    System.arraycopy(options, 0, args, 1, options.length);
    Program.Result verify = sandbox.yemble(args);
    assertThat(verify.exitCode()).as(verify.all()).isEqualTo(exitCode);
    return verify.all().replaceAll("\\s+", " ");
  }

  @Test
  void everythingHoldsAsLongAsNothingHappens() {
    assertThat(verify(0, "--unchanged"))
        .containsPattern("as loaded 13 rows in 3 tables are what was loaded on 20\\d\\d-.* UTC by ")
        .contains("Everything holds.")
        .doesNotContain("changed since", "source since");
  }

  @Test
  void aSourceThatHasMovedOnIsNotBlamedOnTheCopy() throws SQLException {
    sandbox.sql(
        "live.db",
        "INSERT INTO person VALUES (6, 'Brisa Windhollow', 'brisa@a.example', 1, 'Inkerry', NULL)",
        "UPDATE person SET name = 'Orla Windhollow', town = 'Inkerry' WHERE id = 1",
        "DELETE FROM purchase WHERE note = 'z'");
    assertThat(verify(0, "--unchanged"))
        .contains(
            "as loaded 13 rows in 3 tables are what was loaded",
            "not checked source since the source has moved on: 3 rows would be others if loaded now",
            "person: 1 changed, 1 new",
            "purchase: 1 gone",
            "11 of 13 rows in 3 tables are those that the rules ask for now")
        .doesNotContain("changed since", "Windhollow", "Inkerry", "fails");
  }

  @Test
  void whatPeopleChangeInACopyIsNormalLife() throws SQLException {
    sandbox.sql(
        "dev.db",
        "UPDATE person SET town = 'Mossgate' WHERE id = 2",
        "INSERT INTO reader VALUES ('tester@dev.example')",
        "DELETE FROM purchase WHERE note = 'x'");
    assertThat(verify(0))
        .contains(
            "holds as loaded 11 of 13 rows are what was loaded",
            "not checked changed since 3 rows in 3 tables",
            "person: 1 changed",
            "reader: 1 new",
            "purchase: 1 gone",
            "holds equal stays equal",
            "holds kept values",
            "holds no leak")
        .doesNotContain("source since", "Mossgate", "fails");
    assertThat(verify(1, "--unchanged")).contains("fails changed since", "holds no leak");
    assertThat(verify(0, "--show-values")).contains("by their keys", "person 2");
  }

  @Test
  void anOriginalThatIsPutBackIsFoundHoweverWeak() throws SQLException {
    sandbox.sql("dev.db", "UPDATE person SET town = 'Westhaven' WHERE id = 4");
    assertThat(verify(1))
        .contains("fails absence", "person.town: 1 cell holds again what")
        .doesNotContain("Westhaven");
    sandbox.sql("live.db", "UPDATE person SET memo = 'no cabin' WHERE id = 1");
    assertThat(verify(1)).contains("person.town: 1 cell", "source since");
  }

  @Test
  void anotherPersonsOriginalIsFoundInAChangedRow() throws SQLException {
    sandbox.sql("dev.db", "UPDATE person SET name = 'Tavin Skerrack' WHERE id = 1");
    assertThat(verify(1)).containsPattern("person.name: 1 full name of person.name in 1 cell");
    run();
    sandbox.sql("dev.db", "UPDATE purchase SET note = 'ask orla.tidewick@a.example'");
    assertThat(verify(1)).contains("purchase.note: ", "mail address");
    run();
    sandbox.sql("dev.db", "UPDATE person SET memo = 'as Skerrack says' WHERE id = 2");
    assertThat(verify(1)).contains("person.memo: a name of its row stands in 1 masked text");
  }

  @Test
  void withoutTheSourceTheRestIsStillProved() throws SQLException, IOException {
    Files.move(sandbox.file("live.db"), sandbox.file("elsewhere.db"));
    assertThat(verify(0, "--unchanged"))
        .contains(
            "as loaded 13 rows in 3 tables are what was loaded",
            "not checked absence the source cannot be compared: ",
            "holds unique stays unique",
            "holds references every reference of 2 links that the target declares resolves");
    sandbox.sql("dev.db", "UPDATE person SET town = 'Mossgate' WHERE id = 2");
    assertThat(verify(0)).contains("changed since 1 row in 1 table", "person: 1 or more changed");
    assertThat(verify(1, "--unchanged")).contains("fails changed since");
    sandbox.sql("dev.db", "DROP TABLE yemble_mark");
    assertThat(verify(4)).contains("live.db");
  }

  @Test
  void aNewColumnInTheSourceIsNotChecked() throws SQLException, IOException {
    sandbox.sql("live.db", "ALTER TABLE reader ADD COLUMN tongue TEXT");
    assertThat(verify(0))
        .contains("13 rows in 3 tables are what was loaded", "one column is not settled");
    sandbox.register("live.db", kinds);
    assertThat(verify(0))
        .contains(
            "13 rows in 3 tables are what was loaded",
            "reader: is not compared, as its columns are others than when it was loaded",
            "not in reader, with other columns than loaded");
    sandbox.sql("dev.db", "DROP TABLE reader");
    assertThat(verify(0)).contains("reader: gone, or has lost a column");
  }

  @Test
  void rulesThatHaveChangedSinceAreNotBlamedOnTheCopyUnlessItHoldsOriginals() throws IOException {
    String project = sandbox.read("yemble.yaml");
    sandbox.write("yemble.yaml", project + "masks: { city: { fixed: Inkerry } }\n");
    assertThat(verify(0))
        .contains(
            "source since project, register or key ask for something else than at the load: 5 rows")
        .doesNotContain("the source has moved on");
    sandbox.write("yemble.yaml", project);
    kinds.remove("person.town");
    try {
      sandbox.register("live.db", kinds);
      run();
      kinds.put("person.town", "city");
      sandbox.register("live.db", kinds);
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
    assertThat(verify(1)).contains("person.town: 5 cells hold again what");
  }

  @Test
  void aMarkHoldsTheLoadsOfSeveralSources() throws SQLException, IOException {
    sandbox.sql("ports.db", "CREATE TABLE port (code TEXT PRIMARY KEY)");
    sandbox.sql("ports.db", "INSERT INTO port VALUES ('OR1'), ('OR2')");
    sandbox.write("ports.csv", "column,type,kind,decision\nport.code,TEXT,,keep\n");
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT.replace(
                "jobs:",
                "  ports: { url: \"jdbc:sqlite:ports.db\", environment: production, register: ports.csv }\n"
                    + "jobs:")
            + "  harbours: { from: ports, into: dev, load: replace }\n");
    Program.Result second = sandbox.yemble("run", "harbours", "--yes");
    assertThat(second.exitCode()).as(second.all()).isZero();
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM person")).isEqualTo(5);
    assertThat(verify(0, "small")).contains("13 rows in 3 tables are what was loaded");
    assertThat(verify(0, "harbours")).contains("2 rows in 1 tables are what was loaded");
    assertThat(sandbox.yemble("doctor").all())
        .contains("13 rows loaded by", "2 rows loaded by", "job harbours");
    assertThat(sandbox.yemble("run", "small", "--yes").exitCode()).isZero();
    assertThat(verify(0, "harbours")).contains("2 rows in 1 tables are what was loaded");
    assertThat(sandbox.query("dev.db", "SELECT count(*) FROM yemble_mark WHERE item LIKE '% job'"))
        .isEqualTo(List.of(List.of(2)));
  }
}
