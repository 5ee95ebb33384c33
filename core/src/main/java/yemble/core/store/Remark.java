package yemble.core.store;

/**
 * Something that was looked at.
 *
 * @param subject what, in a word or two
 * @param text what was found, and, unless it is good, what to do
 */
public record Remark(Level level, String subject, String text) {
  /** How good it is. */
  public enum Level {
    OK,
    WARNING,
    PROBLEM;

    @Override
    public String toString() {
      return name().toLowerCase(java.util.Locale.ROOT);
    }
  }

  public static Remark ok(String subject, String text) {
    return new Remark(Level.OK, subject, text);
  }

  public static Remark warning(String subject, String text) {
    return new Remark(Level.WARNING, subject, text);
  }

  public static Remark problem(String subject, String text) {
    return new Remark(Level.PROBLEM, subject, text);
  }
}
