package yemble.cli;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Option;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Job;
import yemble.core.project.Pick;
import yemble.core.project.Project;
import yemble.core.project.RecipeFile;
import yemble.core.yaml.Place;

/** Picks said with a command, in place of the job's own. */
final class PickOption {
  @Option(
      names = "--pick",
      paramLabel = "\"TABLE: CONDITION\"",
      description =
          "pick these rows, not the job's own; several times for more; - for standard input")
  List<String> picks = new ArrayList<>();

  @Option(
      names = "--recipe",
      paramLabel = "NAME",
      description = "pick what recipes/NAME.yaml says, not the job's own")
  String recipe = "";

  @Option(
      names = "--set",
      paramLabel = "PARAMETER=VALUE",
      description = "the value of a parameter of the recipe; once for each; - for standard input")
  Map<String, String> values = new LinkedHashMap<>();

  /** The job with these picks, if there are any. */
  Job of(Project project, Job job) {
    if (recipe.isEmpty() && !values.isEmpty()) {
      throw Problem.of(Failure.OPTION, "--set gives a value to a recipe, and none is named")
          .remedy("add --recipe NAME");
    }
    if (!recipe.isEmpty() && !picks.isEmpty()) {
      throw Problem.of(Failure.OPTION, "--pick cannot stand beside --recipe")
          .remedy("keep one of the two: each of them says what is picked");
    }
    if (!recipe.isEmpty()) {
      values.replaceAll((parameter, value) -> StandardInput.or(value));
      return RecipeFile.read(project, recipe).of(job, values);
    }
    return picks.isEmpty() ? job : job.picking(said());
  }

  private List<Pick> said() {
    List<Pick> said = new ArrayList<>();
    for (String pick : picks) {
      StandardInput.or(pick)
          .lines()
          .filter(line -> !line.isBlank())
          .forEach(
              line -> said.add(Pick.said(line, Place.of("--pick number " + (said.size() + 1)))));
    }
    if (said.isEmpty()) {
      said.add(Pick.said("", Place.of("--pick number 1")));
    }
    return said;
  }
}
