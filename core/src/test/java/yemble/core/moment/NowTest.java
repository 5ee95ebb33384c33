package yemble.core.moment;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.DateTimeException;
import java.time.Instant;
import org.junit.jupiter.api.Test;

class NowTest {
  @Test
  void timeGoesOnUnlessItIsHeldStill() {
    Instant before = Instant.now();
    assertThat(Now.clock("").instant()).isAfterOrEqualTo(before);
    assertThat(Now.moment()).isAfterOrEqualTo(before);
    assertThat(Now.clock("2026-02-02T10:00:00.5Z").instant())
        .isEqualTo(Instant.parse("2026-02-02T10:00:00.500Z"));
    assertThatThrownBy(() -> Now.clock("yesterday")).isInstanceOf(DateTimeException.class);
  }

  @Test
  void aMomentIsRememberedToTheSecond() {
    assertThat(Now.second().getNano()).isZero();
  }
}
