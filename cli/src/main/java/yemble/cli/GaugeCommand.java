package yemble.cli;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.job.Changes;
import yemble.core.job.Preparation;
import yemble.core.job.Progress;
import yemble.core.name.TableName;
import yemble.core.project.Project;
import yemble.core.schema.Column;
import yemble.core.schema.Lookup;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.store.RowSet;
import yemble.core.store.Values;
import yemble.core.subset.Reached;
import yemble.core.subset.Request;
import yemble.core.subset.Rule;
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
  private static final int MEASURED_ROWS = 200;
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

  @Option(names = "--changes", description = "count the cells that masking would change")
  boolean changes;

  @Override
  public Integer call() {
    Project project = common.read();
    Progress progress = ProgressView.of(common.output);
    try (Preparation preparation =
        Preparation.of(
            project,
            pick.of(project.job(job)),
            changes ? Preparation.Purpose.MASK : Preparation.Purpose.SELECT,
            common.environment(),
            Engines::of,
            progress)) {
      Map<TableName, Long> wanted = wanted(preparation);
      Changes counted = changes ? Changes.of(preparation, progress) : null;
      if (common.json) {
        json(preparation, counted);
      } else {
        print(preparation, counted);
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

  private void print(Preparation job, Changes counted) {
    Output output = common.output;
    output.line(output.paint(Output.Tone.STRONG, "Job " + job.job().name()));
    Headings.from(output, job);
    picks(job);
    output.line();
    Map<Table, Long> bytes = bytes(job);
    tables(job, bytes);
    links(job);
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

  private void picks(Preparation job) {
    Output output = common.output;
    output.line();
    if (job.selection().request().everything()) {
      output.line("  No picks: every row of every table");
      return;
    }
    TextTable table =
        new TextTable("pick", "what", ">matches", "share", ">rows at most", ">picked");
    for (Request.Start start : job.selection().request().picks()) {
      long rows = start.rows() == yemble.core.project.Pick.ALL ? 0 : start.rows();
      boolean all = start.share().compareTo(java.math.BigDecimal.ONE) == 0;
      table.row(
          start.table().name(),
          asked(job, start),
          Output.number(job.selection().picks().get(start).matched()),
          all ? "" : start.share().movePointRight(2).stripTrailingZeros().toPlainString() + "%",
          rows == 0 ? "" : Output.number(rows),
          Output.number(job.selection().picks().get(start).picked()));
    }
    output.table(table);
  }

  /** What a pick asks for, beside its share and its number. */
  private static String asked(Preparation job, Request.Start start) {
    long missing = job.selection().picks().get(start).missing().size();
    return start
        .keys()
        .map(
            keys ->
                Output.counted(keys.rows().size(), "key")
                    + " of "
                    + keys.file()
                    + (missing == 0 ? "" : ", " + missing + " not there"))
        .orElse(
            start.where()
                + start
                    .newest()
                    .map(
                        newest ->
                            (start.where().isEmpty() ? "" : ", ")
                                + "newest "
                                + Output.number(newest.rows())
                                + " by "
                                + newest.column().name())
                    .orElse(""));
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

  private static String brings(Rule rule) {
    String at =
        rule.atMost() == yemble.core.project.LinkRule.ALL ? "" : ", at most " + rule.atMost();
    return rule.cut() ? "cut" : rule.follow().name().toLowerCase(java.util.Locale.ROOT) + at;
  }

  /** About how many bytes the rows of each table hold, by the average of a sample. */
  private static Map<Table, Long> bytes(Preparation job) {
    Map<Table, Long> bytes = new HashMap<>();
    for (Table table : job.plan().schema().tables()) {
      Reached.Part<RowSet> part = job.selection().part(table.name());
      bytes.put(table, part.size() == 0 ? 0 : average(job.source(), table) * part.size());
    }
    return bytes;
  }

  private static long average(Reader source, Table table) {
    long[] measured = new long[2];
    List<Column> columns = new ArrayList<>(table.written());
    source.sample(
        table,
        columns,
        MEASURED_ROWS,
        (row, values) -> {
          measured[0]++;
          for (Object value : values) {
            measured[1] +=
                1
                    + (value == null
                        ? 0
                        : value instanceof byte[] blob ? blob.length : length(value));
          }
        });
    return measured[0] == 0 ? 0 : measured[1] / measured[0] + 2;
  }

  private static long length(Object value) {
    return value instanceof Number ? 4 : Values.text(value).length();
  }

  private void json(Preparation job, Changes counted) {
    Map<Table, Long> bytes = bytes(job);
    Map<String, Object> object =
        Json.object(
            "job",
            job.job().name(),
            "from",
            Json.database(job.from()),
            "rows",
            job.selection().size(),
            "picks",
            RunJson.picks(job),
            "tables",
            Json.list(job.plan().schema().tables(), table -> object(job, table, bytes.get(table))),
            "links",
            Json.list(job.selection().request().rules(), rule -> object(job, rule)));
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
