package yemble.core.pattern;

/** Why a text is no pattern of a finite language. */
public final class PatternProblem extends Exception {
  private static final long serialVersionUID = 1;

  private final int at;

  PatternProblem(String why, int at) {
    super(why);
    this.at = at;
  }

  /** Where in the pattern, in characters from 1. */
  public int at() {
    return at + 1;
  }
}
