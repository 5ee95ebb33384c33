package yemble.core.recognition;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.project.Project;

class MentionedTest {
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
