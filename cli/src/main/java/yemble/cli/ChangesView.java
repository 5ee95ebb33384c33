package yemble.cli;

import yemble.core.job.Changes;
import yemble.core.job.Preparation;
import yemble.core.plan.TablePlan;

/** Shows how many cells masking changes, by column. */
final class ChangesView {
  private ChangesView() {}

  static void print(Output output, Preparation job, Changes changes) {
    TextTable table = new TextTable("column", "masked as", ">cells that change");
    changes
        .cells()
        .forEach(
            (column, cells) -> {
              TablePlan.ColumnPlan plan = job.plan().table(column.table()).column(column.column());
              table.row(
                  cells == 0 ? Output.Tone.WARNING : Output.Tone.PLAIN,
                  column,
                  plan.masked() ? plan.by() : "made NULL",
                  cells == 0 ? "none changes: 0" : Output.number(cells));
            });
    output.table(table);
  }
}
