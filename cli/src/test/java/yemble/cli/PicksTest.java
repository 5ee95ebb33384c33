package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Where a subset starts: several picks of a table, the newest rows, the rows of some keys. */
class PicksTest {
  @TempDir Path folder;
  private Sandbox sandbox;

  @BeforeEach
  void aProject() throws Exception {
    sandbox = Sandbox.ready(folder);
    // Nobody brings or needs anybody else: what is in is what was picked.
    sandbox.sql("live.db", "UPDATE person SET boss_id = NULL");
  }

  private JsonNode gauge(String pick, String... further) throws Exception {
    sandbox.write("yemble.yaml", Sandbox.PROJECT + "    pick:\n" + pick.indent(6));
    List<String> call = new ArrayList<>(List.of("gauge", "--json"));
    call.addAll(List.of("--project", folder.toString()));
    call.addAll(List.of(further));
    Captured told = Captured.of(call.toArray(new String[0]));
    assertThat(told.exitCode()).as(told.err() + told.out()).isZero();
    return Schemas.valid("gauge", told.out());
  }

  /** The ids that a run takes, counted by plain SQL. */
  private List<Object> loaded() throws Exception {
    Captured run = Captured.of("run", "--yes", "--project", folder.toString());
    assertThat(run.exitCode()).as(run.err() + run.out()).isZero();
    return sandbox.query("dev.db", "SELECT id FROM person ORDER BY id").stream()
        .map(row -> row.get(0))
        .toList();
  }

  @Test
  void whatAnyPickOfATableTakesIsPicked() throws Exception {
    JsonNode picks =
        gauge("person:\n  - { where: id = 2 }\n  - { where: id > 3 }\n  - { where: id = 5 }")
            .path("picks");
    assertThat(picks).hasSize(3);
    assertThat(picks.get(1).path("picked").asInt()).isEqualTo(2);
    assertThat(loaded()).containsExactly(2, 4, 5);
    Captured why = Captured.of("why", "person", "5", "--project", folder.toString());
    assertThat(why.out()).contains("picked, by yemble.yaml:13:11 or yemble.yaml:14:11\n");
  }

  @Test
  void theNewestHaveTheGreatestValues() throws Exception {
    JsonNode pick = gauge("person: { where: id < 5, newest: 2 by id }").path("picks").get(0);
    assertThat(pick.path("newest").asInt()).isEqualTo(2);
    assertThat(pick.path("newest_by").asText()).isEqualTo("id");
    assertThat(pick.path("matched").asInt()).isEqualTo(4);
    assertThat(loaded()).containsExactly(3, 4);
    // NULL is no value, and numbers in texts are numbers.
    sandbox.sql(
        "live.db", "UPDATE person SET name = CASE id WHEN 1 THEN '9' WHEN 2 THEN '10' ELSE '' END");
    gauge("person: { newest: 1 by NAME, where: id < 3 }");
    assertThat(loaded()).containsExactly(2);
  }

  @Test
  void rowsOfKeysInAFile() throws Exception {
    Files.createDirectories(folder.resolve("picks"));
    sandbox.write("picks/testers.csv", "\uFEFFid\r\n4\r\n\r\n77\r\n2\r\n");
    JsonNode pick = gauge("person: { rows-of: picks/testers.csv }").path("picks").get(0);
    assertThat(pick.path("keys").asInt()).isEqualTo(3);
    assertThat(pick.path("keys_missing").asInt()).isEqualTo(1);
    assertThat(loaded()).containsExactly(2, 4);
    Captured prose = Captured.of("gauge", "--project", folder.toString());
    assertThat(prose.out()).contains("3 keys of picks/testers.csv, 1 not there");
    sandbox.write("more.csv", "no;person_id\n1;1\n1;3\n");
    gauge("purchase: { rows-of: more.csv, all: true }\nperson: { rows-of: picks/testers.csv }");
    assertThat(loaded()).containsExactly(1, 2, 3, 4);
    // A unique key of any sort tells a row.
    sandbox.write("mail.csv", "email\ntavin@a.example\n");
    gauge("person: [ { rows-of: mail.csv, all: true }, { newest: 1 by id } ]");
    assertThat(loaded()).containsExactly(2, 5);
  }

