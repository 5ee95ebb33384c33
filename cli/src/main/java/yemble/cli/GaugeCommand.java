package yemble.cli;

import java.nio.file.Path;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.file.WrittenFile.Readers;
import yemble.core.job.Changes;
import yemble.core.job.Preparation;
import yemble.core.job.Progress;
import yemble.core.name.TableName;
import yemble.core.project.OutputFile;
import yemble.core.project.Project;
import yemble.core.schema.Lookup;
import yemble.core.subset.Savings;
import yemble.jdbc.Engines;

/** How large a subset would be, and why. */
@Command(
    name = "gauge",
    description = {
      "Work out the subset and show what it would hold, and why.",
      "Rows by table, and which links brought how many. Nothing is copied; the register need not be",
      "settled."
    },
    footer = {
      "%nExamples:",
      "  yemble gauge                the project's only job",
      "  yemble gauge --changes      also how many cells masking would change",
      "  yemble gauge --pick \"booking: id = 3\" --expect booking=1,passenger=1",
      "  yemble gauge --page small.html   how the tables hang together, for the browser",
      "  yemble gauge --pick \"booking: ref = 'OR-2041'\""
    })
final class GaugeCommand implements Callable<Integer> {
  /** How long may be tried what limits would save. */
  private static final Duration LIMITS = Duration.ofSeconds(30);

  @Mixin CommonOptions common;
  @Mixin PickOption pick;
  @Mixin Shown shown;

  @Parameters(arity = "0..1", paramLabel = "JOB", description = "the job, if there are several")
  String job = "";

  @Option(
      names = "--expect",
      paramLabel = "TABLE=ROWS",
      split = ",",
      description = "end with exit code 1 unless these tables hold so many rows")
  Map<String, Long> expected = new LinkedHashMap<>();

  @Option(
      names = "--show-values",
      description = "show values of the source, on screen alone: what picks match, and some rows")
  boolean showValues;

  @Option(
      names = "--rows",
      paramLabel = "TABLE",
      description = "show some rows of a table: their keys; with --show-values all columns")
  String rowsOf = "";

  @Option(
      names = "--page",
      paramLabel = "FILE.html",
      description = "write a page with the graph of the tables, and what brought the rows of each")
  Path page;

  @Option(names = "--overwrite", description = "the file of --page may take another one's place")
  boolean overwrite;

  @Option(names = "--changes", description = "count the cells that masking would change")
  boolean changes;

  @Override
  public Integer call() {
    Project project = common.read();
    Optional<OutputFile> output =
        Optional.ofNullable(page)
            .map(named -> OutputFile.of(project, named, overwrite, common.environment()));
    Progress progress = ProgressView.of(common.output);
    try (Preparation preparation =
        Preparation.of(
            project,
            pick.of(project, project.job(job)),
            changes ? Preparation.Purpose.MASK : Preparation.Purpose.SELECT,
            common.environment(),
            Engines::of,
            progress)) {
      Map<TableName, Long> wanted = wanted(preparation);
      Changes counted = changes ? Changes.of(preparation, progress) : null;
      Savings savings =
          Savings.of(preparation.source(), preparation.selection(), preparation.key(), LIMITS);
      Gauge gauge = Gauge.of(preparation, savings);
      if (common.json) {
        common.output.json(gauge.object(counted, showValues));
      } else {
        new GaugeView(common.output, shown, gauge).print(counted, rowsOf, showValues);
      }
      if (output.isPresent()) {
        output.get().write(GaugePage.of(gauge), Readers.USUAL);
        common.output.message("Wrote " + page + ": open it in a browser; it needs no network.");
      }
      return differences(preparation, wanted);
    }
  }

  private Map<TableName, Long> wanted(Preparation job) {
    Lookup lookup = new Lookup(job.plan().schema());
    Map<TableName, Long> wanted = new LinkedHashMap<>();
    expected.forEach((table, rows) -> wanted.put(lookup.table(table, "--expect").name(), rows));
    return wanted;
  }

  /** Says which tables hold other numbers of rows than was expected; the exit code. */
  private int differences(Preparation job, Map<TableName, Long> wanted) {
    int exitCode = 0;
    for (Map.Entry<TableName, Long> table : wanted.entrySet()) {
      long rows = job.selection().part(table.getKey()).size();
      if (rows != table.getValue()) {
        exitCode = 1;
        common.output.message(
            common.output.paint(Output.Tone.BAD, "differs: ")
                + table.getKey()
                + " holds "
                + Output.counted(rows, "row")
                + ", not "
                + Output.number(table.getValue()));
      }
    }
    return exitCode;
  }
}
