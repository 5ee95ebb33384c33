package yemble.cli;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import yemble.core.job.Handover;
import yemble.core.job.Progress;
import yemble.core.job.Run;
import yemble.core.moment.Now;
import yemble.core.parcel.Manifest;
import yemble.core.parcel.ParcelReader;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Project;
import yemble.core.yaml.Place;
import yemble.jdbc.Engines;

/** A parcel into a database. */
@Command(
    name = "load",
    description = {
      "Load a parcel into a test database, of any engine.",
      "It needs neither source nor key nor register. All of the parcel is looked at before anything",
      "is written, and what was loaded is proved by the parcel's own digests before it is visible."
    },
    footer = {
      "%nExamples:",
      "  yemble load nightly --into dev            the newest of a job on the shelf",
      "  yemble load nightly.parcel --into dev --into other",
      "  yemble load nightly --into jdbc:sqlite:mine.db",
      "  yemble load - --into dev < nightly.parcel",
      "%nExit codes: 0 done, 1 a check fails (the target is as it was), 2 wrong project,",
      "3 refused for safety, 4 a database, the parcel or a file failed."
    })
final class LoadCommand implements Callable<Integer> {
  @Mixin CommonOptions common;
  @Mixin ParcelArgument given;

  @Option(
      names = "--into",
      required = true,
      paramLabel = "NAME|URL",
      description = {
        "a test database of the project, or the jdbc url of one that is empty;",
        "several times for more"
      })
  List<String> names = new ArrayList<>();

  @Option(
      names = "--user",
      paramLabel = "USER",
      description = "who signs in at a url; a password is taken from $YEMBLE_PASSWORD")
  String user = "";

  @Option(names = "--structure-only", description = "tables and what belongs to them, no row")
  boolean structureOnly;

  @Option(
      names = "--rows-only",
      description = "rows alone, into tables that are there (PostgreSQL, MariaDB)")
  boolean rowsOnly;

  @Option(names = "--yes", description = "write without a question")
  boolean yes;

  private final Map<Handover, MergeView> merges = new HashMap<>();

  @Override
  public Integer call() {
    Project project = common.read();
    List<Database> targets = names.stream().map(name -> database(project, name)).toList();
    if (structureOnly && rowsOnly) {
      throw Problem.of(Failure.OPTION, "--structure-only cannot stand beside --rows-only")
          .remedy("say neither for both");
    }
    List<Object> results = new ArrayList<>();
    List<Handover> handovers = new ArrayList<>();
    int exitCode = 0;
    try (ParcelArgument.Opened opened = given.open(project, common, "Load it")) {
      // All targets are looked at before one of them is written.
      for (Database into : targets) {
        handovers.add(handover(project, opened.parcel(), into));
      }
      for (Handover handover : handovers) {
        exitCode = Math.max(exitCode, load(opened.parcel(), handover, results));
      }
      Manifest manifest = opened.parcel().manifest();
      if (common.json) {
        common.output.json(
            Json.object(
                "job", manifest.load().job(),
                "source", manifest.title(),
                "packed_at", manifest.load().at().toString(),
                "rows", manifest.load().rows(),
                "targets", results));
      }
    } finally {
      handovers.forEach(Handover::close);
    }
    common.output.flush();
    return exitCode;
  }

  /** One that the project names, or one that is named by its url alone. */
  private Database database(Project project, String name) {
    Place place = Place.of("--into");
    return name.startsWith("jdbc:")
        ? Database.unnamed(
            name, user, common.environment().getOrDefault(CommonOptions.PASSWORD, ""), place)
        : project.database(name, place);
  }

