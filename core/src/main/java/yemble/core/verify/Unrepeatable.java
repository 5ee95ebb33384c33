package yemble.core.verify;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import yemble.core.mark.Comparison;
import yemble.core.name.TableName;
import yemble.core.plan.Plan;
import yemble.core.plan.TablePlan;
import yemble.core.schema.Column;
import yemble.core.schema.DataType;
import yemble.core.schema.Table;

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

  /** Whether anything of a table is left out. */
  boolean leavesOut(Table table) {
    return fresh.getOrDefault(table.name(), new int[0]).length > 0;
  }

  /** The comparison with nothing left out. */
  Comparison whole() {
    return comparison;
  }

  @Override
  public TableName there(Table table) {
    return comparison.there(table);
  }

  @Override
  public String there(Table table, Column column) {
    return comparison.there(table, column);
  }

  @Override
  public List<Optional<DataType.Base>> types(Table table) {
    return comparison.types(table);
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
