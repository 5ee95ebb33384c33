package yemble.core.links;

import yemble.core.schema.Link;
import yemble.core.wording.Sentence;

/**
 * A link that nobody declared, as far as names and data speak for it.
 *
 * @param link with the condition under which it exists, if it has one
 * @param confidence from 0 to 1
 */
public record LinkSuggestion(Link link, double confidence, Evidence evidence) {
  /**
   * What speaks for it.
   *
   * @param names what the names say
   * @param sampled how many rows of the child were looked at
   * @param values how many of them hold a value
   * @param found how many of these have a parent
   * @param different how many different values were seen
   * @param chance the share of values that any numbers of the same range would find, from 0 to 1
   */
  public record Evidence(
      Sentence names, long sampled, long values, long found, long different, double chance) {
    /** The share of values that have a parent; 1 without any. */
    public double share() {
      return values == 0 ? 1 : (double) found / values;
    }
  }
}
