package yemble.cli;

import java.math.BigDecimal;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import yemble.core.job.Changes;
import yemble.core.job.Preparation;
import yemble.core.job.Run;
import yemble.core.plan.TablePlan;
import yemble.core.project.Pick;
import yemble.core.row.RowSet;
import yemble.core.schema.Schema;
import yemble.core.subset.Reached;
import yemble.core.subset.Request;

/** What a job selects and what came of it, for machines. */
final class RunJson {
  private RunJson() {}

  static Object dry(Preparation job, Run run, Optional<MergeView> merge, Changes changes) {
    Map<String, Object> result = head(job, run, merge);
    result.put("written", false);
    result.putAll(changes(changes));
    return result;
  }

  static Object result(
      Preparation job, Run run, Optional<MergeView> merge, Run.Result result, Duration took) {
    Map<String, Object> object = head(job, run, merge);
    object.put("written", result.committed());
    object.put("took_ms", took.toMillis());
    object.put("selecting_ms", job.selectionTime().toMillis());
    object.put("loading_ms", result.loading().toMillis());
    object.put("verifying_ms", result.verifying().toMillis());
    object.put("steps", StepsView.json(result.steps()));
    object.put("pins", PinsView.json(run.pins()));
    object.put("tokens", TokensView.json(run.tokens()));
    object.put("checks", Findings.list(result.findings()));
    return object;
  }

  private static Map<String, Object> head(Preparation job, Run run, Optional<MergeView> merge) {
    Map<String, Object> head = head(job, run);
    merge.ifPresent(view -> head.put("merge", view.json()));
    return head;
  }

  private static Map<String, Object> head(Preparation job, Run run) {
    return Json.object(
        "job",
        job.job().name(),
        "from",
        Json.database(job.from()),
        "into",
        Json.database(run.into()),
        "rows",
        job.rows(),
        "only",
        Json.list(job.only(), Object::toString),
        "picks",
        picks(job),
        "tables",
        Json.list(job.plan().tables(), plan -> table(job, plan)),
        "replaced",
        run.dropped(),
        "not_carried",
        job.job().loading().way().merges() ? List.of() : notCarried(run.schema()));
  }

  /** What of a structure a target does not get. */
  static Object notCarried(Schema schema) {
    return Json.list(
        schema.objects().stream().filter(object -> !object.carried()).toList(),
        object -> Json.object("type", object.type().toString(), "name", object.name()));
  }

  private static Object table(Preparation job, TablePlan plan) {
    Reached.Part<RowSet> part = job.selection().part(plan.table().name());
    return Json.object(
        "table", plan.table().name().toString(),
        "rows", part.size(),
        "picked", part.picked().size(),
        "chosen", part.chosen().size(),
        "needed", part.needed(),
        "source", job.source().count(plan.table()));
  }

  /** The picks of a job, with what they matched; none means everything. */
  static List<Object> picks(Preparation job) {
    return Json.list(
        job.selection().request().picks(),
        (Request.Start start) ->
            Json.object(
                "table", start.table().name().toString(),
                "where", Json.text(start.where().sql()),
                "share", start.share().compareTo(BigDecimal.ONE) == 0 ? null : start.share(),
                "rows_at_most", start.rows() == Pick.ALL ? null : start.rows(),
                "newest", start.newest().map(newest -> newest.rows()).orElse(null),
                "newest_by", start.newest().map(newest -> newest.column().name()).orElse(null),
                "keys", start.keys().map(keys -> (long) keys.rows().size()).orElse(null),
                "keys_missing",
                    start
                        .keys()
                        .map(k -> (long) job.selection().picks().get(start).missing().size())
                        .orElse(null),
                "matched", job.selection().picks().get(start).matched(),
                "picked", job.selection().picks().get(start).picked()));
  }

  /** What masking changes, by column. */
  static Map<String, Object> changes(Changes changes) {
    return Json.object(
        "rows_that_change",
        changes.rows(),
        "cells_that_change",
        changes.totalCells(),
        "columns",
        Json.list(
            changes.cells().entrySet(),
            entry -> Json.object("column", entry.getKey().toString(), "cells", entry.getValue())));
  }
}
