package yemble.core.plan;

import java.util.Locale;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;

/**
 * How many cells of a masked column are what they were.
 *
 * @param cells that hold a value
 * @param same of them
 * @param distinct how many different values they hold
 */
public record Unchanged(TablePlan.ColumnPlan column, long cells, long same, long distinct) {
  /** With fewer different texts, none of which changes, there may be nothing personal in them. */
  private static final int FEW_TEXTS = 20;

  /** One in so many: chance does not explain it. */
  private static final double UNLIKELY = 1e6;

  private static final int MOST_POWER = 20;

  /**
   * Whether the column cannot be said to be masked: no cell changes, or, of single values, fewer
   * than half; unless its kind says that values stay, a condition leaves cells out, or it holds so
   * few different values that chance explains it.
   */
  public boolean isFault(Kinds kinds) {
    Kind.Original original =
        kinds.of(column.kind()).map(Kind::original).orElse(Kind.Original.PLAIN);
    boolean partly = !column.rule().when().isEmpty();
    if (original.stays() || partly || cells == 0) {
      return false;
    }
    boolean texts = column.isText() || column.isJson();
    boolean chance =
        texts
            ? distinct < FEW_TEXTS
            : Math.pow(original.among(), Math.min(distinct, MOST_POWER)) < UNLIKELY;
    return same > (texts ? cells - 1 : Math.max(3, cells / 2)) && !chance;
  }

  /** How many change, in words. */
  public String words() {
    return same == cells
        ? String.format(Locale.ROOT, "none of %,d cells changes (%s)", cells, column.by())
        : String.format(
            Locale.ROOT, "%,d of %,d cells change (%s)", cells - same, cells, column.by());
  }
}
