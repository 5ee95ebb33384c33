package yemble.cli;

import java.util.List;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.job.Preparation;
import yemble.core.project.Project;
import yemble.core.schema.Lookup;
import yemble.core.schema.Table;
import yemble.core.subset.Explanation;
import yemble.core.subset.Explanation.Standing;
import yemble.core.subset.Request;
import yemble.jdbc.Engines;

/** Why a row is in the subset, or what keeps it out. */
@Command(
    name = "why",
    description = "Explain why a row is in the subset, or what keeps it out.",
    footer = {
      "%nExamples:",
      "  yemble why passenger 17          a row is named by its primary key's values",
      "  yemble why leg 12,1",
      "  yemble why passenger             which links brought the rows of a table",
      "  yemble why crew 3 --job nightly"
    })
final class WhyCommand implements Callable<Integer> {
  @Mixin CommonOptions common;
  @Mixin PickOption pick;

  @Parameters(index = "0", paramLabel = "TABLE", description = "the row's table, or the table")
  String table;

  @Parameters(
      index = "1..*",
      arity = "0..*",
      paramLabel = "ROW",
      description = "the values of its primary key; without it the whole table is explained")
  List<String> row = List.of();

  @Option(names = "--job", paramLabel = "JOB", description = "the job, if there are several")
  String job = "";

  @Override
  public Integer call() {
    Project project = common.read();
    try (Preparation preparation =
        Preparation.of(
            project,
            pick.of(project, project.job(job)),
            Preparation.Purpose.SELECT,
            common.environment(),
            Engines::of,
            ProgressView.of(common.output))) {
      Table found = new Lookup(preparation.source().schema()).table(table, "the command line");
      if (row.isEmpty()) {
        WhyTable.of(preparation, found).show(common);
        return 0;
      }
      long number = Rows.find(preparation.source(), found, row);
      Explanation explanation =
          new Explanation(preparation.source(), preparation.selection(), preparation.key());
      Explanation.Row wanted = new Explanation.Row(found.name(), number);
      if (common.json) {
        json(preparation, explanation, wanted);
      } else {
        print(preparation, explanation, wanted);
      }
    }
    return 0;
  }

  static String name(Preparation job, Explanation.Row row) {
    return row.table() + " " + rowName(job, row);
  }

  private void print(Preparation job, Explanation explanation, Explanation.Row wanted) {
    Output output = common.output;
    Standing standing = explanation.standing(wanted);
    output.line(
        output.paint(Output.Tone.STRONG, name(job, wanted))
            + " of "
            + job.from().title()
            + " is "
            + (standing == Standing.OUT
                ? output.paint(Output.Tone.WARNING, "out")
                : output.paint(Output.Tone.GOOD, "in") + ", " + standing.name().toLowerCase())
            + " in job "
            + job.job().name());
    output.line();
    if (standing == Standing.OUT) {
      out(job, explanation, wanted);
    } else {
      chain(output, job, explanation, wanted);
    }
    output.flush();
  }

  static void chain(
      Output output, Preparation job, Explanation explanation, Explanation.Row wanted) {
    Explanation.Row before = null;
    String indent = "  ";
    for (Explanation.Step step : explanation.chain(wanted)) {
      output.line(indent + words(job, explanation, step, before));
      indent = before == null ? indent : indent + "  ";
      before = step.row();
    }
  }

  private static String words(
      Preparation job, Explanation explanation, Explanation.Step step, Explanation.Row before) {
    String row = name(job, step.row());
    if (before == null) {
      return row + " " + start(job, explanation, step);
    }
    String link = " through " + step.rule().link().childEnd();
    return step.down()
        ? "└ brought " + row + ", which belongs to it," + link + standing(step)
        : "└ needs " + row + ", which it refers to," + link + standing(step);
  }

  private static String standing(Explanation.Step step) {
    return step.standing() == Standing.NEEDED ? " (needed)" : " (chosen)";
  }

  private static String start(Preparation job, Explanation explanation, Explanation.Step step) {
    Request request = job.selection().request();
    if (step.standing() == Standing.PICKED) {
      return "was picked, by "
          + explanation.pickedBy(step.row()).stream()
              .map(Request.Start::place)
              .collect(Collectors.joining(" or "));
    }
    return request.everything()
        ? "is in because the job takes everything"
        : "is in because its table is whole";
  }

  private void out(Preparation job, Explanation explanation, Explanation.Row wanted) {
    Output output = common.output;
    Request request = job.selection().request();
    if (request.empty().contains(wanted.table())) {
      output.line("  " + wanted.table() + " is to stay empty.");
      return;
    }
    boolean pick = request.picks().stream().anyMatch(p -> p.table().name().equals(wanted.table()));
    output.line(
        pick
            ? "  No pick took it: its condition, share or number leave it out."
            : "  No pick is on " + wanted.table() + ".");
    for (Explanation.Obstacle obstacle : explanation.obstacles(wanted)) {
      output.line("  " + obstacle.rule().link() + ": " + obstacle.why() + ".");
    }
    output.line("  No row of the subset refers to it.");
  }

  private void json(Preparation job, Explanation explanation, Explanation.Row wanted) {
    boolean out = explanation.standing(wanted) == Standing.OUT;
    common.output.json(
        Json.object(
            "job",
            job.job().name(),
            "from",
            Json.database(job.from()),
            "table",
            wanted.table().toString(),
            "row",
            rowName(job, wanted),
            "standing",
            word(explanation.standing(wanted)),
            "chain",
            out ? List.of() : Json.list(explanation.chain(wanted), step -> object(job, step)),
            "obstacles",
            out
                ? Json.list(
                    explanation.obstacles(wanted),
                    obstacle ->
                        Json.object(
                            "link",
                            obstacle.rule().link().toString(),
                            "why",
                            obstacle.why().toString()))
                : List.of()));
  }

  private static String word(Standing standing) {
    return standing.name().toLowerCase(java.util.Locale.ROOT);
  }

  private static String rowName(Preparation job, Explanation.Row row) {
    return Rows.name(job.source(), job.source().schema().table(row.table()), row.number());
  }

  private static Object object(Preparation job, Explanation.Step step) {
    return Json.object(
        "table", step.row().table().toString(),
        "row", rowName(job, step.row()),
        "standing", word(step.standing()),
        "link", step.rule() == null ? null : step.rule().link().toString(),
        "came_as", step.rule() == null ? "start" : step.down() ? "child" : "parent");
  }
}
