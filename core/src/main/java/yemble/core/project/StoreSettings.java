package yemble.core.project;

import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import yemble.core.crypto.SecretKey;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/**
 * A token store, as the project file has it.
 *
 * @param database where it lies; none of the project's own
 * @param key what its originals are encrypted under; another one than the project's
 * @param keep how long a token leads back after it was seen last; empty for ever
 */
public record StoreSettings(String name, Database database, Setting key, Optional<Duration> keep) {
  /**
   * Its key.
   *
   * @throws yemble.core.problem.Problem of type USAGE if what its setting refers to is not there,
   *     or is no key
   */
  public SecretKey key(Path directory, Map<String, String> environment) {
    String written;
    try {
      written = key.value(directory, environment);
    } catch (Problem missing) {
      throw missing
          .because("it holds the key of the token store " + name)
          .remedy(
              "ask the team that may lead back for it; for a new store: yemble key new store "
                  + name
                  + ".key");
    }
    return SecretKey.parse(written)
        .orElseThrow(
            () ->
                key.place()
                    .problem(Failure.KEY_FORM, "this is no key of the token store " + name)
                    .because("a key is 32 bytes in base64url, 43 characters")
                    .remedy("yemble key new store " + name + ".key makes one"));
  }
}
