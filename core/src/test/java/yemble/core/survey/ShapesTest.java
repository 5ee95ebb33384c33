package yemble.core.survey;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ShapesTest {
  @ParameterizedTest
  @CsvSource({
    "Orla Tidewick, Aaaa Aaaaa",
    "29/04/1974, 00/00/0000",
    "ORL-004711, AAA-0000",
    "123456789, 0000",
    "Ölgasse 7, Aaaaa 0",
    "a--b, a--a",
    "x, a"
  })
  void aShapeIsNoValue(String value, String shape) {
    assertThat(Shapes.of(value)).isEqualTo(shape);
  }

  @Test
  void whatAFifthLooksLikeIsUsual() {
    Shapes shapes = new Shapes();
    shapes.add("AB-12", 60);
    shapes.add("CD-34", 10);
    shapes.add("1234", 20);
    shapes.add("none", 10);
    shapes.add("so long that it is no code and no name, but a text of its own", 1_000);
    assertThat(shapes.usual(100)).containsExactly("AA-00", "0000");
    assertThat(shapes.usual(1_000)).isEmpty();
  }
}
