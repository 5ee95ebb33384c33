package yemble.core.survey;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.recognition.Value;

class FormsTest {
  @ParameterizedTest
  @CsvSource({
    "6f1f2a3e-0b7c-4d58-9a61-1c2d3e4f5a6b, UUID",
    "00ff17ab, HEXADECIMAL",
    "0012, NUMBER",
    "AB-0012, CODE",
    "https://harbour.example/a?b=1, PAGE",
    "/var/lib/harbour/a.txt, PATH",
    "timetable.pdf, PATH"
  })
  void aFormIsToldByItsSigns(String value, Forms.Form form) {
    Forms forms = new Forms();
    forms.add(Value.of(value), 1);
    assertThat(forms.usual(1)).contains(form);
  }

  @ParameterizedTest
  @CsvSource({"harbour", "Old Harbour 3", "a b/c d", "deadbeef"})
  void wordsHaveNone(String value) {
    Forms forms = new Forms();
    forms.add(Value.of(value), 1);
    assertThat(forms.usual(1)).isEmpty();
  }

  @Test
  void nearlyAllValuesHaveIt() {
    Forms forms = new Forms();
    forms.add(Value.of("0012"), 94);
    forms.add(Value.of("quay"), 6);
    assertThat(forms.usual(100)).isEmpty();
    forms.add(Value.of("0013"), 100);
    assertThat(forms.usual(200)).contains(Forms.Form.NUMBER);
  }
}
