package yemble.core.mask;

import java.math.BigDecimal;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Pattern;
import yemble.core.kind.Kinds;
import yemble.core.mask.step.As;
import yemble.core.mask.step.Clear;
import yemble.core.mask.step.In;
import yemble.core.mask.step.MaskStep;
import yemble.core.mask.step.Own;
import yemble.core.mask.step.StepSort;
import yemble.core.mask.step.Steps;
import yemble.core.own.OwnMasks;
import yemble.core.problem.Failure;
import yemble.core.row.Empty;
import yemble.core.yaml.Place;
import yemble.core.yaml.YamlValue;

/** Reads what stands behind a kind under {@code masks:} or a column under {@code columns:}. */
public final class MaskRuleReader {
  private static final String STEPS = "steps";
  private static final String CASES = "cases";
  private static final String FOLLOW = "follow-names";
  private static final String LEAST = "min";
  private static final String MOST = "max";
  private static final String DIALABLE = "dialable";
  private static final String LOGIN_LENGTH = "login-length";

  /** What stands beside a step. */
  public static final Set<String> OPTIONS =
      Set.of(
          "scope",
          "keyed-by",
          In.WORD,
          "fresh",
          FOLLOW,
          "also",
          LEAST,
          MOST,
          DIALABLE,
          LOGIN_LENGTH,
          CASES,
          STEPS);

  private static final String KEEP = "keep";
  private static final String ELSE = "else";

  /** What may stand in a case beside a step. */
  private static final Set<String> OF_CASE = Set.of(In.WORD, ELSE, KEEP, "scope", "fresh", STEPS);

  /** Where a number or a day ends. */
  private static final Pattern BOUND =
      Pattern.compile("-?[0-9]{1,30}(\\.[0-9]{1,20})?|[0-9]{4}-[0-9]{2}-[0-9]{2}");

