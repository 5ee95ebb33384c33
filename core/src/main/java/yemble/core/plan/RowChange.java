package yemble.core.plan;

import java.util.ArrayList;
import java.util.List;
import yemble.core.mask.Masks;
import yemble.core.mask.ValueMask;
import yemble.core.project.LinkRule.Broken;
import yemble.core.store.RowSet;
import yemble.core.subset.Rule;
import yemble.core.subset.Selection;

/**
 * Turns a row of the source into the row of the target, in place: columns of cut links and of
 * references to nothing become NULL, then the masks apply. Belongs to one thread.
 */
public final class RowChange {
  private final ValueMask[] masks;
  private final int[] cleared;
  private final List<Nulls> broken = new ArrayList<>();

  /** Columns that become NULL in some rows. */
  private record Nulls(RowSet rows, int[] positions) {}

  /** The change of one table's rows, whose values are those of the table's written columns. */
  public RowChange(TablePlan plan, Selection selection, Masks masks) {
    this.masks = new ValueMask[plan.columns().size()];
    for (int position : plan.masked()) {
      this.masks[position] = masks.values(plan.columns().get(position).kind());
    }
    List<Integer> always = new ArrayList<>();
    for (Rule rule : selection.request().rules()) {
      if (!rule.link().child().equals(plan.table().name())) {
        continue;
      }
      int[] positions = rule.cleared().stream().mapToInt(plan::position).toArray();
      if (rule.cut()) {
        for (int position : positions) {
          always.add(position);
        }
      } else if (rule.broken() == Broken.NULL) {
        RowSet rows = selection.traffic(rule.link()).broken();
        if (!rows.isEmpty()) {
          broken.add(new Nulls(rows, positions));
        }
      }
    }
    this.cleared = always.stream().mapToInt(Integer::intValue).toArray();
  }

  /** Changes the values of a row; {@code row} is its number in the source. */
  public void apply(long row, Object[] values) {
    for (int position : cleared) {
      values[position] = null;
    }
    for (Nulls some : broken) {
      if (some.rows().contains(row)) {
        for (int position : some.positions()) {
          values[position] = null;
        }
      }
    }
    for (int i = 0; i < masks.length; i++) {
      if (masks[i] != null) {
        values[i] = masks[i].apply(values[i]);
      }
    }
  }
}
