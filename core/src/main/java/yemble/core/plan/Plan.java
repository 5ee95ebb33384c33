package yemble.core.plan;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Predicate;
import yemble.core.kind.Kinds;
import yemble.core.mask.MaskRule;
import yemble.core.mask.step.Among;
import yemble.core.mask.step.In;
import yemble.core.mask.step.MaskStep;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.pin.PinnedRows;
import yemble.core.pin.Pins;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Outline;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.subset.Request;
import yemble.core.subset.Rule;
import yemble.core.wording.Sentence;

/** What a job does to every column: made from the register, checked against the links. */
public final class Plan {
  /** Of two values one could but become the other. */
  private static final int FEWEST = 3;

  private final Schema schema;
  private final Request request;
  private final Pins pins;
  private final Map<TableName, PinnedRows> pinned = new ConcurrentHashMap<>();
  private final Map<ColumnName, Sentence> spared;
  private final Map<TableName, TablePlan> tables = new LinkedHashMap<>();

  private Plan(Schema schema, Request request, Pins pins, Map<ColumnName, Sentence> spared) {
    this.spared = spared;
    this.schema = schema;
    this.request = request;
    this.pins = pins;
  }

  /**
   * The plan of a request.
   *
   * @param decisions of every column of the schema, as {@link Gate#pass} returns them
   * @param rules of the project for columns and kinds
   * @throws Problem of type USAGE if a link joins columns that would no longer agree, or a rule
   *     cannot hold for its column
   */
  public static Plan of(Schema schema, Request request, Decisions decisions, ColumnRules rules) {
    Plan plan = loose(schema, request, decisions, rules);
    request.rules().forEach(plan::checkLink);
    return plan;
  }

  /** The plan as far as the register goes: what is open is kept, links are not checked. */
  public static Plan loose(Schema schema, Request request, Decisions decisions, ColumnRules rules) {
    Plan plan = new Plan(schema, request, Pins.NONE, new HashMap<>());
    for (Table table : schema.tables()) {
      plan.tables.put(
          table.name(),
          loose(
              table,
              decisions,
              rules,
              column -> table.inKey(column) || request.isLinked(table.name(), column),
              plan.spared));
    }
    rules.checkDecided(plan, decisions);
    plan.tables.values().forEach(table -> RuleCheck.of(table, request));
    return plan;
  }

  /** The plan of a table, as far as the register goes. */
  static TablePlan loose(Table table, Decisions decisions, ColumnRules rules) {
    return loose(table, decisions, rules, table::inKey, new HashMap<>());
  }

  private static TablePlan loose(
      Table table,
      Decisions decisions,
      ColumnRules rules,
      Predicate<String> isBound,
      Map<ColumnName, Sentence> spared) {
    List<TablePlan.ColumnPlan> columns = new ArrayList<>();
    for (Column column : table.written()) {
      RegisterLine line = decisions.column(table.name(column));
      boolean masked = line != null && line.decision() == Decision.MASK;
      columns.add(
          rules.planned(
              table.name(column),
              new TablePlan.ColumnPlan(
                  column,
                  masked,
                  masked ? decisions.maskedAs(line) : "",
                  MaskRule.NONE,
                  decisions.pathPlans(table.name(column))),
              isBound.test(column.name()),
              why -> spared.put(table.name(column), why)));
    }
    return new TablePlan(table, columns);
  }

  /**
   * The same with what the source knows of columns: the values that masks draw from, those of the
   * column where a rule says so, and those that are all a column can hold where no rule says
   * anything; and the ends of what numbers and days may be moved to.
   */
  public Plan withValues(Reader source) {
    Plan plan = new Plan(schema, request, pins, spared);
    Outline outline = source.outline();
    tables.forEach((name, table) -> plan.tables.put(name, withValues(source, outline, table)));
    return plan;
  }

  /**
   * The same with agreed stand-ins.
   *
   * @param strict whether a column that takes one must be masked already
   * @throws Problem of type USAGE if a column cannot take any
   */
  public Plan with(Pins given, boolean strict) {
    Plan plan = new Plan(schema, request, given, spared);
    tables.forEach(
        (name, table) ->
            plan.tables.put(
                name,
                new TablePlan(
                    table.table(),
                    table.columns().stream()
                        .map(column -> pinned(table, column, given))
                        .toList())));
    if (strict) {
      given.columns().forEach((column, what) -> PinCheck.of(plan, column, what));
    }
    return plan;
  }

  private static TablePlan.ColumnPlan pinned(
      TablePlan table, TablePlan.ColumnPlan column, Pins given) {
    return given
        .of(table.table().name(column.column()))
        .filter(what -> column.masked())
        .map(what -> column.pinned(what.list().name(), what.give().field()))
        .orElse(column.isPinned() ? column.unpinned() : column);
  }

