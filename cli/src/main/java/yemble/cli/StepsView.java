package yemble.cli;

import java.util.ArrayList;
import java.util.List;
import yemble.core.job.OwnSteps;
import yemble.core.job.StepRun;
import yemble.core.project.Step;

/** Steps of the team's own: those that a job has, and those that were run. */
final class StepsView {
  private StepsView() {}

  /**
   * Says which steps are to be run.
   *
   * @param within whether SQL is part of the load there
   */
  static void describe(Output output, OwnSteps steps, boolean within) {
    if (steps.isEmpty()) {
      return;
    }
    output.line();
    TextTable table = new TextTable("step", "when", "what", ">statements", "");
    List<Step> before = steps.steps().before();
    for (Step step : before) {
      row(table, steps, step, "before", within);
    }
    for (Step step : steps.steps().after()) {
      row(table, steps, step, "after", within);
    }
    output.table(table);
  }

  private static void row(TextTable table, OwnSteps steps, Step step, String when, boolean within) {
    boolean sql = !step.isCommand();
    table.row(
        step.name(),
        when,
        sql ? step.file() : "a command",
        sql ? Output.number(steps.statements(step)) : "",
        step.onSource()
            ? "on the source"
            : sql && within ? "within the load" : "by itself: not undone if the load fails");
  }

  /** Says what was run. */
  static void print(Output output, List<StepRun> ran) {
    TextTable table = new TextTable("step", "when", ">statements", ">rows", ">took");
    for (StepRun step : ran) {
      table.row(
          step.name(),
          step.before() ? "before" : "after",
          step.statements() == 0 ? "a command" : Output.number(step.statements()),
          step.statements() == 0 ? "" : Output.number(step.rows()),
          Output.duration(step.took()));
    }
    output.table(table);
  }

  /** For machines. */
  static List<Object> json(List<StepRun> ran) {
    return new ArrayList<>(
        Json.list(
            ran,
            (StepRun step) ->
                Json.object(
                    "step", step.name(),
                    "when", step.before() ? "before" : "after",
                    "statements", step.statements(),
                    "rows", step.rows(),
                    "within_the_load", step.within(),
                    "took_ms", step.took().toMillis())));
  }
}
