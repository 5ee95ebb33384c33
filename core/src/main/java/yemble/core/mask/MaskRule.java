package yemble.core.mask;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import yemble.core.mask.step.FromColumn;
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
 * @param followNames whether the names in an address or a login become what the names of the row
 *     become; null if nothing is said
 * @param also which cells without a value are masked, too; empty for none
 * @param place where it is said; null for {@link #NONE}
 */
public record MaskRule(
    List<MaskStep> steps,
    String scope,
    String keyedBy,
    String when,
    Boolean fresh,
    Boolean followNames,
    Set<Empty> also,
    Place place) {
  /** Nothing said. */
  public static final MaskRule NONE =
      new MaskRule(List.of(), "", "", "", null, null, Set.of(), null);

  public MaskRule {
    steps = List.copyOf(steps);
    also = Set.copyOf(also);
  }

  /** A rule of steps alone. */
  public static MaskRule of(List<MaskStep> steps, Place place) {
    return new MaskRule(steps, "", "", "", null, null, Set.of(), place);
  }

  /** This rule, and where it says nothing the other one. */
  public MaskRule or(MaskRule other) {
    return new MaskRule(
        steps.isEmpty() ? other.steps : steps,
        scope.isEmpty() ? other.scope : scope,
        keyedBy.isEmpty() ? other.keyedBy : keyedBy,
        when.isEmpty() ? other.when : when,
        fresh == null ? other.fresh : fresh,
        followNames == null ? other.followNames : followNames,
        also.isEmpty() ? other.also : also,
        place == null ? other.place : place);
  }

  /** The same without steps. */
  public MaskRule withoutSteps() {
    return withSteps(List.of());
  }

  /** The same with other steps. */
  public MaskRule withSteps(List<MaskStep> others) {
    return new MaskRule(others, scope, keyedBy, when, fresh, followNames, also, place);
  }

  /** The same without the first step. */
  public MaskRule withoutFirstStep() {
    return notKeyed().withSteps(steps.subList(1, steps.size()));
  }

  /** The same in those rows alone for which a condition is true, too. */
  public MaskRule within(String condition) {
    String both = when.isEmpty() ? condition : "(" + when + ") AND (" + condition + ")";
    return new MaskRule(steps, scope, keyedBy, both, fresh, followNames, also, place);
  }

  /** The same, of the value alone. */
  public MaskRule notKeyed() {
    return new MaskRule(steps, scope, "", "", fresh, null, also, place);
  }

  /** Whether results are others in each run. */
  public boolean isFresh() {
    return Boolean.TRUE.equals(fresh);
  }

  /** Whether the names in an address or a login become what the names of the row become. */
  public boolean followsNames() {
    return Boolean.TRUE.equals(followNames);
  }

  /** Whether it says nothing. */
  public boolean isNone() {
    return steps.isEmpty()
        && scope.isEmpty()
        && keyedBy.isEmpty()
        && when.isEmpty()
        && fresh == null
        && followNames == null
        && also.isEmpty();
  }

  /** Whether the result depends on more of the row than the value. */
  public boolean readsRow() {
    return !keyedBy.isEmpty()
        || !when.isEmpty()
        || followsNames()
        || steps.stream().anyMatch(MaskStep::readsRow);
  }

  /** Whether it ends with the same for every value. */
  public boolean isConstant() {
    return !steps.isEmpty() && steps.get(steps.size() - 1).sort().isConstant();
  }

  /** Whether it draws from the values of its column. */
  public boolean drawsFromColumn() {
    return steps.stream().anyMatch(FromColumn.class::isInstance);
  }

  /** The masks of one's own among its steps. */
  public List<Own> own() {
    return steps.stream().filter(Own.class::isInstance).map(Own.class::cast).toList();
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
    words.add(
        steps.isEmpty()
            ? kind
            : steps.stream().map(MaskStep::words).collect(Collectors.joining(", ")));
    if (!keyedBy.isEmpty()) {
      words.add("keyed by " + keyedBy);
    }
    if (followsNames()) {
      words.add("follows the row's names");
    }
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
