package yemble.cli;

import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.file.HeldFile;
import yemble.core.job.Forgetting;
import yemble.core.job.OneRun;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Job;
import yemble.core.project.Project;
import yemble.core.yaml.Place;
import yemble.jdbc.Engines;

/** Drops what a target keeps of fresh keys. */
@Command(
    name = "forget",
    description = {
      "Drop what a target keeps of rows that came alongside: which key each had in the source.",
      "The rows stay. A further load does not find them again: it brings them once more."
    },
    footer = {
      "%nExamples:",
      "  yemble forget nightly --into dev",
      "%nExit codes: 0 done, 2 nothing is kept, or wrong project, 3 refused for safety,",
      "4 a database failed."
    })
final class ForgetCommand implements Callable<Integer> {
  @Mixin CommonOptions common;

  @Parameters(arity = "0..1", paramLabel = "JOB", description = "the job, if there are several")
  String job = "";

  @Option(
      names = "--into",
      required = true,
      paramLabel = "NAME",
      description = "a test database of the project")
  String name;

  @Option(names = "--yes", description = "drop it without a question")
  boolean yes;

  @Override
  public Integer call() {
    Project project = common.read();
    Job asked = project.job(job);
    try (HeldFile held = OneRun.of(project, "forgets " + asked.name());
        Forgetting forgetting =
            Forgetting.of(
                project,
                asked,
                project.database(name, Place.of("--into")),
                common.environment(),
                Engines::of)) {
      String into = forgetting.into().title();
      if (forgetting.kept().isEmpty() || held == null) {
        throw Problem.of(
                Failure.NOTHING_FOUND,
                into + " keeps no keys of rows from " + forgetting.from().title())
            .at(forgetting.target().description())
            .remedy("only load: alongside keeps keys");
      }
      long keys = forgetting.kept().stream().mapToLong(Forgetting.Kept::keys).sum();
      if (!common.json) {
        describe(forgetting);
      }
      Question.confirm(
          common.output,
          "Forget under which keys "
              + Output.counted(keys, "row")
              + " of "
              + forgetting.from().title()
              + " lie in "
              + into
              + "?",
          yes);
      forgetting.forget();
      if (common.json) {
        common.output.json(
            Json.object(
                "from", Json.database(forgetting.from()),
                "into", Json.database(forgetting.into()),
                "tables",
                    Json.list(
                        forgetting.kept(),
                        (Forgetting.Kept kept) ->
                            Json.object("table", kept.table().toString(), "keys", kept.keys()))));
      } else {
        common.output.line(
            common.output.paint(Output.Tone.GOOD, "Done: ")
                + "forgot "
                + Output.counted(keys, "key")
                + ". The rows are still there.");
        common.output.flush();
      }
      return 0;
    }
  }

  private void describe(Forgetting forgetting) {
    Output output = common.output;
    output.line(
        "  into  "
            + output.paint(Output.Tone.STRONG, forgetting.into().title())
            + "  "
            + forgetting.target().description());
    output.line();
    TextTable table = new TextTable("table", ">keys of rows from " + forgetting.from().title());
    forgetting.kept().forEach(kept -> table.row(kept.table(), Output.number(kept.keys())));
    output.table(table);
    output.line();
    output.line(
        "Once they are forgotten, a further load alongside brings these rows once more, under keys"
            + " that are fresh again.");
    output.line();
  }
}
