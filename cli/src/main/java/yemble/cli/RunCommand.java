package yemble.cli;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.crossing.CrossedSink;
import yemble.core.crossing.Crossing;
import yemble.core.file.HeldFile;
import yemble.core.job.Changes;
import yemble.core.job.Guard;
import yemble.core.job.OneRun;
import yemble.core.job.OwnSteps;
import yemble.core.job.Preparation;
import yemble.core.job.Progress;
import yemble.core.job.Run;
import yemble.core.job.StepAlone;
import yemble.core.job.StepRun;
import yemble.core.moment.Now;
import yemble.core.plan.Contradictions;
import yemble.core.plan.TablePlan;
import yemble.core.problem.Problem;
import yemble.core.project.Job;
import yemble.core.project.Project;
import yemble.core.project.Structure;
import yemble.core.row.RowSet;
import yemble.core.schema.Table;
import yemble.core.subset.Reached;
import yemble.core.wording.Sentence;
import yemble.jdbc.Engines;

/** The whole job. */
@Command(
    name = "run",
    description = "Select, mask, load and verify: the whole job.",
    footer = {
      "%nExamples:",
      "  yemble run                  the project's only job, with a question before it writes",
      "  yemble run nightly --yes    unattended",
      "  yemble run --dry            what it would write and change; nothing is written",
      "  yemble run nightly --only-step rights   one step of before: or after: again",
      "  yemble run --pick \"booking: ref = 'OR-2041'\"   these rows, not those that the job picks",
      "%nExit codes: 0 done, 1 a check fails (the target is as it was), 2 wrong project,",
      "3 refused for safety, 4 a database or file failed."
    })
final class RunCommand implements Callable<Integer> {
  /** How long is looked for columns that hold something else than the register says. */
  private static final Duration LOOKING = Duration.ofSeconds(5);

  @Mixin CommonOptions common;
  @Mixin PickOption pick;
  @Mixin Shown shown;

  @Parameters(arity = "0..1", paramLabel = "JOB", description = "the job, if there are several")
  String job = "";

  @Option(names = "--dry", description = "show what would be written and changed, write nothing")
  boolean dry;

  @Option(
      names = "--show-values",
      description = "show rows and values that do not fit the target, on screen alone")
  boolean showValues;

  @Option(
      names = "--only",
      arity = "1..*",
      paramLabel = "TABLE",
      description = "some tables of the job alone, to look at; rows and masks are as in the whole")
  List<String> only = new ArrayList<>();

  @Option(
      names = "--only-step",
      paramLabel = "NAME",
      description = "run one step of before: or after: again, and nothing else")
  String onlyStep = "";

  @Option(names = "--yes", description = "write without a question")
  boolean yes;

  @Override
  public Integer call() {
    Instant start = Now.moment();
    Progress progress = ProgressView.of(common.output);
    Project project = common.read();
    Job asked = pick.of(project, project.job(job));
    HeldFile held = dry ? null : OneRun.of(project, "runs " + asked.name());
    try {
      return onlyStep.isEmpty() ? whole(project, asked, progress, start) : step(project, asked);
    } finally {
      if (held != null) {
        held.close();
      }
    }
  }

  private int whole(Project project, Job asked, Progress progress, Instant start) {
    OwnSteps steps =
        OwnSteps.of(project, asked, Guard.into(project, asked), common.environment(), Engines::of);
    if (steps.actOnSource() && !dry) {
      String from = project.database(asked.from(), asked.fromAt()).title();
      Question.confirm(
          common.output, "Run the job's steps on " + from + ", before it is read?", yes);
      steps.onSource(Engines::of);
    }
    try (Preparation preparation =
            Preparation.of(
                    project,
                    asked,
                    dry ? Preparation.Purpose.MASK : Preparation.Purpose.LOAD,
                    common.environment(),
                    Engines::of,
                    progress)
                .only(only);
        Run run = Run.into(preparation, steps, common.environment(), Engines::of)) {
      try {
        return run(preparation, run, progress, start);
      } catch (Problem problem) {
        run.crossing().ifPresent(this::examples);
        throw problem;
      }
    }
  }

