package yemble.core.wording;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import org.junit.jupiter.api.Test;

class SentenceTest {
  private enum Said implements Wording {
    PLAIN("nothing is open"),
    COUNTED("${rows:row} in ${tables:table}"),
    FORMS("${texts:text holds|texts hold} it, and ${texts?is|are} ${rest}"),
    AGAIN("${a} and ${b}, ${a} again"),
    WITH("${rows} rows${rest}");

    private final String words;

    Said(String words) {
      this.words = words;
    }

    @Override
    public String words() {
      return words;
    }
  }

  @Test
  void oneAndManyHaveTheirForms() {
    assertThat(Said.COUNTED.of(1, 1_234_567L)).hasToString("1 row in 1,234,567 tables");
    assertThat(Said.COUNTED.of(0, 2)).hasToString("0 rows in 2 tables");
    assertThat(Said.FORMS.of(1, "kept")).hasToString("1 text holds it, and is kept");
    assertThat(Said.FORMS.of(2, "kept")).hasToString("2 texts hold it, and are kept");
  }

  @Test
  void listsAndSentencesStandWithinOthers() {
    Sentence both = Said.AGAIN.of(List.of("booking.id", 3), Said.COUNTED.of(1, 1));
    assertThat(both).hasToString("booking.id, 3 and 1 row in 1 table, booking.id, 3 again");
    assertThat(Said.WITH.of(5, Sentence.NONE)).hasToString("5 rows");
    assertThat(Sentence.NONE.isEmpty()).isTrue();
    assertThat(Said.PLAIN.of().isEmpty()).isFalse();
  }

  /** A table may be called anything. */
  @Test
  void whatLooksLikeAGapInAValueIsNone() {
    assertThat(Said.AGAIN.of("${b}", "$x")).hasToString("${b} and $x, ${b} again");
  }

  @Test
  void whatItIsAboutStandsBefore() {
    Sentence of = Said.COUNTED.of(2, 1).about("port.name");
    assertThat(of).hasToString("port.name: 2 rows in 1 table");
    assertThat(of.maskedBy("town")).hasToString("port.name, masked by town: 2 rows in 1 table");
    assertThat(of.says()).isEqualTo("2 rows in 1 table");
  }

  @Test
  void valuesHaveTheNamesOfTheirGaps() {
    assertThat(Said.AGAIN.of("x", 2).named()).containsEntry("a", "x").containsEntry("b", 2L);
    assertThatThrownBy(() -> Said.AGAIN.of("x")).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> Said.PLAIN.of(1)).isInstanceOf(IllegalArgumentException.class);
  }
}
