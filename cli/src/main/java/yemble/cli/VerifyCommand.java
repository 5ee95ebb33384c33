package yemble.cli;

import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.job.Guard;
import yemble.core.job.Preparation;
import yemble.core.job.Progress;
import yemble.core.project.Database;
import yemble.core.project.Project;
import yemble.core.store.Comparison;
import yemble.core.store.CrossedReader;
import yemble.core.store.Crossing;
import yemble.core.store.Engine;
import yemble.core.store.Reader;
import yemble.core.verify.Finding;
import yemble.core.verify.Verifier;
import yemble.jdbc.Engines;

/** Proof, at any later time. */
@Command(
    name = "verify",
    description = {
      "Check a loaded target against the source: the same rows, every reference, no leak.",
      "Reads both databases and writes to neither."
    },
    footer = {
      "%nExamples:",
      "  yemble verify             the project's only job",
      "  yemble verify nightly --json",
      "%nExit codes: 0 everything holds, 1 something fails."
    })
final class VerifyCommand implements Callable<Integer> {
  @Mixin CommonOptions common;

  @Parameters(arity = "0..1", paramLabel = "JOB", description = "the job, if there are several")
  String job = "";

  @Option(
      names = "--show-values",
      description = "show some of the originals that are found, on screen alone")
  boolean showValues;

  @Override
  public Integer call() {
    Output output = common.output;
    Progress progress = ProgressView.of(output);
    Project project = common.read();
    Database into = Guard.into(project, project.job(job));
    try (Preparation preparation =
        Preparation.of(
            project,
            project.job(job),
            Preparation.Purpose.MASK,
            common.environment(),
            Engines::of,
            progress)) {
      Engine.Address address = Preparation.address(project.directory(), into, common.environment());
      Engine engine = Engines.of(address);
      Optional<Crossing> crossing = preparation.crossing(engine);
      try (Reader opened = engine.open(address)) {
        Reader target = crossing.isPresent() ? new CrossedReader(opened, crossing.get()) : opened;
        progress.begin("verifying", preparation.selection().size());
        Verifier verifier =
            new Verifier(
                    preparation.source(),
                    target,
                    preparation.plan(),
                    preparation.selection(),
                    preparation.masks(),
                    crossing.<Comparison>map(way -> way).orElse(Comparison.SAME),
                    project.conventions().kinds(),
                    preparation.accepted(),
                    (table, rows) -> progress.advance(rows))
                .ofEarlierRun();
        List<Finding> findings = (showValues ? verifier.showing() : verifier).findings();
        progress.end();
        print(preparation, into, target, findings);
        show(verifier);
        return findings.stream().anyMatch(Finding::fails) ? 1 : 0;
      }
    }
  }

  /** Some of the originals that were found, for whoever asked for them. */
  private void show(Verifier verifier) {
    if (common.json || verifier.examples().isEmpty()) {
      return;
    }
    common.output.line();
    common.output.line("Originals that were found, some of each column:");
    TextTable table = new TextTable("column", "for example");
    verifier.examples().forEach((column, found) -> table.row(column, String.join("  ", found)));
    common.output.table(table);
    common.output.flush();
  }

  private void print(Preparation job, Database into, Reader target, List<Finding> findings) {
    Output output = common.output;
    if (common.json) {
      output.json(
          json -> {
            json.writeStartObject();
            json.writeStringField("job", job.job().name());
            RunJson.database(json, "from", job.from().name(), job.from().environment().toString());
            RunJson.database(json, "into", into.name(), into.environment().toString());
            Findings.write(json, findings);
            json.writeEndObject();
          });
      return;
    }
    Headings.fromInto(output, job, into.title(), target.description());
    output.line();
    Findings.print(output, findings);
    output.line();
    long failed = findings.stream().filter(Finding::fails).count();
    long missing = findings.stream().filter(f -> f.result() == Finding.Result.NOT_CHECKED).count();
    output.line(
        failed == 0
            ? output.paint(
                Output.Tone.GOOD,
                missing == 0
                    ? "Everything holds."
                    : "What was checked holds; "
                        + Output.counted(missing, "check")
                        + (missing == 1 ? " was" : " were")
                        + " not made.")
            : output.paint(
                    Output.Tone.BAD,
                    Output.counted(failed, "check") + (failed == 1 ? " fails: " : " fail: "))
                + "load "
                + into.title()
                + " again with yemble run, or see who changed it.");
    output.flush();
  }
}
