package yemble.cli;

import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import yemble.core.job.Changes;
import yemble.core.job.Preparation;
import yemble.core.project.LinkRule;
import yemble.core.row.RowSet;
import yemble.core.schema.Table;
import yemble.core.subset.Reached;
import yemble.core.subset.RowBytes;
import yemble.core.subset.Rule;
import yemble.core.subset.Savings;

/**
 * What a subset comes to.
 *
 * @param bytes about how many bytes its rows take, by table
 */
record Gauge(Preparation job, Map<Table, Long> bytes, Savings savings) {
  static Gauge of(Preparation job, Savings savings) {
    RowBytes rowBytes = new RowBytes(job.source());
    Map<Table, Long> bytes = new HashMap<>();
    for (Table table : job.plan().schema().tables()) {
      bytes.put(table, rowBytes.of(table, job.selection().part(table.name()).size()));
    }
    return new Gauge(job, bytes, savings);
  }

  long bytes(Table table) {
    return bytes.get(table);
  }

  long totalBytes() {
    return bytes.values().stream().mapToLong(Long::longValue).sum();
  }

  /** All of it, as {@code --json} prints it. */
  Map<String, Object> object(Changes counted, boolean showValues) {
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
            Json.list(job.plan().schema().tables(), this::object),
            "links",
            Json.list(job.selection().request().rules(), this::object),
            "limits",
            limits(),
            "limits_not_tried",
            Json.list(savings.left(), rule -> rule.link().toString()));
    if (counted != null) {
      object.putAll(RunJson.changes(counted));
    }
    return object;
  }

  /** What limits would save. */
  Object limits() {
    return Json.list(
        savings.tried().stream().filter(saving -> !saving.limit().isEmpty()).toList(),
        saving ->
            Json.object(
                "link", saving.rule().link().toString(),
                "limit", saving.limit(),
                "rows_fewer", saving.rows(),
                "bytes_fewer", saving.bytes()));
  }

  Map<String, Object> object(Table table) {
    Reached.Part<RowSet> part = job.selection().part(table.name());
    return Json.object(
        "table", table.name().toString(),
        "rows", part.size(),
        "picked", part.picked().size(),
        "chosen", part.chosen().size(),
        "needed", part.needed(),
        "source", job.source().count(table),
        "bytes", bytes(table));
  }

  Map<String, Object> object(Rule rule) {
    Reached.Traffic<RowSet> traffic = job.selection().traffic(rule.link());
    return Json.object(
        "link", rule.link().toString(),
        "follow", rule.follow().name().toLowerCase(Locale.ROOT),
        "at_most", rule.atMost() == LinkRule.ALL ? null : rule.atMost(),
        "cut", rule.cut(),
        "parents", traffic.parents(),
        "children", traffic.children(),
        "broken", traffic.broken().size());
  }
}
