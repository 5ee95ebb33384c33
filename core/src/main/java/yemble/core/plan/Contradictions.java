package yemble.core.plan;

import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.recognition.Hits;
import yemble.core.recognition.Look;
import yemble.core.recognition.Looks;
import yemble.core.recognition.Value;
import yemble.core.row.Values;
import yemble.core.schema.Column;
import yemble.core.store.Reader;
import yemble.core.wording.Sentence;

/**
 * Columns whose values are not of the kind that they are masked as, where values can tell: a small
 * sample of each table is enough to see that somebody has put something else there since.
 */
public final class Contradictions {
  private static final double TELLING = 0.85;
  private static final int ROWS = 200;
  private static final int ENOUGH = 20;
  private static final double LEAST = 0.2;

  private Contradictions() {}

  /** A column to be masked, and what the check of its kind says of its values. */
  private record Watched(Column column, Kind kind, Look look, Hits hits, long[] values) {}

  /**
   * What is contradicted.
   *
   * @param countries as survey limits its checks to, see {@link Looks}
   * @param asOf the project's day, see {@link Looks}
   * @param most how long all of it may take: what is not reached by then is not looked at
   */
  public static List<Sentence> of(
      Reader source,
      Plan plan,
      Kinds kinds,
      Collection<String> countries,
      LocalDate asOf,
      Duration most) {
    long end = System.nanoTime() + most.toNanos();
    Looks looks = new Looks(countries, asOf);
    List<Sentence> found = new ArrayList<>();
    for (TablePlan table : plan.tables()) {
      List<Watched> watched = watched(table, kinds, looks);
      if (watched.isEmpty() || System.nanoTime() > end) {
        continue;
      }
      source.sample(
          table.table(),
          watched.stream().map(Watched::column).toList(),
          ROWS,
          (row, values) -> {
            for (int i = 0; i < values.length; i++) {
              look(watched.get(i), values[i]);
            }
          });
      for (Watched one : watched) {
        if (one.values()[0] >= ENOUGH && one.hits().accepted() < LEAST * one.values()[0]) {
          found.add(
              LimitWording.CONTRADICTED.of(
                  table.table().name(one.column()),
                  one.kind().name(),
                  one.hits().accepted(),
                  one.values()[0]));
        }
      }
    }
    return found;
  }

  private static void look(Watched watched, Object value) {
    String text = value == null || value instanceof byte[] ? "" : Values.text(value).strip();
    if (!text.isEmpty()) {
      watched.values()[0]++;
      watched.look().at(Value.of(text), watched.hits());
    }
  }

  private static List<Watched> watched(TablePlan table, Kinds kinds, Looks looks) {
    List<Watched> watched = new ArrayList<>();
    for (int position : table.masked()) {
      TablePlan.ColumnPlan column = table.columns().get(position);
      Kind kind = kinds.of(column.kind()).orElse(null);
      if (kind != null && kind.look().telling() >= TELLING && !column.isText()) {
        Look look = looks.of(kind.look().name());
        if (look != null) {
          watched.add(new Watched(column.column(), kind, look, new Hits(), new long[1]));
        }
      }
    }
    return watched;
  }
}
