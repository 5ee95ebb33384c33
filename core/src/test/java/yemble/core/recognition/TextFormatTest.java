package yemble.core.recognition;

import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.Base64;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** A text that a program reads again is told from words. */
class TextFormatTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "<?xml version=\"1.0\"?><a>x</a> | XML",
        "<note to='x'>Please call</note> | XML",
        "<br/><b>bold</b> | XML",
        "<m to='x'/> | XML",
        "<!DOCTYPE html><html><body>x</body></html> | HTML",
        "a:2:{i:0;s:4:\"Orla\";i:1;i:5;} | serialised objects",
        "O:8:\"stdClass\":1:{s:1:\"a\";i:1;} | serialised objects",
        "s:12:\"Orla Tidewic\"; | serialised objects",
        "rO0ABXNyABFqYXZhLnV0aWwuSGFzaE1hcA== | serialised objects"
      })
  void formats(String text, String format) {
    assertThat(TextFormat.of(text)).contains(format);
  }

  @Test
  void formatsOfSeveralLines() {
    assertThat(TextFormat.of("BEGIN:VCARD\nFN:Orla Tidewick\nEND:VCARD")).contains("vCards");
    assertThat(
            TextFormat.of(
                "From: Orla <o@a.example>\r\nTo: t@b.example\r\nSubject: Cabin\r\n\r\nPlease call."))
        .contains("mails with headers");
    assertThat(
            TextFormat.of(
                Base64.getMimeEncoder()
                    .encodeToString(
                        "Orla Tidewick called 1 time".repeat(5).getBytes(StandardCharsets.UTF_8))))
        .contains("base64");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "Please call Mrs Tidewick before noon",
        "Agreed: she calls.\nTo do: ring the port.\nThank you",
        "3 < 5 and 7 > 2",
        "Customer",
        "internationalisation",
        "ABCDEFGHIJKLMNOPQRSTUVWX",
        "Zk9+Qm3xT0aWv81LpR7uYc2dHs6JbN4e",
        "{\"a\": 1}",
        "<3",
        "s: 12 p.m.",
        ""
      })
  void wordsAreNoFormat(String text) {
    assertThat(TextFormat.of(text)).isEmpty();
  }

  /** Serialised objects have bytes of their own between the words. */
  @Test
  void wordsBetweenOtherBytesInBase64AreFoundAndKeysAreNot() {
    byte[] stored = "\u0004\u000b\b1234\u0001{owner=orla.tidewick@a.example}".getBytes(UTF_8);
    assertThat(TextFormat.of(Base64.getMimeEncoder().encodeToString(stored))).contains("base64");
    byte[] key = new byte[48];
    int taken = 0;
    for (int seed = 0; seed < 2_000; seed++) {
      new java.util.Random(seed).nextBytes(key);
      taken += TextFormat.of(Base64.getEncoder().encodeToString(key)).isPresent() ? 1 : 0;
    }
    assertThat(taken).isLessThan(20);
  }

  @Test
  void longTextsAreLookedAtWithoutEndAndCutOffOnesAreKnown() {
    byte[] bytes = new byte[3_000_000];
    new java.util.Random(1).nextBytes(bytes);
    String encoded = Base64.getMimeEncoder().encodeToString(bytes);
    assertThat(TextFormat.of(encoded)).contains("base64");
    assertThat(TextFormat.of(encoded.substring(0, 4_001))).contains("base64");
    assertThat(TextFormat.of("<a>" + "<b>x</b>".repeat(200_000))).contains("XML");
    assertThat(TextFormat.of("From: a\nTo: b\n" + "X-Trace: y\n z\n".repeat(50_000) + "\nHello"))
        .contains("mails with headers");
    assertThat(TextFormat.of("a word ".repeat(300_000))).isEmpty();
  }
}