  /** One step again, in a transaction of its own. */
  private int step(Project project, Job asked) {
    Output output = common.output;
    try (StepAlone alone = StepAlone.of(project, asked, common.environment(), Engines::of)) {
      String name = alone.found(onlyStep);
      String into = alone.into().title();
      if (!common.json) {
        output.line(
            "  into  "
                + output.paint(Output.Tone.STRONG, into)
                + "  "
                + alone.target().description());
        output.line();
      }
      Question.confirm(output, "Run the step " + name + " in " + into + ", and nothing else?", yes);
      StepRun ran = alone.run(name);
      if (common.json) {
        output.json(
            Json.object(
                "job", asked.name(),
                "into", Json.database(alone.into()),
                "steps", StepsView.json(List.of(ran))));
      } else {
        StepsView.print(output, List.of(ran));
        output.flush();
      }
      return 0;
    }
  }

  private int run(Preparation preparation, Run run, Progress progress, Instant start) {
    Output output = common.output;
    if (dry) {
      dry(preparation, run, progress);
      return 0;
    }
    if (!common.json) {
      describe(preparation, run);
      output.line();
    }
    String target = run.into().title();
    Progress loading = Stop.loading(progress, target, preparation.job().name());
    Optional<MergeView> merge = stage(run, loading);
    Question.confirm(output, question(preparation, run, merge), yes);
    Run.Result result =
        run.load("yemble " + Main.Version.number(), System.getProperty("user.name"), loading);
    if (result.committed()) {
      Stop.loaded(target, preparation.job().name());
    }
    report(preparation, run, result, merge, Duration.between(start, Now.moment()));
    return result.committed() ? 0 : 1;
  }

  /** Rows that come beside others wait first, and are counted before anybody is asked. */
  private Optional<MergeView> stage(Run run, Progress progress) {
    Optional<MergeView> merge = run.stage(progress).map(MergeView::new);
    if (merge.isPresent() && !common.json) {
      merge.get().print(common.output, run.into().title());
      common.output.line();
    }
    return merge;
  }

  /** Values that did not fit, if somebody asked for them. */
  private void examples(Crossing crossing) {
    if (!showValues || common.json || crossing.examples().isEmpty()) {
      return;
    }
    TextTable table = new TextTable("column", "row", "value", "");
    crossing
        .examples()
        .forEach(
            example ->
                table.row(example.column(), example.row(), example.value(), example.reason()));
    common.output.table(table);
    common.output.line();
    common.output.flush();
  }

  private static String question(Preparation job, Run run, Optional<MergeView> merge) {
    if (merge.isPresent()) {
      return "Merge "
          + Output.counted(job.rows(), "row")
          + " into "
          + run.into().title()
          + ": "
          + merge.get().words()
          + "?";
    }
    String replaced = replaced(run);
    return "Write "
        + Output.counted(job.rows(), "row")
        + " in "
        + (job.isPart()
            ? job.part() + " (a part of the job)"
            : Output.counted(job.plan().schema().tables().size(), "table"))
        + " into "
        + run.into().title()
        + (replaced.isEmpty() ? "" : ", " + replaced)
        + "?";
  }

  /** What of the target goes, in words; empty if nothing does. */
  private static String replaced(Run run) {
    int gone = run.dropped().size();
    if (gone == 0) {
      return "";
    }
    String names =
        Visible.of(String.join(", ", run.dropped().subList(0, Math.min(3, gone))))
            + (gone > 3 ? " and " + (gone - 3) + " more" : "");
    return run.into().structure() == Structure.EXISTING
        ? "emptying " + names + " first"
        : "replacing " + names;
  }

