package yemble.core.plan;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import yemble.core.kind.Kinds;
import yemble.core.mask.MaskRule;
import yemble.core.mask.step.As;
import yemble.core.mask.step.Clear;
import yemble.core.name.ColumnName;
import yemble.core.name.DottedName;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.project.Conventions;
import yemble.core.project.Conventions.ColumnRule;
import yemble.core.project.Project;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.schema.Lookup;
import yemble.core.schema.Schema;
import yemble.core.wording.Sentence;

/**
 * Which rule of the project holds for which column: the one that names it, then the one whose
 * pattern of names has the most letters, then that of its kind. What one leaves open the next one
 * says.
 */
public final class ColumnRules {
  /** What parts a column from a path inside it. */
  private static final String PATH = " $";

  private final Kinds kinds;
  private final Map<String, MaskRule> ofKinds;
  private final Map<ColumnName, ColumnRule> named = new LinkedHashMap<>();
  private final Map<ColumnName, ColumnRule> together = new HashMap<>();
  private final Map<ColumnName, Map<String, ColumnRule>> paths = new LinkedHashMap<>();
  private final List<ColumnRule> patterns;

  private ColumnRules(Conventions conventions) {
    this.kinds = conventions.kinds();
    this.ofKinds = conventions.masks();
    this.patterns =
        conventions.columns().stream()
            .filter(ColumnRule::isPattern)
            .sorted((one, other) -> letters(other.name()) - letters(one.name()))
            .toList();
  }

  private static int letters(String pattern) {
    return pattern.replace("*", "").length();
  }

  /**
   * The rules that hold in a database.
   *
   * @throws yemble.core.problem.Problem of type USAGE for a column that is not there, or that two
   *     rules move together with others
   */
  public static ColumnRules of(Schema schema, Conventions conventions) {
    ColumnRules rules = new ColumnRules(conventions);
    Lookup lookup = new Lookup(schema);
    for (ColumnRule rule : conventions.columns()) {
      if (!rule.isPattern()) {
        rules.name(rule, lookup);
      }
    }
    rules.together.forEach(rules::checkAlone);
    return rules;
  }

  /** What moves with another column is said once. */
  private void checkAlone(ColumnName moved, ColumnRule rule) {
    ColumnRule own = named.get(moved);
    if (own != null && own != rule) {
      throw own.place()
          .problem(
              Failure.RULES_CONTRADICT,
              moved + " moves together with others, and has a rule of its own")
          .because("that it moves together with others is said at " + rule.place())
          .remedy("say it at one of the columns alone");
    }
  }

  private void name(ColumnRule rule, Lookup lookup) {
    int path = DottedName.pathAt(rule.name());
    if (path >= 0) {
      ColumnName column = lookup.column(rule.name().substring(0, path), rule.place().toString());
      if (rule.rule().notKeyed().readsRow()
          || !rule.rule().when().isEmpty()
          || !rule.rule().cases().isEmpty()
          || rule.rule().followsNames()
          || rule.rule().drawsFromColumn()
          || rule.rule().token().isPresent()
          || !rule.rule().also().isEmpty()) {
        throw rule.place()
            .problem(Failure.RULE_UNFIT, "the mask of a path inside a column depends on the row")
            .because("a path may stand several times in one row, or not at all")
            .remedy(
                "use a mask of the value alone: as, list, pattern, fixed, digest …; or keyed-by:"
                    + " with a column, or another path of the column ($.postcode)");
      }
      paths
          .computeIfAbsent(column, c -> new LinkedHashMap<>())
          .put(rule.name().substring(path + 1), rule);
      return;
    }
    ColumnName column = lookup.column(rule.name(), rule.place().toString());
    named.put(column, rule);
    for (String other : rule.rule().together()) {
      String written = column.table() + "." + other;
      ColumnName moved = lookup.column(written, rule.rule().place().toString());
      ColumnRule before = together.put(moved, rule);
      if (before != null && before != rule) {
        throw rule.place()
            .problem(Failure.RULES_CONTRADICT, moved + " moves together with two others")
            .because("the first one is at " + before.place())
            .remedy("name all that move together in one rule");
      }
    }
  }

  /** Whether a rule names a column, or matches its name. */
  public boolean speakOf(ColumnName name) {
    return named.containsKey(name)
        || together.containsKey(name)
        || patterns.stream().anyMatch(pattern -> matches(pattern.name(), name));
  }

