package yemble.core.mask.step;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import yemble.core.kind.Kinds;
import yemble.core.kind.TypeSort;
import yemble.core.own.OwnMasks;
import yemble.core.problem.Problem;
import yemble.core.yaml.YamlValue;

/** What may stand behind the word of a step, and what is said of anything else. */
class StepReadingTest {
  @TempDir Path folder;

  private MaskStep read(String word, String value) {
    return Steps.of(word)
        .orElseThrow()
        .reading()
        .read(
            YamlValue.parse("x: " + value, "yemble.yaml").entries().get(0).getValue(),
            new StepSort.Known(folder, Kinds.BUILT_IN, OwnMasks.of(folder, List.of())));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '~',
      value = {
        "as            | emial                              | kind-unknown     | did you mean \"email\"?",
        "list          | []                                 | list-form        | the list is empty",
        "list          | { A: 0 }                           | value-form       | at least 1",
        "list          | lists/none.txt                     | setting-unreadable | cannot be read",
        "pattern       | '[A-'                              | pattern-form     | no pattern for values",
        "pattern       | '[A-Z]?'                           | pattern-form     | matches the empty text",
        "pattern       | []                                 | pattern-form     | a pattern is missing",
        "clear         | false                              | mask-rule        | false says nothing",
        "filler        | 3                                  | value-form       | neither true nor false",
        "hidden        | { keep-first: -1 }                 | value-form       | whole number",
        "hidden        | { with: '##' }                     | value-form       | one character",
        "hidden        | { first: 1 }                       | word-unknown     | unknown word \"first\"",
        "template      | 'no column'                        | template-form    | names no column",
        "template      | '{given-name'                      | template-form    | never closed",
        "template      | '{}'                               | template-form    | braces are empty",
        "template      | '{name:small}'                     | template-form    | unknown word \"small\"",
        "digest        | 3                                  | value-form       | at least 4",
        "digest        | 33                                 | value-form       | from 4 to 32",
        "noise         | 0                                  | value-form       | above 0",
        "noise         | 100%                               | value-form       | below 100%",
        "noise         | much                               | value-form       | expected a number",
        "range         | [3]                                | value-form       | two ends",
        "range         | [3, 3]                             | value-form       | from the smaller",
        "shift         | { days: 0 }                        | value-form       | at least 1",
        "shift         | { days: 40000 }                    | value-form       | at most 36500",
        "shift         | { days: 1, hours: 1 }              | mask-rule        | how far may a date move",
        "shift         | { weeks: 1 }                       | word-unknown     | unknown word \"weeks\"",
        "email-at      | Orlisay                            | value-form       | this is no domain",
        "replace       | {}                                 | list-form        | is missing here",
        "from-column   | often                              | word-unknown     | unknown word \"often\"",
        "unknown-paths | go                                 | word-unknown     | unknown word \"go\"",
        "token         | { like: '[0-9]{4}' }               | word-missing     | which store",
        "token         | { store: a, like: '[ab]a{260}' }   | pattern-form     | at most 250 characters",
        "token         | { store: a, like: '[0-9]{40}' }    | pattern-form     | too many values",
      })
  void whatMakesNoStepIsSaidWithItsPlace(String word, String value, String code, String said) {
    assertThatThrownBy(() -> read(word, value))
        .isInstanceOfSatisfying(
            Problem.class,
            problem -> {
              assertThat(problem.failure().code()).isEqualTo(code);
              assertThat(problem.where()).startsWith("yemble.yaml:1:");
              assertThat(problem.what() + problem.why() + problem.remedy()).contains(said);
            });
  }

  @Test
  void aFileOfValuesHasWeightsBehindTabs() throws Exception {
    Files.writeString(folder.resolve("decks.txt"), "# the decks\nA\t70\n\nB\t30\nC\n");
    FromList list = (FromList) read("list", "decks.txt");
    assertThat(list.values()).containsExactly("A", "B", "C");
    assertThat(list.weights()).containsExactly(70, 30, 1);
    assertThat(list.words()).isEqualTo("list decks.txt");
    Files.writeString(folder.resolve("words.txt"), "Old Quay\tNew Quay\nskipper\tmaster\n");
    Replace replace = (Replace) read("replace", "words.txt");
    assertThat(replace.found()).containsEntry("skipper", "master").hasSize(2);
    Files.writeString(folder.resolve("decks.txt"), "A\tmany\n");
    assertThatThrownBy(() -> read("list", "decks.txt"))
        .hasMessageContaining("the weight of a value is no whole number");
  }

  /** Bytes, numbers, days, texts: which steps suit which columns. */
  @ParameterizedTest
  @EnumSource
  void everyStepSuitsTextsAndSaysWhatElse(TypeSort sort) {
    for (StepSort step : Steps.ALL) {
      assertThat(step.takes().suits(TypeSort.TEXT)).as(step.word()).isTrue();
      assertThat(step.takes().words()).isNotEmpty();
    }
    List<String> suiting =
        Steps.ALL.stream().filter(step -> step.takes().suits(sort)).map(StepSort::word).toList();
    assertThat(suiting).contains("as", "fixed", "clear", "hidden");
    assertThat(suiting.contains("noise"))
        .isEqualTo(sort == TypeSort.NUMBER || sort == TypeSort.TEXT);
    assertThat(suiting.contains("shift")).isEqualTo(sort == TypeSort.DATE || sort == TypeSort.TEXT);
    assertThat(suiting.contains("digest")).isEqualTo(sort != TypeSort.BINARY);
  }

  /** What makes equal of different stays away from keys. */
  @Test
  void whatKeysCannotBear() {
    assertThat(Steps.ALL.stream().filter(StepSort::isRefusedOnKeys).map(StepSort::word))
        .containsExactlyInAnyOrder("fixed", "noise", "range", "shift", "from-column");
    assertThat(Steps.ALL.stream().filter(StepSort::isConstant).map(StepSort::word))
        .containsExactlyInAnyOrder("fixed", "clear", "password");
    assertThat(Steps.ALL.stream().filter(step -> step.sets(Kinds.TEXT)).map(StepSort::word))
        .containsExactly("replace");
    assertThat(Steps.ALL.stream().filter(step -> step.sets(Kinds.JSON)).map(StepSort::word))
        .containsExactly("unknown-paths");
    assertThat(Steps.ALL).extracting(StepSort::word).doesNotHaveDuplicates();
  }
}
