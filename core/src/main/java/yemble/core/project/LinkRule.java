package yemble.core.project;

import java.util.function.UnaryOperator;
import yemble.core.name.LinkName;
import yemble.core.yaml.Place;

/**
 * What the project says about a link.
 *
 * @param follow whether a chosen or any row brings its children
 * @param where narrows the children that are brought; a condition in SQL, or an empty string
 * @param condition the link exists only for child rows that satisfy it; or an empty string
 * @param atMost the most children each parent brings, {@link #ALL} for no limit
 * @param cut whether the link is dropped
 * @param broken what becomes of rows that refer to nothing; null for the default
 */
public record LinkRule(
    LinkName link,
    Follow follow,
    Condition where,
    String condition,
    long atMost,
    boolean cut,
    Broken broken,
    Place place) {
  public static final long ALL = Long.MAX_VALUE;

  /** The same with another condition on the children. */
  LinkRule where(UnaryOperator<Condition> other) {
    return new LinkRule(link, follow, other.apply(where), condition, atMost, cut, broken, place);
  }

  /** Whether a parent brings its children. */
  public enum Follow {
    CHOSEN,
    NEVER,
    ALWAYS
  }

  /** What becomes of rows that refer to nothing. */
  public enum Broken {
    ERROR,
    KEEP,
    NULL,
    LEAVE_OUT
  }
}
