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
}
