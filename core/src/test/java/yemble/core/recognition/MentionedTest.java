package yemble.core.recognition;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.project.Project;

class MentionedTest {
  @ParameterizedTest
  @CsvSource({
    "EMAIL;TYPE=HOME:orla@site.example, email",
    "a@site.example|b@site.example, email",
    "udp:203.0.113.7:5060, ip-address",
    "addr=203.0.113.7, ip-address",
    "<sip:orla@site.example;lr>, email"
  })
  void whatLiesBetweenSignsIsFound(String text, String kind) {
    assertThat(mentioned.amongSigns(text)).containsExactly(kind);
  }

  @ParameterizedTest
  @CsvSource({"orla@site.example", "0a1b2c3d4e5f60718293@site.example;x", "1.2.3:4", "a.b/c.d"})
  void whatIsAllOfItOrMadeByAProgramIsNotBetweenSigns(String text) {
    assertThat(mentioned.amongSigns(text)).isEmpty();
  }

  @Test
  void aLoginInAPathIsTold() {
    assertThat(mentioned.holdsLogin("/anna.moss7/home/1.ics")).isTrue();
    assertThat(mentioned.holdsLogin("https://site.example/~anna.moss")).isTrue();
    assertThat(mentioned.holdsLogin("https://site.example/u?user=anna.moss")).isTrue();
    assertThat(mentioned.holdsLogin("/style/main.css")).isFalse();
    assertThat(mentioned.holdsLogin("anna.moss")).isFalse();
  }

  private final Mentioned mentioned = new Mentioned(new Looks(List.of(), Project.DEFAULT_AS_OF));

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "Mr Tidewick called | full-name",
        "spoke with Frau Skerrack. | full-name",
        "Anna Tidewick was there | full-name",
        "Please ring Dr. Vennask | full-name",
        "mail ann@site.example today | email",
        "call +44 7700 900123 | phone",
        "call 0770 900123 now | phone",
        "card 4000 0012 3456 7899 used | card-number",
        "paid to DE37999999990123456789 | iban",
      })
  void whatATextMentionsIsFound(String text, String kind) {
    assertThat(mentioned.kinds(text)).contains(kind);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "The ferry left at 06:30 on 2025-06-01, 12 minutes late.",
        "Backup of host1 and host2 is done",
        "See Harbour Road for the North Pier",
        "In May Anna. Later that day",
        "version 10.4.2 of 2024-11-30, order 4000001234567890",
      })
  void whatMentionsNobodyIsNot(String text) {
    assertThat(mentioned.kinds(text)).isEmpty();
  }
}
