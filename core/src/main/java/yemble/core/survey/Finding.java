package yemble.core.survey;

import java.util.List;
import yemble.core.name.ColumnName;
import yemble.core.project.RegisterLine.Decision;

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
 * @param evidence the reasons in words, without any value
 * @param sampled how many values were looked at, empty ones left out
 * @param hits how many of them the kind accepts
 * @param refusals values that nearly were of the kind, and why not, with how many
 * @param others other kinds that it might be, the likeliest first
 */
public record Finding(
    ColumnName column,
    String path,
    String type,
    String kind,
    double confidence,
    Decision suggested,
    boolean sure,
    String evidence,
    int sampled,
    int hits,
    List<String> refusals,
    List<Candidate> others) {
  public Finding {
    refusals = List.copyOf(refusals);
    others = List.copyOf(others);
  }

  /** A kind with a confidence from 0 to 1. */
  public record Candidate(String kind, double confidence) {}

  /** The column, with the path behind it if there is one: as the register writes it. */
  public String name() {
    return path.isEmpty() ? column.toString() : column + " " + path;
  }

  /** The decision that goes into the register. */
  public Decision decision() {
    return sure ? suggested : Decision.UNDECIDED;
  }
}
