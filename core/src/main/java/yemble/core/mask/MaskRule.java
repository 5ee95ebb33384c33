package yemble.core.mask;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import yemble.core.kind.Kinds;
import yemble.core.mask.step.As;
import yemble.core.mask.step.Clear;
import yemble.core.mask.step.FromColumn;
import yemble.core.mask.step.In;
import yemble.core.mask.step.MaskStep;
import yemble.core.mask.step.Own;
import yemble.core.mask.step.Shift;
import yemble.core.mask.step.Token;
import yemble.core.row.Empty;
import yemble.core.yaml.Place;

/**
 * How the project wants a kind or a column masked, where that differs from what the kind does by
 * itself. What a rule leaves open the next less special one says.
 *
 * @param steps one after another; empty if nothing is said
 * @param scope whose columns agree; empty if nothing is said
 * @param keyedBy the column that the result depends on instead of the value; empty for none
 * @param when SQL of the source: only rows for which it is true are masked; empty for all
 * @param fresh whether results are others in each run; null if nothing is said
 * @param settings what else it says of the masks that it is made of
 * @param cases what holds in some rows instead of steps, the first one whose condition is true;
 *     empty for the same in all rows
 * @param also which cells without a value are masked, too; empty for none
 * @param place where it is said; null for {@link #NONE}
 */
