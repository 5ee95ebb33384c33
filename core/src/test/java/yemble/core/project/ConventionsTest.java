package yemble.core.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.name.TableName;
import yemble.core.problem.Problem;

class ConventionsTest {
  private static final String HEAD = "version: 1\ndatabases: { a: { url: x } }\n";
  @TempDir Path folder;

  private Conventions read(String text) throws IOException {
    Files.writeString(folder.resolve("yemble.yaml"), HEAD + text);
    return ProjectFile.read(folder).conventions();
  }

  @Test
  void whatTheProjectSaysWinsOverItsBaselines() throws IOException {
    Files.writeString(
        folder.resolve("first.yaml"),
        """
        kinds: { locker: { category: identity }, badge: { category: identity } }
        masks: { locker: { as: shape }, phone: { as: shape } }
        survey:
          review: people
          countries: [de]
          off: [health]
          rules: { l: { kind: locker, names: [locker] }, b: { kind: badge, names: [badge] } }
        """);
    Files.writeString(folder.resolve("second.yaml"), "masks: { locker: { as: vehicle-plate } }\n");
    Conventions all =
        read(
            """
            use: [first.yaml, second.yaml]
            masks: { phone: { as: social-handle } }
            survey: { review: all, rules: { l: { kind: locker, names: [spind] } }, off: [{ place: [stock] }] }
            """);
    Kinds kinds = all.kinds();
    assertThat(kinds.known("locker").mask()).isEqualTo("vehicle-plate");
    assertThat(kinds.known("locker").origin()).isEqualTo("second.yaml:1:10");
    assertThat(kinds.known("badge").mask()).isEmpty();
    assertThat(kinds.maskedAs("phone")).isEqualTo("social-handle");
    assertThat(all.people()).isFalse();
    assertThat(all.countries()).containsExactly("DE");
    assertThat(all.rules().get("l").names().toString()).contains("spind").doesNotContain("locker");
    assertThat(all.rules()).containsKey("b");
    assertThat(all.off()).hasSize(2);
  }

  @Test
  void aPackIsOffEverywhereOrWhereItIsSaid() throws IOException {
    Conventions all = read("survey: { off: [health, { place: [stock, sales.shop, live] }] }\n");
    Kind city = Kinds.BUILT_IN.known("city");
    Conventions.Off place = all.off().get(1);
    assertThat(all.off().get(0).covers(Kinds.BUILT_IN.known("diagnosis"), "a", TableName.of("t")))
        .isTrue();
    assertThat(place.covers(city, "a", TableName.of("Stock"))).isTrue();
    assertThat(place.covers(city, "a", TableName.of("other"))).isFalse();
    assertThat(place.covers(city, "live", TableName.of("other"))).isTrue();
    assertThat(place.covers(city, "a", new TableName("sales", "shop"))).isTrue();
    assertThat(place.covers(city, "a", new TableName("stock", "any"))).isTrue();
    assertThat(place.covers(Kinds.BUILT_IN.known("email"), "a", TableName.of("stock"))).isFalse();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "kinds: { Locker: { category: identity } } | 3:10 | no name for a kind",
        "kinds: { email: { category: identity } } | 3:10 | there is a kind \"email\" already",
        "kinds: { a: { holds: x } } | 3:10 | has no category",
        "kinds: { a: { category: idendity } } | 3:25 | unknown word \"idendity\"",
        "masks: { emial: { as: shape } } | 3:10 | unknown kind \"emial\"",
        "masks: { email: {} } | 3:17 | which mask",
        "masks: { email: { as: shap } } | 3:23 | unknown kind \"shap\"",
        "survey: { off: [healt] } | 3:17 | there is no pack or kind \"healt\"",
        "survey: { countries: [XX] } | 3:23 | is no country",
        "survey: { review: nobody } | 3:19 | unknown word \"nobody\"",
        "survey: { rules: { r: { names: [x] } } } | 3:20 | does not say which kind",
        "survey: { rules: { r: { kind: email } } } | 3:20 | says nothing to look for",
        "survey: { rules: { r: { kind: email, pattern: '(a' } } } | 3:47 | this is no pattern",
        "survey: { rules: { r: { kind: email, names: [x], at-least: 180% } } } | 3:60 | a share lies",
        "use: [none.yaml] | 3:7 | there is no baseline none.yaml",
      })
  void aMistakeHasAPlace(String text, String place, String what) {
    Problem problem = catchThrowableOfType(Problem.class, () -> read(text + "\n"));
    assertThat(problem).isNotNull();
    assertThat(problem.getMessage()).contains(what);
    assertThat(problem.toString() + problem.getMessage()).contains("yemble.yaml:" + place);
  }
}
