package yemble.core.verify;

import java.util.HashMap;
import java.util.Map;
import java.util.function.ToLongFunction;
import yemble.core.plan.TablePlan;

/** What differs between the two sides of a table, once its rows have been paired. */
final class Differences {
  /** Rows that the target lacks, and that it has too many; where nothing tells who changed them. */
  long missing;

  long extra;

  /** Cells that are not what they should be, by column; where nothing tells who changed them. */
  final Map<String, Long> leaks = new HashMap<>();

  final Map<String, Long> altered = new HashMap<>();

  /** Rows that were changed in the target since the load, and such as have moved in the source. */
  final Since since = new Since();

  final Since movedOn = new Since();

  /** Masked cells of these rows, which are not compared. */
  long uncompared;

  private final Map<Integer, long[]> restored = new HashMap<>();

  /** A row that differs holds a masked cell. */
  void looked(int position) {
    counts(position)[2]++;
  }

  /**
   * A masked cell holds its own original.
   *
   * @param certain whether it cannot be by chance
   */
  void restored(int position, boolean certain) {
    counts(position)[certain ? 0 : 1]++;
  }

  private long[] counts(int position) {
    return restored.computeIfAbsent(position, p -> new long[3]);
  }

  /**
   * How many cells of masked columns hold their own original again, but for what chance explains.
   *
   * @param among how many different values the mask of a column chooses from
   */
  Map<String, Long> held(Sides sides, ToLongFunction<TablePlan.ColumnPlan> among) {
    Map<String, Long> held = new HashMap<>();
    restored.forEach(
        (position, counts) -> {
          TablePlan.ColumnPlan column = sides.plan().columns().get(position);
          double chance = (double) counts[2] / Math.max(1, among.applyAsLong(column));
          long explained = (long) (chance + 3 * Math.sqrt(chance) + 1);
          long count = counts[0] + (counts[1] > explained ? counts[1] : 0);
          if (count > 0) {
            held.put(sides.name(position), count);
          }
        });
    return held;
  }
}
