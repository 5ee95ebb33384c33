package yemble.cli;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Results on standard output, messages on standard error; colour only where it is wanted. */
final class Output {
  /** What a piece of text is, which decides its colour. */
  enum Tone {
    PLAIN(""),
    STRONG("1"),
    FAINT("2"),
    GOOD("32"),
    WARNING("33"),
    BAD("31");

    private final String code;

    Tone(String code) {
      this.code = code;
    }
  }

  private static final Pattern TONES = Pattern.compile(Visible.TONE + "([0-9]{1,2})" + Visible.END);

  private final PrintStream out = new PrintStream(System.out, false, StandardCharsets.UTF_8);
  private final PrintStream err = new PrintStream(System.err, true, StandardCharsets.UTF_8);
  private final Terminal terminal;

  Output(Terminal terminal) {
    this.terminal = terminal;
  }

  Terminal terminal() {
    return terminal;
  }

  /** A text in lines that fit the terminal behind an indent; at least one. */
  List<String> wrapped(String text, int indent) {
    int width = Math.max(30, terminal.width() - indent - 1);
    List<String> lines = new ArrayList<>();
    String rest = Visible.of(text);
    while (Width.of(rest) > width) {
      int end = Math.max(1, Width.start(rest, width).length());
      int at = rest.lastIndexOf(' ', end);
      at = at <= 0 ? end : at;
      lines.add(rest.substring(0, at));
      rest = rest.substring(at).stripLeading();
    }
    lines.add(rest);
    return lines;
  }

  /** A line of the result. */
  void line(String text) {
    out.println(rendered(text));
  }

  /** What goes to the terminal: nothing of data and names in it acts there, but our own tones. */
  private static String rendered(String text) {
    return TONES.matcher(Visible.marked(text)).replaceAll("\u001b[$1m");
  }

  /** Fields of a line that a program may cut at tabs. */
  void fields(String... fields) {
    out.println(
        Stream.of(fields).map(Visible::of).map(Output::rendered).collect(Collectors.joining("\t")));
  }

  void line() {
    out.println();
  }

  void table(TextTable table) {
    table.lines(this).forEach(this::line);
  }

  /** A message: not part of the result. */
  void message(String text) {
    flush();
    err.println(rendered(text));
  }

  void flush() {
    out.flush();
  }

  String paint(Tone tone, String text) {
    return terminal.color() && !tone.code.isEmpty()
        ? Visible.TONE + tone.code + Visible.END + text + Visible.TONE + "0" + Visible.END
        : text;
  }

  /** Writes one JSON value as the whole result. */
  void json(Object value) {
    try (JsonGenerator json =
        new JsonFactory()
            .createGenerator(Visible.json(new OutputStreamWriter(out, StandardCharsets.UTF_8)))) {
      json.useDefaultPrettyPrinter();
      json.disable(JsonGenerator.Feature.AUTO_CLOSE_TARGET);
      Json.write(json, value);
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
    out.println();
    out.flush();
  }

  /** A number with its thousands separated. */
  static String number(long number) {
    return String.format(Locale.ROOT, "%,d", number);
  }

  /** A number and what it counts. */
  static String counted(long number, String noun) {
    return number(number) + " " + noun + (number == 1 ? "" : "s");
  }

  /** A share of a whole, in percent. */
  static String percent(long part, long whole) {
    if (whole == 0) {
      return "";
    }
    double percent = 100.0 * part / whole;
    if (part > 0 && percent < 0.1) {
      return "<0.1%";
    }
    if (part < whole && percent >= 99.5) {
      return ">99%";
    }
    return String.format(Locale.ROOT, percent < 10 && percent > 0 ? "%.1f%%" : "%.0f%%", percent);
  }

  /** A number of bytes for people. */
  static String bytes(long bytes) {
    return bytes < 10_000
        ? number(bytes) + " B"
        : bytes < 10_000_000
            ? number(bytes / 1_000) + " kB"
            : bytes < 10_000_000_000L
                ? number(bytes / 1_000_000) + " MB"
                : number(bytes / 1_000_000_000) + " GB";
  }

  static String duration(Duration duration) {
    long millis = duration.toMillis();
    if (millis < 10_000) {
      return String.format(Locale.ROOT, "%.1f s", millis / 1000.0);
    }
    long seconds = millis / 1000;
    return seconds < 120
        ? seconds + " s"
        : seconds < 7200
            ? seconds / 60 + " min " + seconds % 60 + " s"
            : seconds / 3600 + " h " + seconds / 60 % 60 + " min";
  }
}
