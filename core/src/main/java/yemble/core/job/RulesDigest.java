package yemble.core.job;

import java.util.Arrays;
import java.util.HexFormat;
import java.util.TreeMap;
import java.util.TreeSet;
import yemble.core.crypto.SecretKey;
import yemble.core.mask.LearnedNames;
import yemble.core.mask.MaskRule;
import yemble.core.mask.Settings;
import yemble.core.plan.Plan;
import yemble.core.plan.TablePlan;
import yemble.core.project.Amount;
import yemble.core.project.Condition;
import yemble.core.project.Job;
import yemble.core.project.Project;
import yemble.core.schema.Column;
import yemble.core.subset.Request;

/**
 * What decides which rows a target gets, and what their values become, in 32 hex digits: equal as
 * long as project, register, schema and key ask for the same. Words and order of the files do not
 * count.
 */
final class RulesDigest {
  private final StringBuilder text = new StringBuilder();

  private RulesDigest() {}

  /** The digest of a job's plan, keyed with the project's key. */
  static String of(Project project, Job job, Plan plan, LearnedNames learned, SecretKey key) {
    RulesDigest rules = new RulesDigest();
    rules.request(plan.request());
    rules.plan(plan);
    rules.line("as of", project.asOf());
    TreeMap<String, Object> unfit = new TreeMap<>();
    job.unfit().forEach((named, rule) -> unfit.put(named.name(), rule));
    rules.line("unfit", unfit);
    for (LearnedNames.Generation names : learned.generations()) {
      rules.line("names", Arrays.toString(names.given()), Arrays.toString(names.family()));
    }
    return HexFormat.of().formatHex(key.prf("rules").of(rules.text.toString()));
  }

  private void request(Request request) {
    for (Request.Start pick : request.picks()) {
      line(
          "pick",
          pick.table().name(),
          text(pick.where()),
          pick.share().stripTrailingZeros(),
          pick.rows());
      pick.newest().ifPresent(newest -> line("newest", newest.column().name(), newest.rows()));
      pick.keys()
          .ifPresent(
              keys -> {
                line("keys", keys.columns().stream().map(Column::name).toList(), keys.all());
                keys.rows().forEach(row -> line(row.toArray()));
              });
    }
    request
        .amount()
        .ifPresent(
            amount -> {
              if (amount instanceof Amount.Bytes size) {
                line("size", size.bytes());
              } else if (amount instanceof Amount.BytesShare size) {
                line("size of the source", size.share().stripTrailingZeros());
              }
            });
    line("whole", new TreeSet<>(request.whole()));
    line("empty", new TreeSet<>(request.empty()));
    request
        .rules()
        .forEach(
            rule ->
                line(
                    rule.link(),
                    rule.link().condition(),
                    rule.follow(),
                    text(rule.where()),
                    rule.atMost(),
                    rule.cut(),
                    rule.broken(),
                    rule.cleared()));
  }

  /** The digest of what becomes of the values of one column. */
  static String of(TablePlan table, TablePlan.ColumnPlan column, SecretKey key) {
    RulesDigest rules = new RulesDigest();
    rules.column(table, column);
    return HexFormat.of().formatHex(key.prf("rules").of(rules.text.toString()));
  }

  private void plan(Plan plan) {
    for (TablePlan table : plan.tables()) {
      table.columns().forEach(column -> column(table, column));
    }
  }

  private void column(TablePlan table, TablePlan.ColumnPlan column) {
    line(
        table.table().name(column.column()),
        column.masked(),
        column.masked() ? column.agreement() : "",
        rest(column.rule()));
    if (column.isPinned()) {
      line("stand-ins", column.pins());
    }
    new TreeMap<>(column.paths())
        .forEach(
            (path, rule) ->
                line(
                    path,
                    rule.masked(),
                    rule.kind(),
                    rule.rule().steps(),
                    rule.rule().scope(),
                    rest(rule.rule())));
  }

  private static String text(Condition condition) {
    return condition.isBound()
        ? condition.sql() + "\n" + new TreeMap<>(condition.values())
        : condition.sql();
  }

  private static String rest(MaskRule rule) {
    return rule.keyedBy()
        + "\n"
        + rule.when()
        + "\n"
        + new TreeSet<>(rule.also())
        + (rule.followsNames() ? "\nfollow-names" : "")
        + (rule.cases().isEmpty() && rule.settings().following(null).equals(Settings.NONE)
            ? ""
            : "\n" + rule.decides());
  }

  private void line(Object... parts) {
    for (Object part : parts) {
      text.append(part).append('\u0000');
    }
    text.append('\n');
  }
}
