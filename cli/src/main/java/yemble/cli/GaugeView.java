package yemble.cli;

import java.time.Duration;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import yemble.core.job.Changes;
import yemble.core.job.Preparation;
import yemble.core.project.LinkRule;
import yemble.core.row.RowSet;
import yemble.core.schema.Lookup;
import yemble.core.schema.Table;
import yemble.core.subset.Reached;
import yemble.core.subset.Rule;
import yemble.core.subset.Savings;

/** A gauged subset at the terminal. */
final class GaugeView {
  /** A subset of so many of the source's rows is nearly everything. */
  private static final double NEARLY = 2 / 3.0;

  /** How many rows are shown of a table. */
  private static final int ROWS = 10;

  /** A child table of so many rows, or one that it takes so long to read, is worth an index. */
  private static final long LARGE = 100_000;

  private static final Duration LONG = Duration.ofSeconds(1);

  private final Output output;
  private final Shown shown;
  private final Gauge gauge;
  private final Preparation job;

  GaugeView(Output output, Shown shown, Gauge gauge) {
    this.output = output;
    this.shown = shown;
    this.gauge = gauge;
    this.job = gauge.job();
  }

  void print(Changes counted, String rowsOf, boolean showValues) {
    output.line(output.paint(Output.Tone.STRONG, "Job " + job.job().name()));
    Headings.from(output, job);
    PicksView.print(output, job, true, showValues);
    output.line();
    tables();
    links();
    scans();
    savings();
    rows(rowsOf, showValues);
    if (counted != null) {
      output.line();
      output.line(output.paint(Output.Tone.STRONG, "What masking changes"));
      ChangesView.print(output, job, counted);
    }
    output.line();
    output.line(
        Output.counted(job.selection().size(), "row")
            + " in all, about "
            + Output.bytes(gauge.totalBytes())
            + ". Nothing was copied. Next: yemble why TABLE ROW explains one row; yemble run --dry");
    output.flush();
  }

  private void tables() {
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
          Output.bytes(gauge.bytes(each)));
    }
    output.table(table);
    shown.words(output, job);
    shown.withoutLinks(output, job);
  }

  private void links() {
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
      output.line();
      output.line(output.paint(Output.Tone.STRONG, "Which links brought how many rows first"));
      output.table(table);
      shown.wordsOfLinks(output, job);
    }
  }

  /** Child tables that had to be read whole, where that is worth an index. */
  private void scans() {
    job.selection()
        .scans()
        .forEach(
            (link, scans) -> {
              Table child = job.plan().schema().table(link.child());
              if (job.source().count(child) >= LARGE || scans.time().compareTo(LONG) >= 0) {
                output.line(
                    output.paint(Output.Tone.WARNING, "warning: ")
                        + "no index leads to "
                        + link.childEnd()
                        + ": all "
                        + Output.counted(job.source().count(child), "row")
                        + " of "
                        + child.name()
                        + " were read "
                        + (scans.times() == 1 ? "" : scans.times() + " times ")
                        + "to find what belongs to others, in "
                        + Output.duration(scans.time())
                        + "; CREATE INDEX ON "
                        + child.name()
                        + " ("
                        + String.join(", ", link.childColumns())
                        + ") would save that");
              }
            });
  }

  /** What limits would save, and, of a subset that is nearly everything, what makes it so. */
  private void savings() {
    TextTable table = new TextTable("with", "for the link", ">fewer rows", ">about");
    for (Savings.Saving saving : gauge.savings().tried()) {
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
    gauge.savings().tried().stream()
        .filter(saving -> saving.limit().isEmpty())
        .forEach(
            saving ->
                output.line(
                    "  "
                        + saving.rule().link()
                        + " cannot be limited: its rows need what they refer to."));
    if (!gauge.savings().left().isEmpty()) {
      output.line(
          "  Not tried, as it would take more than "
              + gauge.savings().seconds()
              + " s: "
              + gauge.savings().left().stream()
                  .map(rule -> rule.link().toString())
                  .collect(Collectors.joining("; ")));
    }
    nearlyAll();
  }

  private void nearlyAll() {
    long all =
        job.plan().schema().tables().stream().mapToLong(table -> job.source().count(table)).sum();
    long rows = job.selection().size();
    if (job.selection().request().everything() || rows < all * NEARLY) {
      return;
    }
    output.line();
    output.line(
        output.paint(Output.Tone.WARNING, "warning: ")
            + "this is "
            + Output.percent(rows, all)
            + " of the source's rows; "
            + gauge
                .savings()
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
  private void rows(String rowsOf, boolean showValues) {
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
    String at = rule.atMost() == LinkRule.ALL ? "" : ", at most " + rule.atMost();
    return rule.cut() ? "cut" : rule.follow().name().toLowerCase(Locale.ROOT) + at;
  }
}
