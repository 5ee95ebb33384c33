package yemble.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What conditions say a column can hold, as three engines give them back. */
class DomainsTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '~',
      quoteCharacter = '§',
      value = {
        "blood IN ('A+', 'O''x', 'B') ~ A+|O'x|B",
        "(\"blood\" in ('A', 'B')) ~ A|B",
        "`blood` in ('A','B','(C)') ~ A|B|(C)",
        "((blood)::text = ANY ((ARRAY['A+'::character varying, 'B+'::character varying])::text[])) ~ A+|B+",
        "(blood = ANY (ARRAY['A'::text, 'B'::text])) ~ A|B",
        "(blood = ANY (ARRAY['A'::bpchar, 'B'::bpchar])) ~ A|B",
        "((blood)::text = ANY (ARRAY[('A'::character varying)::text, ('B'::character varying)::text])) ~ A|B",
        "blood IN (1, 2, -3) ~ 1|2|-3",
        "blood NOT IN ('A', 'B') ~",
        "other IN ('A', 'B') ~",
        "blood IN ('A') OR other = 'B' ~",
        "upper(blood) IN ('A', 'B') ~",
        "blood IN (SELECT x FROM y) ~",
        "blood > 3 ~"
      })
  void theValuesThatAConditionLists(String check, String values) {
    assertThat(String.join("|", Domains.listed(check, "blood")))
        .isEqualTo(values == null ? "" : values);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '~',
      quoteCharacter = '§',
      value = {
        "x >= 0 ~ 0..",
        "(x > 0) ~ 0.01..",
        "((x >= 0) AND (x <= 120)) ~ 0..120",
        "`x` between 1 and 5 ~ 1..5",
        "(x > (0)::numeric) ~ 0.01..",
        "((x >= '2000-01-01'::date) AND (x < '2030-01-01'::date)) ~ 2000-01-01..2029-12-31",
        "0 <= x ~ 0..",
        "x < 100 AND other > 3 ~ ..99.99",
        "x >= 0 OR other = 1 ~ ..",
        "NOT (x >= 0) ~ ..",
        "x >= other ~ ..",
        "length(x) >= 3 ~ ..",
        "abs(x) <= 4 ~ ..",
        "x >= 3 AND x >= 7 AND x <= 90 AND x <= 80 ~ 7..80"
      })
  void betweenWhatAConditionSaysThatAColumnLies(String check, String expected) {
    Domains.Bounds bounds = Domains.bounds(check, "x", 2);
    assertThat(bounds.least() + ".." + bounds.most()).isEqualTo(expected);
  }
}