  private static final Pattern DAY = Pattern.compile("[0-9]{4}-[0-9]{2}-[0-9]{2}");
  private static final int SHORTEST_LOGIN = 4;
  private static final int MOST_LOGIN = 64;

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
    if (fields.containsKey(CASES)) {
      if (fields.size() > 1) {
        throw body.place()
            .problem(Failure.MASK_RULE, "cases say all that becomes of a column")
            .remedy("write what stands beside cases: into each of them");
      }
      return cases(fields.get(CASES), body.place());
    }
    List<MaskStep> made = steps(fields, body);
    MaskRule rule =
        new MaskRule(
            made,
            fields.containsKey("scope") ? fields.get("scope").word() : "",
            fields.containsKey("keyed-by") ? fields.get("keyed-by").word() : "",
            fields.containsKey("when") ? fields.get("when").word() : "",
            fields.containsKey("fresh") ? (Boolean) fields.get("fresh").flag() : null,
            settings(fields),
            List.of(),
            fields.containsKey("also") ? also(fields.get("also")) : Set.of(),
            body.place());
    if (rule.token().isPresent()
        && (rule.steps().size() > 1
            || !rule.scope().isEmpty()
            || !rule.keyedBy().isEmpty()
            || rule.fresh() != null
            || !rule.settings().equals(Settings.NONE)
            || !rule.also().isEmpty())) {
      throw body.place()
          .problem(Failure.MASK_RULE, "a token is made of the value alone, under the store's key")
          .because("else it could not lead back; only when: may stand beside it")
          .remedy("take steps, scope, keyed-by, fresh, follow-names and also out");
    }
    if (rule.settings().isBounded()
        && rule.steps().stream().noneMatch(step -> step.sort().isBounded())) {
      throw body.place()
          .problem(Failure.MASK_RULE, "min: and max: say where numbers and days stay")
          .because("nothing here moves any")
          .remedy("put them beside noise, range, plus or shift");
    }
    if (rule.isNone()) {
      throw body.place()
          .problem(Failure.MASK_RULE, "which mask? Nothing is said here")
          .remedy("say how: { as: KIND }, { pattern: … }, { list: … }; see the reference");
    }
    return rule;
  }

  private List<MaskStep> steps(Map<String, YamlValue> fields, YamlValue body) {
    List<MaskStep> made = new ArrayList<>();
    if (fields.containsKey(STEPS)) {
      Set<String> words = new TreeSet<>(steps);
      words.add(In.WORD);
      for (YamlValue step : fields.get(STEPS).items()) {
        made.add(step.isMapping() ? only(new TreeMap<>(step.fields(words)), step) : word(step));
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
    return made;
  }

  private static Settings settings(Map<String, YamlValue> fields) {
    String least = bound(fields.get(LEAST));
    String most = bound(fields.get(MOST));
    if (!least.isEmpty() && !most.isEmpty() && isAbove(least, most)) {
      throw fields
          .get(MOST)
          .place()
          .problem(Failure.VALUE_FORM, "max: is above min:, both numbers or both days")
          .remedy("write the smaller one behind min:");
    }
    int login = 0;
    if (fields.containsKey(LOGIN_LENGTH)) {
      long said = fields.get(LOGIN_LENGTH).number(SHORTEST_LOGIN);
      if (said > MOST_LOGIN) {
        throw fields
            .get(LOGIN_LENGTH)
            .place()
            .problem(Failure.VALUE_FORM, "a login has at most " + MOST_LOGIN + " characters");
      }
      login = (int) said;
    }
    return new Settings(
        fields.containsKey(FOLLOW) ? (Boolean) fields.get(FOLLOW).flag() : null,
        least,
        most,
        fields.containsKey(DIALABLE) ? (Boolean) fields.get(DIALABLE).flag() : null,
        login);
  }

  private static String bound(YamlValue value) {
    if (value == null) {
      return "";
    }
    if (!BOUND.matcher(value.word()).matches()) {
      throw value
          .place()
          .problem(Failure.VALUE_FORM, "expected a number or a day here")
          .remedy("write it as 100, 0.5 or '2026-01-31'");
    }
    return value.word();
  }

  private static boolean isAbove(String least, String most) {
    boolean days = DAY.matcher(least).matches();
    if (days != DAY.matcher(most).matches()) {
      return true;
    }
    return days
        ? least.compareTo(most) >= 0
        : new BigDecimal(least).compareTo(new BigDecimal(most)) >= 0;
  }

  /** What holds in which rows; a last case without a condition is added if there is none. */
  private MaskRule cases(YamlValue list, Place place) {
    List<MaskRule.Case> cases = new ArrayList<>();
    for (YamlValue item : list.items()) {
      if (!cases.isEmpty() && cases.get(cases.size() - 1).when().isEmpty()) {
        throw item.place()
            .problem(Failure.MASK_RULE, "nothing comes behind else:")
            .remedy("put it before else:");
      }
      cases.add(oneCase(item));
    }
    if (cases.isEmpty() || cases.get(0).when().isEmpty()) {
      throw list.place()
          .problem(Failure.MASK_RULE, "cases begin with a condition")
          .remedy("write - { when: \"field = 3\", as: phone }");
    }
    if (!cases.get(cases.size() - 1).when().isEmpty()) {
      cases.add(new MaskRule.Case("", false, MaskRule.of(List.of(new As("")), place)));
    }
    return new MaskRule(List.of(), "", "", "", null, Settings.NONE, cases, Set.of(), place);
  }

  private MaskRule.Case oneCase(YamlValue item) {
    Set<String> words = new TreeSet<>(steps);
    words.addAll(OF_CASE);
    Map<String, YamlValue> fields = new TreeMap<>(item.fields(words));
    YamlValue otherwise = fields.remove(ELSE);
    YamlValue when = fields.remove(In.WORD);
    if ((otherwise == null) == (when == null) || (otherwise != null && !fields.isEmpty())) {
      throw item.place()
          .problem(Failure.MASK_RULE, "a case says when: and a mask, the last one else: alone")
          .remedy("write - { when: \"field = 3\", as: phone } and - { else: note }");
    }
    if (otherwise != null) {
      return otherwise.isMapping()
          ? of("", new TreeMap<>(otherwise.fields(words)), otherwise)
          : otherwise.word().equals(KEEP)
              ? new MaskRule.Case("", true, MaskRule.NONE)
              : new MaskRule.Case(
                  "", false, MaskRule.of(List.of(word(otherwise)), otherwise.place()));
    }
    return of(when.word(), fields, item);
  }

  private MaskRule.Case of(String when, Map<String, YamlValue> fields, YamlValue item) {
    YamlValue keep = fields.remove(KEEP);
    if (keep != null && keep.flag() && fields.isEmpty()) {
      return new MaskRule.Case(when, true, MaskRule.NONE);
    }
    List<MaskStep> made = keep == null ? steps(fields, item) : List.of();
    MaskRule rule =
        new MaskRule(
            made,
            fields.containsKey("scope") ? fields.get("scope").word() : "",
            "",
            "",
            fields.containsKey("fresh") ? (Boolean) fields.get("fresh").flag() : null,
            Settings.NONE,
            List.of(),
            Set.of(),
            item.place());
    if (made.isEmpty() || !isOfValueAlone(rule)) {
      throw item.place()
          .problem(Failure.MASK_RULE, "a case has a mask of the value alone, or keep: true")
          .remedy("take as, list, pattern, fixed, clear, digest, noise, shift, range …");
    }
    return new MaskRule.Case(when, false, rule);
  }

  private static boolean isOfValueAlone(MaskRule rule) {
    return !rule.readsRow() && rule.token().isEmpty() && !rule.drawsFromColumn();
  }

  private MaskStep only(Map<String, YamlValue> fields, YamlValue step) {
    YamlValue when = fields.remove(In.WORD);
    if (when != null && fields.size() == 1) {
      MaskStep made = only(fields, step);
      if (!isOfValueAlone(MaskRule.of(List.of(made), step.place()))) {
        throw step.place()
            .problem(Failure.MASK_RULE, "a step with when: is a mask of the value alone")
            .remedy("take as, list, pattern, fixed, clear, digest, noise, shift, range …");
      }
      return new In(made, when.word());
    }
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
