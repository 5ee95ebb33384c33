package yemble.core.plan;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import yemble.core.kind.Kinds;
import yemble.core.mask.text.JsonText;
import yemble.core.mask.text.Mentions;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.pin.PinnedRows;
import yemble.core.row.RowSet;
import yemble.core.row.Values;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.subset.Rule;

/**
 * Looks up what free texts may mention: the masked values of their rows, and of the rows that these
 * belong to, up to two links away. Asks for many rows at once. Belongs to one thread.
 */
final class RowMentions {
  private static final int LINKS_AWAY = 2;

  private final Reader source;
  private final Plan plan;
  private final Map<String, RowSet> fulfilled = new HashMap<>();

  RowMentions(Reader source, Plan plan) {
    this.source = source;
    this.plan = plan;
  }

  /** What the rows of a set hold themselves and through their parents. */
  Map<Long, Mentions> of(TableName name, RowSet rows) {
    Map<Long, Mentions> mentions = new HashMap<>();
    if (rows.isEmpty()) {
      return mentions;
    }
    collect(
        name,
        rows,
        LINKS_AWAY,
        (row, kind, value, standIn, stays) -> {
          Mentions of = mentions.computeIfAbsent(row, r -> new Mentions());
          if (!standIn.isEmpty()) {
            of.pin(kind, value, standIn);
          } else if (stays) {
            of.keep(kind, value);
          } else {
            of.add(kind, value);
          }
        });
    return mentions;
  }

  /** The columns of all rows that those of a table may belong to, see {@link #of}. */
  static Set<ColumnName> mentionable(Plan plan, TableName name) {
    Set<ColumnName> found = new TreeSet<>();
    Set<TableName> at = Set.of(name);
    for (int away = 0; away < LINKS_AWAY; away++) {
      Set<TableName> parents = new TreeSet<>();
      for (Rule rule : plan.request().rules()) {
        if (at.contains(rule.link().child()) && !rule.cut()) {
          parents.add(rule.link().parent());
        }
      }
      for (TableName parent : parents) {
        TablePlan of = plan.table(parent);
        of.columns().stream()
            .filter(RowMentions::isTelling)
            .forEach(column -> found.add(of.table().name(column.column())));
      }
      at = parents;
    }
    return found;
  }

  /** Takes a value that a row, or a row that it belongs to, holds. */
  private interface Collector {
    /**
     * @param standIn the agreed one; empty if there is none
     * @param stays whether it stays there
     */
    void value(long row, String kind, String value, String standIn, boolean stays);
  }

  private void collect(TableName name, RowSet rows, int linksAway, Collector collector) {
    TablePlan of = plan.table(name);
    List<Column> columns = new ArrayList<>();
    List<String> kinds = new ArrayList<>();
    List<RowSet> masked = new ArrayList<>();
    List<TablePlan.ColumnPlan> plans = new ArrayList<>();
    for (TablePlan.ColumnPlan column : of.columns()) {
      if (isTelling(column)) {
        columns.add(column.column());
        kinds.add(column.kind());
        plans.add(column);
        masked.add(masked(of.table(), column.rule().when()));
      }
    }
    if (!columns.isEmpty()) {
      PinnedRows pins = new PinnedRows(source, plan.pins(), name);
      pins.about(rows);
      List<PinnedRows.Column> standIns = new ArrayList<>();
      for (TablePlan.ColumnPlan column : plans) {
        standIns.add(column.isPinned() ? pins.column(of.table().name(column.column())) : null);
      }
      source.rows(
          of.table(),
          rows,
          columns,
          (row, values) -> {
            for (int i = 0; i < values.length; i++) {
              boolean stays = masked.get(i) != null && !masked.get(i).contains(row);
              if (values[i] == null || values[i] instanceof byte[]) {
                continue;
              }
              if (plans.get(i).isJson()) {
                inside(plans.get(i), row, values[i].toString(), stays, collector);
              } else {
                String standIn = standIns.get(i) == null ? "" : standIns.get(i).of(row);
                collector.value(row, kinds.get(i), Values.text(values[i]), standIn, stays);
              }
            }
          });
    }
    if (linksAway > 0) {
      for (Rule rule : plan.request().rules()) {
        if (rule.link().child().equals(name)
            && !rule.cut()
            && tells(rule.link().parent(), linksAway - 1)) {
          collectParents(rule, rows, linksAway - 1, collector);
        }
      }
    }
  }

  /** Whether a column's values may be mentioned in texts: masked ones, and such inside JSON. */
  private static boolean isTelling(TablePlan.ColumnPlan column) {
    return column.masked()
        && !column.isText()
        && column.rule().cases().isEmpty()
        && (!column.isJson() || column.paths().values().stream().anyMatch(RowMentions::isTelling));
  }

  private static boolean isTelling(TablePlan.PathPlan path) {
    return path.masked() && !path.kind().equals(Kinds.TEXT) && path.rule().isNone();
  }

  /** The masked values inside JSON. */
  private static void inside(
      TablePlan.ColumnPlan column, long row, String json, boolean stays, Collector collector) {
    JsonText.walk(
        json,
        (path, value, string, from, to) -> {
          TablePlan.PathPlan plan = column.paths().get(path);
          if (plan != null && isTelling(plan)) {
            collector.value(row, plan.kind(), value, "", stays);
          }
        });
  }

  /** The rows whose values are masked; null for all of them. */
  private RowSet masked(Table table, String when) {
    return when.isEmpty()
        ? null
        : fulfilled.computeIfAbsent(
            table.name() + "\n" + when,
            key -> {
              RowSet rows = new RowSet();
              source.rows(table, when, List.of(), (row, nothing) -> rows.add(row));
              return rows;
            });
  }

  /** Whether a table, or one so many links above it, has a column that a text may mention. */
  private boolean tells(TableName name, int linksAway) {
    boolean itself = plan.table(name).columns().stream().anyMatch(RowMentions::isTelling);
    return itself
        || (linksAway > 0
            && plan.request().rules().stream()
                .anyMatch(
                    rule ->
                        rule.link().child().equals(name)
                            && !rule.cut()
                            && tells(rule.link().parent(), linksAway - 1)));
  }

  private void collectParents(Rule rule, RowSet rows, int linksAway, Collector collector) {
    Map<Long, List<Long>> children = new HashMap<>();
    RowSet parents = new RowSet();
    source.parents(
        rule.link(),
        rows,
        new Reader.ParentVisitor() {
          @Override
          public void parent(long child, long parent) {
            parents.add(parent);
            children.computeIfAbsent(parent, p -> new ArrayList<>(1)).add(child);
          }

          @Override
          public void nothing(long child) {}
        });
    if (!parents.isEmpty()) {
      collect(
          rule.link().parent(),
          parents,
          linksAway,
          (parent, kind, value, standIn, stays) ->
              children
                  .get(parent)
                  .forEach(child -> collector.value(child, kind, value, standIn, stays)));
    }
  }
}
