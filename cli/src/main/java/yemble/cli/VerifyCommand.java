package yemble.cli;

import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.job.Passes;
import yemble.core.job.Verification;
import yemble.core.mark.Loaded;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Project;
import yemble.core.verify.Outcome;
import yemble.core.yaml.Place;
import yemble.jdbc.Engines;

/** Proof, at any later time. */
@Command(
    name = "verify",
    description = {
      "Check a loaded target: is it as it was loaded, and, as far as the source can be read, the",
      "same rows, every reference, no leak, no original. Reads both databases and writes to neither."
    },
    footer = {
      "%nExamples:",
      "  yemble verify             the project's only job",
      "  yemble verify nightly --json",
      "  yemble verify --into dev  what was loaded there, without source and key",
      "  yemble verify --unchanged  nobody may have changed a row of the target since the load",
      "%nExit codes: 0 nothing fails, 1 something fails."
    })
final class VerifyCommand implements Callable<Integer> {
  @Mixin CommonOptions common;

  @Parameters(arity = "0..1", paramLabel = "JOB", description = "the job, if there are several")
  String job = "";

  @Option(
      names = "--show-values",
      description = "show some of the originals and of the changed rows that are found")
  boolean showValues;

  @Option(
      names = "--into",
      paramLabel = "NAME",
      description = "a target alone, by what it remembers: what a parcel was loaded into")
  String into = "";

  @Option(
      names = "--unchanged",
      description = "a row that was changed in the target since the load is a fault")
  boolean unchanged;

  @Override
  public Integer call() {
    Project project = common.read();
    Verification verification = verification(project);
    List<Outcome> findings = verification.findings();
    String named =
        into.isEmpty() ? project.job(job).name() : verification.load().map(Loaded::job).orElse("");
    if (common.json) {
      common.output.json(object(named, verification));
    } else {
      print(named, verification);
    }
    return findings.stream().anyMatch(Outcome::fails) ? 1 : 0;
  }

  private Verification verification(Project project) {
    Verification.Wish wish = new Verification.Wish(unchanged, showValues);
    if (into.isEmpty()) {
      return Verification.of(
          project,
          project.job(job),
          wish,
          common.environment(),
          Engines::of,
          ProgressView.of(common.output));
    }
    if (!job.isEmpty()) {
      throw Problem.of(Failure.OPTION, "a job cannot stand beside --into")
          .remedy("name one of the two: a job with its source, or a target alone");
    }
    Database target = project.database(into, Place.of("--into"));
    return Verification.ofTarget(project, target, wish, common.environment(), Engines::of);
  }

  private Object object(String named, Verification found) {
    Map<String, Object> object =
        Json.object(
            "job",
            named,
            "from",
            Json.database(found.from()),
            "into",
            Json.database(found.into()),
            "loaded",
            found.load().map(VerifyCommand::loaded).orElse(null),
            "checks",
            Findings.list(found.findings()));
    if (showValues) {
      object.put(
          "changed",
          Json.list(
              found.changed().entrySet(),
              table -> Json.object("table", table.getKey(), "rows", table.getValue())));
    }
    return object;
  }

  private static Object loaded(Loaded load) {
    return Json.object(
        "at", load.at() == null ? null : load.at().toString(),
        "by", Json.text(load.by()),
        "tool", Json.text(load.tool()),
        "rows", load.rows());
  }

  private void print(String named, Verification found) {
    Output output = common.output;
    Headings.of(output, named, found);
    output.line();
    if (found.load().isEmpty()) {
      for (String line :
          output.wrapped(
              "The target remembers nothing of a load of this job: what differs from the source may"
                  + " have been changed in either.",
              0)) {
        output.line(line);
      }
      output.line();
    }
    Findings.print(output, found.findings());
    output.line();
    conclude(found);
    shown(found);
    output.flush();
  }

  private void conclude(Verification found) {
    Output output = common.output;
    long failed = found.findings().stream().filter(Outcome::fails).count();
    long noted = found.findings().stream().filter(f -> f.result() == Outcome.Result.NOTED).count();
    long missing =
        found.findings().stream().filter(f -> f.result() == Outcome.Result.NOT_CHECKED).count();
    output.line(
        failed == 0
            ? output.paint(
                Output.Tone.GOOD,
                missing == 0
                    ? "Everything holds." + (noted == 0 ? "" : " What is only noted need not.")
                    : "What was checked holds; "
                        + Output.counted(missing, "check")
                        + (missing == 1 ? " was" : " were")
                        + " not made, or in part.")
            : output.paint(
                    Output.Tone.BAD,
                    Output.counted(failed, "check") + (failed == 1 ? " fails: " : " fail: "))
                + (found.load().filter(load -> load.way().equals(Passes.DONE)).isPresent()
                    ? "see who changed it, or restore the copy, and rewrite that."
                    : "load "
                        + found.into().title()
                        + " again with yemble run, or see who changed it."));
  }

  /** Some of the originals and changed rows that were found, for whoever asked for them. */
  private void shown(Verification found) {
    if (!found.examples().isEmpty()) {
      common.output.line();
      common.output.line("Originals that were found, some of each column:");
      TextTable table = new TextTable("column", "for example");
      found.examples().forEach((column, texts) -> table.row(column, String.join("  ", texts)));
      common.output.table(table);
    }
    if (!found.changed().isEmpty()) {
      common.output.line();
      common.output.line(
          "Rows that were changed since the load, some of each table, by their keys:");
      TextTable table = new TextTable("table", "rows");
      found.changed().forEach((name, rows) -> table.row(name, String.join("  ", rows)));
      common.output.table(table);
    }
  }
}
