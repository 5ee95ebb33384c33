package yemble.core.survey;

import java.util.List;
import yemble.core.name.ColumnName;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.wording.Sentence;

/**
 * What survey makes of a column, or of a path inside one.
 *
 * @param path the path inside a JSON column (RFC 9535), or an empty string
 * @param type the declared type
 * @param kind the likeliest kind; an empty string if nothing speaks for any
 * @param confidence from 0 to 1: that it is of this kind, or, without a kind, that it is not
 *     personal
 * @param suggested what survey would decide; undecided where it does not know
 * @param sure whether survey decides so itself
 * @param reasons why, without any value
 * @param sampled how many values were looked at, empty ones left out
 * @param hits how many of them the kind accepts
 * @param refusals why values that nearly were of the kind were refused, with how many
 * @param others other kinds that it might be, the likeliest first
 * @param examples values that were accepted and refused, only where they were asked for; never
 *     stored
 */
public record Finding(
    ColumnName column,
    String path,
    String type,
    String kind,
    double confidence,
    Decision suggested,
    boolean sure,
    List<Sentence> reasons,
    long sampled,
    long hits,
    List<Refusal> refusals,
    List<Candidate> others,
    Examples examples) {
  public Finding {
    reasons = List.copyOf(reasons);
    refusals = List.copyOf(refusals);
    others = List.copyOf(others);
  }

  /** A kind with a confidence from 0 to 1. */
  public record Candidate(String kind, double confidence) {}

  /** Why values were refused, and how many. */
  public record Refusal(String why, long values) {}

  /** Values of a column, for the screen alone. */
  public record Examples(List<String> accepted, List<String> refused) {
    public static final Examples NONE = new Examples(List.of(), List.of());

    public Examples {
      accepted = List.copyOf(accepted);
      refused = List.copyOf(refused);
    }
  }

  private static final List<Sentence> UNREAD = List.of(SurveyWording.UNREAD.of());

  /** What is said of a column of a table that cannot be read. */
  static Finding unread(Table table, Column column) {
    return new Finding(
        table.name(column),
        "",
        column.type(),
        "",
        0,
        Decision.UNDECIDED,
        false,
        UNREAD,
        0,
        0,
        List.of(),
        List.of(),
        Examples.NONE);
  }

  boolean isUnread() {
    return reasons.equals(UNREAD);
  }

  /** The column, with the path behind it if there is one: as the register writes it. */
  public String name() {
    return path.isEmpty() ? column.toString() : column + " " + path;
  }

  /** The reasons in one line. */
  public String evidence() {
    return SurveyWording.ALL_OF.of(reasons).toString();
  }

  /** The decision that goes into the register. */
  public Decision decision() {
    return sure ? suggested : Decision.UNDECIDED;
  }

  /** Whether a kind is named. */
  public boolean isPersonal() {
    return !kind.isEmpty();
  }

  /** The same finding for another reason, after another column. */
  Finding like(Finding other, Sentence reason) {
    return new Finding(
        column,
        path,
        type,
        other.kind,
        other.confidence,
        other.suggested,
        other.sure,
        List.of(reason),
        sampled,
        hits,
        List.of(),
        others,
        examples);
  }
}
