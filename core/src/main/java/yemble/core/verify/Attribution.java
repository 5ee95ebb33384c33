package yemble.core.verify;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import yemble.core.mark.BucketSums.Difference;

/**
 * Tells rows that were changed in the target from rows that have moved on in the source where both
 * happened in one bucket. What the bucket's sum has changed by since the load is the sum of what
 * the changed rows have changed it by: so the rows whose differences add up to it are the changed
 * ones. Where no rows do, because one was changed and has moved as well, all count as changed.
 */
final class Attribution {
  /** Of more rows not all selections are tried. */
  private static final int MOST_ROWS = 16;

  private final Map<Integer, List<Row>> buckets = new HashMap<>();

  /** A row that is another one than it should be. */
  private record Row(Difference difference, Changed changed, Runnable moved) {}

  /** What is to be done if a row was changed in the target. */
  interface Changed {
    /**
     * @param certain whether the row has not moved on in the source as well
     */
    void row(boolean certain);
  }

  /**
   * Takes a row.
   *
   * @param difference between the row as it is and as it should be
   * @param changed what is to be done if it was changed in the target
   * @param moved what is to be done if it has moved on in the source
   */
  void add(int bucket, Difference difference, Changed changed, Runnable moved) {
    buckets
        .computeIfAbsent(bucket, b -> new ArrayList<>(2))
        .add(new Row(difference, changed, moved));
  }

  /** Gives the change of a bucket's sum since the load. */
  interface Changes {
    Difference of(int bucket);
  }

  /** Settles all rows that were taken, and forgets them. */
  void settle(Changes changes) {
    buckets.forEach(
        (bucket, rows) -> {
          int selected = selected(rows, changes.of(bucket));
          for (int i = 0; i < rows.size(); i++) {
            if (selected == 0 || (selected >>> i & 1) == 1) {
              rows.get(i).changed().row(selected != 0);
            } else {
              rows.get(i).moved().run();
            }
          }
        });
    buckets.clear();
  }

  /** The rows whose differences add up to a sum, as bits; 0 if there are none. */
  private static int selected(List<Row> rows, Difference sum) {
    if (rows.size() > MOST_ROWS) {
      return 0;
    }
    for (int selection = 1; selection < 1 << rows.size(); selection++) {
      Difference added = Difference.NONE;
      for (int i = 0; i < rows.size(); i++) {
        if ((selection >>> i & 1) == 1) {
          added = added.plus(rows.get(i).difference());
        }
      }
      if (added.equals(sum)) {
        return selection;
      }
    }
    return 0;
  }
}
