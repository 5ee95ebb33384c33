package yemble.core.row;

import java.util.Set;

/**
 * Which cells without a value a change is for, beside all that hold one: the one place where it is
 * decided what becomes of NULL and of the empty text. Bytes of no length always stay.
 *
 * @param nulls whether NULL is changed, too
 * @param empties whether the empty text is
 */
public record Blanks(boolean nulls, boolean empties) {
  /** Cells without a value stay as they are. */
  public static final Blanks STAY = new Blanks(false, false);

  /**
   * @param also what is changed, too
   */
  public static Blanks of(Set<Empty> also) {
    return also.isEmpty()
        ? STAY
        : new Blanks(also.contains(Empty.NULL), also.contains(Empty.EMPTY));
  }

  /** Whether a value is left as it is. */
  public boolean stays(Object value) {
    if (value == null) {
      return !nulls;
    }
    if (value instanceof String text) {
      return text.isEmpty() && !empties;
    }
    return value instanceof byte[] bytes && bytes.length == 0;
  }
}
