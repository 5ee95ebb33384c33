package yemble.core.own;

import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * A mask of one's own: ten lines of Java that only one company has. A jar in a project's folder
 * {@code plugins/}, which the project file names with its SHA-256, says in {@code
 * META-INF/services/yemble.core.own.OwnMask} which classes it has; each has a constructor without
 * parameters.
 *
 * <p>What it promises, and what is tried on samples before anything is loaded: the result depends
 * on the value, the options and the bytes that it asks for alone (no clock, no random numbers, no
 * files, no memory of other values); it may be asked by several threads at a time; no result is
 * null or empty; nobody without the project's key can lead back, unless it says {@link
 * #reversible()}.
 */
public interface OwnMask {
  /** The word for it in {@code masks:} and {@code columns:}: small letters, digits and hyphens. */
  String name();

  /** What values become, in a few words, for the catalogue. */
  String says();

  /** Some values, for the catalogue and for {@code masks try}; none of them anybody's. */
  List<String> samples();

  /** The options that it knows; a project that says another one is refused. */
  default Set<String> options() {
    return Set.of();
  }

  /** Whether different values become different ones, always. */
  default boolean keepsDifferent() {
    return false;
  }

  /** Whether somebody may lead back from its results: then it is named wherever ways back are. */
  default boolean reversible() {
    return false;
  }

  /**
   * The mask under some options.
   *
   * @param options as the project has them, by their names; without those that it does not say
   * @throws IllegalArgumentException if they are wrong, with what is to be said of that
   */
  Work with(Map<String, String> options);

  /** Makes one value of another. */
  @FunctionalInterface
  interface Work {
    /**
     * What a value becomes.
     *
     * @param value never null, never empty; of a number its digits, of a day its ISO 8601 form
     * @param bytes pseudo-random ones under the project's key
     */
    String apply(String value, KeyedBytes bytes);
  }
}
