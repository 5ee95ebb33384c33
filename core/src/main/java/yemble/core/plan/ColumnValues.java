package yemble.core.plan;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import yemble.core.mask.MaskRule;
import yemble.core.mask.step.As;
import yemble.core.mask.step.FromColumn;
import yemble.core.mask.step.FromList;
import yemble.core.mask.step.MaskStep;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.row.Values;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.store.Reader;

/** Reads the values that a column holds, for masks that draw from them. */
final class ColumnValues {
  private static final int MOST = 10_000;

  private ColumnValues() {}

  /**
   * A rule whose steps name the values that they draw from.
   *
   * @throws Problem of type USAGE if there are too many to be a list of words
   */
  static MaskRule known(Reader source, Table table, Column column, MaskRule rule) {
    List<MaskStep> steps = new ArrayList<>();
    for (MaskStep step : rule.steps()) {
      steps.add(
          step instanceof FromColumn from
              ? list(counted(source, table, column, rule), from.weighted())
              : step);
    }
    return rule.withSteps(steps);
  }

  private static MaskStep list(Map<String, Integer> counts, boolean weighted) {
    if (counts.isEmpty()) {
      return new As(""); // Nothing to draw from is nothing to mask.
    }
    return new FromList(
        "of the column's own values",
        List.copyOf(counts.keySet()),
        counts.values().stream().map(count -> weighted ? count : 1).toList(),
        !weighted);
  }

  /** How often each value comes, in the order of the values. */
  private static Map<String, Integer> counted(
      Reader source, Table table, Column column, MaskRule rule) {
    Map<String, Integer> counts = new TreeMap<>();
    source.rows(
        table,
        "",
        List.of(column),
        (row, values) -> {
          if (values[0] != null && !(values[0] instanceof byte[])) {
            String text = Values.text(values[0]);
            if (!text.isEmpty()) {
              counts.merge(text, 1, Integer::sum);
            }
            if (counts.size() > MOST) {
              throw rule.place()
                  .problem(
                      Failure.RULE_UNFIT,
                      table.name(column) + " has more than 10,000 different values")
                  .because("from-column is for columns of a few words that come again and again")
                  .remedy("choose a list, a pattern or the mask of a kind");
            }
          }
        });
    return counts;
  }
}
