package yemble.core.project;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;

/**
 * Picks and link rules in a file of their own, with parameters that get their values when a command
 * is called.
 *
 * @param file where it is written, for messages
 * @param parameters what must be given a value; conditions speak of them as {@code :name}
 */
public record Recipe(
    String name, String file, List<String> parameters, List<Pick> picks, List<LinkRule> links) {
  public Recipe {
    parameters = List.copyOf(parameters);
    picks = List.copyOf(picks);
    links = List.copyOf(links);
  }

  /**
   * A job with this in place of its own picks, and with these link rules besides its own.
   *
   * @param values of the parameters, by name
   * @throws Problem of type USAGE if a parameter has no value, or a value no parameter
   */
  public Job of(Job job, Map<String, String> values) {
    for (String given : values.keySet()) {
      if (!parameters.contains(given)) {
        throw Problem.of(Failure.WORD_UNKNOWN, "this recipe has no parameter " + given)
            .at(file)
            .remedy(
                parameters.isEmpty()
                    ? "it has none; take --set away"
                    : Nearest.hint(given, parameters));
      }
    }
    for (String parameter : parameters) {
      if (!values.containsKey(parameter)) {
        throw Problem.of(Failure.WORD_MISSING, "the parameter " + parameter + " has no value")
            .at(file)
            .remedy("add --set " + parameter + "=… to the command");
      }
    }
    UnaryOperator<Condition> bound = condition -> condition.with(values);
    List<LinkRule> rules = new ArrayList<>(links.stream().map(rule -> rule.where(bound)).toList());
    return job.picking(picks.stream().map(pick -> pick.where(bound)).toList()).linking(rules);
  }
}
