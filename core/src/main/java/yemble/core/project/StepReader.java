package yemble.core.project;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.problem.Failure;
import yemble.core.yaml.YamlValue;

/** Reads what a job does before and after its load. */
final class StepReader {
  private static final Set<String> WORDS = Set.of("sql", "command", "on", "values", "name");

  private enum On {
    TARGET,
    SOURCE
  }

  private StepReader() {}

  static Step.Steps read(YamlValue before, YamlValue after) {
    List<Step> first = steps(before);
    List<Step> last = steps(after);
    inOrder(first, true);
    inOrder(last, false);
    Map<String, Step> names = new LinkedHashMap<>();
    List<Step> all = new ArrayList<>(first);
    all.addAll(last);
    for (Step step : all) {
      Step other = names.putIfAbsent(step.name(), step);
      if (other != null) {
        throw step.place()
            .problem(Failure.WORD_TWICE, "another step of this job is called " + step.name())
            .because("the first one is at " + other.place())
            .remedy("give one of them a name: { sql: FILE, name: NAME }");
      }
    }
    return new Step.Steps(first, last);
  }

  /** Statements are part of the load where the engine allows it, and commands cannot be. */
  private static void inOrder(List<Step> steps, boolean commandsFirst) {
    for (int i = 1; i < steps.size(); i++) {
      boolean wrong =
          commandsFirst
              ? steps.get(i).isCommand() && !steps.get(i - 1).isCommand()
              : !steps.get(i).isCommand() && steps.get(i - 1).isCommand();
      if (wrong) {
        throw steps
            .get(i)
            .place()
            .problem(
                Failure.RULES_CONTRADICT,
                commandsFirst
                    ? "a command stands behind SQL in before:"
                    : "SQL stands behind a command in after:")
            .because("SQL is run within the load, and commands outside of it")
            .remedy(commandsFirst ? "put commands first" : "put commands last");
      }
    }
  }

  private static List<Step> steps(YamlValue list) {
    List<Step> steps = new ArrayList<>();
    if (list != null) {
      for (YamlValue item : list.items()) {
        steps.add(step(item));
      }
    }
    return steps;
  }

  private static Step step(YamlValue item) {
    if (!item.isMapping()) {
      String file = item.word();
      return new Step(name(file), file, List.of(), false, Map.of(), item.place());
    }
    Map<String, YamlValue> fields = item.fields(WORDS);
    YamlValue sql = fields.get("sql");
    YamlValue command = fields.get("command");
    if ((sql == null) == (command == null)) {
      throw item.place()
          .problem(
              sql == null ? Failure.WORD_MISSING : Failure.RULES_CONTRADICT,
              sql == null ? "the step does not say what it runs" : "a step is SQL or a command")
          .remedy("write { sql: FILE } or { command: \"…\" }");
    }
    boolean onSource = fields.containsKey("on") && fields.get("on").oneOf(On.class) == On.SOURCE;
    Map<String, Setting> values = new LinkedHashMap<>();
    if (fields.containsKey("values")) {
      for (Map.Entry<YamlValue, YamlValue> entry : fields.get("values").entries()) {
        if (!entry.getKey().word().matches("[A-Za-z_][A-Za-z0-9_]*")) {
          throw entry
              .getKey()
              .place()
              .problem(Failure.VALUE_FORM, "this is no name for a parameter")
              .remedy("write letters, digits and _, a digit not first");
        }
        values.put(
            entry.getKey().word(),
            new Setting(entry.getValue().text(), entry.getValue().place(), true));
      }
    }
    if (command != null && (onSource || !values.isEmpty())) {
      throw item.place()
          .problem(Failure.RULES_CONTRADICT, "on: and values: belong to SQL, not to a command")
          .remedy("take them out");
    }
    String name =
        fields.containsKey("name")
            ? fields.get("name").word()
            : sql == null ? item.place().toString() : name(sql.word());
    List<String> words =
        command == null
            ? List.of()
            : command.isList()
                ? command.items().stream().map(YamlValue::word).toList()
                : List.of("sh", "-c", command.word());
    if (sql == null && !fields.containsKey("name")) {
      name = name(command.isList() ? words.get(0) : command.word().split("\\s")[0]);
    }
    return new Step(name, sql == null ? "" : sql.word(), words, onSource, values, item.place());
  }

  /** A file's name without its folder and ending. */
  private static String name(String file) {
    String bare = file.substring(file.lastIndexOf('/') + 1);
    return bare.indexOf('.') > 0 ? bare.substring(0, bare.indexOf('.')) : bare;
  }
}
