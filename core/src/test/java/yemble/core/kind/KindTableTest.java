package yemble.core.kind;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.mask.Masks;
import yemble.core.problem.Problem;
import yemble.core.project.Project;
import yemble.core.recognition.Looks;

/** The table of kinds; a word of it that nothing answers to fails here, with its line. */
class KindTableTest {
  private static final Set<String> LOOKS = new Looks(List.of(), Project.DEFAULT_AS_OF).names();

  @Test
  void everyMaskCheckAndKindThatTheTableNamesIsThere() {
    KindTable.shipped().refersTo(Masks.names(), LOOKS);
  }

  /** The other way round: a check that no kind uses is dead. */
  @Test
  void everyCheckIsOfAKind() {
    Set<String> idle = new TreeSet<>(LOOKS);
    Kinds.BUILT_IN.all().forEach(kind -> idle.remove(kind.look().name()));
    assertThat(idle).isEmpty();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "mask: shpae                                 | 5:9 | there is no mask \"shpae\"",
        "values: { look: emial }                     | 5:19 | there is no check \"emial\"",
        "turned: name-famly-first                    | 5:11 | there is no kind \"name-famly-first\"",
        "yields: [{ to: { citty: 0.4 }, keeps: 0.3 }] | 5:20 | there is no kind \"citty\"",
        "figures: { of: birthday }                   | 5:18 | unknown word \"birthday\"",
        "lokk: email                                 | 5:3 | unknown word \"lokk\"",
      })
  void aMisspeltWordIsSaidWithItsLine(String line, String place, String said) {
    String table =
        "nickname:\n  category: identity\n  holds: a short name\n  becomes: another\n  "
            + line
            + (line.startsWith("mask") ? "" : "\n  mask: shape")
            + "\n  samples: [Ori]\n";
    assertThatThrownBy(() -> KindTable.of(table).refersTo(Masks.names(), LOOKS))
        .isInstanceOfSatisfying(
            Problem.class,
            problem -> {
              assertThat(problem).hasMessageContaining(said);
              assertThat(problem.where()).isEqualTo("kinds.yaml:" + place);
            });
  }

  /** The share of a table about people counts the more, the less the name says. */
  @Test
  void theTableAroundCountsByWhatTheNameSays() {
    Traits.Weighing name = Kinds.BUILT_IN.traits("full-name").weighing();
    assertThat(name.around(0.3, 0.8)).isEqualTo(1);
    assertThat(name.around(0.3, 0.6)).isEqualTo(0.7);
    assertThat(name.around(0.3, 0.1)).isEqualTo(0.5);
    assertThat(name.around(0.9, 0)).isEqualTo(1);
    assertThat(Kinds.BUILT_IN.traits("city").weighing().around(0.3, 0.9)).isEqualTo(0.3);
    assertThat(Kinds.BUILT_IN.traits("email").weighing().around(0.3, 0)).isEqualTo(1);
  }
}
