package yemble.core.project;

import yemble.core.name.DottedName;

/**
 * A line of the register.
 *
 * @param column the column as written, {@code table.column}
 * @param type its declared type when the line was written
 * @param kind the name of a kind, or an empty string
 * @param line the line of the file it stands in, from 1; 0 for a line not read from a file
 */
public record RegisterLine(
    String column,
    String type,
    String kind,
    Decision decision,
    String confidence,
    String evidence,
    String by,
    String on,
    String reason,
    int line) {

  /** What is done with a column. */
  public enum Decision {
    MASK,
    KEEP,
    UNDECIDED;

    @Override
    public String toString() {
      return name().toLowerCase(java.util.Locale.ROOT);
    }
  }

  private static final double SUGGESTED = 0.5;

  /** Who survey signs as. */
  public static final String SURVEY = "survey";

  /** Whether a person has decided. */
  public boolean byPerson() {
    return decision != Decision.UNDECIDED && !by.equals(SURVEY);
  }

  /** The column without the path inside it. */
  public String bareColumn() {
    int at = DottedName.pathAt(column);
    return at < 0 ? column : column.substring(0, at);
  }

  /** The table of the column as it is written; an empty string if it names none. */
  public String table() {
    return DottedName.parse(bareColumn())
        .filter(name -> name.parts().size() > 1)
        .map(name -> new DottedName(name.before()).toString())
        .orElse("");
  }

  /** How sure survey was, from 0 to 1; 0 if it did not say. */
  public double sure() {
    try {
      return confidence.isEmpty() ? 0 : Double.parseDouble(confidence);
    } catch (NumberFormatException e) {
      return 0;
    }
  }

  /** Whether survey suggests something: to mask it as its kind, or to keep it. */
  public boolean isSuggested() {
    return sure() >= SUGGESTED;
  }

  /** The path inside a JSON column (RFC 9535), or an empty string. */
  public String path() {
    int at = DottedName.pathAt(column);
    return at < 0 ? "" : column.substring(at + 1);
  }

  /** The same line, decided otherwise. */
  public RegisterLine decided(
      Decision newDecision, String newKind, String who, String day, String why) {
    return new RegisterLine(
        column, type, newKind, newDecision, confidence, evidence, who, day, why, line);
  }

  /** The same line for a column that has another type now. */
  public RegisterLine typed(String newType) {
    return new RegisterLine(
        column, newType, kind, decision, confidence, evidence, by, on, reason, line);
  }

  /** A line for a column that nobody has decided on. */
  public static RegisterLine undecided(String column, String type) {
    return new RegisterLine(column, type, "", Decision.UNDECIDED, "", "", "", "", "", 0);
  }
}
