package yemble.core.verify;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Base64;
import java.util.Locale;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.kind.Kind.Form;

/** An original is met again wherever it stands as a whole, and only there. */
class TracesTest {
  private static Set<String> of(Object cell) {
    Set<String> traces = new TreeSet<>();
    Traces.ofCell(cell, (form, text) -> traces.add(form + " " + text));
    return traces;
  }

  private static Set<String> original(Form form, String value) {
    Set<String> traces = new TreeSet<>();
    Traces.ofOriginal(form, value, (f, text) -> traces.add(f + " " + text));
    return traces;
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "ADDRESS | Orla@A.example | mailto:orla@a.example?x=1",
        "ADDRESS | orla@a.example | (orla@a.example).",
        "ADDRESS | mailto:orla@a.example | x orla@a.example y",
        "ADDRESS | ann@a.example, Orla@A.example | orla@a.example",
        "ADDRESS | orla@a.example | x%20orla%40a.example",
        "ADDRESS | orla@a.example | {\"a\":\"orla\\u0040a.example\"}",
        "ADDRESS | orla@a.example | to=3Dorla=40a.example",
        "PHONE | +49 30 5510131 | 0049-30/5510131",
        "PHONE | +49 30 5510131 | call 030 551 01 31 now",
        "DIGITS | 4000 0012 3456 7899 | card 4000-0012-3456-7899.",
        "CODE | DE89 3704 0044 0532 0130 00 | iban DE89370400440532013000",
        "CODE | DE89370400440532013000 | de89 3704 0044 0532 0130 00",
        "CODE | OR-465-17561 | id OR46517561;",
        "NAME | Orla van Tidewick | was: Tidewick, Orla",
        "LOGIN | otide_17 | user otide_17 signed in"
      })
  void anOriginalIsMetAgain(Form form, String original, String cell) {
    assertThat(of(cell)).containsAnyElementsOf(original(form, original));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "ADDRESS | ann@a.example | joann@a.example",
        "ADDRESS | ann@a.example | ann@a.example.org",
        "PHONE | 5510131 | 15510131",
        "DIGITS | 400000123456 | 4000001234567",
        "CODE | OR46517561 | OR465175612",
        "NAME | Orla Tidewick | Orla saw Tidewick",
        "LOGIN | otide17 | potide17"
      })
  void aPartOfATokenIsNone(Form form, String original, String cell) {
    assertThat(of(cell)).doesNotContainAnyElementsOf(original(form, original));
  }

  @Test
  void shortOnesAndDaysProveNothing() {
    assertThat(original(Form.PHONE, "110 112")).isEmpty();
    assertThat(original(Form.LOGIN, "orla")).isEmpty();
    assertThat(original(Form.NAME, "Orla")).isEmpty();
    assertThat(original(Form.CODE, "ABCDEFGH")).isEmpty();
    assertThat(of("2025-06-01 12:30:00")).isEmpty();
    assertThat(of(12_345_678L)).isEmpty();
  }

  @Test
  void largeCellsAreLookedAtWhole() {
    byte[] bytes = new byte[2_000_000];
    new Random(1).nextBytes(bytes);
    String long64 = Base64.getMimeEncoder().encodeToString(bytes);
    assertThat(of(long64 + " orla@a.example")).contains("ADDRESS orla@a.example");
    String page = "<p>a word 17</p>\n".repeat(60_000);
    String hidden = Base64.getMimeEncoder().encodeToString((page + "orla@a.example").getBytes());
    assertThat(of(hidden)).contains("ADDRESS orla@a.example");
    assertThat(of("7".repeat(300_000) + " orla@a.example")).contains("ADDRESS orla@a.example");
  }

  /** Java's own patterns say what a token is; the scan must cut no text otherwise. */
  @Test
  void tokensAreWhatAPatternFinds() {
    Pattern token = Pattern.compile("[\\p{L}\\p{M}\\p{N}._%+@'-]{6,}");
    String pool = "aZ9._%+@'- ,;ßñ\u0301\u0663\u2167\u00bd\u3042\u00a0\u2019";
    Random random = new Random(1);
    long found = 0;
    for (int i = 0; i < 20_000; i++) {
      StringBuilder text = new StringBuilder();
      for (int k = 0; k < 24; k++) {
        int c = random.nextInt(pool.length() + 2);
        text.append(
            c < pool.length() ? pool.substring(c, c + 1) : c == pool.length() ? "𝒜" : "😀");
      }
      Set<String> traces = new TreeSet<>();
      text.append(" .9"); // A text without either holds no login.
      Traces.ofCell(text.toString(), (form, trace) -> traces.add(trace));
      Matcher matcher = token.matcher(text);
      while (matcher.find()) {
        String trimmed = matcher.group().replaceAll("^[.'%+-]+|[.'%+-]+$", "");
        if (trimmed.length() >= 6 && trimmed.matches(".*[\\p{N}@_].*")) {
          found++;
          assertThat(traces).as(text.toString()).contains(trimmed.toLowerCase(Locale.ROOT));
        }
      }
    }
    assertThat(found).isGreaterThan(1_000);
  }
}