  /**
   * Which lines the selected rows of a table are about: looked up once for all who ask.
   *
   * @param selected all rows that anybody will ask about
   */
  PinnedRows pinnedRows(Reader source, TableName table, RowSet selected) {
    return pinned.computeIfAbsent(table, t -> PinnedRows.indexed(source, pins, t, selected));
  }

  /** What is asked of a column's whole kind, and not done to it; empty for nothing. */
  public Optional<Sentence> spared(ColumnName column) {
    return Optional.ofNullable(spared.get(column));
  }

  /** The agreed stand-ins. */
  public Pins pins() {
    return pins;
  }

  /**
   * The same with columns that are masked in some rows alone.
   *
   * @param conditions by the columns, in the words of the source
   */
  public Plan within(Map<ColumnName, String> conditions) {
    Plan plan = new Plan(schema, request, pins, spared);
    tables.forEach(
        (name, table) ->
            plan.tables.put(
                name,
                new TablePlan(
                    table.table(),
                    table.columns().stream()
                        .map(
                            column -> {
                              String rows = conditions.get(table.table().name(column.column()));
                              return rows == null
                                  ? column
                                  : column.with(column.rule().within(rows));
                            })
                        .toList())));
    return plan;
  }

  /** The columns of rows that a table's rows belong to whose values its free texts may mention. */
  public Set<ColumnName> mentionable(TableName table) {
    return RowMentions.mentionable(this, table);
  }

  private TablePlan withValues(Reader source, Outline outline, TablePlan table) {
    Optional<Outline.TableOutline> known = outline.table(table.table().name());
    return new TablePlan(
        table.table(),
        table.columns().stream()
            .map(
                column ->
                    column.masked() && column.rule().drawsFromColumn()
                        ? column.with(
                            ColumnValues.known(
                                source, table.table(), column.column(), column.rule()))
                        : known
                            .map(of -> bounded(of, amongItsOwn(table.table(), of, column)))
                            .orElse(column))
            .toList());
  }

  /**
   * A column of no link, with the values that are all it can hold, if its kind has no closer mask.
   */
  private TablePlan.ColumnPlan amongItsOwn(
      Table table, Outline.TableOutline outline, TablePlan.ColumnPlan column) {
    boolean open =
        column.masked()
            && column.rule().steps().isEmpty()
            && column.rule().cases().isEmpty()
            && !column.isText()
            && !column.isJson()
            && !Kinds.BUILT_IN.of(column.kind()).map(kind -> kind.original().stays()).orElse(false)
            && !request.isLinked(table.name(), column.column().name());
    List<String> labels = open ? Domains.of(outline, column.column()) : List.of();
    return labels.size() < FEWEST
        ? column
        : column.with(column.rule().withSteps(List.of(new Among(column.kind(), labels))));
  }

  /** A column whose rule moves numbers or days, between those that its conditions allow. */
  private static TablePlan.ColumnPlan bounded(
      Outline.TableOutline outline, TablePlan.ColumnPlan column) {
    boolean moves = column.masked() && column.rule().steps().stream().anyMatch(Plan::isBounded);
    if (!moves) {
      return column;
    }
    Domains.Bounds bounds = Domains.bounds(outline, column.column());
    return column.with(column.rule().bounded(bounds.least(), bounds.most()));
  }

  private static boolean isBounded(MaskStep step) {
    return step instanceof In in ? isBounded(in.step()) : step.sort().isBounded();
  }

  public Schema schema() {
    return schema;
  }

  public Request request() {
    return request;
  }

  /** The plan of every table, in the order of the schema. */
  public Collection<TablePlan> tables() {
    return tables.values();
  }

  public TablePlan table(TableName name) {
    return tables.get(name);
  }

  private void checkLink(Rule rule) {
    if (rule.cut()) {
      return;
    }
    TablePlan child = tables.get(rule.link().child());
    TablePlan parent = tables.get(rule.link().parent());
    for (int i = 0; i < rule.link().childColumns().size(); i++) {
      TablePlan.ColumnPlan whole = child.column(rule.link().childColumns().get(i));
      TablePlan.ColumnPlan from =
          whole == null ? null : whole.in(rule.link().condition()).orElse(whole);
      TablePlan.ColumnPlan to = parent.column(rule.link().parentColumns().get(i));
      if (from == null || to == null) {
        continue;
      }
      if (!from.agreesWith(to)) {
        throw Problem.of(Failure.LINK_WOULD_BREAK, "the link " + rule.link() + " would break")
            .at(rule.place().isEmpty() ? "the register" : rule.place())
            .because(
                said(child, from) + ", and " + said(parent, to) + ": equal values would differ")
            .remedy("decide alike for both columns, with the same kind");
      }
    }
  }

  private static String said(TablePlan table, TablePlan.ColumnPlan column) {
    return table.table().name(column.column())
        + (column.masked() ? " is masked as " + column.by() : " is kept");
  }
}
