package yemble.jdbc.postgresql;

import java.sql.SQLException;
import org.postgresql.util.PSQLException;
import org.postgresql.util.ServerErrorMessage;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/**
 * What PostgreSQL's errors mean to the user. The server's own messages quote values, so only the
 * SQLSTATE and the names of objects are passed on.
 */
final class PostgresqlErrors {
  private PostgresqlErrors() {}

  /**
   * The problem behind an exception; {@code what} was being done, {@code where} to which object.
   */
  static Problem of(SQLException e, String what, String where) {
    String state = e.getSQLState() == null ? "" : e.getSQLState();
    Problem problem = Problem.of(Failure.DATABASE_FAILED, what).at(object(e, where)).causedBy(e);
    return switch (state) {
      case "08001" ->
          problem
              .as(Failure.DATABASE_UNREACHABLE)
              .because(unreachable(e))
              .remedy("check host and port in the url, and that the server runs and listens there");
      case "08004", "08006", "57P01", "57P02", "08003", "08000", "08007" ->
          problem
              .as(Failure.DATABASE_UNREACHABLE)
              .because("the connection to the server is gone (SQLSTATE " + state + ")")
              .remedy("see whether the server was stopped, then run the same command again");
      case "57P03" ->
          problem
              .as(Failure.DATABASE_UNREACHABLE)
              .because("the server is starting up or shutting down")
              .remedy("wait until it accepts connections, then run the same command again");
      case "28P01", "28000" ->
          problem
              .as(Failure.LOGIN_REFUSED)
              .because("the server does not let this user in (SQLSTATE " + state + ")")
              .remedy("check user and password, and the server's pg_hba.conf");
      case "3D000" ->
          problem
              .as(Failure.DATABASE_MISSING)
              .because("the server has no such database")
              .remedy("yemble doctor --server URL lists those that it has");
      case "42501" ->
          problem
              .as(Failure.RIGHT_MISSING)
              .because("the account lacks the right to do it (SQLSTATE 42501)")
              .remedy("grant it; yemble doctor says what the account may do");
      case "53300" ->
          problem
              .as(Failure.DATABASE_UNREACHABLE)
              .because("the server has no connection left")
              .remedy("close others, or raise max_connections");
      case "53100" ->
          problem
              .as(Failure.DATABASE_FULL)
              .because("the server's disk is full")
              .remedy("make room, then run the same command again");
      case "53200" ->
          problem
              .as(Failure.DATABASE_FULL)
              .because("the server is out of shared memory, most often for locks")
              .remedy("raise max_locks_per_transaction: one transaction holds all tables");
      case "55P03" ->
          problem
              .as(Failure.DATABASE_LOCKED)
              .because("another session holds a lock on it")
              .remedy("wait until that session has finished, or end it");
      case "57014" ->
          problem
              .as(Failure.DATABASE_CANCELLED)
              .because("the server cancelled the statement: a timeout, or an administrator")
              .remedy("raise statement_timeout for this user, then run the same command again");
      case "40001", "25P02" ->
          problem
              .as(Failure.DATABASE_CANCELLED)
              .because("the server cancelled the read, as replicas do when rows are cleaned up")
              .remedy(
                  "set hot_standby_feedback = on at the replica, or raise"
                      + " max_standby_streaming_delay; then run the same command again");
      case "25006" ->
          problem
              .as(Failure.DATABASE_READ_ONLY)
              .because("the server is read-only, as a replica is")
              .remedy("name a server that accepts writes");
      case "23505", "23503", "23502", "23514", "23P01" ->
          problem
              .as(Failure.CONSTRAINT)
              .because(constraint(e, state))
              .remedy("see which mask or link brought these rows there");
      case "22001" ->
          problem
              .as(Failure.VALUE_REFUSED)
              .because("a value is too long for the column (SQLSTATE 22001)")
              .remedy("see which mask makes values longer than the column takes");
      case "2BP01" ->
          problem
              .as(Failure.TARGET_FOREIGN)
              .because("other objects of the target need what would be replaced")
              .remedy("drop those that Yemble did not make, then run the same command again");
      default -> problem.because("the server says SQLSTATE " + state);
    };
  }

  private static String unreachable(SQLException e) {
    Throwable cause = e.getCause();
    return cause instanceof java.net.UnknownHostException
        ? "the host is unknown"
        : cause instanceof java.net.SocketTimeoutException
            ? "the host does not answer"
            : "the server cannot be reached";
  }

  private static String constraint(SQLException e, String state) {
    String kind =
        switch (state) {
          case "23505" -> "two rows have the same value in a unique key";
          case "23503" -> "a row refers to nothing";
          case "23502" -> "a column that must not be NULL is";
          case "23514" -> "a check constraint refuses a value";
          default -> "an exclusion constraint refuses a row";
        };
    ServerErrorMessage message = server(e);
    String name = message == null ? null : message.getConstraint();
    return kind + (name == null ? "" : ": " + name);
  }

  /** The table and column that the server names, or {@code where}. */
  private static String object(SQLException e, String where) {
    ServerErrorMessage message = server(e);
    if (message == null || message.getTable() == null) {
      return where;
    }
    String table =
        (message.getSchema() == null ? "" : message.getSchema() + ".") + message.getTable();
    return message.getColumn() == null ? table : table + "." + message.getColumn();
  }

  private static ServerErrorMessage server(SQLException e) {
    return e instanceof PSQLException psql ? psql.getServerErrorMessage() : null;
  }

  /** What the server says of a statement that it refuses to parse: no row has been read then. */
  static String refusal(SQLException e) {
    ServerErrorMessage message = server(e);
    return message == null || message.getMessage() == null
        ? "SQLSTATE " + e.getSQLState()
        : message.getMessage();
  }

  /** Whether the data itself could not be read as what it was asked for. */
  static boolean isData(SQLException e) {
    return e.getSQLState() != null && e.getSQLState().startsWith("22");
  }
}
