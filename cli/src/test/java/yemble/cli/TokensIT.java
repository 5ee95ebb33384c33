package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HexFormat;
import java.util.List;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A way back for one team: every token leads to its original, for whoever has the store's key. */
class TokensIT {
  private static final String LIKE =
      "columns: { payment.card_no: { token: { store: cards, like: '40[0-9]{14}' } } }\n";

  @TempDir Path folder;
  private PeopleWorld world;

  private void prepare(String engine) throws Exception {
    world = new PeopleWorld(engine, folder);
    for (String key : List.of("cards.key", "other.key")) {
      world.yemble(0, "key", "new", "store", key);
    }
    world.project(store("cards", "store", "cards.key") + LIKE);
  }

  private String store(String name, String side, String key) {
    return "stores: { " + name + ": { " + world.url(side) + ", key: '${file:" + key + "}' } }\n";
  }

  /** Cards by payment, as a side holds them. */
  private List<String> cards(String side) throws Exception {
    return world.rows(side, "SELECT id, card_no FROM payment");
  }

  /** Every token of a side is led back, to the card of the same payment. */
  private void leadsBack(String side, List<String> originals) throws Exception {
    List<String> tokens = world.rows(side, "SELECT card_no FROM payment");
    Program.Result told =
        world.files.reading(
            String.join("\n", tokens), "tokens", "original", "cards", "-", "--reason", "a test");
    assertThat(told.exitCode()).as(told.all()).isZero();
    TreeMap<String, String> back =
        told.out()
            .lines()
            .map(line -> line.split("\t"))
            .collect(Collectors.toMap(f -> f[0], f -> f[1], (one, other) -> one, TreeMap::new));
    assertThat(
            cards(side).stream()
                .map(row -> row.split("\\|"))
                .map(row -> row[0] + "|" + back.get(row[1])))
        .containsExactlyElementsOf(originals);
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void everyTokenLeadsBack(String engine) throws Exception {
    prepare(engine);
    Program.Result missing = world.yemble(4, "run", "--yes");
    assertThat(missing.err()).contains("store-missing");
    world.yemble(0, "tokens", "begin", "cards");
    List<String> originals = cards("live");

    Program.Result run = world.yemble(0, "run", "--yes");
    assertThat(run.out())
        .contains("tokens in payment.card_no: 60 values can be led back by the store cards");
    List<String> tokens = cards("dev");
    assertThat(world.rows("dev", "SELECT card_no FROM payment"))
        .doesNotHaveDuplicates()
        .allMatch(token -> token.matches("40[0-9]{14}"))
        .doesNotContainAnyElementsOf(world.rows("live", "SELECT card_no FROM payment"));
    leadsBack("dev", originals);
    assertThat(world.yemble(0, "tokens", "--json").out())
        .contains("\"tokens\" : 60", "\"column\" : \"payment.card_no\"", "\"reason\" : \"a test\"");
    assertThat(world.yemble(0, "verify").out())
        .contains("way back", "payment.card_no by the token store cards");
    assertThat(world.yemble(0, "doctor").out())
        .contains("way back", "from 60 tokens of payment.card_no");

    // By a parcel and where they stand they are the same.
    world.yemble(0, "pack");
    world.yemble(0, "load", "all", "--into", "other", "--yes");
    assertThat(cards("other")).isEqualTo(tokens);
    world.confirm();
    assertThat(world.yemble(0, "rewrite").out()).contains("60 values can be led back");
    assertThat(cards("live")).isEqualTo(tokens);
    leadsBack("live", originals);
    assertThat(world.yemble(0, "tokens", "--json").out()).contains("\"tokens\" : 60");
    noOriginals(originals);
  }

  /** Neither files nor the store hold an original that is not encrypted. */
  private void noOriginals(List<String> originals) throws Exception {
    String three = originals.get(3).split("\\|")[1];
    for (Path file : world.written()) {
      assertThat(Files.readString(file, StandardCharsets.ISO_8859_1))
          .as("in " + file)
          .doesNotContain(three);
    }
    assertThat(world.rows("store", "SELECT token, original FROM yemble_store_cards_tokens"))
        .hasSize(60)
        .noneMatch(
            row ->
                originals.stream()
                    .map(original -> original.split("\\|")[1])
                    .anyMatch(card -> row.contains(card) || row.contains(hex(card))));
  }

  /** As bytes are shown that were not encrypted. */
  private static String hex(String text) {
    return HexFormat.of().formatHex(text.getBytes(StandardCharsets.UTF_8));
  }

  @Test
  void onlyTheKeyOfTheStoreOpensIt() throws Exception {
    prepare("sqlite");
    world.yemble(0, "tokens", "begin", "cards");
    world.yemble(0, "run", "--yes");
    List<String> originals = cards("live");
    List<String> before = world.rows("store", "SELECT original FROM yemble_store_cards_tokens");
    final List<String> tokens = cards("dev");

    world.yemble(0, "tokens", "rotate", "cards", "--to", "other.key", "--yes");
    assertThat(world.rows("store", "SELECT original FROM yemble_store_cards_tokens"))
        .doesNotContainAnyElementsOf(before);
    assertThat(world.yemble(4, "run", "--yes").err()).contains("store-key");
    assertThat(world.yemble(4, "tokens").err()).contains("store-key");
    assertThat(cards("dev")).isEqualTo(tokens);
    world.project(store("cards", "store", "other.key") + LIKE);
    leadsBack("dev", originals);
    world.yemble(0, "run", "--yes");
    assertThat(cards("dev")).isEqualTo(tokens);

    world.sql("store", List.of("UPDATE yemble_store_cards_tokens SET seen = seen - 91"));
    world.yemble(0, "tokens", "expire", "cards", "--older", "90d", "--yes");
    String token = tokens.get(3).split("\\|")[1];
    assertThat(world.yemble(2, "tokens", "original", "cards", token, "--reason", "x").err())
        .contains("the token is not in the store");
    assertThat(world.yemble(2, "tokens", "original", "cards", token).err())
        .contains("why are originals wanted?");

    Files.delete(folder.resolve("store.db"));
    assertThat(world.yemble(4, "run", "--yes").err()).contains("store-missing");
    assertThat(cards("dev")).isEqualTo(tokens);
  }

  @Test
  void anotherStoreGivesOtherTokens() throws Exception {
    prepare("sqlite");
    world.yemble(0, "tokens", "begin", "cards");
    world.yemble(0, "run", "--yes");
    List<String> tokens = cards("dev");
    world.project(store("cards", "other", "other.key") + LIKE);
    assertThat(world.yemble(3, "tokens", "begin", "cards").err()).contains("store-place");
    world.project(
        "stores: { cards: { url: 'jdbc:sqlite:second.tokens', key: '${file:other.key}' } }\n"
            + LIKE);
    world.yemble(0, "tokens", "begin", "cards");
    world.yemble(0, "run", "--yes");
    assertThat(cards("dev")).doesNotContainAnyElementsOf(tokens);
    String token = tokens.get(3).split("\\|")[1];
    world.yemble(2, "tokens", "original", "cards", token, "--reason", "x");
  }

  @Test
  void valuesThatAreNotLikeThePatternStopTheRunBeforeItCopies() throws Exception {
    prepare("sqlite");
    world.yemble(0, "tokens", "begin", "cards");
    world.sql("live", List.of("UPDATE payment SET card_no = '4000-1' WHERE id IN (3, 4)"));
    Program.Result unfit = world.yemble(2, "run", "--yes");
    assertThat(unfit.err()).contains("2 of 60 values of payment.card_no can have no token");
    assertThat(unfit.all()).doesNotContain("4000-1");
    assertThat(folder.resolve("dev.db")).doesNotExist();
    world.project(
        store("cards", "store", "cards.key")
            + LIKE.replace("} } }", "}, when: \"card_no LIKE '40000000%'\" } }"));
    world.yemble(0, "run", "--yes");
  }
}
