package yemble.core.project;

/**
 * What becomes of a value that the target's column cannot hold.
 *
 * @param value what takes its place; empty unless the rule is {@link Rule#REPLACE}
 */
public record Unfit(Rule rule, String value) {
  /** Nothing is loaded. */
  public static final Unfit REFUSE = new Unfit(Rule.REFUSE, "");

  /** It becomes NULL. */
  public static final Unfit CLEAR = new Unfit(Rule.CLEAR, "");

  /** A text loses what does not fit. */
  public static final Unfit TRIM = new Unfit(Rule.TRIM, "");

  /** What is done. */
  public enum Rule {
    REFUSE,
    CLEAR,
    TRIM,
    REPLACE
  }

  /** Another value takes its place. */
  public static Unfit replacedBy(String value) {
    return new Unfit(Rule.REPLACE, value);
  }
}
