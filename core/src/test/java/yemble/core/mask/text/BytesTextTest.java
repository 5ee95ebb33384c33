package yemble.core.mask.text;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import org.junit.jupiter.api.Test;
import yemble.core.crypto.SecretKey;
import yemble.core.mask.Masks;
import yemble.core.mask.ValueMask;

/** A text in bytes is masked in its own character set; what holds none loses all but its length. */
class BytesTextTest {
  private static final Charset WESTERN = Charset.forName("windows-1252");
  private final Masks masks =
      new Masks(
          SecretKey.parse("b3JsaXNheS1mZXJyaWVzLWRlbW8ta2V5LTAwMDAwMDE").orElseThrow(),
          LocalDate.of(2026, 1, 1));

  @Test
  void theCharacterSetIsFoundAndKept() {
    String text = "Größe: Orla – naïve";
    for (Charset charset :
        new Charset[] {
          StandardCharsets.UTF_8, WESTERN, StandardCharsets.UTF_16LE, StandardCharsets.UTF_16BE
        }) {
      BytesText found = BytesText.of(text.getBytes(charset)).orElseThrow();
      assertThat(found.text()).as(charset.name()).isEqualTo(text);
      assertThat(found.with("Ärger")).isEqualTo("Ärger".getBytes(charset));
    }
    BytesText western = BytesText.of("Größe".getBytes(WESTERN)).orElseThrow();
    assertThat(new String(western.with("渡し"), StandardCharsets.UTF_8)).isEqualTo("渡し");
  }

  @Test
  void whatIsNoTextIsNotTakenForOne() {
    assertThat(BytesText.of(new byte[0])).isEmpty();
    assertThat(BytesText.of(new byte[] {(byte) 0x89, 'P', 'N', 'G', 13, 10, 26, 10, 0, 0}))
        .isEmpty();
    assertThat(BytesText.of(new byte[] {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16}))
        .isEmpty();
  }

  @Test
  void aKindMasksBytesAsItMasksTheText() {
    ValueMask email = masks.values(masks.of("email"));
    byte[] masked = (byte[]) email.apply("orla@a.example".getBytes(StandardCharsets.UTF_8));
    assertThat(new String(masked, StandardCharsets.UTF_8)).isEqualTo(email.apply("orla@a.example"));
    byte[] picture = {(byte) 0x89, 'P', 'N', 'G', 0, 1, 2};
    assertThat((byte[]) email.apply(picture)).hasSameSizeAs(picture).isNotEqualTo(picture);
  }

  private static Mentions row(String... kindsAndValues) {
    Mentions mentions = new Mentions();
    for (int i = 0; i < kindsAndValues.length; i += 2) {
      mentions.add(kindsAndValues[i], kindsAndValues[i + 1]);
    }
    return mentions;
  }

  @Test
  void ordinaryWordsStayThoughSomebodyIsCalledSo() {
    FreeText text = masks.text();
    Mentions may = row("given-name", "Orla", "family-name", "May");
    assertThat(text.apply("We will call in may; he may pay. May we?", may))
        .isEqualTo("We will call in may; he may pay. May we?");
    assertThat(text.apply("Orla May called", may)).doesNotContain("Orla", "May");
    assertThat(text.apply("May, Orla: called", may)).doesNotContain("Orla", "May");
    Mentions system = row("full-name", "The System itself");
    assertThat(text.apply("the ship and The quay, by the system", system))
        .isEqualTo("the ship and The quay, by the system");
  }

  @Test
  void whoIsGreetedAndWhoSignsAreReplaced() {
    FreeText text = masks.text();
    assertThat(text.apply("Dear Quillevan,\nthe ferry was late.\n\nRegards\nTavin Skerrack"))
        .doesNotContain("Quillevan", "Tavin", "Skerrack")
        .startsWith("Dear ")
        .contains("the ferry was late.\n\nRegards\n");
    assertThat(text.apply("The ferry was late.\n\nVennask\n")).doesNotContain("Vennask");
    assertThat(text.apply("Dear Customer,\nthank you.\n\nRegards"))
        .isEqualTo("Dear Customer,\nthank you.\n\nRegards");
  }

  @Test
  void anAddressIsReplacedBeforeTheLoginInIt() {
    FreeText text = masks.text();
    String mail = "orla.tidewick@a.example";
    Mentions row = row("username", "orla.tidewick", "email", mail);
    assertThat(text.apply("Write to " + mail + " today", row))
        .isEqualTo("Write to " + masks.of("email").apply(mail) + " today");
    assertThat(text.apply("login orla.tidewick", row))
        .isEqualTo("login " + masks.of("username").apply("orla.tidewick"));
  }

  @Test
  void addressesOfTheNetAreReplacedByTheirOwnMask() {
    String masked = masks.text().apply("from 203.0.113.17, by 198.51.100.7.");
    assertThat(masked)
        .isEqualTo(
            "from "
                + masks.of("ip-address").apply("203.0.113.17")
                + ", by "
                + masks.of("ip-address").apply("198.51.100.7")
                + ".");
  }
}
