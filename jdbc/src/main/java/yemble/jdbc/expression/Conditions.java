package yemble.jdbc.expression;

import java.sql.SQLException;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiConsumer;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Condition;
import yemble.core.schema.Table;

/**
 * The conditions that one reader was given: each is looked at once, before anything of it is sent.
 * For one thread.
 */
public final class Conditions {
  /** A word in the place of a parameter, as long as a condition is looked at. */
  private static final String PARAMETER = "yemble_value_here";

  private final Lexicon lexicon;
  private final Functions functions;
  private final Map<String, ClosedExpression> seen = new HashMap<>();
  private final Set<Checked> checked = new HashSet<>();

  private record Checked(Table table, String condition) {}

  public Conditions(Lexicon lexicon, Functions functions) {
    this.lexicon = lexicon;
    this.functions = functions;
  }

  /** For what was loaded already: that a condition is closed is all that is asked. */
  public static Conditions ofTarget(Lexicon lexicon) {
    return new Conditions(lexicon, expression -> Optional.empty());
  }

  /**
   * A condition, for a query: every one goes through here, and is checked the first time.
   *
   * @param check asks the database whether it understands it
   */
  public String checked(Table table, String condition, BiConsumer<Table, String> check) {
    Checked one = new Checked(table, condition);
    if (!condition.isEmpty() && !checked.contains(one)) {
      check.accept(table, condition);
      checked.add(one);
    }
    return condition;
  }

  /**
   * A condition of which it is known that it is one closed expression and only computes.
   *
   * @throws Problem of type USAGE if it is not closed, of type REFUSED if something that it calls
   *     may act
   */
  public ClosedExpression closed(String condition) {
    ClosedExpression known = seen.get(condition);
    if (known != null) {
      return known;
    }
    try {
      ClosedExpression expression = ClosedExpression.of(lexicon, condition);
      Optional<Functions.Objection> objection = functions.objection(expression);
      if (objection.isPresent()) {
        throw refused(objection.get());
      }
      seen.put(condition, expression);
      return expression;
    } catch (NotClosed e) {
      throw Problem.of(Failure.CONDITION, "Yemble refuses this condition")
          .because("it is not one closed expression: " + e.getMessage())
          .remedy("write one condition, as after WHERE; quote texts and names, and end them");
    } catch (SQLException e) {
      throw Problem.of(Failure.DATABASE_FAILED, "what this condition calls cannot be looked up")
          .because("the database says SQLSTATE " + e.getSQLState())
          .remedy("see whether the account may read the catalog")
          .causedBy(e);
    }
  }

  /**
   * A condition that has parameters, with JDBC's mark in the place of each; looked at like the
   * others.
   *
   * @param doubled whether JDBC wants other question marks twice
   */
  public String marked(Condition condition, boolean doubled) {
    String words = condition.marked(name -> PARAMETER);
    ClosedExpression expression = closed(words);
    return (doubled ? expression.doubledMarks() : words).replace(PARAMETER, "?");
  }

  /** Whether a condition of the catalog's may be evaluated: such a one is left out otherwise. */
  public boolean passes(String condition) {
    try {
      closed(condition);
      return true;
    } catch (Problem refused) {
      return false;
    }
  }

  private static Problem refused(Functions.Objection objection) {
    return Problem.of(Failure.CONDITION_REFUSED, "Yemble refuses this condition")
        .because("it may do more than compute: " + objection.name() + " " + objection.reason())
        .remedy(
            objection.isFinal()
                ? "write the condition without it"
                : "write the condition without it, or, if you know what it does, add to its"
                    + " database in the project file: allow-functions: ["
                    + objection.name()
                    + "]");
  }
}
