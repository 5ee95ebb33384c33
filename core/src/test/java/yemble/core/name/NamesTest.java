package yemble.core.name;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class NamesTest {
  @ParameterizedTest
  @ValueSource(
      strings = {
        "booking.id",
        "\"Odd name\".column",
        "\"a\"\"b\".c",
        "s.t.c",
        "\"a.b\".c",
        "größe.ß"
      })
  void aPathIsReadAsItIsWritten(String text) {
    assertThat(DottedName.parse(text)).hasValueSatisfying(p -> assertThat(p).hasToString(text));
  }

  @ParameterizedTest
  @ValueSource(strings = {"", ".", "a.", ".a", "\"open", "\"a\"b", "a..b"})
  void whatIsNotAPathIsNot(String text) {
    assertThat(DottedName.parse(text)).isEmpty();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "a.b -> c.d",
        "a.(b, c) -> d.(e, f)",
        "\"x -> y\".b -> c.\"(\"",
        "s.a.b -> t.c.d",
        "a.b"
      })
  void aLinkIsReadAsItIsWritten(String text) {
    assertThat(LinkName.parse(text)).hasValueSatisfying(l -> assertThat(l).hasToString(text));
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "a", "a.b ->", "-> a.b", "a.b -> c.(d, e)", "a.(b,) -> c.(d, e)"})
  void whatIsNotALinkIsNot(String text) {
    assertThat(LinkName.parse(text)).isEmpty();
  }

  @Test
  void aTablesScopeIsItsBareNameInLowerCase() {
    assertThat(new TableName("Sales", "Order").scope()).isEqualTo("order");
  }
}
