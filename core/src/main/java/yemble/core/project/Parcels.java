package yemble.core.project;

import java.time.Duration;
import java.util.Optional;

/**
 * What a project says of its parcels.
 *
 * @param shelf the folder where they are kept, as written; empty for the project's own
 * @param keepLast how many of each job stay after another one is packed; 0 for all
 * @param keepFor how old one may be after another one is packed
 * @param maxAge how old one may be that is loaded without being asked for as it is
 */
public record Parcels(String shelf, long keepLast, Optional<Duration> keepFor, Duration maxAge) {
  public static final Parcels USUAL = new Parcels("", 0, Optional.empty(), Duration.ofDays(7));
}
