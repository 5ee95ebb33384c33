package yemble.core.verify;

import java.util.HashMap;
import java.util.Map;
import yemble.core.name.TableName;
import yemble.core.plan.Plan;
import yemble.core.plan.TablePlan;
import yemble.core.schema.Table;
import yemble.core.store.Comparison;

/**
 * Leaves out of a comparison what nobody can compute again: columns whose values are others in each
 * run, once that run is over.
 */
final class Unrepeatable implements Comparison {
  private final Comparison comparison;
  private final Map<TableName, int[]> fresh = new HashMap<>();
  private int columns;

  Unrepeatable(Comparison comparison, Plan plan) {
    this.comparison = comparison;
    for (TablePlan table : plan.tables()) {
      int[] positions =
          java.util.Arrays.stream(table.masked())
              .filter(position -> table.columns().get(position).rule().isFresh())
              .toArray();
      fresh.put(table.table().name(), positions);
      columns += positions.length;
    }
  }

  /** How many columns are left out. */
  int columns() {
    return columns;
  }

  @Override
  public Object[] expected(Table table, Object[] values) {
    return without(table, comparison.expected(table, values));
  }

  @Override
  public Object[] found(Table table, Object[] values) {
    return without(table, comparison.found(table, values));
  }

  private Object[] without(Table table, Object[] values) {
    int[] positions = fresh.getOrDefault(table.name(), new int[0]);
    if (positions.length == 0) {
      return values;
    }
    Object[] less = values.clone();
    for (int position : positions) {
      less[position] = null;
    }
    return less;
  }
}
