package yemble.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Collectors;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.job.Staleness;
import yemble.core.parcel.Manifest;
import yemble.core.parcel.ParcelReader;
import yemble.core.parcel.Shelf;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Project;
import yemble.core.wording.Sentence;

/** Which parcel is meant, for the commands that take one. */
final class ParcelArgument {
  @Parameters(
      arity = "0..1",
      paramLabel = "JOB|FILE",
      description = "the newest parcel of a job on the shelf, or a file; - for standard input")
  String what = "";

  @Option(names = "--stale", description = "take it though it is old, or its rules have changed")
  boolean stale;

  /** A parcel that has been looked at, with what holds it on its way. */
  record Opened(Spool spool, ParcelReader parcel) implements AutoCloseable {
    @Override
    public void close() {
      try (spool) {
        parcel.close();
      }
    }
  }

  /**
   * Opens it, says what it is, and asks about one that is not what people may expect.
   *
   * @param question what it is to be taken for, without question mark
   */
  Opened open(Project project, CommonOptions common, String question) {
    Spool spool = what.equals("-") ? Spool.ofInput(project) : null;
    ParcelReader parcel = null;
    try {
      parcel =
          ParcelReader.open(
              spool == null ? file(project) : spool.file(),
              project.parcels().key(project.directory(), common.environment()));
      if (!common.json) {
        head(common.output, parcel);
      }
      fresh(project, parcel, common, question);
      return new Opened(spool, parcel);
    } catch (RuntimeException e) {
      if (parcel != null) {
        parcel.close();
      }
      if (spool != null) {
        spool.close();
      }
      throw e;
    }
  }

  /** A file that is named, or the newest of a job. */
  private Path file(Project project) {
    boolean named = what.endsWith(Shelf.ENDING) || Files.isRegularFile(Path.of(what));
    return named ? Path.of(what) : ShelfCommand.shelf(project).newest(what);
  }

  private void fresh(Project project, ParcelReader parcel, CommonOptions common, String question) {
    List<Sentence> reasons =
        Staleness.of(project, parcel.manifest(), parcel.schema(), common.environment());
    if (reasons.isEmpty() || stale) {
      return;
    }
    if (!common.output.terminal().input()) {
      throw Problem.of(Failure.PARCEL_STALE, "this parcel is stale")
          .at(parcel.description())
          .because(reasons);
    }
    Question.confirm(
        common.output,
        "This parcel is stale: "
            + reasons.stream().map(Sentence::toString).collect(Collectors.joining("; "))
            + ". "
            + question
            + "?",
        false);
  }

  private static void head(Output output, ParcelReader parcel) {
    Manifest manifest = parcel.manifest();
    output.line(output.paint(Output.Tone.STRONG, "Job " + manifest.load().job()));
    output.line(
        "  from  "
            + output.paint(Output.Tone.STRONG, manifest.title())
            + "  packed "
            + manifest.load().when()
            + " by "
            + manifest.load().by());
    output.line("        " + parcel.description());
  }
}