  /** A column's plan with the rule that holds for it, wherever it stands. */
  TablePlan.ColumnPlan planned(ColumnName name, TablePlan.ColumnPlan plan) {
    return planned(name, plan, false, why -> {});
  }

  /**
   * A column's plan with the rule that holds for it. What is said of its whole kind, that it is
   * fresh in each run or cleared, passes over columns of keys and links, and over those that must
   * hold a value.
   *
   * @param bound whether it is in a key or a link
   * @param spared is told what the rule of the kind asks for in vain
   */
  TablePlan.ColumnPlan planned(
      ColumnName name, TablePlan.ColumnPlan plan, boolean bound, Consumer<Sentence> spared) {
    if (!plan.masked()) {
      return plan;
    }
    MaskRule rule = MaskRule.NONE;
    if (named.containsKey(name)) {
      rule = rule.or(named.get(name).rule());
    } else if (together.containsKey(name)) {
      rule = rule.or(together.get(name).rule());
    }
    for (ColumnRule pattern : patterns) {
      if (matches(pattern.name(), name)) {
        rule = rule.or(pattern.rule());
      }
    }
    String kind = kind(rule, plan.kind());
    return new TablePlan.ColumnPlan(
        plan.column(),
        true,
        kind,
        whole(rule, kind, spared(rule, kind, plan, bound, spared)),
        planned(name, plan.paths()));
  }

  /** The rule of a kind as far as a column can follow it. */
  private MaskRule spared(
      MaskRule own,
      String kind,
      TablePlan.ColumnPlan plan,
      boolean bound,
      Consumer<Sentence> spared) {
    MaskRule ofKind = ofKinds.getOrDefault(kind, MaskRule.NONE);
    if (bound && ofKind.isFresh() && own.fresh() == null) {
      spared.accept(LimitWording.STAYS_THE_SAME.of());
      ofKind = ofKind.notFresh();
    }
    boolean clears =
        own.steps().isEmpty() && ofKind.steps().stream().anyMatch(Clear.class::isInstance);
    if (clears && (bound || !plan.column().nullable())) {
      spared.accept(
          LimitWording.NOT_CLEARED.of(
              (bound ? LimitWording.IN_KEY_OR_LINK : LimitWording.NEEDS_VALUE).of()));
      ofKind = ofKind.withoutSteps().notFresh();
    }
    return ofKind;
  }

  /** The kind that a rule masks something as. */
  private String kind(MaskRule rule, String otherwise) {
    return isAs(rule) ? kinds.maskedAs(((As) rule.steps().get(0)).kind()) : otherwise;
  }

  private static boolean isAs(MaskRule rule) {
    return rule.steps().size() == 1 && rule.steps().get(0) instanceof As;
  }

  /** A rule with what the one of the kind adds to it. */
  private MaskRule whole(MaskRule rule, String kind, MaskRule ofKind) {
    return (isAs(rule) ? rule.withoutSteps() : rule).or(ofKind);
  }

  private Map<String, TablePlan.PathPlan> planned(
      ColumnName name, Map<String, TablePlan.PathPlan> plans) {
    Map<String, TablePlan.PathPlan> planned = new LinkedHashMap<>(plans);
    paths
        .getOrDefault(name, Map.of())
        .forEach(
            (path, rule) ->
                planned.computeIfPresent(
                    path,
                    (p, plan) -> {
                      String kind = kind(rule.rule(), plan.kind());
                      return plan.masked()
                          ? new TablePlan.PathPlan(
                              true,
                              kind,
                              whole(rule.rule(), kind, ofKinds.getOrDefault(kind, MaskRule.NONE)))
                          : plan;
                    }));
    return planned;
  }

  /** Whether a rule says by which mask the column of a name is masked. */
  static boolean says(ColumnRule rule, String name) {
    return !rule.rule().steps().isEmpty()
        && (rule.isPattern() ? matches(rule.name(), name) : rule.name().equalsIgnoreCase(name));
  }

