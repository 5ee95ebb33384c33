package yemble.core.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ProjectLinesTest {
  /** With a bar for each line end. */
  @ParameterizedTest
  @CsvSource({
    "version: 1|, version: 1||links:|  'a': {}|  'b': {}|",
    "version: 1, version: 1||links:|  'a': {}|  'b': {}|",
    "links:|jobs: {}|, links:|  'a': {}|  'b': {}|jobs: {}|",
    "links: {}  # none yet|jobs: {}|, links:  # none yet|  'a': {}|  'b': {}|jobs: {}|",
    "links:   # ours|    # one|    c: {}   # x||jobs: {}, "
        + "links:   # ours|    'a': {}|    'b': {}|    # one|    c: {}   # x||jobs: {}",
    "links:, links:|  'a': {}|  'b': {}|",
  })
  void whatIsThereStays(String before, String after) {
    for (String end : List.of("\n", "\r\n")) {
      if (!end.equals("\r\n") || before.contains("|")) {
        assertThat(
                ProjectLines.added(
                    before.replace("|", end), "links", List.of("'a': {}", "'b': {}")))
            .isEqualTo(after.replace("|", end));
      }
    }
  }

  @Test
  void bracesAreLeftToWhoWroteThem() {
    assertThatThrownBy(
            () -> ProjectLines.added("version: 1\nlinks: { c: {} }\n", "links", List.of("a: {}")))
        .hasMessageContaining("in braces");
  }

  @Test
  void aLineSaysItsCondition() {
    assertThat(ProjectLines.line("\"Odd name\".x -> p.id", "kind = 'P'"))
        .isEqualTo("'\"Odd name\".x -> p.id': { if: 'kind = ''P''' }");
    assertThat(ProjectLines.column("a.b", "keyed-by: c")).isEqualTo("a.b: { keyed-by: c }");
    assertThat(ProjectLines.column("\"Odd\".b", "x: 1")).isEqualTo("'\"Odd\".b': { x: 1 }");
    assertThat(ProjectLines.line("a.b -> c.d", "")).isEqualTo("'a.b -> c.d': {}");
  }
}
