package yemble.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.crypto.SecretKey;
import yemble.core.job.Pack;
import yemble.core.job.Preparation;
import yemble.core.job.Progress;
import yemble.core.moment.Now;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.OutputFile;
import yemble.core.project.Parcels;
import yemble.core.project.Project;
import yemble.core.verify.Outcome;
import yemble.core.wording.Sentence;
import yemble.jdbc.Engines;

/** The masked subset of a job in one file. */
@Command(
    name = "pack",
    description = {
      "Select and mask as run does, and write the result into one file: a parcel.",
      "It is proved before it has a name. Whoever loads it needs neither source nor key."
    },
    footer = {
      "%nExamples:",
      "  yemble pack nightly                      onto the shelf, .yemble/shelf",
      "  yemble pack nightly --to nightly.parcel  into a file",
      "  yemble pack nightly --sealed             for those alone who have the key of parcels",
      "%nExit codes: 0 done, 1 a check fails (there is no parcel), 2 wrong project,",
      "3 refused for safety, 4 a database or file failed."
    })
final class PackCommand implements Callable<Integer> {
  @Mixin CommonOptions common;
  @Mixin PickOption pick;

  @Parameters(arity = "0..1", paramLabel = "JOB", description = "the job, if there are several")
  String job = "";

  @Option(
      names = "--to",
      paramLabel = "FILE",
      description = "into this file, not onto the shelf; - for standard output")
  Path to;

  @Option(names = "--sealed", description = "encrypted with the key that parcels: { key: … } names")
  boolean sealed;

  @Option(names = "--overwrite", description = "the file of --to may take another one's place")
  boolean overwrite;

  @Override
  public Integer call() {
    Instant start = Now.moment();
    Project project = common.read();
    boolean printed = to != null && to.toString().equals("-");
    if (printed && common.json) {
      throw Problem.of(Failure.OPTION, "--json cannot stand beside --to -")
          .because("the parcel itself goes to standard output");
    }
    Optional<OutputFile> output =
        Optional.ofNullable(printed ? null : to)
            .map(file -> OutputFile.of(project, file, overwrite, common.environment()));
    Optional<SecretKey> seal =
        sealed
            ? project.parcels().key(project.directory(), common.environment())
            : Optional.empty();
    if (sealed && seal.isEmpty()) {
      throw Problem.of(Failure.PARCEL_KEY_MISSING, "there is no key to seal parcels with")
          .at(Project.FILE);
    }
    Progress progress = ProgressView.of(common.output);
    try (Spool spool = printed ? Spool.empty(project) : null;
        Preparation preparation =
            Preparation.of(
                project,
                pick.of(project, project.job(job)),
                Preparation.Purpose.LOAD,
                common.environment(),
                Engines::of,
                progress)) {
      Pack pack = Pack.of(preparation, seal);
      Path file =
          spool != null
              ? spool.file()
              : output
                  .map(OutputFile::path)
                  .orElseGet(
                      () -> ShelfCommand.shelf(project).place(preparation.job().name(), start));
      Stop.finds("there is no parcel", "run the same command again");
      Pack.Result result =
          pack.into(
              file, "yemble " + Main.Version.number(), System.getProperty("user.name"), progress);
      if (result.committed()) {
        output.ifPresent(OutputFile::taken);
        if (to == null) {
          Parcels parcels = project.parcels();
          ShelfCommand.shelf(project)
              .tidy(file, parcels.keepLast(), parcels.keepFor(), start)
              .forEach(
                  old ->
                      common.output.message(
                          "Removed " + old.getFileName() + ", as the project says."));
        }
      }
      if (spool != null) {
        printed(spool, result);
      } else {
        report(preparation, pack, file, result, Duration.between(start, Now.moment()));
      }
      return result.committed() ? 0 : 1;
    }
  }

  /**
   * The parcel itself; what came of the proof goes to standard error, if it is not as it should be.
   */
  private void printed(Spool spool, Pack.Result result) {
    if (result.committed()) {
      spool.print();
      return;
    }
    result.findings().stream()
        .filter(Outcome::fails)
        .forEach(
            finding ->
                common.output.message("fails: " + finding.check() + ": " + finding.figures()));
    common.output.message("Not packed: a check fails, and there is no parcel.");
  }

  private void report(Preparation job, Pack pack, Path file, Pack.Result result, Duration took) {
    Output output = common.output;
    long bytes = result.committed() ? size(file) : 0;
    if (common.json) {
      output.json(
          Json.object(
              "job", job.job().name(),
              "from", Json.database(job.from()),
              "rows", job.selection().size(),
              "written", result.committed(),
              "file", result.committed() ? file.toString() : null,
              "bytes", result.committed() ? bytes : null,
              "took_ms", took.toMillis(),
              "packing_ms", result.packing().toMillis(),
              "verifying_ms", result.proving().toMillis(),
              "pins", PinsView.json(pack.pins()),
              "tokens", TokensView.json(pack.tokens()),
              "checks", Findings.list(result.findings())));
      return;
    }
    output.line(output.paint(Output.Tone.STRONG, "Job " + job.job().name()));
    Headings.from(output, job);
    output.line();
    Findings.print(output, result.findings());
    output.line();
    PinsView.print(output, pack.pins());
    TokensView.print(output, pack.tokens());
    for (Sentence doubt : pack.limits().warnings()) {
      output.line(output.paint(Output.Tone.WARNING, "warning: ") + doubt);
    }
    if (result.committed()) {
      output.line(
          output.paint(Output.Tone.GOOD, "Packed: ")
              + Output.counted(job.selection().size(), "row")
              + " in "
              + Output.counted(result.rows().size(), "table")
              + ", "
              + Output.bytes(bytes)
              + ", in "
              + Output.duration(took)
              + ": "
              + file);
      output.line(
          "Next: yemble load "
              + (to == null ? job.job().name() : to.toString())
              + " --into NAME; it needs neither source nor key");
    } else {
      output.line(
          output.paint(Output.Tone.BAD, "Not packed: ") + "a check fails, and there is no parcel.");
    }
    output.flush();
  }

  private static long size(Path file) {
    try {
      return Files.size(file);
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNREADABLE, "the parcel cannot be read").at(file.toString());
    }
  }
}
