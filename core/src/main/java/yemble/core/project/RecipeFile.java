package yemble.core.project;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.yaml.YamlValue;

/**
 * Reads recipes: {@code recipes/NAME.yaml} in the project's folder, or in that of a baseline which
 * the project uses.
 */
public final class RecipeFile {
  private static final String FOLDER = "recipes";
  private static final String ENDING = ".yaml";
  private static final Set<String> TOP = Set.of("parameters", "pick", "links");

  private RecipeFile() {}

  /** The recipe of a name; that of the project goes before one of a baseline. */
  public static Recipe read(Project project, String name) {
    for (String folder : folders(project)) {
      Path file = project.directory().resolve(folder).resolve(name + ENDING);
      boolean plain = name.matches("[\\p{L}\\p{N}_][\\p{L}\\p{N}_. -]*");
      if (plain && Files.isRegularFile(file)) {
        return read(project, name, folder + "/" + name + ENDING);
      }
    }
    Set<String> known = names(project);
    throw Problem.of(Failure.NOTHING_FOUND, "there is no recipe " + name)
        .at(FOLDER)
        .remedy(
            known.isEmpty()
                ? "write one as " + FOLDER + "/NAME.yaml in the project's folder"
                : Nearest.hint(name, known));
  }

  /** The names of all recipes that the project can use. */
  public static Set<String> names(Project project) {
    Set<String> names = new TreeSet<>();
    for (String folder : folders(project)) {
      try (Stream<Path> files = Files.list(project.directory().resolve(folder))) {
        files
            .map(file -> file.getFileName().toString())
            .filter(name -> name.endsWith(ENDING))
            .forEach(name -> names.add(name.substring(0, name.length() - ENDING.length())));
      } catch (IOException e) {
        continue; // A project need not have that folder.
      }
    }
    return names;
  }

  private static List<String> folders(Project project) {
    Set<String> folders = new LinkedHashSet<>();
    folders.add(FOLDER);
    List<String> uses = project.uses();
    for (int i = uses.size() - 1; i >= 0; i--) {
      Path parent = Path.of(uses.get(i)).getParent();
      folders.add(parent == null ? FOLDER : parent.resolve(FOLDER).toString());
    }
    return List.copyOf(folders);
  }

  private static Recipe read(Project project, String name, String shown) {
    Path file = project.directory().resolve(shown);
    YamlValue top = YamlValue.read(file, shown);
    Map<String, YamlValue> fields = top.fields(TOP);
    if (!fields.containsKey("pick")) {
      throw top.place()
          .problem(Failure.WORD_MISSING, "the recipe does not say what it picks")
          .remedy("add pick: with a table, as in a job");
    }
    List<Pick> picks = new ArrayList<>();
    PickReader reader = new PickReader(project.directory());
    for (var entry : fields.get("pick").entries()) {
      picks.addAll(reader.read(entry.getKey(), entry.getValue()));
    }
    Map<String, YamlValue> parameters = parameters(fields.get("parameters"));
    List<LinkRule> links = LinkReader.read(fields.get("links"));
    List<Condition> conditions = new ArrayList<>();
    picks.forEach(pick -> conditions.add(pick.where()));
    links.forEach(rule -> conditions.add(rule.where()));
    check(parameters, conditions);
    return new Recipe(name, shown, List.copyOf(parameters.keySet()), picks, links);
  }

  private static Map<String, YamlValue> parameters(YamlValue list) {
    Map<String, YamlValue> parameters = new LinkedHashMap<>();
    if (list == null) {
      return parameters;
    }
    for (YamlValue item : list.items()) {
      if (!item.word().matches("[A-Za-z_][A-Za-z0-9_]*")) {
        throw item.place()
            .problem(Failure.VALUE_FORM, "this is no name for a parameter")
            .remedy("write letters, digits and _, a digit not first");
      }
      if (parameters.putIfAbsent(item.word(), item) != null) {
        throw item.place()
            .problem(Failure.WORD_TWICE, "the parameter " + item.word() + " stands here twice");
      }
    }
    return parameters;
  }

  /** Every parameter must be spoken of, and whatever is spoken of must be one. */
  private static void check(Map<String, YamlValue> parameters, List<Condition> conditions) {
    Set<String> used = new LinkedHashSet<>();
    for (Condition condition : conditions) {
      for (String name : Condition.parameters(condition.sql())) {
        if (!parameters.containsKey(name)) {
          throw condition
              .place()
              .problem(Failure.WORD_UNKNOWN, "this recipe has no parameter " + name)
              .remedy(
                  parameters.isEmpty()
                      ? "add parameters: [" + name + "] to it"
                      : Nearest.hint(name, parameters.keySet()));
        }
        used.add(name);
      }
    }
    parameters.forEach(
        (name, item) -> {
          if (!used.contains(name)) {
            throw item.place()
                .problem(Failure.RULES_CONTRADICT, "no condition speaks of :" + name)
                .remedy("use it in a where:, or take it out of parameters:");
          }
        });
  }
}
