package yemble.core.plan;

import yemble.core.name.ColumnName;
import yemble.core.pin.Pins;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.subset.Rule;

/** Whether a column can take agreed stand-ins, as far as schema and register tell. */
final class PinCheck {
  private PinCheck() {}

  /**
   * Checks a column.
   *
   * @throws Problem of type USAGE if it cannot
   */
  static void of(Plan plan, ColumnName name, Pins.Given given) {
    TablePlan.ColumnPlan column = plan.table(name.table()).column(name.column());
    if (column == null) {
      throw problem(given, Failure.RULE_UNFIT, "nothing is ever written to " + name)
          .because("the database computes it")
          .remedy("name the columns that it is computed from");
    }
    if (!column.masked()) {
      throw problem(
              given,
              Failure.RULE_OF_KEPT_COLUMN,
              name + " takes stand-ins, and the register keeps it")
          .because("whoever has no stand-in would keep the original")
          .remedy("decide with yemble register mask " + name + ", or take it out of the list");
    }
    if (column.isText() || column.isJson()) {
      throw problem(
              given,
              Failure.RULE_UNFIT,
              name + " is " + (column.isText() ? "free text" : "JSON") + ", and takes no stand-ins")
          .because("who is mentioned in texts gets the stand-in of the columns by itself")
          .remedy("name the column where the value stands alone");
    }
    if (column.rule().token().isPresent()) {
      throw problem(given, Failure.RULES_CONTRADICT, name + " takes stand-ins, and becomes a token")
          .because("nothing would lead back from a stand-in")
          .remedy("take it out of the list, or give it another mask");
    }
    for (Rule rule : plan.request().rules()) {
      int at = rule.link().childColumns().indexOf(name.column());
      if (rule.cut() || at < 0 || !rule.link().child().equals(name.table())) {
        continue;
      }
      ColumnName parent = new ColumnName(rule.link().parent(), rule.link().parentColumns().get(at));
      boolean alike =
          plan.pins()
              .of(parent)
              .filter(theirs -> theirs.list().equals(given.list()))
              .filter(theirs -> theirs.field() == given.field())
              .isPresent();
      if (!alike) {
        throw problem(given, Failure.RULE_UNFIT, name + " refers to " + parent)
            .because("that one would hold another value")
            .remedy(
                "give " + parent + " the stand-ins: what refers to it follows; or cut the link");
      }
    }
  }

  private static Problem problem(Pins.Given given, Failure failure, String what) {
    return given.give().column().place().problem(failure, what);
  }
}
