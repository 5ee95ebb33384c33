package yemble.jdbc.expression;

/** Why something is not one closed expression; the message says no more than that. */
final class NotClosed extends Exception {
  NotClosed(String reason) {
    super(reason);
  }
}
