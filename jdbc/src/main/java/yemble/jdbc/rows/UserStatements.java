package yemble.jdbc.rows;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Map;
import java.util.function.Predicate;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.store.SqlStatement;
import yemble.core.store.Statements;
import yemble.jdbc.expression.BoundQuery;
import yemble.jdbc.expression.SqlFile;

/** Runs statements of the user's on one connection. */
public class UserStatements implements Statements {
  private final Manner manner;
  private final Connection connection;
  private final BoundQuery.Binder binder;
  private final Mapping errors;
  private final boolean within;

  /**
   * How an engine takes statements.
   *
   * @param begin its statement that begins a transaction
   * @param doubled whether its driver wants question marks twice that are no parameters
   * @param ofTheStatement whether a failure is about what the statement says, not about what the
   *     database holds: then the words of the database quote nothing but what the user has written
   * @param wrapping what its driver puts around the words of the database, which are the first
   *     group, as a regular expression
   */
  public record Manner(
      SqlFile.Rules rules,
      String begin,
      boolean doubled,
      Predicate<SQLException> ofTheStatement,
      String wrapping) {
    /** By the class of errors of syntax and access of the standard. */
    public static boolean isOfTheStatement(SQLException e) {
      return e.getSQLState() != null && e.getSQLState().startsWith("42");
    }
  }

  /** What a failure of the engine means. */
  @FunctionalInterface
  public interface Mapping {
    Problem of(SQLException e, String what, String where);
  }

  /**
   * @param within whether it is part of a load's transaction
   */
  public UserStatements(
      Manner manner,
      Connection connection,
      BoundQuery.Binder binder,
      Mapping errors,
      boolean within) {
    this.manner = manner;
    this.connection = connection;
    this.binder = binder;
    this.errors = errors;
    this.within = within;
  }

  @Override
  public boolean isWithin() {
    return within;
  }

  @Override
  public void begin() {
    if (!within) {
      control(manner.begin());
    }
  }

  @Override
  public void keep() {
    if (!within) {
      control("COMMIT");
    }
  }

  @Override
  public void takeBack() {
    if (!within) {
      try (Statement statement = connection.createStatement()) {
        statement.execute("ROLLBACK");
      } catch (SQLException gone) {
        // The first failure is the one to report; without a connection the server rolls back.
      }
    }
  }

  private void control(String sql) {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    } catch (SQLException e) {
      throw errors.of(e, "a step cannot be completed", "");
    }
  }

  /** What the database says, without what drivers put around it. */
  private String said(SQLException e) {
    String line = String.valueOf(e.getMessage()).lines().findFirst().orElse("");
    return line.replaceFirst("^" + manner.wrapping() + "$", "$1");
  }

  @Override
  public long run(SqlStatement statement, Map<String, String> values, String where) {
    SqlFile.Marked marked =
        SqlFile.marked(manner.rules(), statement.text(), values, manner.doubled());
    try {
      if (marked.names().isEmpty()) {
        try (Statement plain = connection.createStatement()) {
          plain.setEscapeProcessing(false);
          plain.execute(statement.text());
          return Math.max(0, plain.getUpdateCount());
        }
      }
      try (PreparedStatement bound = connection.prepareStatement(marked.sql())) {
        for (int i = 0; i < marked.names().size(); i++) {
          binder.bind(bound, i + 1, values.get(marked.names().get(i)));
        }
        bound.execute();
        return Math.max(0, bound.getUpdateCount());
      }
    } catch (SQLException e) {
      Problem known = errors.of(e, "", "");
      throw Problem.of(Failure.STEP_FAILED, "statement " + statement.number() + " failed")
          .at(where)
          .because(
              manner.ofTheStatement().test(e)
                  ? said(e)
                  : known.why().isEmpty()
                      ? "the database says SQLSTATE " + e.getSQLState()
                      : known.why() + (known.where().isEmpty() ? "" : ": " + known.where()))
          .causedBy(e);
    }
  }
}
