package yemble.jdbc.standard;

import java.sql.SQLException;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/** What errors mean, by the classes of SQLSTATE that the SQL standard knows. */
final class StandardErrors {
  private StandardErrors() {}

  /** The problem of a table that cannot be read: no mask has anything to do with it. */
  static Problem reading(SQLException e, String where) {
    Problem problem = of(e, "reading failed", where);
    return problem.failure() == Failure.VALUE_REFUSED
        ? problem
            .as(Failure.DATABASE_FAILED)
            .because("the driver cannot give a value of it (SQLSTATE " + e.getSQLState() + ")")
            .remedy("try another version of the driver, or leave the table out: empty: [TABLE]")
        : problem;
  }

  /**
   * The problem behind an exception; {@code what} was being done, {@code where} to which object.
   * The driver's own message may quote values, so it is not passed on.
   */
  static Problem of(SQLException e, String what, String where) {
    String state = e.getSQLState() == null ? "" : e.getSQLState();
    String sort = state.length() < 2 ? "" : state.substring(0, 2);
    Problem problem = Problem.of(Failure.DATABASE_FAILED, what).at(where).causedBy(e);
    return switch (sort) {
      case "08" ->
          problem
              .as(Failure.DATABASE_UNREACHABLE)
              .because("the connection cannot be made, or is gone (SQLSTATE " + state + ")")
              .remedy("check the url, and that the server runs");
      case "28" ->
          problem
              .as(Failure.LOGIN_REFUSED)
              .because("the database does not let this user in (SQLSTATE " + state + ")")
              .remedy("check user and password");
      case "23" ->
          problem
              .as(Failure.CONSTRAINT)
              .because("a constraint refuses a row (SQLSTATE " + state + ")")
              .remedy("see which mask or link brought it there");
      case "22" ->
          problem
              .as(Failure.VALUE_REFUSED)
              .because("a value is none that the column takes (SQLSTATE " + state + ")")
              .remedy("see which mask makes such values");
      case "42" ->
          problem
              .as(Failure.RIGHT_MISSING)
              .because(
                  "the database does not know the statement, or the account may not run it"
                      + " (SQLSTATE "
                      + state
                      + ")")
              .remedy("check the account's rights; yemble doctor says what is not known here");
      default ->
          problem.because(
              state.isEmpty()
                  ? "the driver gives no SQLSTATE, so it is not known why"
                  : "the database says SQLSTATE " + state + ", error " + e.getErrorCode());
    };
  }
}
