package yemble.core.project;

import java.util.List;
import java.util.Map;
import yemble.core.yaml.Place;

/**
 * A step of the team's own, before or after a load.
 *
 * @param name by which it is called alone
 * @param file of SQL, relative to the project's folder; empty for a command
 * @param command what is run; empty for a file of SQL
 * @param onSource whether it is run on the source, which must be a copy then
 * @param values of parameters in its statements, by name
 */
public record Step(
    String name,
    String file,
    List<String> command,
    boolean onSource,
    Map<String, Setting> values,
    Place place) {
  public Step {
    command = List.copyOf(command);
    values = Map.copyOf(values);
  }

  /** Whether it is a command rather than SQL. */
  public boolean isCommand() {
    return file.isEmpty();
  }

  /**
   * What a job does before and after its load, in order.
   *
   * @param before commands first: they are run before the load begins
   * @param after commands last: they are run once the load is visible
   */
  public record Steps(List<Step> before, List<Step> after) {
    public static final Steps NONE = new Steps(List.of(), List.of());

    public Steps {
      before = List.copyOf(before);
      after = List.copyOf(after);
    }

    public boolean isEmpty() {
      return before.isEmpty() && after.isEmpty();
    }
  }
}
