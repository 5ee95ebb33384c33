package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.job.Phase;

class OutputTest {
  private static Output output(int width, boolean color) {
    return new Output(new Terminal(false, color, false, width, color));
  }

  @Test
  void tablesLineUpWithNumbersToTheRight() {
    List<String> lines =
        new TextTable("table", ">rows", "masked")
            .row("port", "8", "")
            .row("passenger", "1,234", "name")
            .lines(output(80, false));
    assertThat(lines)
        .containsExactly(
            "  table       rows  masked", "  port           8", "  passenger  1,234  name");
  }

  @Test
  void aTableNeverExceedsTheTerminal() {
    List<String> lines =
        new TextTable("a", "b").row("x".repeat(50), "y".repeat(90)).lines(output(70, false));
    assertThat(lines).allMatch(line -> line.length() <= 70).anyMatch(line -> line.contains("…"));
  }

  @Test
  void wideCharactersTakeTwoColumnsAndCombiningOnesNone() {
    List<String> lines =
        new TextTable("name", "next")
            .row("\u6e2f\u53e3", "a") // Two Han characters.
            .row("\ud83d\udea2", "b") // A ship.
            .row("e\u0301te\u0301", "c") // Three letters, two accents.
            .row("abcd", "d")
            .lines(output(80, false));
    assertThat(lines)
        .containsExactly(
            "  name  next",
            "  \u6e2f\u53e3  a",
            "  \ud83d\udea2    b",
            "  e\u0301te\u0301   c",
            "  abcd  d");
  }

  @Test
  void wideTextIsCutAndWrappedByColumnsNotInTheMiddleOfACharacter() {
    String ships = "\ud83d\udea2".repeat(40);
    assertThat(new TextTable("a", "b").row(ships, "x").lines(output(60, false)))
        .allMatch(line -> Width.of(line) <= 60)
        .anyMatch(line -> line.contains("\u2026"))
        .noneMatch(line -> line.matches("(?s).*[\\ud800-\\udfff].*"));
    assertThat(output(60, false).wrapped(ships, 0))
        .hasSize(2)
        .allMatch(line -> Width.of(line) <= 60);
  }

  @Test
  void wherePipesAreProgressIsALineFromTimeToTime() throws Exception {
    java.io.ByteArrayOutputStream bytes = new java.io.ByteArrayOutputStream();
    ProgressView.Lines lines =
        new ProgressView.Lines(new java.io.PrintStream(bytes, true), Duration.ofMillis(20));
    lines.end(); // A step may fail before it has begun.
    lines.begin(Phase.SELECTING_ROWS, 0);
    lines.begin(Phase.LOADING, 2000);
    lines.advance(1500);
    while (!bytes.toString().contains("loading")) {
      Thread.sleep(5);
    }
    lines.end();
    assertThat(bytes.toString()).contains("  loading: 1,500 of 2,000, 0.");
  }

  @Test
  void colourIsOnlyWhereItIsWanted() {
    assertThat(output(80, false).paint(Output.Tone.BAD, "x")).isEqualTo("x");
    assertThat(printed(output -> output.line(output.paint(Output.Tone.BAD, "x"))))
        .isEqualTo("\u001b[31mx\u001b[0m\n");
    assertThat(output(80, true).paint(Output.Tone.PLAIN, "x")).isEqualTo("x");
  }

  /** What reaches a terminal with colour. */
  private static String printed(java.util.function.Consumer<Output> printing) {
    java.io.PrintStream usual = System.out;
    java.io.ByteArrayOutputStream bytes = new java.io.ByteArrayOutputStream();
    System.setOut(new java.io.PrintStream(bytes, true, java.nio.charset.StandardCharsets.UTF_8));
    try {
      Output output = output(80, true);
      printing.accept(output);
      output.flush();
    } finally {
      System.setOut(usual);
    }
    return bytes.toString(java.nio.charset.StandardCharsets.UTF_8);
  }

  private static final String HOSTILE =
      "a\u001b]0;title\u0007b\u009b31mc\rd\u202ee\u2066f\ng\u2028h\u007fi\ufdd031\ufdd1\ud800";
  private static final String SHOWN =
      "a\\u001b]0;title\\u0007b\\u009b31mc\\rd\\u202ee\\u2066f\\ng\\u2028h\\u007fi"
          + "\\ufdd031\\ufdd1\\ud800";

  @Test
  void whatWouldActOnATerminalIsShownAsEscapes() {
    assertThat(printed(o -> o.table(new TextTable("h").row(HOSTILE))))
        .contains(SHOWN.substring(0, 60));
    assertThat(printed(o -> o.line(Visible.of(HOSTILE)))).contains(SHOWN);
    assertThat(printed(o -> o.line("x\u001b[2Jy\u202ez"))).isEqualTo("x\\u001b[2Jy\\u202ez\n");
    assertThat(printed(o -> o.line("Größe, 渡し船, Ω, 🛳, نور\u200cدین")))
        .isEqualTo("Größe, 渡し船, Ω, 🛳, نور\u200cدین\n");
    String json = printed(o -> o.json(Json.object("v", HOSTILE.replace("\ud800", "🛳"))));
    assertThat(json).doesNotContainPattern("[\\p{Cc}\\u202e\\u2066\\u2028&&[^\n]]").contains("🛳");
  }

  @Test
  void longTextsWrapAtSpaces() {
    List<String> lines = output(60, false).wrapped("word ".repeat(30).strip(), 10);
    assertThat(lines).hasSizeGreaterThan(2).allMatch(line -> line.length() <= 50);
    assertThat(String.join(" ", lines)).isEqualTo("word ".repeat(30).strip());
    assertThat(output(60, false).wrapped("x".repeat(120), 10))
        .allMatch(line -> line.length() <= 50);
  }

  @ParameterizedTest
  @CsvSource({"0, 0.0 s", "1540, 1.5 s", "59000, 59 s", "130000, 2 min 10 s", "7300000, 2 h 1 min"})
  void durationsAreForPeople(long millis, String text) {
    assertThat(Output.duration(Duration.ofMillis(millis))).isEqualTo(text);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {"9999 | 9,999 B", "23456 | 23 kB", "23456789 | 23 MB", "23456789012 | 23 GB"})
  void sizesAreForPeople(long bytes, String text) {
    assertThat(Output.bytes(bytes)).isEqualTo(text);
  }

  @ParameterizedTest
  @CsvSource({"0, 10, 0%", "1, 1000, 0.1%", "1, 2, 50%", "3, 3, 100%", "1, 0, ''"})
  void sharesAreForPeople(long part, long whole, String text) {
    assertThat(Output.percent(part, whole)).isEqualTo(text);
  }
}