  @Test
  void aKeyThatMustBeThere() throws Exception {
    sandbox.write("testers.csv", "id\n4\n77\n2\n78\n");
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT + "    pick: { person: { rows-of: testers.csv, all: true } }\n");
    Captured told = Captured.of("run", "--yes", "--json", "--project", folder.toString());
    assertThat(told.exitCode()).isEqualTo(2);
    JsonNode error = new ObjectMapper().readTree(told.out()).path("error");
    assertThat(error.path("code").asText()).isEqualTo("pick-empty");
    assertThat(error.path("what").asText()).isEqualTo("2 keys of testers.csv are not in person");
    assertThat(error.path("reasons").toString()).isEqualTo("[\"line 3\",\"line 5\"]");
    assertThat(told.out()).doesNotContain("77");
    assertThat(folder.resolve("dev.db")).doesNotExist();
  }

  @Test
  void picksThatAreSaidWithTheCommand() throws Exception {
    JsonNode picks =
        gauge("person: { where: id = 1 }", "--pick", "person: id = 2", "--pick", "\"purchase\"")
            .path("picks");
    assertThat(picks).hasSize(2);
    assertThat(picks.get(1).path("picked").asInt()).isEqualTo(4);
    Captured run =
        Captured.of(
            "run",
            "--yes",
            "--pick",
            "person: name LIKE '%:%' OR id = 3",
            "--project",
            folder.toString());
    assertThat(run.exitCode()).as(run.err()).isZero();
    assertThat(sandbox.query("dev.db", "SELECT id FROM person").toString()).isEqualTo("[[3]]");
    Captured why =
        Captured.of(
            "why", "person", "4", "--pick", "person: id > 3", "--project", folder.toString());
    assertThat(why.out()).contains("person 4 was picked, by --pick number 1\n");
    Captured wrong =
        Captured.of("gauge", "--pick", "person: idd = 1", "--json", "--project", folder.toString());
    assertThat(wrong.out()).contains("\"where\" : \"--pick number 1\"", "\"code\" : \"condition\"");
  }

  @Test
  void whatSomebodyExpectsOfASubset() throws Exception {
    String[] call = {
      "gauge", "--pick", "person: id = 1", "--project", folder.toString(), "--expect"
    };
    String[] right = java.util.Arrays.copyOf(call, call.length + 1);
    right[call.length] = "person=1,PURCHASE=2,reader=0";
    assertThat(Captured.of(right).exitCode()).isZero();
    String[] wrong = right.clone();
    wrong[call.length] = "person=1,purchase=3";
    Captured told = Captured.of(wrong);
    assertThat(told.exitCode()).isEqualTo(1);
    assertThat(told.err())
        .contains("differs: purchase holds 2 rows, not 3")
        .doesNotContain("person");
  }

  @Test
  void whatBroughtTheRowsOfATable() throws Exception {
    gauge("person: { where: id < 3 }");
    Captured told = Captured.of("why", "purchase", "--json", "--project", folder.toString());
    JsonNode why = Schemas.valid("why-table", told.out());
    assertThat(why.path("rows").asInt()).isEqualTo(3);
    assertThat(why.path("brought")).hasSize(1);
    assertThat(why.path("brought").get(0).path("link").asText())
        .isEqualTo("purchase.person_id -> person.id");
    assertThat(why.path("brought").get(0).path("came_as").asText()).isEqualTo("child");
    assertThat(why.path("brought").get(0).path("rows").asInt()).isEqualTo(3);
    assertThat(Captured.of("why", "purchase", "--project", folder.toString()).out())
        .contains("purchase of live (production): 3 rows of 4 in job small")
        .contains("└ brought purchase 1,1, which belongs to it");
  }

  private static final String RECIPE =
      """
      parameters: [name, from]
      pick:
        person: { where: "name = :name AND id >= :from AND ':name' <> 'x'" }
      links:
        purchase.person_id: { where: "no < :from" }
      """;

  @Test
  void aRecipeWithItsValuesBound() throws Exception {
    Files.createDirectories(folder.resolve("recipes"));
    sandbox.write("recipes/one.yaml", RECIPE);
    String[] set = {"--recipe", "one", "--set", "name=Orla Tidewick", "--set", "from=2"};
    JsonNode gauged = gauge("person: { where: id = 1 }", set);
    JsonNode pick = gauged.path("picks").get(0);
    assertThat(pick.path("picked").asInt()).isEqualTo(1);
    assertThat(pick.path("where").asText()).contains(":name").doesNotContain("Tidewick");
    Captured run = call("run", "--yes", set);
    assertThat(run.exitCode()).as(run.err() + run.out()).isZero();
    assertThat(sandbox.query("dev.db", "SELECT id FROM person")).containsExactly(List.of(4));
    // Both people of that name; of their purchases those with a number below 1: none.
    gauge("person: {}", "--recipe", "one", "--set", "name=Orla Tidewick", "--set", "from=1");
    Captured why =
        call(
            "why",
            "purchase",
            "1",
            "1",
            "--recipe",
            "one",
            "--set",
            "name=Orla Tidewick",
            "--set",
            "from=1");
    assertThat(why.out()).contains("the link's where leaves this row out");
    // Whatever a value holds, it stays a value.
    Captured injected =
        call("gauge", "--recipe", "one", "--set", "name=x' OR '1'='1", "--set", "from=1");
    assertThat(injected.exitCode()).isEqualTo(2);
    assertThat(injected.err()).contains("recipes/one.yaml:3:3", "matches no row");
    assertThat(injected.err() + injected.out()).doesNotContain("OR '1'");
  }

  private Captured call(String command, String argument, String... further) {
    List<String> call = new ArrayList<>(List.of(command, argument));
    call.addAll(List.of(further));
    call.addAll(List.of("--project", folder.toString()));
    return Captured.of(call.toArray(new String[0]));
  }

  /** Beside the baselines that a project uses lie recipes for all who use them. */
  @Test
  void aSharedRecipeYieldsToTheProjectsOwn() throws Exception {
    Files.createDirectories(folder.resolve("team/recipes"));
    Files.createDirectories(folder.resolve("recipes"));
    sandbox.write("team/base.yaml", "kinds: {}\n");
    sandbox.write("team/recipes/one.yaml", RECIPE);
    sandbox.write("team/recipes/four.yaml", "pick: { person: { where: id = 4 } }\n");
    sandbox.write("recipes/one.yaml", "pick: { person: { where: id = 5 } }\n");
    sandbox.write("yemble.yaml", Sandbox.PROJECT + "use: [team/base.yaml]\n");
    assertThat(call("gauge", "--recipe", "four", "--expect", "person=1").exitCode()).isZero();
    assertThat(call("gauge", "--recipe", "one", "--expect", "person=1").exitCode()).isZero();
    Captured unknown = call("gauge", "--recipe", "fuor");
    assertThat(unknown.err()).contains("there is no recipe fuor", "four");
    Captured outside = call("gauge", "--recipe", "../yemble");
    assertThat(outside.exitCode()).isEqualTo(2);
  }

  /** A rule of one job goes before that of the project. */
  @Test
  void linksOfOneJob() throws Exception {
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT
            + "    pick: { person: { where: id < 3 } }\n"
            + "  fewer:\n    from: live\n    pick: { person: { where: id < 3 } }\n"
            + "    links: { purchase.person_id: { at-most: 1 }, 'reader.email -> person.email': {} }\n"
            + "links: { purchase.person_id: { follow: always } }\n");
    assertThat(call("gauge", "small", "--expect", "purchase=3,reader=0").exitCode()).isZero();
    assertThat(call("gauge", "fewer", "--expect", "purchase=2,reader=2").exitCode()).isZero();
  }

  /** What a limit would save is what it saves when it is written down. */
  @Test
  void whatALimitSavesIsWhatItSaves() throws Exception {
    sandbox.sql(
        "live.db",
        "WITH n (i) AS (SELECT 3 UNION ALL SELECT i + 1 FROM n WHERE i < 60)"
            + " INSERT INTO purchase SELECT 1 + i % 2, i, 'more' FROM n");
    JsonNode gauged = gauge("person: { where: id < 3 }");
    JsonNode limits = gauged.path("limits");
    assertThat(limits).hasSize(2);
    for (JsonNode limit : limits) {
      sandbox.write(
          "yemble.yaml",
          Sandbox.PROJECT
              + "    pick: { person: { where: id < 3 } }\n    links: { purchase.person_id: { "
              + limit.path("limit").asText()
              + " } }\n");
      Captured less = Captured.of("gauge", "--json", "--project", folder.toString());
      JsonNode limited = Schemas.valid("gauge", less.out());
      assertThat(gauged.path("rows").asLong() - limited.path("rows").asLong())
          .isEqualTo(limit.path("rows_fewer").asLong())
          .isPositive();
    }
    assertThat(gauged.path("limits_not_tried")).isEmpty();
    gauge("person: {}");
    assertThat(call("gauge", "small").out())
        .contains("of the source's rows; with follow: never for purchase.person_id -> person.id");
  }

  @Test
  void aPickShowsItself() throws Exception {
    JsonNode pick =
        gauge("person: { where: \"id >= 2 AND id < 4 AND name <> 'id > 1'\" }")
            .path("picks")
            .get(0);
    assertThat(pick.path("columns").toString())
        .isEqualTo(
            "[{\"column\":\"id\",\"least\":\"2\",\"greatest\":\"3\"},"
                + "{\"column\":\"name\",\"least\":null,\"greatest\":null}]");
    assertThat(pick.path("borders").toString())
        .isEqualTo(
            "[{\"comparison\":\"id >= 2\",\"equal\":1},{\"comparison\":\"id < 4\",\"equal\":1}]");
    Captured prose = call("gauge", "small");
    assertThat(prose.out())
        .contains("person: 1 row sits exactly on the border of id < 4, which leaves them out")
        .contains("not shown: --show-values")
        .doesNotContain("Tavin");
    Captured open = call("gauge", "small", "--show-values", "--rows", "purchase");
    assertThat(open.out()).contains("Mirel Vennask", "Tavin Skerrack", "Rows of purchase");
    Captured keys = call("gauge", "small", "--rows", "person");
    assertThat(keys.out()).contains("Rows of person", "Their keys alone").doesNotContain("Tavin");
    assertThat(call("gauge", "small", "--rows", "persn").err()).contains("\"person\"");
    // A day that a time is compared with holds rows that > leaves out.
    assertThat(call("run", "small", "--dry").out()).contains("exactly on the border of id >= 2");
  }

  /** Jobs that mask alike need not be named where only masks are asked for. */
  @Test
  void previewNeedsNoJobWhereAllMaskAlike() throws Exception {
    String second = "  all: { from: live }\n";
    sandbox.write("yemble.yaml", Sandbox.PROJECT + second);
    assertThat(call("preview", "person").exitCode()).isZero();
    assertThat(call("preview", "purchase", "--row", "1,2").out()).contains("1,2");
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT
            + second.replace("live }", "live, links: { purchase.person_id: { cut: false } } }"));
    assertThat(call("preview", "person").err()).contains("which job?");
  }

  /** What the page draws is what the command prints; it asks nobody for anything. */
  @Test
  void aPageOfTheSubsetHoldsNoValueAndNeedsNoNetwork() throws Exception {
    sandbox.sql("live.db", "CREATE TABLE \"x</script>\" (id INTEGER PRIMARY KEY)");
    JsonNode gauged =
        gauge("person: { where: id < 3 }", "--page", sandbox.file("page.html").toString());
    String page = sandbox.read("page.html");
    assertThat(page)
        .startsWith("<!DOCTYPE html>")
        .contains("default-src 'none'", "cytoscape", "How the tables hang together")
        .doesNotContain("x</script>", "src=\"http", "href=\"http", "Tidewick", "tavin@");
    String start = "id=\"data\">";
    String data = page.substring(page.indexOf(start) + start.length(), page.indexOf("</script>"));
    JsonNode drawn = new ObjectMapper().readTree(data);
    assertThat(drawn.path("rows")).isEqualTo(gauged.path("rows"));
    assertThat(drawn.path("limits")).isEqualTo(gauged.path("limits"));
    for (int i = 0; i < gauged.path("tables").size(); i++) {
      JsonNode table = drawn.path("tables").get(i);
      JsonNode printed = gauged.path("tables").get(i);
      printed
          .fieldNames()
          .forEachRemaining(name -> assertThat(table.get(name)).isEqualTo(printed.get(name)));
    }
    assertThat(drawn.path("tables").findValue("chain")).isNotNull();
    assertThat(drawn.path("tables").toString())
        .contains(
            "[\"a row of person was picked\",\"brought a row of purchase through purchase.person_id\"]");
    Captured again = call("gauge", "small", "--page", sandbox.file("page.html").toString());
    assertThat(again.err()).contains("it needs no network");
    sandbox.write("page.html", "mine");
    assertThat(call("gauge", "small", "--page", sandbox.file("page.html").toString()).exitCode())
        .isEqualTo(3);
  }
}
