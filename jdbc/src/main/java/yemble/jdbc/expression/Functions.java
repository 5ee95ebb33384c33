package yemble.jdbc.expression;

import java.sql.SQLException;
import java.util.Optional;

/** Knows what the functions of a database may do besides computing. */
public interface Functions {
  /**
   * Why an expression may not be evaluated.
   *
   * @return the first thing that it calls or reads which may act; empty if it only computes
   */
  Optional<Objection> objection(ClosedExpression expression) throws SQLException;

  /**
   * What speaks against an expression.
   *
   * @param name of the function or table, as it is written in the expression
   * @param reason what it may do, as the end of a sentence that begins with its name
   * @param isFinal whether a person's word in the project file does not help
   */
  record Objection(String name, String reason, boolean isFinal) {}
}
