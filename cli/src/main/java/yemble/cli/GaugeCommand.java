package yemble.cli;

import java.time.Duration;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.job.Changes;
import yemble.core.job.Preparation;
import yemble.core.job.Progress;
import yemble.core.name.TableName;
import yemble.core.project.Project;
import yemble.core.schema.Lookup;
import yemble.core.schema.Table;
import yemble.core.store.RowSet;
import yemble.core.subset.Reached;
import yemble.core.subset.RowBytes;
import yemble.core.subset.Rule;
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
      "  yemble gauge --pick \"booking: ref = 'OR-2041'\""
    })
final class GaugeCommand implements Callable<Integer> {
  /** How long may be tried what limits would save. */
  private static final Duration LIMITS = Duration.ofSeconds(30);

  /** A subset of so many of the source's rows is nearly everything. */
  private static final double NEARLY = 2 / 3.0;

  /** How many rows are shown of a table. */
  private static final int ROWS = 10;

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

  @Option(names = "--changes", description = "count the cells that masking would change")
  boolean changes;

  @Override
  public Integer call() {
    Project project = common.read();
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
      if (common.json) {
        json(preparation, counted, savings(preparation));
      } else {
        print(preparation, counted, savings(preparation));
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

  private void print(Preparation job, Changes counted, Savings savings) {
    Output output = common.output;
    output.line(output.paint(Output.Tone.STRONG, "Job " + job.job().name()));
    Headings.from(output, job);
    PicksView.print(output, job, showValues);
    output.line();
    Map<Table, Long> bytes = bytes(job);
    tables(job, bytes);
    links(job);
    savings(job, savings);
    rows(job);
    if (counted != null) {
      output.line();
      output.line(output.paint(Output.Tone.STRONG, "What masking changes"));
      ChangesView.print(output, job, counted);
    }
    output.line();
    long total = bytes.values().stream().mapToLong(Long::longValue).sum();
    output.line(
        Output.counted(job.selection().size(), "row")
            + " in all, about "
            + Output.bytes(total)
            + ". Nothing was copied. Next: yemble why TABLE ROW explains one row; yemble run --dry");
    output.flush();
  }

  private void tables(Preparation job, Map<Table, Long> bytes) {
    TextTable table =
        new TextTable("table", ">rows", ">picked", ">chosen", ">needed", ">of source", ">about");
    for (Table each : shown.tables(job)) {
      Reached.Part<RowSet> part = job.selection().part(each.name());
      boolean empty = job.selection().request().empty().contains(each.name());
      table.row(
          part.size() == 0 ? Output.Tone.FAINT : Output.Tone.PLAIN,
          each.name(),
          empty ? "empty" : Output.number(part.size()),
          part.picked().isEmpty() ? "" : Output.number(part.picked().size()),
          Output.number(part.chosen().size()),
          Output.number(part.needed()),
          Output.percent(part.size(), job.source().count(each)),
          Output.bytes(bytes.get(each)));
    }
    common.output.table(table);
    shown.words(common.output, job);
    shown.withoutLinks(common.output, job);
  }

  private void links(Preparation job) {
    TextTable table = new TextTable("link", "brings", ">parents", ">children", ">broken");
    for (Rule rule : shown.rules(job)) {
      Reached.Traffic<RowSet> traffic = job.selection().traffic(rule.link());
      table.row(
          rule.link()
              + (rule.link().condition().isEmpty() ? "" : "  if " + rule.link().condition()),
          brings(rule),
          Output.number(traffic.parents()),
          Output.number(traffic.children()),
          traffic.broken().isEmpty() ? "" : Output.number(traffic.broken().size()));
    }
    if (!table.isEmpty()) {
      common.output.line();
      common.output.line(
          common.output.paint(Output.Tone.STRONG, "Which links brought how many rows first"));
      common.output.table(table);
      shown.wordsOfLinks(common.output, job);
    }
  }

  private static Savings savings(Preparation job) {
    return Savings.of(job.source(), job.selection(), job.key(), LIMITS);
  }

  /** What limits would save, and, of a subset that is nearly everything, what makes it so. */
  private void savings(Preparation job, Savings savings) {
    Output output = common.output;
    TextTable table = new TextTable("with", "for the link", ">fewer rows", ">about");
    for (Savings.Saving saving : savings.tried()) {
      if (!saving.limit().isEmpty() && saving.rows() > 0) {
        table.row(
            saving.limit(),
            saving.rule().link(),
            Output.number(saving.rows()),
            Output.bytes(Math.max(0, saving.bytes())));
      }
    }
    if (!table.isEmpty()) {
      output.line();
      output.line(output.paint(Output.Tone.STRONG, "What limits on the dearest links would save"));
      output.table(table);
    }
    savings.tried().stream()
        .filter(saving -> saving.limit().isEmpty())
        .forEach(
            saving ->
                output.line(
                    "  "
                        + saving.rule().link()
                        + " cannot be limited: its rows need what they refer to."));
    if (!savings.left().isEmpty()) {
      output.line(
          "  Not tried, as it would take more than "
              + LIMITS.toSeconds()
              + " s: "
              + savings.left().stream()
                  .map(rule -> rule.link().toString())
                  .collect(Collectors.joining("; ")));
    }
    nearlyAll(job, savings);
  }

  private void nearlyAll(Preparation job, Savings savings) {
    long all =
        job.plan().schema().tables().stream().mapToLong(table -> job.source().count(table)).sum();
    long rows = job.selection().size();
    if (job.selection().request().everything() || rows < all * NEARLY) {
      return;
    }
    common.output.line();
    common.output.line(
        common.output.paint(Output.Tone.WARNING, "warning: ")
            + "this is "
            + Output.percent(rows, all)
            + " of the source's rows; "
            + savings
                .best()
                .map(
                    saving ->
                        "with "
                            + saving.limit()
                            + " for "
                            + saving.rule().link()
                            + " it would be "
                            + Output.percent(rows - saving.rows(), all))
                .orElse("no limit on one link alone makes it less: pick fewer rows"));
  }

  /** Some rows of a table, if they were asked for. */
  private void rows(Preparation job) {
    if (rowsOf.isEmpty()) {
      return;
    }
    Table table = new Lookup(job.plan().schema()).table(rowsOf, "--rows");
    RowSet some = new RowSet();
    RowSet in = job.selection().part(table.name()).in();
    job.source()
        .rows(
            table,
            in,
            List.of(),
            (row, values) -> {
              if (some.size() < ROWS) {
                some.add(row);
              }
            });
    Output output = common.output;
    output.line();
    output.line(
        output.paint(Output.Tone.STRONG, "Rows of " + table.name())
            + (in.size() > some.size()
                ? ", " + some.size() + " of " + Output.number(in.size())
                : ""));
    if (some.isEmpty()) {
      output.line("  none is in");
    } else {
      output.table(
          RowTable.of(job.source(), table, some, showValues ? table.columns() : table.identity()));
      if (!showValues && table.columns().size() > table.identity().size()) {
        output.line("  Their keys alone; --show-values shows the other columns.");
      }
    }
  }

  private static String brings(Rule rule) {
    String at =
        rule.atMost() == yemble.core.project.LinkRule.ALL ? "" : ", at most " + rule.atMost();
    return rule.cut() ? "cut" : rule.follow().name().toLowerCase(java.util.Locale.ROOT) + at;
  }

  private static Map<Table, Long> bytes(Preparation job) {
    RowBytes rowBytes = new RowBytes(job.source());
    Map<Table, Long> bytes = new HashMap<>();
    for (Table table : job.plan().schema().tables()) {
      bytes.put(table, rowBytes.of(table, job.selection().part(table.name()).size()));
    }
    return bytes;
  }

  private void json(Preparation job, Changes counted, Savings savings) {
    Map<Table, Long> bytes = bytes(job);
    Map<String, Object> object =
        Json.object(
            "job",
            job.job().name(),
            "from",
            Json.database(job.from()),
            "rows",
            job.selection().size(),
            "size",
            PicksView.size(job),
            "picks",
            PicksView.json(job, showValues),
            "tables",
            Json.list(job.plan().schema().tables(), table -> object(job, table, bytes.get(table))),
            "links",
            Json.list(job.selection().request().rules(), rule -> object(job, rule)),
            "limits",
            Json.list(
                savings.tried().stream().filter(saving -> !saving.limit().isEmpty()).toList(),
                saving ->
                    Json.object(
                        "link", saving.rule().link().toString(),
                        "limit", saving.limit(),
                        "rows_fewer", saving.rows(),
                        "bytes_fewer", saving.bytes())),
            "limits_not_tried",
            Json.list(savings.left(), rule -> rule.link().toString()));
    if (counted != null) {
      object.putAll(RunJson.changes(counted));
    }
    common.output.json(object);
  }

  private static Object object(Preparation job, Table table, long bytes) {
    Reached.Part<RowSet> part = job.selection().part(table.name());
    return Json.object(
        "table", table.name().toString(),
        "rows", part.size(),
        "picked", part.picked().size(),
        "chosen", part.chosen().size(),
        "needed", part.needed(),
        "source", job.source().count(table),
        "bytes", bytes);
  }

  private static Object object(Preparation job, Rule rule) {
    Reached.Traffic<RowSet> traffic = job.selection().traffic(rule.link());
    return Json.object(
        "link", rule.link().toString(),
        "follow", rule.follow().name().toLowerCase(java.util.Locale.ROOT),
        "at_most", rule.atMost() == yemble.core.project.LinkRule.ALL ? null : rule.atMost(),
        "cut", rule.cut(),
        "parents", traffic.parents(),
        "children", traffic.children(),
        "broken", traffic.broken().size());
  }
}