  /**
   * What masks the column or path of a register's line, where the project says more of it than its
   * kind: told from names alone, so that nobody need ask the database.
   */
  public static Optional<Ruled> ruled(Conventions conventions, RegisterLine line) {
    if (line.decision() != Decision.MASK) {
      return Optional.empty();
    }
    MaskRule rule = MaskRule.NONE;
    for (ColumnRule one : conventions.columns()) {
      if (!one.isPattern() && one.name().equalsIgnoreCase(line.column())) {
        rule = rule.or(one.rule());
      }
    }
    for (ColumnRule pattern : new ColumnRules(conventions).patterns) {
      if (matches(pattern.name(), line.column())) {
        rule = rule.or(pattern.rule());
      }
    }
    rule = rule.or(conventions.masks().getOrDefault(line.kind(), MaskRule.NONE));
    return rule.isNone() || rule.place() == null
        ? Optional.empty()
        : Optional.of(
            new Ruled(
                rule.words(line.kind().isEmpty() ? Kinds.SHAPE : line.kind()),
                rule.place().toString()));
  }

  /**
   * What masks a column, in a few words, and where the project says so.
   *
   * @param place {@code file:line:column}
   */
  public record Ruled(String words, String place) {}

  private static boolean matches(String pattern, ColumnName name) {
    return matches(pattern, name.table().name() + "." + name.column());
  }

  private static boolean matches(String pattern, String name) {
    String regex =
        List.of(pattern.split("\\*", -1)).stream()
            .map(Pattern::quote)
            .collect(Collectors.joining(".*"));
    return Pattern.compile(regex, Pattern.CASE_INSENSITIVE).matcher(name).matches();
  }

  /**
   * Refuses rules for columns that the register keeps, and patterns of the project file that speak
   * of no column. Of what is not decided yet nothing is said.
   */
  void checkDecided(Plan plan, Decisions decisions) {
    named.forEach((column, rule) -> checkDecided(plan, decisions, column, rule));
    together.forEach((column, rule) -> checkDecided(plan, decisions, column, rule));
    paths.forEach(
        (column, rules) ->
            rules.forEach((path, rule) -> checkPath(plan, decisions, column, path, rule)));
    for (ColumnRule pattern : patterns) {
      boolean speaks =
          plan.tables().stream()
              .anyMatch(
                  table ->
                      table.columns().stream()
                          .anyMatch(c -> matches(pattern.name(), table.table().name(c.column()))));
      if (!speaks && pattern.place().file().equals(Project.FILE)) {
        throw pattern
            .place()
            .problem(Failure.COLUMN_UNKNOWN, "no column is named like " + pattern.name())
            .remedy("write * for what differs: '*.name' is the column name of every table");
      }
    }
  }

  private static void checkPath(
      Plan plan, Decisions decisions, ColumnName name, String path, ColumnRule rule) {
    if (!checkDecided(plan, decisions, name, rule)) {
      return;
    }
    Map<String, TablePlan.PathPlan> known = plan.table(name.table()).column(name.column()).paths();
    if (!known.containsKey(path)) {
      throw rule.place()
          .problem(Failure.REGISTER_COLUMN, "the register has no line for " + name + " " + path)
          .remedy(
              known.isEmpty()
                  ? "look for paths with yemble survey"
                  : Nearest.hint(path, known.keySet()));
    }
    if (!known.get(path).masked()) {
      throw rule.place()
          .problem(
              Failure.RULE_OF_KEPT_COLUMN,
              "this says how " + name + " " + path + " is masked, and the register keeps it")
          .remedy(
              "decide with yemble register mask \"" + name + " " + path + "\", or delete the rule");
    }
  }

  /** Whether a column is decided, and masked; a problem if it is kept. */
  private static boolean checkDecided(
      Plan plan, Decisions decisions, ColumnName name, ColumnRule rule) {
    TablePlan.ColumnPlan column = plan.table(name.table()).column(name.column());
    if (column == null) {
      throw rule.place()
          .problem(Failure.RULE_UNFIT, "nothing is ever written to " + name)
          .because("the database computes it")
          .remedy("say how the columns are masked that it is computed from");
    }
    RegisterLine line = decisions.column(name);
    if (line == null || line.decision() == Decision.UNDECIDED) {
      return false;
    }
    if (!column.masked()) {
      throw rule.place()
          .problem(
              Failure.RULE_OF_KEPT_COLUMN,
              "this says how " + name + " is masked, and the register keeps it")
          .remedy("decide with yemble register mask " + name + ", or delete the rule");
    }
    return true;
  }
}
