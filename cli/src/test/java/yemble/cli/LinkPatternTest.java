package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Path;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** One rule for the columns of many tables. */
class LinkPatternTest {
  @TempDir Path folder;
  private Sandbox sandbox;

  @BeforeEach
  void tablesThatDeclareNothing() throws Exception {
    sandbox = new Sandbox(folder);
    sandbox.sql(
        "live.db",
        "CREATE TABLE users (id INTEGER PRIMARY KEY, creator INTEGER)",
        "CREATE TABLE page (id INTEGER PRIMARY KEY, Creator INTEGER, parent INTEGER)",
        "CREATE TABLE note (id INTEGER PRIMARY KEY, creator INTEGER REFERENCES users (id))",
        "CREATE TABLE other (id INTEGER PRIMARY KEY)",
        "INSERT INTO users VALUES (1, NULL), (2, 1), (3, 2)",
        "INSERT INTO page VALUES (1, 3, NULL), (2, 9, 1)",
        "INSERT INTO note VALUES (1, 3)");
    sandbox.key(Sandbox.KEY);
  }

  private Map<String, String> links(String rules) throws Exception {
    sandbox.write("yemble.yaml", Sandbox.PROJECT + "links:\n" + rules.indent(2));
    Captured told = Captured.of("links", "--json", "--project", folder.toString());
    assertThat(told.exitCode()).as(told.err() + told.out()).isZero();
    Map<String, String> links = new TreeMap<>();
    for (JsonNode link : Schemas.valid("links", told.out()).path("links")) {
      links.put(link.path("link").asText(), link.path("follow").asText());
    }
    return links;
  }

  @Test
  void aPatternSpeaksOfEveryTableThatHasTheColumn() throws Exception {
    assertThat(links("'*.creator -> users.id': { follow: never }"))
        .isEqualTo(
            Map.of(
                "users.creator -> users.id", "never",
                "page.Creator -> users.id", "never",
                "note.creator -> users.id", "never"));
  }

  @Test
  void whatStandsForOneLinkAloneWins() throws Exception {
    assertThat(
            links(
                "page.creator -> users.id: { follow: always }\n"
                    + "'*.creator -> users.id': { follow: never }\n"
                    + "'*.id -> page.id': {}"))
        .containsEntry("page.Creator -> users.id", "always")
        .containsEntry("users.creator -> users.id", "never")
        .containsKeys("other.id -> page.id", "note.id -> page.id")
        .doesNotContainKey("page.id -> page.id");
  }

  @Test
  void theirRowsComeAlong() throws Exception {
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT
            + "    pick: { page: { where: id = 1 } }\n"
            + "links:\n  '*.creator -> users.id': { follow: never }\n");
    Captured gauge = Captured.of("gauge", "--json", "--project", folder.toString());
    // The page, its creator, who created that one, and so on.
    assertThat(Schemas.valid("gauge", gauge.out()).path("rows").asInt()).isEqualTo(4);
  }

  /** What refers to nothing is counted, and a link whose sides hold nothing alike is said. */
  @Test
  void aLinkThatNeverFindsAParentIsSaid() throws Exception {
    sandbox.sql(
        "live.db", "ALTER TABLE page ADD COLUMN author TEXT", "UPDATE page SET author = 'Orla'");
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT
            + "links:\n  page.author -> users.id: {}\n  page.creator -> users.id: {}\n");
    Captured prose = Captured.of("links", "--project", folder.toString());
    assertThat(prose.out())
        .contains("page.author -> users.id: none of 2 values", "(TEXT to INTEGER)")
        .doesNotContain("page.Creator -> users.id: none", "Orla");
    JsonNode links =
        Schemas.valid("links", Captured.of("links", "--json", "--project", folder.toString()).out())
            .path("links");
    for (JsonNode link : links) {
      int broken =
          switch (link.path("link").asText()) {
            case "page.author -> users.id" -> 2;
            case "page.Creator -> users.id" -> 1;
            default -> 0;
          };
      assertThat(link.path("broken").asInt()).as(link.toString()).isEqualTo(broken);
    }
  }
}
