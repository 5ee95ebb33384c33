package yemble.core.survey;

/**
 * What speaks for one kind of one column, in figures.
 *
 * @param kind its name
 * @param name how strongly the name of the column speaks for it, from 0 to 1
 * @param seen what the values say
 * @param figures what the figures of the whole column leave, or add: 1 for nothing
 * @param around from 0 to 1: what the table around leaves
 * @param ofPeople whether it is a kind that people have, in a table about people
 */
public record Evidence(
    String kind, double name, Seen seen, double figures, double around, boolean ofPeople) {
  private static final double LIFT = 0.6;

  /**
   * What values say for a kind.
   *
   * @param stays what they leave of the name's evidence, from 0 to 1
   * @param known the share of the values that the kind's check knows
   * @param possible the share that it holds for possible
   * @param telling how much that tells, from 0 to 1
   * @param doubts what is left of it where the name or the values themselves speak against
   */
  public record Seen(double stays, double known, double possible, double telling, double doubts) {
    static final Seen NOTHING = new Seen(1, 0, 0, 0, 0);
  }

  /** What a rule of the project's own says. */
  static Evidence byRule(String kind, double confidence) {
    return new Evidence(kind, confidence, Seen.NOTHING, 1, 1, false);
  }

  /** The name's evidence as far as values and figures leave it, from 0 to 1. */
  public double byName() {
    return Math.min(1, name * seen.stays() * Math.min(1, figures));
  }

  /** The evidence of the values, from 0 to 1. */
  public double byValues() {
    return Math.min(1, seen.telling() * seen.doubts() * figures);
  }

  /**
   * The confidence in the kind, from 0 to 1: that not both name and values are wrong, less where
   * the table around says otherwise. In a table that is about people what is likely of a person is
   * likelier.
   */
  public double confidence() {
    double confidence = (1 - (1 - byName()) * (1 - byValues())) * around;
    return ofPeople ? confidence + LIFT * confidence * (1 - confidence) : confidence;
  }
}
