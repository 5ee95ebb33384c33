package yemble.core.project;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
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
 * @param place where it is said; null for {@link #NONE}
 */
public record MaskRule(
    List<MaskStep> steps, String scope, String keyedBy, String when, Boolean fresh, Place place) {
  /** Nothing said. */
  public static final MaskRule NONE = new MaskRule(List.of(), "", "", "", null, null);

  public MaskRule {
    steps = List.copyOf(steps);
  }

  /** This rule, and where it says nothing the other one. */
  public MaskRule or(MaskRule other) {
    return new MaskRule(
        steps.isEmpty() ? other.steps : steps,
        scope.isEmpty() ? other.scope : scope,
        keyedBy.isEmpty() ? other.keyedBy : keyedBy,
        when.isEmpty() ? other.when : when,
        fresh == null ? other.fresh : fresh,
        place == null ? other.place : place);
  }

  /** The same without steps. */
  public MaskRule withoutSteps() {
    return new MaskRule(List.of(), scope, keyedBy, when, fresh, place);
  }

  /** The same without the first step. */
  public MaskRule withoutFirstStep() {
    return new MaskRule(steps.subList(1, steps.size()), scope, "", "", fresh, place);
  }

  /** The same, of the value alone. */
  public MaskRule notKeyed() {
    return new MaskRule(steps, scope, "", "", fresh, place);
  }

  /** Whether results are others in each run. */
  public boolean isFresh() {
    return Boolean.TRUE.equals(fresh);
  }

  /** Whether it says nothing. */
  public boolean isNone() {
    return steps.isEmpty()
        && scope.isEmpty()
        && keyedBy.isEmpty()
        && when.isEmpty()
        && fresh == null;
  }

  /** Whether the result depends on more of the row than the value. */
  public boolean readsRow() {
    return !keyedBy.isEmpty()
        || !when.isEmpty()
        || steps.stream().anyMatch(MaskStep.Template.class::isInstance)
        || !together().isEmpty();
  }

  /** Whether it ends with the same for every value. */
  public boolean isConstant() {
    MaskStep last = steps.isEmpty() ? null : steps.get(steps.size() - 1);
    return last instanceof MaskStep.Fixed
        || last instanceof MaskStep.Clear
        || last instanceof MaskStep.Password;
  }

  /** The columns that its dates move together with. */
  public List<String> together() {
    return steps.stream()
        .filter(MaskStep.Shift.class::isInstance)
        .flatMap(step -> ((MaskStep.Shift) step).together().stream())
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
    if (!scope.isEmpty()) {
      words.add("scope " + scope);
    }
    if (!when.isEmpty()) {
      words.add("when " + when);
    }
    if (isFresh()) {
      words.add("fresh");
    }
    return String.join("; ", words);
  }
}
