package yemble.core.project;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.yaml.Place;

class ConditionTest {
  private static final Place PLACE = new Place("recipes/one.yaml", 3, 12);

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '~',
      value = {
        "id = :id | id",
        "id=:id AND ref=:ref OR id<:id | id,ref",
        "ref = ':ref' | ~~",
        "ref = 'it''s :ref' AND x = :y | y",
        "\":odd\" = :y AND `:other` = 1 | y",
        "at > now()::date AND x = :y::text | y",
        "at = '10:30' AND b = :b | b",
        "a = :a1_b | a1_b",
        "x = 1 | ~~",
      })
  void parametersStandOutsideOfQuotes(String sql, String names) {
    assertThat(String.join(",", Condition.parameters(sql))).isEqualTo(names);
  }

  @Test
  void valuesComeInTheOrderOfTheirMarks() {
    Condition condition =
        new Condition("b = :b AND a = :a AND ':a' <> :b", PLACE)
            .with(Map.of("a", "1", "b", "2 ? :a", "c", "3"));
    assertThat(condition.isBound()).isTrue();
    assertThat(condition.marked(name -> "?")).isEqualTo("b = ? AND a = ? AND ':a' <> ?");
    assertThat(condition.bound()).containsExactly("2 ? :a", "1", "2 ? :a");
    assertThat(condition.values()).doesNotContainKey("c");
    assertThat(condition.toString()).doesNotContain("2 ?");
  }

  @Test
  void withoutValuesItIsItsText() {
    Condition condition = new Condition("a = :a", PLACE);
    assertThat(condition.isBound()).isFalse();
    assertThat(condition.marked(name -> "?")).isEqualTo("a = :a");
    assertThat(condition.with(Map.of("b", "1")).isBound()).isFalse();
    assertThat(Condition.NONE.isEmpty()).isTrue();
  }
}
