package yemble.core.plan;

import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.kind.Traits;
import yemble.core.wording.Sentence;

/**
 * How many cells of a masked column are what they were.
 *
 * @param cells that hold a value
 * @param same of them
 * @param distinct how many different values they hold
 */
public record Unchanged(TablePlan.ColumnPlan column, long cells, long same, long distinct) {
  /** One in so many: chance does not explain it. */
  private static final double UNLIKELY = 1e6;

  private static final int MOST_POWER = 20;

  /**
   * Whether the column cannot be said to be masked: fewer than half of its cells change; unless its
   * kind says that values stay, a condition leaves cells out, or it holds so few different values
   * that chance explains it. Texts and JSON may hold nothing personal, see {@link #isIdle()}.
   */
  public boolean isFault(Kinds kinds) {
    Kind.Original original = kinds.original(column.kind());
    boolean aged = // A day of birth keeps the year, and so does an age that follows it.
        !column.rule().keyedBy().isEmpty()
            && kinds.traits(column.kind()).born() == Traits.Born.YEARS;
    boolean partly = aged || column.rule().leavesRows();
    if (original.stays() || partly || column.isText() || column.isJson()) {
      return false;
    }
    boolean chance = Math.pow(original.among(), Math.min(distinct, MOST_POWER)) < UNLIKELY;
    return same > Math.max(3, cells / 2) && !chance;
  }

  /** Whether no text of the column changes: nothing in them was found to be personal. */
  public boolean isIdle() {
    return cells > 0 && same == cells && (column.isText() || column.isJson());
  }

  /** How many change. */
  public Sentence sentence() {
    return same == cells
        ? LimitWording.NONE_CHANGES.of(cells, column.by())
        : LimitWording.SOME_CHANGE.of(cells - same, cells, column.by());
  }
}
