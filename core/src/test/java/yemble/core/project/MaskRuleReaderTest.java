package yemble.core.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.crypto.SecretKey;
import yemble.core.mask.MaskRule;
import yemble.core.mask.Masks;
import yemble.core.mask.step.As;
import yemble.core.mask.step.Digest;
import yemble.core.mask.step.Filler;
import yemble.core.mask.step.FromColumn;
import yemble.core.mask.step.FromList;
import yemble.core.mask.step.Hidden;
import yemble.core.mask.step.Replace;
import yemble.core.mask.step.StepSort;
import yemble.core.mask.step.Steps;
import yemble.core.mask.step.Template;
import yemble.core.mask.step.UnknownPaths;
import yemble.core.problem.Problem;
import yemble.core.row.Empty;

/** What may stand under {@code masks:} and {@code columns:}, and what is said of mistakes there. */
class MaskRuleReaderTest {
  private static final String STORE = "stores: { cards: { url: x, key: y } }\n";

  @TempDir Path folder;

  private Conventions read(String text) throws IOException {
    Files.writeString(
        folder.resolve("yemble.yaml"), "version: 1\ndatabases: { a: { url: x } }\n" + text);
    return ProjectFile.read(folder).conventions();
  }

  /** What the reference says of a step holds for the step that is read. */
  @Test
  void everySampleOfAStepIsReadAndMakesItsMask() throws IOException {
    Masks masks = new Masks(SecretKey.random(), LocalDate.of(2026, 1, 1));
    for (StepSort step : Steps.ALL) {
      for (String sample : step.samples()) {
        Conventions all = read(STORE + "columns: { a.b: { " + step.word() + ": " + sample + " } }");
        MaskRule rule = all.columns().get(0).rule();
        assertThat(rule.steps()).as(step.word()).hasSize(1);
        assertThat(rule.steps().get(0).sort()).isEqualTo(step);
        if (!rule.readsRow() && !rule.drawsFromColumn()) {
          String masked = masks.of("", rule).apply("1234-05-06");
          assertThat(masks.again().of("", rule).apply("1234-05-06")).isEqualTo(masked);
          assertThat(rule.isConstant()).isEqualTo(step.isConstant());
        }
      }
    }
  }

  @Test
  void aNarrowerRuleWinsAndLeavesTheRestToTheWiderOnes() throws IOException {
    Conventions all =
        read(
            """
            masks:
              all: { fresh: true }
              contact: { scope: people }
              phone: { hidden: { keep-first: 3 } }
            """);
    MaskRule phone = all.masks().get("phone");
    assertThat(phone.steps()).containsExactly(new Hidden(3, 0, '*'));
    assertThat(phone.scope()).isEqualTo("people");
    assertThat(phone.isFresh()).isTrue();
    assertThat(all.masks().get("email").steps()).isEmpty();
    assertThat(all.masks().get("email").scope()).isEqualTo("people");
    assertThat(all.masks().get("iban").scope()).isEmpty();
    assertThat(all.masks().get("").isFresh()).isTrue();
    assertThat(all.kinds().known("phone").becomes()).contains("hidden");
    assertThat(all.kinds().known("email").mask()).isEqualTo("email");
  }

  @Test
  void aKindThatIsMaskedAsAnotherStaysSoUnderAWiderRule() throws IOException {
    Conventions all =
        read(
            """
            masks:
              contact: { digest: 8, scope: people }
              phone: { as: card-number }
              social-handle: shape
            """);
    assertThat(all.masks().get("phone").steps()).containsExactly(new As("card-number"));
    assertThat(all.masks().get("phone").scope()).isEqualTo("people");
    assertThat(all.masks().get("social-handle").steps()).isEmpty();
    assertThat(all.masks().get("email").steps()).containsExactly(new Digest(8));
  }

  @Test
  void textsJsonAndEmptyCellsHaveWordsOfTheirOwn() throws IOException {
    Files.writeString(
        folder.resolve("words.txt"), "# ours\nOld Quay\tNorth Pier\nskipper\tmaster\n");
    Conventions all =
        read(
            """
            masks:
              note: { replace: words.txt }
              json: { unknown-paths: stop }
            columns:
              a.x: { replace: { one: eins, two: zwei } }
              a.y: { filler: true }
              a.z: { from-column: weighted, keyed-by: id }
              a.n: { fixed: none, also: [null, empty] }
              a.m: { fixed: none, also: null }
              "a.data $.user['e-mail']": email
            """);
    assertThat(all.masks().get("note").steps())
        .containsExactly(
            new Replace("words.txt", Map.of("Old Quay", "North Pier", "skipper", "master")));
    assertThat(all.masks().get("json").steps()).containsExactly(new UnknownPaths(true));
    assertThat(((Replace) all.columns().get(0).rule().steps().get(0)).found())
        .containsEntry("one", "eins")
        .hasSize(2);
    assertThat(all.columns().get(1).rule().steps()).containsExactly(new Filler());
    assertThat(all.columns().get(2).rule().steps()).containsExactly(new FromColumn(true));
    assertThat(all.columns().get(3).rule().also())
        .containsExactlyInAnyOrder(Empty.NULL, Empty.EMPTY);
    assertThat(all.columns().get(4).rule().also()).containsExactly(Empty.NULL);
    assertThat(all.columns().get(5).name()).isEqualTo("a.data $.user['e-mail']");
  }

