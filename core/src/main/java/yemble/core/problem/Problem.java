package yemble.core.problem;

/**
 * A failure that the user can understand and act on: what happened, where, why, and what to do. Its
 * {@link Type} fixes the exit code. No part of it ever holds a value of the data or a secret.
 */
public final class Problem extends RuntimeException {
  /** What sort of failure it is; the number is the exit code of the program. */
  public enum Type {
    /** What was checked does not hold. */
    FAILED_CHECK(1),
    /** Wrong usage, project file or register; rules that contradict each other or the schema. */
    USAGE(2),
    /** Refused for safety. */
    REFUSED(3),
    /** A database or a file failed. */
    DATABASE(4);

    private final int exitCode;

    Type(int exitCode) {
      this.exitCode = exitCode;
    }

    public int exitCode() {
      return exitCode;
    }
  }

  private final Type type;
  private final String where;
  private final String why;
  private final String remedy;

  private Problem(
      Type type, String what, String where, String why, String remedy, Throwable cause) {
    super(what, cause);
    this.type = type;
    this.where = where;
    this.why = why;
    this.remedy = remedy;
  }

  private static Problem of(Type type, String what) {
    return new Problem(type, what, "", "", "", null);
  }

  public static Problem failedCheck(String what) {
    return of(Type.FAILED_CHECK, what);
  }

  public static Problem usage(String what) {
    return of(Type.USAGE, what);
  }

  public static Problem refused(String what) {
    return of(Type.REFUSED, what);
  }

  public static Problem database(String what) {
    return of(Type.DATABASE, what);
  }

  /** The same problem with its place: {@code file:line:column}, {@code table.column} or a path. */
  public Problem at(String place) {
    return new Problem(type, what(), place, why, remedy, getCause());
  }

  /** The same problem with its place, unless it has one already. */
  public Problem atIfUnknown(String place) {
    return where.isEmpty() ? at(place) : this;
  }

  public Problem because(String reason) {
    return new Problem(type, what(), where, reason, remedy, getCause());
  }

  /** The same problem with what the user can do about it. */
  public Problem remedy(String action) {
    return new Problem(type, what(), where, why, action, getCause());
  }

  /** The same problem with the exception behind it, shown only with {@code --debug}. */
  public Problem causedBy(Throwable cause) {
    return new Problem(type, what(), where, why, remedy, cause);
  }

  public Type type() {
    return type;
  }

  public int exitCode() {
    return type.exitCode();
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

  /** What to do, or an empty string. */
  public String remedy() {
    return remedy;
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
    if (!remedy.isEmpty()) {
      text.append("\n  do:    ").append(remedy);
    }
    return text.toString();
  }
}
