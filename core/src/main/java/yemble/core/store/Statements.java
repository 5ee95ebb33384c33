package yemble.core.store;

import java.util.Map;

/** Runs statements of the user's in a target. */
public interface Statements {
  /** Whether what they do is part of the load, and undone if that fails. */
  boolean isWithin();

  /** Begins a step that is not part of the load; where it is, nothing happens. */
  default void begin() {}

  /** Keeps what a step has done that is not part of the load. */
  default void keep() {}

  /** Takes back what a step has done that is not part of the load, as far as the engine can. */
  default void takeBack() {}

  /** Puts the session back into the form that a load needs, whatever statements have set. */
  default void restore() {}

  /**
   * Runs a statement.
   *
   * @param values of its parameters, by name; they are bound
   * @param where it stands, for messages
   * @return how many rows it changed; 0 where that has no meaning
   * @throws yemble.core.problem.Problem of type DATABASE, without any value, if it fails
   */
  long run(SqlStatement statement, Map<String, String> values, String where);
}
