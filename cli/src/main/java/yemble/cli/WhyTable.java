package yemble.cli;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import yemble.core.job.Preparation;
import yemble.core.row.RowSet;
import yemble.core.schema.Link;
import yemble.core.schema.Table;
import yemble.core.subset.Explanation;
import yemble.core.subset.Reached;
import yemble.core.subset.Rule;

/** Why rows of a table are in a subset: what brought how many, and one of them as an example. */
record WhyTable(Preparation job, Table table, List<Brought> brought) {
  /**
   * Rows that came through a link before they came in otherwise.
   *
   * @param children whether they came as children of rows of the link's parent
   */
  private record Brought(Link link, boolean children, long rows) {}

  static WhyTable of(Preparation job, Table table) {
    List<Brought> brought = new ArrayList<>();
    for (Rule rule : job.selection().request().rules()) {
      Reached.Traffic<RowSet> traffic = job.selection().traffic(rule.link());
      if (rule.link().child().equals(table.name()) && traffic.children() > 0) {
        brought.add(new Brought(rule.link(), true, traffic.children()));
      }
      if (rule.link().parent().equals(table.name()) && traffic.parents() > 0) {
        brought.add(new Brought(rule.link(), false, traffic.parents()));
      }
    }
    brought.sort(Comparator.comparingLong(one -> -one.rows()));
    return new WhyTable(job, table, brought);
  }

  private Reached.Part<RowSet> part() {
    return job.selection().part(table.name());
  }

  /** A row that others brought, or any; nothing if none is in. */
  private Optional<Explanation.Row> example() {
    RowSet rows = part().in().copy();
    rows.removeAll(part().picked());
    OptionalLong first = rows.isEmpty() ? part().in().first() : rows.first();
    return first.isEmpty()
        ? Optional.empty()
        : Optional.of(new Explanation.Row(table.name(), first.getAsLong()));
  }

  void show(CommonOptions common) {
    if (common.json) {
      common.output.json(object());
    } else {
      print(common.output);
    }
    common.output.flush();
  }

  private Object object() {
    return Json.object(
        "job", job.job().name(),
        "from", Json.database(job.from()),
        "table", table.name().toString(),
        "rows", part().size(),
        "picked", part().picked().size(),
        "whole", job.selection().request().whole().contains(table.name()),
        "brought",
            Json.list(
                brought,
                one ->
                    Json.object(
                        "link", one.link().toString(),
                        "if", Json.text(one.link().condition()),
                        "came_as", one.children() ? "child" : "parent",
                        "rows", one.rows())));
  }

  private void print(Output output) {
    output.line(
        output.paint(Output.Tone.STRONG, table.name().toString())
            + " of "
            + job.from().title()
            + ": "
            + Output.counted(part().size(), "row")
            + " of "
            + Output.number(job.source().count(table))
            + " in job "
            + job.job().name()
            + (part().picked().isEmpty()
                ? ""
                : ", " + Output.number(part().picked().size()) + " of them picked"));
    if (job.selection().request().everything()) {
      output.line("  The job takes everything.");
    } else if (job.selection().request().whole().contains(table.name())) {
      output.line("  The job takes the whole table.");
    }
    if (!brought.isEmpty()) {
      output.line();
      TextTable lines = new TextTable("link", "they came as", ">rows");
      for (Brought one : brought) {
        lines.row(
            LinksCommand.named(one.link()),
            one.children()
                ? "children of " + one.link().parent()
                : "parents of " + one.link().child(),
            Output.number(one.rows()));
      }
      output.table(lines);
    }
    if (example().isPresent()) {
      output.line();
      output.line("One of them:");
      Explanation explanation = new Explanation(job.source(), job.selection(), job.key());
      WhyCommand.chain(output, job, explanation, example().get());
    }
  }
}
