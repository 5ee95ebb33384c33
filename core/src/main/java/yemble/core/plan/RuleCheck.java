package yemble.core.plan;

import yemble.core.kind.Kinds;
import yemble.core.kind.TypeSort;
import yemble.core.mask.MaskRule;
import yemble.core.mask.step.Clear;
import yemble.core.mask.step.MaskStep;
import yemble.core.mask.step.Steps;
import yemble.core.mask.step.Template;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.subset.Request;
import yemble.core.subset.Rule;

/** Whether the rules of a table's columns can hold for them, as far as the schema tells. */
final class RuleCheck {
  private final TablePlan plan;
  private final Table table;
  private final Request request;

  private RuleCheck(TablePlan plan, Request request) {
    this.plan = plan;
    this.table = plan.table();
    this.request = request;
  }

  /**
   * Checks a table.
   *
   * @throws Problem of type USAGE for a rule that cannot hold
   */
  static void of(TablePlan plan, Request request) {
    RuleCheck check = new RuleCheck(plan, request);
    for (TablePlan.ColumnPlan column : plan.columns()) {
      if (column.masked() && !column.rule().isNone()) {
        check.column(column);
      }
      for (TablePlan.PathPlan path : column.paths().values()) {
        if (!path.rule().keyedBy().isEmpty()) {
          check.path(column, path.rule());
        }
      }
    }
  }

  private void column(TablePlan.ColumnPlan column) {
    MaskRule rule = column.rule();
    for (int i = 0; i < rule.steps().size(); i++) {
      step(column.column(), rule, rule.steps().get(i), i);
    }
    if (!rule.keyedBy().isEmpty()) {
      known(rule, rule.keyedBy());
    }
    if (rule.followsNames()) {
      follows(column, rule);
    }
    if (!rule.also().isEmpty()
        && (rule.steps().isEmpty() || !rule.steps().get(0).sort().makesValues())) {
      throw problem(rule, column.column(), "also: asks for masks of what holds no value")
          .because("this mask makes a value out of another one")
          .remedy("begin with one of " + String.join(", ", Steps.makingValues()));
    }
    for (MaskRule.Case one : rule.cases()) {
      for (int i = 0; i < one.rule().steps().size(); i++) {
        step(column.column(), rule, one.rule().steps().get(i), i);
      }
    }
    if (!rule.cases().isEmpty() && table.inKey(column.column().name())) {
      throw problem(rule, column.column(), "cases cannot mask a column of a key")
          .because("what one of them makes could be what another one makes")
          .remedy("use a mask that keeps all values different: shape, pattern, digest");
    }
    if (!rule.cases().isEmpty() && isLinked(column.column().name())) {
      links(column, rule);
      return;
    }
    if (isLinked(column.column().name()) && (rule.readsRow() || rule.isFresh())) {
      throw problem(rule, column.column(), "this cannot mask a column of a link")
          .because(
              rule.isFresh() && !rule.readsRow()
                  ? "parents and children would differ in a later run"
                  : "it depends on the row, so equal values would no longer agree")
          .remedy("mask it by its value alone, or cut the link");
    }
  }

  /** What refers by such a column does so in the rows of one case. */
  private void links(TablePlan.ColumnPlan column, MaskRule rule) {
    for (Rule link : request.rules()) {
      String name = column.column().name();
      boolean refers =
          link.link().child().equals(table.name()) && link.link().childColumns().contains(name);
      boolean referred =
          link.link().parent().equals(table.name()) && link.link().parentColumns().contains(name);
      if (!link.cut() && (referred || (refers && column.in(link.link().condition()).isEmpty()))) {
        throw problem(rule, column.column(), "the link " + link.link() + " needs a case of its own")
            .because("equal values would no longer agree")
            .remedy("give the link an if:, and a case the same condition in the same words");
      }
    }
  }

  /** A path depends on a column of the row, or on a path of its own column. */
  private void path(TablePlan.ColumnPlan column, MaskRule rule) {
    String by = rule.keyedBy();
    if (!by.startsWith("$")) {
      known(rule, by);
    } else if (!column.paths().containsKey(by)) {
      throw rule.place()
          .problem(
              Failure.REGISTER_COLUMN,
              "the register has no line for " + table.name(column.column()) + " " + by)
          .remedy(Nearest.hint(by, column.paths().keySet()));
    }
  }

