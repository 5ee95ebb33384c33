package yemble.core.plan;

import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;
import yemble.core.mask.Mask;
import yemble.core.mask.Masks;
import yemble.core.mask.ValueMask;
import yemble.core.name.ColumnName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.row.CellChange;
import yemble.core.row.RowSet;
import yemble.core.store.Reader;
import yemble.core.wording.Sentence;

/**
 * Whether masks of one's own keep what they promise, as far as a sample tells: asked once more, in
 * the other order and by another thread at the same time, they give the same; and none throws.
 */
final class OwnCheck {
  private OwnCheck() {}

  /** What does not hold for the masks of a table's columns, a line each. */
  static List<Sentence> of(Reader source, TablePlan table, RowSet rows, Masks masks) {
    List<Sentence> broken = new ArrayList<>();
    for (int position : table.masked()) {
      TablePlan.ColumnPlan column = table.columns().get(position);
      if (column.rule().own().isEmpty() || column.rule().readsRow()) {
        continue;
      }
      List<Object> values = new ArrayList<>();
      source.rows(
          table.table(),
          rows,
          List.of(column.column()),
          (row, cells) -> {
            if (cells[0] != null && !cells[0].equals("")) {
              values.add(cells[0]);
            }
          });
      look(table.table().name(column.column()), column, values, masks, broken);
    }
    return broken;
  }

  private static void look(
      ColumnName name,
      TablePlan.ColumnPlan column,
      List<Object> values,
      Masks masks,
      List<Sentence> broken) {
    FutureTask<Map<Object, Object>> other =
        new FutureTask<>(
            () -> {
              List<Object> backwards = new ArrayList<>(values);
              Collections.reverse(backwards);
              return results(column, backwards, masks.again());
            });
    new Thread(other, "own masks").start();
    Map<Object, Object> first = results(column, values, masks.again());
    Map<Object, Object> second;
    try {
      second = other.get();
    } catch (InterruptedException | ExecutionException e) {
      throw new IllegalStateException(e);
    }
    String mask = column.rule().own().get(0).name();
    long fails = first.values().stream().filter(Problem.class::isInstance).count();
    if (fails > 0) {
      String why =
          first.values().stream()
              .filter(Problem.class::isInstance)
              .map(problem -> ((Problem) problem).why())
              .findFirst()
              .orElseThrow();
      broken.add(LimitWording.OWN_FAILS.of(mask, fails, first.size(), why).about(name));
      return;
    }
    long differing =
        first.entrySet().stream()
            .filter(entry -> !Objects.deepEquals(entry.getValue(), second.get(entry.getKey())))
            .count();
    if (differing > 0) {
      broken.add(LimitWording.OWN_DIFFERS.of(mask, differing, first.size()).about(name));
    }
  }

  /** What becomes of each value, or the problem that it makes. */
  private static Map<Object, Object> results(
      TablePlan.ColumnPlan column, List<Object> values, Masks masks) {
    Mask mask = masks.of(column.kind(), column.rule().notKeyed());
    ValueMask cells = masks.values(mask, column.rule().also());
    Map<Object, Object> results = new LinkedHashMap<>();
    for (Object value : values) {
      if (value instanceof byte[]) {
        continue;
      }
      try {
        results.put(value, cells.apply(value));
      } catch (Problem failed) {
        results.put(value, failed);
      }
    }
    return results;
  }

  /** The same change, whose failure says in which column it was. */
  static CellChange named(CellChange change, ColumnName column) {
    return CellChange.by(
        (row, value) -> {
          try {
            return change.changed(row, value);
          } catch (Problem failed) {
            throw failed.failure() == Failure.PLUGIN_FAILED
                ? failed.atIfUnknown(column.toString())
                : failed;
          }
        },
        change.blanks());
  }
}
