package yemble.core.recognition;

/**
 * What a check says of a value.
 *
 * @param grade how sure it is
 * @param why why a value that nearly is one was refused, without the value; empty if it was not, or
 *     is nothing of the sort
 * @param hint which sort it is, such as a country; may be empty
 */
public record Verdict(Grade grade, String why, String hint) {
  /** How sure a check is. */
  public enum Grade {
    /** Checked: by a check digit, a vocabulary, a form that nothing else has. */
    KNOWN,
    /** It has the form, as much else may have. */
    POSSIBLE,
    NO
  }

  public static final Verdict KNOWN = new Verdict(Grade.KNOWN, "", "");
  public static final Verdict POSSIBLE = new Verdict(Grade.POSSIBLE, "", "");
  public static final Verdict NO = new Verdict(Grade.NO, "", "");

  static Verdict known(String hint) {
    return new Verdict(Grade.KNOWN, "", hint);
  }

  static Verdict refused(String hint, String why) {
    return new Verdict(Grade.NO, why, hint);
  }

  static Verdict refused(String why) {
    return new Verdict(Grade.NO, why, "");
  }

  static Verdict possibleIf(boolean possible) {
    return possible ? POSSIBLE : NO;
  }

  static Verdict knownIf(boolean known) {
    return known ? KNOWN : NO;
  }

  /** Whether the value may be one. */
  public boolean accepts() {
    return grade != Grade.NO;
  }
}