  private void follows(TablePlan.ColumnPlan column, MaskRule rule) {
    if (!Kinds.BUILT_IN.traits(column.kind()).ofNames()) {
      throw problem(rule, column.column(), "follow-names is for e-mail addresses and logins")
          .because("the register has it as " + column.kindName())
          .remedy("take follow-names out, or decide on another kind");
    }
    boolean named =
        plan.columns().stream().anyMatch(c -> c.masked() && Kinds.BUILT_IN.isName(c.kind()));
    if (!named) {
      throw problem(rule, column.column(), "there is no name to follow")
          .because("no masked column of " + table.name() + " holds names")
          .remedy("take follow-names out, or decide on the columns that hold names");
    }
  }

  private Problem problem(MaskRule rule, Column column, String what) {
    return rule.place().problem(Failure.RULE_UNFIT, table.name(column) + ": " + what);
  }

  private void step(Column column, MaskRule rule, MaskStep step, int position) {
    TypeSort sort = TypeSort.of(column.type());
    if (!step.sort().takes().suits(sort)) {
      throw problem(rule, column, "this is for " + step.sort().takes().words())
          .because("the column's type is " + column.type())
          .remedy("choose a mask that makes values of this type");
    }
    if (step instanceof Clear && !column.nullable()) {
      throw problem(rule, column, "it cannot become NULL")
          .because("the column must hold a value in every row")
          .remedy("choose another mask, for example fixed:");
    }
    if (step.sort().isRefusedOnKeys()) {
      refuseOnKeys(column, rule, step);
    }
    if (step.sort().sets(Kinds.JSON) && !plan.column(column.name()).isJson()) {
      throw problem(rule, column, step.sort().word() + " speaks of JSON alone")
          .because("the register has it as " + plan.column(column.name()).kindName())
          .remedy("decide with yemble register mask " + table.name(column) + " --as json");
    }
    if (step instanceof Template template) {
      if (position > 0) {
        throw problem(rule, column, "a template begins, it does not follow another mask")
            .remedy("put it first among the steps");
      }
      for (Template.Piece piece : template.pieces()) {
        if (!piece.column().isEmpty()) {
          template(column, rule, piece.column());
        }
      }
    }
  }

  private void refuseOnKeys(Column column, MaskRule rule, MaskStep step) {
    if (table.inKey(column.name()) || isLinked(column.name())) {
      throw problem(rule, column, step.words() + " cannot mask a column of a key")
          .because("different values would become equal")
          .remedy("use a mask that keeps them different: shape, pattern, digest");
    }
  }

  private boolean isLinked(String column) {
    return request.isLinked(table.name(), column);
  }

  private void known(MaskRule rule, String written) {
    if (plan.column(written) == null) {
      throw rule.place()
          .problem(Failure.COLUMN_UNKNOWN, "there is no column " + table.name() + "." + written)
          .remedy(Nearest.hint(written, table.written().stream().map(Column::name).toList()));
    }
  }

  private void template(Column column, MaskRule rule, String written) {
    int position = position(plan, written);
    if (position < 0) {
      throw rule.place()
          .problem(
              Failure.TEMPLATE_FORM,
              "the template's {"
                  + written
                  + "} is neither a column of "
                  + table.name()
                  + " nor the kind of just one of its masked columns")
          .remedy(Nearest.hint(written, table.written().stream().map(Column::name).toList()));
    }
    TablePlan.ColumnPlan piece = plan.columns().get(position);
    if (piece.isText()) {
      throw rule.place()
          .problem(Failure.TEMPLATE_FORM, "the template's {" + written + "} is free text")
          .because("it is masked by all of its row, when the row's other columns are done")
          .remedy("name columns of names, numbers or codes");
    }
    if (piece.column().equals(column)
        || piece.rule().steps().stream().anyMatch(Template.class::isInstance)) {
      throw rule.place()
          .problem(
              Failure.TEMPLATE_FORM,
              "the template's {" + written + "} is made of a template itself")
          .remedy("name the columns that both are made of");
    }
  }

  /**
   * The position of the column that a template's piece means: that of the name, or the only masked
   * one of the kind; -1 if there is none.
   */
  static int position(TablePlan plan, String written) {
    int named = plan.position(written);
    if (named >= 0) {
      return named;
    }
    int found = -1;
    for (int position : plan.masked()) {
      if (plan.columns().get(position).kind().equals(written)) {
        if (found >= 0) {
          return -1;
        }
        found = position;
      }
    }
    return found;
  }
}
