package yemble.core.project;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** No text of a review file is a formula, and each can be had back. */
class SpreadsheetCellTest {
  @ParameterizedTest
  @ValueSource(
      strings = {
        "=1+1",
        "+49 30 1234",
        "-x",
        "@a",
        "\tx",
        "\rx",
        "'=1",
        "''=1",
        "'",
        "''",
        "'x",
        "x",
        "",
        "-5",
        "-1.5",
        "--5",
        "=",
        "'-5",
        "+",
        "it's",
        "-\n=1"
      })
  void whatIsGuardedCanBeHadBack(String text) {
    String cell = SpreadsheetCell.guarded(text);
    assertThat(SpreadsheetCell.original(cell)).isEqualTo(text);
    assertThat(cell.matches("(?s)[=+@\t\r].*|-(?!\\d+(\\.\\d+)?$).*")).as(cell).isFalse();
  }
}
