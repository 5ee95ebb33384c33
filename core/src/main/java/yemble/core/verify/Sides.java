package yemble.core.verify;

import java.util.Optional;
import yemble.core.mark.Comparison;
import yemble.core.mask.text.Mentions;
import yemble.core.plan.RowMasker;
import yemble.core.plan.TablePlan;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.store.Passage;
import yemble.core.store.Reader;

/**
 * The two sides of a table: what the source's rows become, and what the target holds, row by row,
 * in the form in which they are compared.
 */
final class Sides {
  private final TablePlan plan;
  private final RowSet rows;
  private final RowMasker masker;
  private final Comparison comparison;
  private final Optional<Unrepeatable> unrepeatable;

  /** Sees a row of the source with what it becomes. */
  abstract static class Expected implements Passage.Visitor {
    private Sides sides;
    private Mentions mentions = Mentions.NONE;
    private long row;

    /**
     * @param before as the source has it
     * @param after as the target should have it
     * @param whole the same with what nobody can compute again as it was
     * @param mentions what its texts may mention
     */
    abstract void row(Object[] before, Object[] after, Object[] whole, Mentions mentions);

    /** Whether the row that is shown has an agreed stand-in in a column. */
    final boolean hasStandIn(int position) {
      return sides.masker.hasStandIn(row, position);
    }

    private void about(Mentions known) {
      mentions = known;
    }

    @Override
    public final void row(long number, Object[] source, Object[] target) {
      row = number;
      Comparison all = sides.whole();
      Object[] after = sides.comparison.expected(sides.plan.table(), target);
      Object[] whole = sides.isWhole() ? after : all.expected(sides.plan.table(), target);
      row(all.found(sides.plan.table(), source), after, whole, mentions);
      mentions = Mentions.NONE;
    }
  }

  /** Sees a row of the target. */
  interface Found {
    /**
     * @param values without what nobody can compute again
     * @param whole all of it
     */
    void row(Object[] values, Object[] whole);
  }

  /**
   * @param rows the rows of the source that are in the subset
   */
  Sides(TablePlan plan, RowSet rows, RowMasker masker, Comparison comparison) {
    this.plan = plan;
    this.rows = rows;
    this.masker = masker;
    this.comparison = comparison;
    this.unrepeatable =
        comparison instanceof Unrepeatable less && less.leavesOut(plan.table())
            ? Optional.of(less)
            : Optional.empty();
  }

  TablePlan plan() {
    return plan;
  }

  /** Whether everything can be computed again. */
  boolean isWhole() {
    return unrepeatable.isEmpty();
  }

  /** The comparison that leaves nothing out. */
  Comparison whole() {
    return unrepeatable.isPresent() ? unrepeatable.get().whole() : comparison;
  }

  /** Where the columns are that identify a row. */
  int[] identity() {
    return plan.table().writtenIdentity().stream().mapToInt(c -> plan.position(c.name())).toArray();
  }

  /** The name of a column by its position. */
  String name(int position) {
    Column column = plan.columns().get(position).column();
    return plan.table().name(column).toString();
  }

  /** The rows of the source. */
  void expected(Expected visitor) {
    visitor.sides = this;
    masker.rows(rows, visitor::about, visitor);
  }

  /** The rows of the target. */
  void found(Reader target, Found visitor) {
    target.rows(
        plan.table(),
        "",
        plan.table().written(),
        (number, cells) -> {
          Object[] values = comparison.found(plan.table(), cells);
          visitor.row(values, isWhole() ? values : whole().found(plan.table(), cells));
        });
  }
}
