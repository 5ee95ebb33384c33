package yemble.core.problem;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;

class NearestTest {
  private static final List<String> KNOWN = List.of("passenger", "port", "booking");

  @Test
  void theWordThatWasMeantIsFound() {
    assertThat(Nearest.to("pasenger", KNOWN)).contains("passenger");
    assertThat(Nearest.to("prot", KNOWN)).contains("port");
    assertThat(Nearest.to("BOOKING", KNOWN)).contains("booking");
  }

  @Test
  void aWordThatIsNothingLikeThemIsNotGuessed() {
    assertThat(Nearest.to("xyz", KNOWN)).isEmpty();
    assertThat(Nearest.hint("xyz", KNOWN)).isEqualTo("known here: port, booking, passenger");
  }

  @Test
  void ofManyWordsSomeAreShownAndHowToSeeTheRest() {
    List<String> many = java.util.stream.IntStream.range(0, 25).mapToObj(i -> "word" + i).toList();
    assertThat(Nearest.hint("zzzzzzzzzzzz", many, "ask for them"))
        .contains("word0", "and 5 more; ask for them");
  }
}
