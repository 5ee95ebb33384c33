package yemble.core.problem;

import java.util.List;

/**
 * A failure that the user can understand and act on: what happened, where, why, and what to do. Its
 * {@link Failure} is its stable code, and fixes the exit code. No part of it ever holds a value of
 * the data or a secret.
 */
public final class Problem extends RuntimeException {
  /** The most items of a list that a message shows. */
  private static final int SHOWN = 20;

  private final Failure failure;
  private final String where;
  private final String why;
  private final String remedy;
  private final List<String> all;

  private Problem(
      Failure failure,
      String what,
      String where,
      String why,
      String remedy,
      List<String> all,
      Throwable cause) {
    super(what, cause);
    this.failure = failure;
    this.where = where;
    this.why = why;
    this.remedy = remedy;
    this.all = all;
  }

  public static Problem of(Failure failure, String what) {
    return new Problem(failure, what, "", "", "", List.of(), null);
  }

  /** The same problem, now that more is known of what failed. */
  public Problem as(Failure known) {
    return new Problem(known, what(), where, why, remedy, all, getCause());
  }

  /** The same problem with its place: {@code file:line:column}, {@code table.column} or a path. */
  public Problem at(String place) {
    return new Problem(failure, what(), place, why, remedy, all, getCause());
  }

  /** The same problem with its place, unless it has one already. */
  public Problem atIfUnknown(String place) {
    return where.isEmpty() ? at(place) : this;
  }

  public Problem because(String reason) {
    return new Problem(failure, what(), where, reason, remedy, all, getCause());
  }

  /**
   * The same problem for what a list holds, each as its text on a line; where it is long, its
   * beginning.
   */
  public Problem because(List<?> found) {
    List<String> reasons = found.stream().map(Object::toString).toList();
    int shown = Math.min(SHOWN, reasons.size());
    String reason =
        "\n    "
            + String.join("\n    ", reasons.subList(0, shown))
            + (shown == reasons.size()
                ? ""
                : "\n    … and " + (reasons.size() - shown) + " more; with --json all are listed");
    return new Problem(failure, what(), where, reason, remedy, List.copyOf(reasons), getCause());
  }

  /** The same problem with what the user can do about it. */
  public Problem remedy(String action) {
    return new Problem(failure, what(), where, why, action, all, getCause());
  }

  /** The same problem with the exception behind it, shown only with {@code --debug}. */
  public Problem causedBy(Throwable cause) {
    return new Problem(failure, what(), where, why, remedy, all, cause);
  }

  public Failure failure() {
    return failure;
  }

  public Failure.Type type() {
    return failure.type();
  }

  public int exitCode() {
    return type().exitCode();
  }

  public String what() {
    return super.getMessage();
  }

  /** The place, or an empty string. */
  public String where() {
    return where;
  }

  /** The reason, or an empty string. */
  public String why() {
    return why;
  }

  /** Every single reason where there are several, or none. */
  public List<String> all() {
    return all;
  }

  /** What to do: never empty. */
  public String remedy() {
    return remedy.isEmpty() ? failure.remedy() : remedy;
  }

  @Override
  public String getMessage() {
    StringBuilder text = new StringBuilder(what());
    if (!where.isEmpty()) {
      text.append("\n  where: ").append(where);
    }
    if (!why.isEmpty()) {
      text.append("\n  why:   ").append(why);
    }
    return text.append("\n  do:    ").append(remedy()).toString();
  }
}
