package yemble.cli;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import yemble.core.job.Preparation;
import yemble.core.moment.Now;
import yemble.core.row.RowSet;
import yemble.core.schema.Table;
import yemble.core.subset.Explanation;
import yemble.core.subset.Reached;
import yemble.core.subset.Rule;

/**
 * A page with the graph of a subset's tables, and what brought the rows of each. Holds names and
 * counts, never a value, not even a key.
 */
final class GaugePage {
  /** How long examples are looked for, over all tables. */
  private static final Duration EXAMPLES = Duration.ofSeconds(20);

  private final Gauge gauge;
  private final Preparation job;
  private final Explanation explanation;
  private final long end = System.nanoTime() + EXAMPLES.toNanos();

  private GaugePage(Gauge gauge) {
    this.gauge = gauge;
    this.job = gauge.job();
    this.explanation = new Explanation(job.source(), job.selection(), job.key());
  }

  static String of(Gauge gauge) {
    GaugePage page = new GaugePage(gauge);
    Preparation job = gauge.job();
    Object data =
        Json.object(
            "rows",
            job.selection().size(),
            "picks",
            RunJson.picks(job),
            "tables",
            Json.list(job.plan().schema().tables(), page::table),
            "links",
            Json.list(job.selection().request().rules(), page::link),
            "limits",
            gauge.limits());
    return Page.of(
        "gauge",
        "Job " + job.job().name() + ", gauged",
        Map.of(
            "job",
            job.job().name(),
            "from",
            job.from().title(),
            "moment",
            SurveyView.moment(Now.moment())),
        data,
        Page.Library.GRAPH);
  }

  private Object table(Table table) {
    Map<String, Object> object = gauge.object(table);
    object.put("whole", job.selection().request().whole().contains(table.name()));
    object.put("empty", job.selection().request().empty().contains(table.name()));
    object.put("chain", chain(table));
    return object;
  }

  private Object link(Rule rule) {
    Map<String, Object> object = gauge.object(rule);
    object.put("child", rule.link().child().toString());
    object.put("parent", rule.link().parent().toString());
    object.put("if", Json.text(rule.link().condition()));
    return object;
  }

  /** How one row of a table came in that was not picked: tables and links alone. */
  private List<Object> chain(Table table) {
    Reached.Part<RowSet> part = job.selection().part(table.name());
    RowSet brought = part.in().copy();
    brought.removeAll(part.picked());
    OptionalLong first = brought.first();
    if (first.isEmpty() || job.selection().request().everything() || System.nanoTime() > end) {
      return List.of();
    }
    Explanation.Row row = new Explanation.Row(table.name(), first.getAsLong());
    List<Object> steps = new ArrayList<>();
    for (Explanation.Step step : explanation.chain(row)) {
      String a = "a row of " + step.row().table();
      steps.add(
          step.rule() == null
              ? a
                  + (step.standing() == Explanation.Standing.PICKED
                      ? " was picked"
                      : " is in with its whole table")
              : (step.down() ? "brought " : "needs ")
                  + a
                  + " through "
                  + step.rule().link().childEnd());
    }
    return steps;
  }
}
