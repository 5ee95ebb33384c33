package yemble.core.survey;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;

/** What the columns of a table have in common says nothing of any of them. */
class AffixTest {
  @Test
  void whatMostColumnsBeginOrEndWithIsLeftOut() {
    Affix before = Affix.of(List.of("crate_id", "crate_name", "crate_sent_at", "crate_owner", "x"));
    assertThat(before.without("crate_sent_at")).isEqualTo("sent_at");
    assertThat(before.without("x")).isEqualTo("x");
    assertThat(before.without("crate")).isEqualTo("crate");
    assertThat(before.text()).isEqualTo("crate");
    Affix behind =
        Affix.of(
            List.of(
                "id_one_time_ticket",
                "date_one_time_ticket",
                "host_one_time_ticket",
                "state_one_time_ticket"));
    assertThat(behind.without("host_one_time_ticket")).isEqualTo("host");
    assertThat(behind.text()).isEqualTo("_one_time_ticket");
  }

  @Test
  void whatFewColumnsShareStays() {
    Affix few = Affix.of(List.of("birth_date", "birth_place", "birth_name"));
    assertThat(few.without("birth_date")).isEqualTo("birth_date");
    Affix half = Affix.of(List.of("home_tel", "home_city", "home_zip", "home_fax", "a", "b", "c"));
    assertThat(half.without("home_tel")).isEqualTo("home_tel");
  }
}