  private void describe(Preparation job, Run run) {
    Output output = common.output;
    Headings.fromInto(output, job, run.into().title(), run.target().description());
    PicksView.print(output, job, !yes, showValues);
    output.line();
    TextTable table =
        new TextTable("table", ">rows", ">chosen", ">needed", ">of source", "masked columns");
    for (Table each : shown.tables(job)) {
      if (job.isPart() && !job.only().contains(each.name())) {
        continue;
      }
      TablePlan plan = job.plan().table(each.name());
      Reached.Part<RowSet> part = job.selection().part(plan.table().name());
      long all = job.source().count(plan.table());
      List<String> masked =
          plan.columns().stream()
              .filter(TablePlan.ColumnPlan::masked)
              .map(c -> c.column().name())
              .toList();
      table.row(
          plan.table().name(),
          Output.number(part.size()),
          Output.number(part.chosen().size()),
          Output.number(part.needed()),
          Output.percent(part.size(), all),
          String.join(", ", masked));
    }
    output.table(table);
    shown.words(output, job);
    shown.withoutLinks(output, job);
    if (!job.job().loading().way().merges()) {
      NotCarried.print(output, run.schema(), run.crossing().isPresent());
    }
    if (!run.dropped().isEmpty()) {
      output.line();
      output.line("Into " + run.into().title() + ", " + replaced(run) + ".");
    }
    StepsView.describe(output, run.steps(), run.target().stepsAreWithin());
    for (Sentence contradiction :
        Contradictions.of(
            job.source(),
            job.plan(),
            job.project().conventions().kinds(),
            job.project().conventions().countries(),
            job.project().asOf(),
            LOOKING)) {
      output.line();
      output.line(
          output.paint(Output.Tone.WARNING, "warning: ")
              + contradiction
              + "; yemble survey looks at all of it");
    }
    for (Sentence unsure : run.limits().warnings()) {
      output.line();
      output.line(output.paint(Output.Tone.WARNING, "warning: ") + unsure);
    }
    for (String warning : run.target().warnings()) {
      output.line();
      output.line(
          output.paint(Output.Tone.WARNING, "warning: ") + run.into().title() + ": " + warning);
    }
  }

  private void dry(Preparation job, Run run, Progress progress) {
    Output output = common.output;
    Changes changes = Changes.of(job, run.crossing(), progress);
    run.crossing().ifPresent(way -> CrossedSink.refuse(way.misfits()));
    Optional<MergeView> merge = run.stage(progress).map(MergeView::new);
    if (common.json) {
      output.json(RunJson.dry(job, run, merge, changes));
      return;
    }
    describe(job, run);
    output.line();
    merge.ifPresent(view -> view.print(output, run.into().title()));
    output.line();
    ChangesView.print(output, job, changes);
    output.line();
    output.line(
        "Dry: nothing was written. A run would "
            + (merge.isPresent() ? "merge " : "write ")
            + Output.counted(job.rows(), "row")
            + " into "
            + run.into().title()
            + merge.map(view -> " (" + view.words() + ")").orElse("")
            + ", and change "
            + Output.counted(changes.totalCells(), "cell")
            + " in "
            + Output.counted(changes.rows(), "row")
            + " on the way.");
    output.flush();
  }

  private void report(
      Preparation job, Run run, Run.Result result, Optional<MergeView> merge, Duration took) {
    Output output = common.output;
    if (common.json) {
      output.json(RunJson.result(job, run, merge, result, took));
      return;
    }
    Findings.print(output, result.findings());
    output.line();
    PinsView.print(output, run.pins());
    TokensView.print(output, run.tokens());
    if (!result.steps().isEmpty()) {
      StepsView.print(output, result.steps());
      output.line();
    }
    if (job.isPart() && result.committed()) {
      output.line(
          output.paint(Output.Tone.WARNING, "A part: ")
              + "only "
              + job.part()
              + " of the job; no other table got a row, and nothing is said of them.");
    }
    if (result.committed()) {
      output.line(
          output.paint(Output.Tone.GOOD, "Done: ")
              + Output.counted(job.rows(), "row")
              + " in "
              + Output.counted(result.rows().size(), "table")
              + (merge.isPresent() ? " merged into " : " written into ")
              + run.into().title()
              + merge.map(view -> " (" + view.words() + ")").orElse("")
              + " in "
              + Output.duration(took)
              + ".");
      output.line("Next: yemble verify, any day later; or open " + run.target().description());
    } else {
      output.line(
          output.paint(Output.Tone.BAD, "Not loaded: ")
              + "a check fails, and "
              + run.into().title()
              + " is as it was.");
    }
    output.flush();
  }
}
