package yemble.core.job;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import yemble.core.crossing.Crossing;
import yemble.core.name.ColumnName;
import yemble.core.plan.TablePlan;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;

/** Counts what masking changes, without writing anything. */
public final class Changes {
  private final Map<ColumnName, Long> cells = new LinkedHashMap<>();
  private long rows;
  private Optional<Crossing> crossing = Optional.empty();

  private Changes() {}

  /** Counts over all rows of a job. */
  public static Changes of(Preparation job, Progress progress) {
    return of(job, Optional.empty(), progress);
  }

  /** The same, looking on the way at what does not fit a database of another engine. */
  public static Changes of(Preparation job, Optional<Crossing> crossing, Progress progress) {
    Changes changes = new Changes();
    changes.crossing = crossing;
    progress.begin(Phase.COUNTING_CHANGES, job.selection().size());
    for (TablePlan table : job.plan().tables()) {
      if (!job.isPart() || job.only().contains(table.table().name())) {
        changes.count(job, table, progress);
      }
    }
    progress.end();
    return changes;
  }

  private void count(Preparation job, TablePlan plan, Progress progress) {
    RowSet in = job.selection().part(plan.table().name()).in();
    if (in.isEmpty()) {
      return;
    }
    long[] changed = new long[plan.columns().size()];
    long[] filled = new long[changed.length];
    job.masked()
        .masker(plan)
        .rows(
            in,
            (row, before, after) -> {
              boolean any = false;
              crossing.ifPresent(way -> way.look(plan.table(), after));
              for (int i = 0; i < after.length; i++) {
                filled[i] += before[i] == null || before[i].equals("") ? 0 : 1;
                if (!Objects.deepEquals(before[i], after[i])) {
                  changed[i]++;
                  any = true;
                }
              }
              rows += any ? 1 : 0;
              progress.advance(1);
            });
    for (int i = 0; i < changed.length; i++) {
      Column column = plan.columns().get(i).column();
      if (changed[i] > 0 || (plan.columns().get(i).masked() && filled[i] > 0)) {
        cells.put(plan.table().name(column), changed[i]);
      }
    }
  }

  /** How many cells change in each column where any does, or where any should: 0 then. */
  public Map<ColumnName, Long> cells() {
    return cells;
  }

  /** How many rows change at all. */
  public long rows() {
    return rows;
  }

  public long totalCells() {
    return cells.values().stream().mapToLong(Long::longValue).sum();
  }
}
