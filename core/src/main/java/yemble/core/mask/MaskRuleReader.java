package yemble.core.mask;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import yemble.core.kind.Kinds;
import yemble.core.mask.step.As;
import yemble.core.mask.step.Clear;
import yemble.core.mask.step.MaskStep;
import yemble.core.mask.step.Own;
import yemble.core.mask.step.StepSort;
import yemble.core.mask.step.Steps;
import yemble.core.own.OwnMasks;
import yemble.core.problem.Failure;
import yemble.core.row.Empty;
import yemble.core.yaml.YamlValue;

/** Reads what stands behind a kind under {@code masks:} or a column under {@code columns:}. */
public final class MaskRuleReader {
  private static final String STEPS = "steps";

  /** What stands beside a step. */
  public static final Set<String> OPTIONS =
      Set.of("scope", "keyed-by", "when", "fresh", "follow-names", "also", STEPS);

  private final StepSort.Known known;

  /** All words that make a step. */
  private final Set<String> steps;

  /**
   * @param directory what paths of lists begin at
   * @param kinds those that are known
   * @param own the masks of one's own that are known
   */
  public MaskRuleReader(Path directory, Kinds kinds, OwnMasks own) {
    this.known = new StepSort.Known(directory, kinds, own);
    this.steps = new TreeSet<>(Steps.words());
    this.steps.addAll(own.all().keySet());
  }

  /** Whether a word has a meaning of its own here, so that nothing else can be called so. */
  public static boolean isTaken(String word) {
    return Steps.of(word).isPresent()
        || OPTIONS.contains(word)
        || word.equals(Kinds.SHAPE)
        || Kinds.BUILT_IN.of(word).isPresent();
  }

  /** A rule: words with values, or the name of a kind, {@code shape} or {@code clear} alone. */
  public MaskRule read(YamlValue body) {
    if (!body.isMapping()) {
      return MaskRule.of(List.of(word(body)), body.place());
    }
    Set<String> words = new TreeSet<>(steps);
    words.addAll(OPTIONS);
    Map<String, YamlValue> fields = body.fields(words);
    List<MaskStep> made = new ArrayList<>();
    if (fields.containsKey(STEPS)) {
      for (YamlValue step : fields.get(STEPS).items()) {
        made.add(step.isMapping() ? only(step.fields(steps), step) : word(step));
      }
    }
    for (String name : fields.keySet()) {
      if (steps.contains(name)) {
        made.add(step(name, fields.get(name)));
      }
    }
    if (made.size() > 1 && fields.keySet().stream().anyMatch(steps::contains)) {
      throw body.place()
          .problem(Failure.MASK_RULE, "two masks for one value")
          .remedy("keep one, or put them into an order: steps: [{ … }, { … }]");
    }
    MaskRule rule =
        new MaskRule(
            made,
            fields.containsKey("scope") ? fields.get("scope").word() : "",
            fields.containsKey("keyed-by") ? fields.get("keyed-by").word() : "",
            fields.containsKey("when") ? fields.get("when").word() : "",
            fields.containsKey("fresh") ? (Boolean) fields.get("fresh").flag() : null,
            fields.containsKey("follow-names") ? (Boolean) fields.get("follow-names").flag() : null,
            fields.containsKey("also") ? also(fields.get("also")) : Set.of(),
            body.place());
    if (rule.token().isPresent()
        && (rule.steps().size() > 1
            || !rule.scope().isEmpty()
            || !rule.keyedBy().isEmpty()
            || rule.fresh() != null
            || rule.followNames() != null
            || !rule.also().isEmpty())) {
      throw body.place()
          .problem(Failure.MASK_RULE, "a token is made of the value alone, under the store's key")
          .because("else it could not lead back; only when: may stand beside it")
          .remedy("take steps, scope, keyed-by, fresh, follow-names and also out");
    }
    if (rule.isNone()) {
      throw body.place()
          .problem(Failure.MASK_RULE, "which mask? Nothing is said here")
          .remedy("say how: { as: KIND }, { pattern: … }, { list: … }; see the reference");
    }
    return rule;
  }

  private MaskStep only(Map<String, YamlValue> fields, YamlValue step) {
    if (fields.size() != 1) {
      throw step.place()
          .problem(Failure.MASK_RULE, "a step is one mask")
          .remedy("write each as an item of its own");
    }
    return fields.entrySet().stream().map(e -> step(e.getKey(), e.getValue())).toList().get(0);
  }

  private MaskStep word(YamlValue word) {
    if (known.own().all().containsKey(word.word())) {
      return Own.read(word.word(), List.of(), word, known);
    }
    return word.word().equals(Clear.WORD) ? new Clear() : As.read(word, known);
  }

  private MaskStep step(String name, YamlValue value) {
    return Steps.of(name)
        .map(sort -> sort.reading().read(value, known))
        .orElseGet(() -> Own.read(name, value.entries(), value, known));
  }

  private static Set<Empty> also(YamlValue value) {
    Set<Empty> also = EnumSet.noneOf(Empty.class);
    (value.isList() ? value.items() : List.of(value))
        .forEach(one -> also.add(one.oneOf(Empty.class)));
    return also;
  }
}