public record MaskRule(
    List<MaskStep> steps,
    String scope,
    String keyedBy,
    String when,
    Boolean fresh,
    Settings settings,
    List<Case> cases,
    Set<Empty> also,
    Place place) {
  /** Nothing said. */
  public static final MaskRule NONE =
      new MaskRule(List.of(), "", "", "", null, Settings.NONE, List.of(), Set.of(), null);

  /**
   * What holds in the rows of a condition.
   *
   * @param when SQL of the source; empty for all rows that no case before it holds for
   * @param kept whether the value stays
   * @param rule of the value alone; {@link #NONE} if it stays
   */
  public record Case(String when, boolean kept, MaskRule rule) {
    /** What becomes of the value, in a few words. */
    String words() {
      return (kept ? "kept" : rule.words(Kinds.SHAPE)) + (when.isEmpty() ? " else" : " if " + when);
    }

    /** The kind that the values of its rows are masked as; empty if they stay, or have none. */
    public String kind() {
      return !kept && rule.steps.size() == 1 && rule.steps.get(0) instanceof As as ? as.kind() : "";
    }
  }

  public MaskRule {
    steps = List.copyOf(steps);
    cases = List.copyOf(cases);
    also = Set.copyOf(also);
  }

  /** A rule of steps alone. */
  public static MaskRule of(List<MaskStep> steps, Place place) {
    return new MaskRule(steps, "", "", "", null, Settings.NONE, List.of(), Set.of(), place);
  }

  /** This rule, and where it says nothing the other one. */
  public MaskRule or(MaskRule other) {
    return new MaskRule(
        steps.isEmpty() && cases.isEmpty() ? other.steps : steps,
        scope.isEmpty() ? other.scope : scope,
        keyedBy.isEmpty() ? other.keyedBy : keyedBy,
        when.isEmpty() ? other.when : when,
        fresh == null ? other.fresh : fresh,
        settings.or(other.settings),
        steps.isEmpty() && cases.isEmpty() ? other.cases : cases,
        also.isEmpty() ? other.also : also,
        place == null ? other.place : place);
  }

  /** The same without steps. */
  public MaskRule withoutSteps() {
    return withSteps(List.of());
  }

  /** The same with other steps. */
  public MaskRule withSteps(List<MaskStep> others) {
    return new MaskRule(others, scope, keyedBy, when, fresh, settings, cases, also, place);
  }

  /** The same without the first step. */
  public MaskRule withoutFirstStep() {
    return notKeyed().withSteps(steps.subList(1, steps.size()));
  }

  /** The same in those rows alone for which a condition is true, too. */
  public MaskRule within(String condition) {
    String both = when.isEmpty() ? condition : "(" + when + ") AND (" + condition + ")";
    return new MaskRule(steps, scope, keyedBy, both, fresh, settings, cases, also, place);
  }

  /** The same, of the value alone. */
  public MaskRule notKeyed() {
    return new MaskRule(
        steps, scope, "", "", fresh, settings.following(null), List.of(), also, place);
  }

  /** The same between two numbers or days where the rule says nothing of them itself. */
  public MaskRule bounded(String least, String most) {
    Settings bounded = settings.or(new Settings(null, least, most, null, 0));
    return new MaskRule(steps, scope, keyedBy, when, fresh, bounded, cases, also, place);
  }

  /** The same with one result in all runs, whatever is said of the kind. */
  public MaskRule notFresh() {
    return new MaskRule(steps, scope, keyedBy, when, false, settings, cases, also, place);
  }

  /** All conditions of rows that it names, each once. */
  public List<String> conditions() {
    return Stream.of(
            Stream.of(when),
            cases.stream().map(Case::when),
            steps.stream().filter(In.class::isInstance).map(step -> ((In) step).condition()))
        .flatMap(Function.identity())
        .filter(condition -> !condition.isEmpty())
        .distinct()
        .toList();
  }

  /** All that decides what a value becomes, as a text; not to be shown: it may hold a password. */
  public String decides() {
    return steps
        + "\n"
        + scope
        + "\n"
        + isFresh()
        + (settings.equals(Settings.NONE) ? "" : "\n" + settings)
        + cases.stream()
            .map(one -> "\n" + one.when + "\n" + one.kept + "\n" + one.rule.decides())
            .collect(Collectors.joining());
  }

  /** Whether it may leave a value of some rows as it is. */
  public boolean leavesRows() {
    return !when.isEmpty()
        || cases.stream().anyMatch(Case::kept)
        || (!steps.isEmpty() && steps.stream().allMatch(In.class::isInstance));
  }

  /** The same without what passes over keys and links where it is said of a whole kind. */
  MaskRule sparing() {
    boolean clears = steps.stream().anyMatch(Clear.class::isInstance);
    return new MaskRule(
        clears ? List.of() : steps, scope, keyedBy, when, null, settings, cases, also, place);
  }

  /** Whether it says that results are the same in each run. */
  boolean isSpared() {
    return Boolean.FALSE.equals(fresh);
  }

  /** Whether results are others in each run. */
  public boolean isFresh() {
    return Boolean.TRUE.equals(fresh);
  }

  /** Whether the names in an address or a login become what the names of the row become. */
  public boolean followsNames() {
    return Boolean.TRUE.equals(settings.followNames());
  }

  /** Whether it says nothing. */
  public boolean isNone() {
    return steps.isEmpty()
        && scope.isEmpty()
        && keyedBy.isEmpty()
        && when.isEmpty()
        && fresh == null
        && settings.equals(Settings.NONE)
        && cases.isEmpty()
        && also.isEmpty();
  }

  /** Whether the result depends on more of the row than the value. */
  public boolean readsRow() {
    return !keyedBy.isEmpty()
        || !when.isEmpty()
        || followsNames()
        || !cases.isEmpty()
        || steps.stream().anyMatch(MaskStep::readsRow);
  }

  /** Whether it ends with the same for every value. */
  public boolean isConstant() {
    return !steps.isEmpty()
        && steps.get(steps.size() - 1).sort().isConstant()
        && !(steps.get(steps.size() - 1) instanceof In);
  }

  /** Whether it draws from the values of its column. */
  public boolean drawsFromColumn() {
    return steps.stream().anyMatch(FromColumn.class::isInstance);
  }

  /** The masks of one's own among its steps. */
  public List<Own> own() {
    return Stream.concat(steps.stream(), cases.stream().flatMap(one -> one.rule().steps().stream()))
        .filter(Own.class::isInstance)
        .map(Own.class::cast)
        .toList();
  }

  /** The token that it makes, if it makes one. */
  public Optional<Token> token() {
    return steps.stream().filter(Token.class::isInstance).map(Token.class::cast).findFirst();
  }

  /** The columns that its dates move together with. */
  public List<String> together() {
    return steps.stream()
        .filter(Shift.class::isInstance)
        .flatMap(step -> ((Shift) step).together().stream())
        .toList();
  }

  /**
   * What does it, in a few words.
   *
   * @param kind whose mask it is if the rule names none
   */
  public String words(String kind) {
    List<String> words = new ArrayList<>();
    if (!cases.isEmpty()) {
      words.add(cases.stream().map(Case::words).collect(Collectors.joining(", ")));
    } else {
      words.add(
          steps.isEmpty()
              ? kind
              : steps.stream().map(MaskStep::words).collect(Collectors.joining(", ")));
    }
    if (!keyedBy.isEmpty()) {
      words.add("keyed by " + keyedBy);
    }
    if (followsNames()) {
      words.add("follows the row's names");
    }
    words.addAll(settings.words());
    if (!scope.isEmpty()) {
      words.add("scope " + scope);
    }
    if (!when.isEmpty()) {
      words.add("when " + when);
    }
    if (isFresh()) {
      words.add("fresh");
    }
    if (!also.isEmpty()) {
      words.add(
          "also "
              + also.stream()
                  .sorted()
                  .map(empty -> empty == Empty.NULL ? "NULL" : "empty")
                  .collect(Collectors.joining(" and ")));
    }
    return String.join("; ", words);
  }
}