  private Handover handover(Project project, ParcelReader parcel, Database into) {
    Handover handover =
        Handover.into(
            parcel,
            project,
            into,
            structureOnly
                ? Handover.What.STRUCTURE
                : rowsOnly ? Handover.What.ROWS : Handover.What.ALL,
            common.environment(),
            Engines::of);
    try {
      Output output = common.output;
      if (!common.json) {
        output.line(
            "  into  "
                + output.paint(Output.Tone.STRONG, into.title())
                + "  "
                + handover.target().description());
        if (!handover.merges()) {
          NotCarried.print(output, handover.schema(), handover.crossing().isPresent());
        }
        StepsView.describe(output, handover.steps(), handover.target().stepsAreWithin());
        output.line();
      }
      Progress progress =
          Stop.loading(
              ProgressView.of(common.output), into.title(), parcel.manifest().load().job());
      Optional<MergeView> merge = handover.stage(progress).map(MergeView::new);
      if (merge.isPresent()) {
        if (!common.json) {
          merge.get().print(output, into.title());
          output.line();
        }
        merges.put(handover, merge.get());
      }
      Question.confirm(output, question(parcel, handover, merge), yes);
      return handover;
    } catch (RuntimeException e) {
      handover.close();
      throw e;
    }
  }

  private int load(ParcelReader parcel, Handover handover, List<Object> results) {
    Instant start = Now.moment();
    Database into = handover.into();
    String job = parcel.manifest().load().job();
    Run.Result result =
        handover.load(
            "yemble " + Main.Version.number(),
            System.getProperty("user.name"),
            Stop.loading(ProgressView.of(common.output), into.title(), job));
    if (result.committed()) {
      Stop.loaded(into.title(), job);
    }
    Duration took = Duration.between(start, Now.moment());
    Map<String, Object> told =
        Json.object(
            "into", Json.database(into),
            "written", result.committed(),
            "replaced", handover.dropped(),
            "not_carried", handover.merges() ? List.of() : RunJson.notCarried(handover.schema()),
            "took_ms", took.toMillis(),
            "loading_ms", result.loading().toMillis(),
            "verifying_ms", result.verifying().toMillis(),
            "steps", StepsView.json(result.steps()),
            "checks", Findings.list(result.findings()));
    if (merges.containsKey(handover)) {
      told.put("merge", merges.get(handover).json());
    }
    results.add(told);
    if (!common.json) {
      report(handover, parcel, result, took);
    }
    return result.committed() ? 0 : 1;
  }

  private static String question(
      ParcelReader parcel, Handover handover, Optional<MergeView> merge) {
    if (merge.isPresent()) {
      return "Merge "
          + Output.counted(parcel.manifest().load().rows(), "row")
          + " into "
          + handover.into().title()
          + ": "
          + merge.get().words()
          + "?";
    }
    int gone = handover.dropped().size();
    return "Write "
        + Output.counted(parcel.manifest().load().rows(), "row")
        + " in "
        + Output.counted(parcel.schema().tables().size(), "table")
        + " into "
        + handover.into().title()
        + (gone == 0 ? "" : ", replacing " + Output.counted(gone, "object") + " there")
        + "?";
  }

  private void report(Handover handover, ParcelReader parcel, Run.Result result, Duration took) {
    Output output = common.output;
    Findings.print(output, result.findings());
    output.line();
    if (!result.steps().isEmpty()) {
      StepsView.print(output, result.steps());
      output.line();
    }
    output.line(
        result.committed()
            ? output.paint(Output.Tone.GOOD, "Done: ")
                + (structureOnly
                    ? "the structure of " + Output.counted(parcel.schema().tables().size(), "table")
                    : Output.counted(parcel.manifest().load().rows(), "row")
                        + " in "
                        + Output.counted(result.rows().size(), "table"))
                + (handover.merges() ? " merged into " : " written into ")
                + handover.into().title()
                + (merges.containsKey(handover) ? " (" + merges.get(handover).words() + ")" : "")
                + " in "
                + Output.duration(took)
                + "."
            : output.paint(Output.Tone.BAD, "Not loaded: ")
                + "a check fails, and "
                + handover.into().title()
                + " is as it was.");
  }
}
