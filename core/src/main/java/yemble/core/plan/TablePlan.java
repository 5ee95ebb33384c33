package yemble.core.plan;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import yemble.core.kind.Kinds;
import yemble.core.mask.MaskRule;
import yemble.core.mask.step.As;
import yemble.core.mask.step.In;
import yemble.core.mask.step.MaskStep;
import yemble.core.mask.step.UnknownPaths;
import yemble.core.schema.Column;
import yemble.core.schema.Table;

/**
 * What happens to the columns of a table.
 *
 * @param columns those that are written, in the order of {@link Table#written()}
 */
public record TablePlan(Table table, List<ColumnPlan> columns) {
  public TablePlan {
    columns = List.copyOf(columns);
  }

  /**
   * A column.
   *
   * @param masked whether its values are replaced
   * @param kind the kind whose mask does it; an empty string for the mask that keeps the shape
   * @param rule how it is masked, where that is not how the kind is; {@link MaskRule#NONE} else
   * @param paths of a JSON column: what becomes of each settled path
   * @param pins the list and the heading that give some rows a stand-in; empty without
   */
  public record ColumnPlan(
      Column column,
      boolean masked,
      String kind,
      MaskRule rule,
      Map<String, PathPlan> paths,
      String pins) {
    public ColumnPlan {
      paths = Map.copyOf(paths);
    }

    /** Without stand-ins. */
    public ColumnPlan(
        Column column, boolean masked, String kind, MaskRule rule, Map<String, PathPlan> paths) {
      this(column, masked, kind, rule, paths, "");
    }

    /** The same under another rule. */
    ColumnPlan with(MaskRule other) {
      return new ColumnPlan(column, masked, kind, other, paths, pins);
    }

    /** The same with stand-ins. */
    ColumnPlan pinned(String list, String field) {
      return new ColumnPlan(column, masked, kind, rule, paths, list + "/" + field);
    }

    /** The same without stand-ins. */
    ColumnPlan unpinned() {
      return new ColumnPlan(column, masked, kind, rule, paths, "");
    }

    /** Whether some rows have an agreed stand-in here. */
    public boolean isPinned() {
      return !pins.isEmpty();
    }

    /** Whether the mask reads the whole row and its parents. */
    public boolean isText() {
      return masked && kind.equals(Kinds.TEXT) && isSettingsOnly();
    }

    /** Whether it is masked path by path. */
    public boolean isJson() {
      return masked && kind.equals(Kinds.JSON) && isSettingsOnly();
    }

    /** Whether a rule has no steps but such as tell the kind's own mask how it goes about. */
    private boolean isSettingsOnly() {
      return rule.cases().isEmpty()
          && rule.steps().stream().allMatch(step -> step.sort().sets(kind));
    }

    /** Whether it is JSON that holds free text, which is masked by its row and its parents. */
    public boolean holdsText() {
      return isJson()
          && paths.values().stream()
              .anyMatch(path -> path.masked() && path.kind().equals(Kinds.TEXT));
    }

    /** Whether what it becomes depends on what a text may mention. */
    public boolean readsMentions() {
      return isText() || holdsText() || isTextInPlaces();
    }

    /** Whether a rule masks the values of some rows as free text. */
    public boolean isTextInPlaces() {
      return masked
          && !isText()
          && !isJson()
          && (rule.steps().contains(new As(Kinds.TEXT))
              || rule.steps().stream()
                  .anyMatch(step -> step instanceof In in && in.step().equals(new As(Kinds.TEXT)))
              || rule.cases().stream().anyMatch(one -> one.kind().equals(Kinds.TEXT)));
    }

    /**
     * The same in the rows of a condition.
     *
     * @param when as a case has it, spaces apart
     * @return empty if no case has it
     */
    Optional<ColumnPlan> in(String when) {
      String wanted = when.replaceAll("\\s+", " ").strip();
      return rule.cases().stream()
          .filter(one -> !one.when().isEmpty())
          .filter(one -> one.when().replaceAll("\\s+", " ").strip().equals(wanted))
          .findFirst()
          .map(
              one ->
                  new ColumnPlan(
                      column,
                      !one.kept(),
                      one.kind(),
                      one.kind().isEmpty() ? one.rule() : one.rule().withoutSteps(),
                      Map.of()));
    }

    /** Whether a rule makes its values depend on more of the row, texts apart. */
    public boolean readsRow() {
      return rule.readsRow() || hasPathsKeyedByColumn();
    }

    /** Whether what stands at a path depends on another column of the row. */
    private boolean hasPathsKeyedByColumn() {
      return isJson()
          && paths.values().stream()
              .map(path -> path.rule().keyedBy())
              .anyMatch(by -> !by.isEmpty() && !by.startsWith("$"));
    }

    /** Whether JSON stops the run by a path that the register does not know. */
    public boolean stopsAtUnknownPaths() {
      return isJson() && rule.steps().contains(new UnknownPaths(true));
    }

    /** Whether equal values become equal ones, in every row and every column masked like this. */
    public boolean isOfValueAlone() {
      return masked && !isText() && !isJson() && !rule.readsRow() && !isPinned();
    }

    /** Whether another column is masked the same way, so that equal values agree. */
    public boolean agreesWith(ColumnPlan other) {
      return masked == other.masked
          && kind.equals(other.kind)
          && rule.decides().equals(other.rule.decides());
    }

    /**
     * All that {@link #agreesWith} looks at, as a text; not to be shown: it may hold a password.
     */
    public String agreement() {
      return kind + "\n" + rule.decides();
    }

    /** What masks it, in a few words. */
    public String by() {
      String mask =
          isText() || isJson()
              ? rule.withSteps(settled()).words(kindName())
              : rule.words(kindName());
      return isPinned() ? mask + "; stand-ins of " + pins.split("/")[0] : mask;
    }

    /** The kind's own mask as a step before those that tell it how it goes about; none without. */
    private List<MaskStep> settled() {
      List<MaskStep> steps = new ArrayList<>(rule.steps());
      if (!steps.isEmpty()) {
        steps.add(0, new As(kind));
      }
      return steps;
    }

    /** The kind, or the word for none. */
    public String kindName() {
      return kind.isEmpty() ? Kinds.SHAPE : kind;
    }
  }

  /**
   * What becomes of the values at a path inside a JSON column.
   *
   * @param masked whether they are replaced
   * @param kind as of a column
   * @param rule as of a column
   */
  public record PathPlan(boolean masked, String kind, MaskRule rule) {
    /** A path that stays. */
    public static final PathPlan KEPT = new PathPlan(false, "", MaskRule.NONE);
  }

  /** The positions of the masked columns among those that are written. */
  public int[] masked() {
    return IntStream.range(0, columns.size()).filter(i -> columns.get(i).masked()).toArray();
  }

  /** Whether a column holds free text that is masked by its row and the rows it belongs to. */
  public boolean hasText() {
    return columns.stream().anyMatch(ColumnPlan::readsMentions);
  }

  /** Whether a rule of the project reads more of the row than the value. */
  public boolean hasRowRules() {
    return columns.stream().anyMatch(column -> column.masked() && column.readsRow());
  }

  /** The position of a written column; -1 if it is not written. */
  public int position(String column) {
    return IntStream.range(0, columns.size())
        .filter(i -> columns.get(i).column().name().equals(column))
        .findFirst()
        .orElse(-1);
  }

  /** The plan of a column by its exact name; null for one that is not written. */
  public ColumnPlan column(String name) {
    int position = position(name);
    return position < 0 ? null : columns.get(position);
  }
}
