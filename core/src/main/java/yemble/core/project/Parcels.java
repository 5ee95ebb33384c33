package yemble.core.project;

import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import yemble.core.crypto.SecretKey;
import yemble.core.problem.Failure;

/**
 * What a project says of its parcels.
 *
 * @param shelf the folder where they are kept, as written; empty for the project's own
 * @param keepLast how many of each job stay after another one is packed; 0 for all
 * @param keepFor how old one may be after another one is packed
 * @param maxAge how old one may be that is loaded without being asked for as it is
 * @param key that sealed ones are opened and closed with; empty for none
 */
public record Parcels(
    String shelf, long keepLast, Optional<Duration> keepFor, Duration maxAge, Setting key) {
  /**
   * The key of sealed parcels, if the project names one.
   *
   * @param directory the project's folder
   * @throws yemble.core.problem.Problem of type USAGE if what it names is none
   */
  public Optional<SecretKey> key(Path directory, Map<String, String> environment) {
    String written = key.value(directory, environment);
    if (written.isEmpty()) {
      return Optional.empty();
    }
    return Optional.of(
        SecretKey.parse(written)
            .orElseThrow(
                () ->
                    key.place()
                        .problem(Failure.KEY_FORM, "what stands here is no key of parcels")
                        .because("a key is 32 bytes in base64url, 43 characters")
                        .remedy("yemble key new parcel makes one")));
  }

  public static final Parcels USUAL =
      new Parcels("", 0, Optional.empty(), Duration.ofDays(7), Setting.NONE);
}