  @Test
  void aProjectWinsOverItsBaseline() throws IOException {
    Files.writeString(
        folder.resolve("base.yaml"),
        """
        masks: { phone: { fixed: none }, iban: { digest: 8 } }
        columns: { a.x: clear, "*.y": shape }
        """);
    Conventions all =
        read("use: [base.yaml]\nmasks: { phone: { as: shape } }\ncolumns: { a.x: email }\n");
    assertThat(all.masks().get("phone").isNone()).isTrue();
    assertThat(all.kinds().known("phone").mask()).isEqualTo("own-shape");
    assertThat(all.masks().get("iban").steps()).containsExactly(new Digest(8));
    assertThat(all.columns().stream().map(Conventions.ColumnRule::name))
        .containsExactly("*.y", "a.x");
    assertThat(all.columns().get(1).rule().steps()).containsExactly(new As("email"));
  }

  @Test
  void aListIsWrittenThereOrReadFromAFileWithWeights() throws IOException {
    Files.createDirectory(folder.resolve("lists"));
    Files.writeString(folder.resolve("lists/decks.txt"), "# decks\nDeck A\t5\n\nDeck B\n");
    Conventions all =
        read(
            """
            columns:
              a.x: { list: lists/decks.txt }
              a.y: { list: [red, blue] }
              a.z: { list: { red: 9, blue: 1 } }
            """);
    assertThat(list(all, 0).values()).containsExactly("Deck A", "Deck B");
    assertThat(list(all, 0).weights()).containsExactly(5, 1);
    assertThat(list(all, 1).weights()).containsExactly(1, 1);
    assertThat(list(all, 2).weights()).containsExactly(9, 1);
  }

  private static FromList list(Conventions all, int index) {
    return (FromList) all.columns().get(index).rule().steps().get(0);
  }

  @Test
  void aTemplateIsTextWithPiecesInBraces() throws IOException {
    Conventions all =
        read("columns: { a.x: { template: '{given-name:1 lower}-{fam} @ {city:initials}' } }");
    Template template = (Template) all.columns().get(0).rule().steps().get(0);
    assertThat(template.pieces())
        .isEqualTo(
            List.of(
                new Template.Piece("", "given-name", 1, Template.Style.LOWER),
                new Template.Piece("-", "", 0, Template.Style.PLAIN),
                new Template.Piece("", "fam", 0, Template.Style.PLAIN),
                new Template.Piece(" @ ", "", 0, Template.Style.PLAIN),
                new Template.Piece("", "city", 0, Template.Style.INITIALS)));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '~',
      value = {
        "{ pattren: 'a' } ~ unknown word \"pattren\" ~ 18",
        "{ pattern: 'a+' } ~ no pattern for values ~ 27",
        "{ pattern: '(a)?' } ~ matches the empty text ~ 27",
        "{ fixed: a, digest: 8 } ~ two masks for one value ~ 16",
        "{ steps: [{ fixed: a, digest: 8 }] } ~ a step is one mask ~ 26",
        "emial ~ unknown kind \"emial\" ~ 16",
        "{ as: emial } ~ unknown kind \"emial\" ~ 22",
        "{ digest: 40 } ~ from 4 to 32 ~ 26",
        "{ noise: 0 } ~ above 0 ~ 25",
        "{ noise: lots } ~ expected a number ~ 25",
        "{ shift: { days: 3, hours: 2 } } ~ how far may a date move ~ 25",
        "{ range: [5, 3] } ~ smaller number to the greater ~ 25",
        "{ range: [5] } ~ two ends ~ 25",
        "{ list: none.txt } ~ cannot be read ~ 24",
        "{ list: [] } ~ the list is empty ~ 24",
        "{ template: 'only text' } ~ names no column ~ 28",
        "{ template: '{a:loud}' } ~ unknown word \"loud\" ~ 28",
        "{ hidden: { with: '##' } } ~ one character ~ 34",
        "{ email-at: 'me@there' } ~ this is no domain ~ 28",
        "{ clear: false } ~ says nothing ~ 25",
        "{ filler: false } ~ says nothing ~ 26",
        "{ replace: none.txt } ~ cannot be read ~ 27",
        "{ replace: { '': x } } ~ word to look for ~ 27",
        "{ replace: { x: '' } } ~ what it becomes ~ 27",
        "{ from-column: often } ~ unknown word \"often\" ~ 31",
        "{ unknown-paths: halt } ~ unknown word \"halt\" ~ 33",
        "{ fixed: x, also: [nil] } ~ unknown word \"nil\" ~ 35",
        "{} ~ Nothing is said ~ 16"
      })
  void aMistakeIsSaidWithItsPlace(String rule, String what, int column) {
    Problem problem =
        catchThrowableOfType(Problem.class, () -> read("columns: { a.x: " + rule + " }\n"));
    assertThat(problem.what()).contains(what);
    assertThat(problem.where()).isEqualTo("yemble.yaml:3:" + (column + 1));
  }

  @Test
  void aKindHasNoColumnToDrawFrom() {
    Problem problem =
        catchThrowableOfType(
            Problem.class, () -> read("masks: { gender: { from-column: each } }\n"));
    assertThat(problem.what()).contains("the values of one column");
  }

  @Test
  void aKindCannotDependOnTheRow() {
    Problem problem =
        catchThrowableOfType(
            Problem.class, () -> read("masks: { phone: { as: phone, when: 'id > 1' } }\n"));
    assertThat(problem.what()).contains("depends on the row");
    assertThat(problem.remedy()).contains("columns:");
  }
}
