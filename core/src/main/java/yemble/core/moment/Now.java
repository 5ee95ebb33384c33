package yemble.core.moment;

import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;

/**
 * What time it is: asked for here, and nowhere else. The system property {@code yemble.now}, a
 * moment of ISO 8601 in UTC, holds it still.
 */
public final class Now {
  private static final Clock CLOCK = clock(System.getProperty("yemble.now", ""));

  private Now() {}

  static Clock clock(String fixed) {
    return fixed.isEmpty() ? Clock.systemUTC() : Clock.fixed(Instant.parse(fixed), ZoneOffset.UTC);
  }

  /** The moment. */
  public static Instant moment() {
    return CLOCK.instant();
  }

  /** The moment, as it is remembered: to the second. */
  public static Instant second() {
    return moment().truncatedTo(ChronoUnit.SECONDS);
  }

  /** The day where the program runs. */
  public static LocalDate day() {
    return LocalDate.ofInstant(moment(), ZoneId.systemDefault());
  }

  /** The day in UTC. */
  public static LocalDate dayInUtc() {
    return LocalDate.ofInstant(moment(), ZoneOffset.UTC);
  }
}
