package yemble.core.plan;

import java.util.LinkedHashMap;
import java.util.Map;
import yemble.core.kind.Kinds;
import yemble.core.mask.MaskRule;
import yemble.core.name.ColumnName;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;

/** The lines of a register by what they speak of. */
public final class Decisions {
  private final Kinds kinds;
  private final Map<ColumnName, RegisterLine> columns = new LinkedHashMap<>();
  private final Map<ColumnName, Map<String, RegisterLine>> paths = new LinkedHashMap<>();

  Decisions(Kinds kinds) {
    this.kinds = kinds;
  }

  /** The kind by whose mask the column of a line is masked; empty for the shape. */
  String maskedAs(RegisterLine line) {
    return kinds.maskedAs(line.kind());
  }

  /**
   * Adds a line.
   *
   * @param path the path inside a JSON column, or an empty string
   * @return the line that was there before, or null
   */
  RegisterLine put(ColumnName column, String path, RegisterLine line) {
    return path.isEmpty()
        ? columns.put(column, line)
        : paths.computeIfAbsent(column, c -> new LinkedHashMap<>()).put(path, line);
  }

  /** The line of a column; null if there is none. */
  public RegisterLine column(ColumnName column) {
    return columns.get(column);
  }

  /** The lines of the paths inside a column. */
  public Map<String, RegisterLine> paths(ColumnName column) {
    return paths.getOrDefault(column, Map.of());
  }

  /** What becomes of each path inside a column. */
  Map<String, TablePlan.PathPlan> pathPlans(ColumnName column) {
    Map<String, TablePlan.PathPlan> plans = new LinkedHashMap<>();
    paths(column)
        .forEach(
            (path, line) ->
                plans.put(
                    path,
                    line.decision() == Decision.KEEP
                        ? TablePlan.PathPlan.KEPT
                        : new TablePlan.PathPlan(true, maskedAs(line), MaskRule.NONE)));
    return plans;
  }
}
