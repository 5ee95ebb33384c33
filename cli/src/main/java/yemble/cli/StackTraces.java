package yemble.cli;

/**
 * Prints where a failure came from: types and places alone, since the message of a database's
 * exception may quote values of the data.
 */
final class StackTraces {
  private StackTraces() {}

  static void print(Throwable failure) {
    for (Throwable cause = failure; cause != null; cause = cause.getCause()) {
      System.err.println("  " + cause.getClass().getName() + state(cause));
      for (StackTraceElement element : cause.getStackTrace()) {
        System.err.println("    at " + element);
      }
    }
  }

  private static String state(Throwable cause) {
    return cause instanceof java.sql.SQLException sql
        ? " (SQLSTATE " + sql.getSQLState() + ", code " + sql.getErrorCode() + ")"
        : "";
  }
}
