package yemble.jdbc.mariadb;

import java.sql.SQLException;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/**
 * What the server's errors mean to the user. Its own messages quote values, so only the number and
 * the names of objects are passed on.
 */
final class MariadbErrors {
  private static final Pattern COLUMN = Pattern.compile("(?i)\\bcolumn ((?:`[^`]*`\\.?)+|'[^']*')");
  private static final Pattern CONSTRAINT =
      Pattern.compile("CONSTRAINT `([^`]*)`|for key '([^']*)'");

  private MariadbErrors() {}

  /**
   * The problem behind an exception; {@code what} was being done, {@code where} to which object.
   */
  static Problem of(SQLException e, String what, String where) {
    return of(e.getErrorCode(), e.getMessage(), state(e), what, where).causedBy(e);
  }

  private static String state(SQLException e) {
    return e.getSQLState() == null ? "" : e.getSQLState();
  }

  /** The problem behind a warning of LOAD DATA. */
  static Problem of(Session.Warning warning, String what, String where) {
    return of(warning.code(), warning.message(), "", what, where);
  }

  private static Problem of(int code, String message, String state, String what, String where) {
    Problem problem = Problem.of(Failure.DATABASE_FAILED, what).at(object(message, where));
    return switch (code) {
      case 1045, 1698, 1251 ->
          problem
              .as(Failure.LOGIN_REFUSED)
              .because("the server does not let this user in (error " + code + ")")
              .remedy("check user and password, and from which hosts the account may sign in");
      case 1044, 1142, 1143, 1227, 1370 ->
          problem
              .as(Failure.RIGHT_MISSING)
              .because("the account lacks the right to do it (error " + code + ")")
              .remedy("grant it; yemble doctor says what the account may do");
      case 1049 ->
          problem
              .as(Failure.DATABASE_MISSING)
              .because("the server has no such database")
              .remedy("yemble doctor --server URL lists those that it has");
      case 1040, 1203, 1226 ->
          problem
              .as(Failure.DATABASE_UNREACHABLE)
              .because("the server has no connection left for this account")
              .remedy("close others, or raise max_connections");
      case 1021, 1114, 28, 3 ->
          problem
              .as(Failure.DATABASE_FULL)
              .because("the server's disk, or what a table may take of it, is full")
              .remedy("make room, then run the same command again");
      case 1205, 1213 ->
          problem
              .as(Failure.DATABASE_LOCKED)
              .because("another session holds a lock on it")
              .remedy("wait until that session has finished, or end it");
      case 1290, 1792, 1836 ->
          problem
              .as(Failure.DATABASE_READ_ONLY)
              .because("the server or the session is read-only")
              .remedy("name a server that accepts writes");
      case 1062, 1586 ->
          problem
              .as(Failure.CONSTRAINT)
              .because("two rows have the same value in a unique key" + constraint(message))
              .remedy("see which mask or link brought these rows there");
      case 1048, 1263, 1364 ->
          problem
              .as(Failure.CONSTRAINT)
              .because("a column that must not be NULL is")
              .remedy("see which mask or link brought these rows there");
      case 1451, 1452 ->
          problem
              .as(Failure.CONSTRAINT)
              .because("a row refers to nothing" + constraint(message))
              .remedy("see which mask or link brought these rows there");
      case 4025, 3819 ->
          problem
              .as(Failure.CONSTRAINT)
              .because("a check constraint refuses a value" + constraint(message))
              .remedy("see which mask makes values that the check does not allow");
      case 1406, 1264 ->
          problem
              .as(Failure.VALUE_REFUSED)
              .because("a value is too long or too large for the column (error " + code + ")")
              .remedy("see which mask makes values longer than the column takes");
      case 1265, 1292, 1366, 1411, 1416, 1367, 1977 ->
          problem
              .as(Failure.VALUE_REFUSED)
              .because("a value is none of the column's type or character set (error " + code + ")")
              .remedy("see which mask makes such values");
      case 1153 ->
          problem
              .as(Failure.DATABASE_FULL)
              .because("a value is larger than the server takes at once")
              .remedy("raise max_allowed_packet at the server");
      case 1317, 1969, 3024 ->
          problem
              .as(Failure.DATABASE_CANCELLED)
              .because("the server cancelled the statement: a timeout, or an administrator")
              .remedy("run the same command again; see max_statement_time");
      default -> unnumbered(problem, code, state, message);
    };
  }

  private static Problem unnumbered(Problem problem, int code, String state, String message) {
    if (state.startsWith("08") || code == 1927 || code == 1053 || code == 2013) {
      boolean unknown = message != null && message.contains("UnknownHost");
      return problem
          .as(Failure.DATABASE_UNREACHABLE)
          .because(
              unknown
                  ? "the host is unknown"
                  : "the server cannot be reached, or the connection is gone")
          .remedy("check host and port in the url, and that the server runs and listens there");
    }
    return problem.because("the server says error " + code + ", SQLSTATE " + state);
  }

  private static String constraint(String message) {
    Matcher found = CONSTRAINT.matcher(message == null ? "" : message);
    if (!found.find()) {
      return "";
    }
    return ": " + (found.group(1) == null ? found.group(2) : found.group(1));
  }

  /** The place, with the column that the server names. */
  private static String object(String message, String where) {
    Matcher found = COLUMN.matcher(message == null ? "" : message);
    if (!found.find() || where.contains(".")) {
      return where;
    }
    String[] parts = found.group(1).replaceAll("[`']", "").split("\\.");
    return where + "." + parts[parts.length - 1];
  }

  /** What the server says of a statement that it refuses to parse: no row has been read then. */
  static String refusal(SQLException e) {
    String message = e.getMessage() == null ? "" : e.getMessage();
    return message.replaceFirst("^\\(conn=\\d+\\) ", "").replaceAll("\\s+", " ").strip();
  }
}
