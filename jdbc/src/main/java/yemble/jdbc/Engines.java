package yemble.jdbc;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.store.Engine;
import yemble.jdbc.mariadb.MariadbEngine;
import yemble.jdbc.postgresql.PostgresqlEngine;
import yemble.jdbc.sqlite.SqliteEngine;
import yemble.jdbc.standard.StandardEngine;

/** The engines that Yemble knows. */
public final class Engines {
  private static final List<Engine> ALL =
      List.of(
          new SqliteEngine(), new PostgresqlEngine(), new MariadbEngine(), new StandardEngine());

  /** All but the last, which is whatever has a driver. */
  private static final List<Engine> NAMED = ALL.subList(0, ALL.size() - 1);

  private Engines() {}

  /** Some words of engines, with commas and a last word between them. */
  private static String listed(List<Engine> engines, String last, Function<Engine, String> word) {
    List<String> words = engines.stream().map(word).toList();
    return String.join(", ", words.subList(0, words.size() - 1))
        + last
        + words.get(words.size() - 1);
  }

  /** What may be named on the command line, in words. */
  public static String names() {
    return listed(NAMED, " or ", engine -> engine.family().name().toLowerCase(Locale.ROOT));
  }

  /**
   * Looks at a URL that nothing is opened by yet.
   *
   * @throws Problem of type USAGE if it cannot be read, or holds what does not belong in it
   */
  public static void check(Engine.Address address) {
    of(address).checkUrl(address);
  }

  /** The engines that have a name on the command line, by it. */
  public static Map<String, Engine> named() {
    Map<String, Engine> named = new LinkedHashMap<>();
    for (Engine engine : NAMED) {
      named.put(engine.family().name().toLowerCase(Locale.ROOT), engine);
    }
    return named;
  }

  /** The engine of an address. */
  public static Engine of(Engine.Address address) {
    return ALL.stream()
        .filter(engine -> engine.accepts(address.url()))
        .findFirst()
        .orElseThrow(
            () ->
                Problem.of(
                        Failure.ENGINE_UNKNOWN,
                        "no engine is known for the url of " + address.name())
                    .because(
                        "this version reads and writes "
                            + listed(NAMED, " and ", engine -> engine.family().name()))
                    .remedy("write it as " + listed(NAMED, " or ", Engine::urls)));
  }
}
