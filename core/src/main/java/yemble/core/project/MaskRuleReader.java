package yemble.core.project;

import java.math.BigDecimal;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import yemble.core.kind.Kinds;
import yemble.core.own.OwnMasks;
import yemble.core.pattern.FinitePattern;
import yemble.core.pattern.PatternProblem;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.yaml.YamlValue;

/** Reads what stands behind a kind under {@code masks:} or a column under {@code columns:}. */
final class MaskRuleReader {
  private static final Set<String> STEPS =
      Set.of(
          "as",
          "email-at",
          "list",
          "pattern",
          "fixed",
          "clear",
          "hidden",
          "password",
          "template",
          "token",
          "digest",
          "noise",
          "shift",
          "range",
          "replace",
          "filler",
          "from-column",
          "unknown-paths");
  private static final Set<String> OPTIONS =
      Set.of("scope", "keyed-by", "when", "fresh", "also", "steps");
  private static final Set<String> UNITS = Set.of("days", "hours", "minutes");
  private static final int MOST_SHIFTED = 36_500;
  private static final int MOST_TOKEN = 250;

  private final ListReader lists;
  private final Kinds kinds;
  private final OwnMasks own;

  /** All words that make a step. */
  private final Set<String> steps;

  /**
   * @param directory what paths of lists begin at
   * @param kinds those that are known
   * @param own the masks of one's own that are known
   */
  MaskRuleReader(Path directory, Kinds kinds, OwnMasks own) {
    this.lists = new ListReader(directory);
    this.kinds = kinds;
    this.own = own;
    this.steps = new TreeSet<>(STEPS);
    this.steps.addAll(own.all().keySet());
  }

  /** Whether a word has a meaning of its own here, so that nothing else can be called so. */
  static boolean isTaken(String word) {
    return STEPS.contains(word)
        || OPTIONS.contains(word)
        || word.equals(Kinds.SHAPE)
        || Kinds.BUILT_IN.of(word).isPresent();
  }

  /** A rule: words with values, or the name of a kind, {@code shape} or {@code clear} alone. */
  MaskRule read(YamlValue body) {
    if (!body.isMapping()) {
      return MaskRule.of(List.of(word(body)), body.place());
    }
    Set<String> known = new TreeSet<>(steps);
    known.addAll(OPTIONS);
    Map<String, YamlValue> fields = body.fields(known);
    List<MaskStep> made = new ArrayList<>();
    if (fields.containsKey("steps")) {
      for (YamlValue step : fields.get("steps").items()) {
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
            fields.containsKey("also") ? also(fields.get("also")) : Set.of(),
            body.place());
    if (rule.token().isPresent()
        && (rule.steps().size() > 1
            || !rule.scope().isEmpty()
            || !rule.keyedBy().isEmpty()
            || rule.fresh() != null
            || !rule.also().isEmpty())) {
      throw body.place()
          .problem(Failure.MASK_RULE, "a token is made of the value alone, under the store's key")
          .because("else it could not lead back; only when: may stand beside it")
          .remedy("take steps, scope, keyed-by, fresh and also out");
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
    if (own.all().containsKey(word.word())) {
      return own(word.word(), List.of(), word);
    }
    return word.word().equals("clear") ? new MaskStep.Clear() : as(word);
  }

  private MaskStep as(YamlValue word) {
    if (word.word().equals(Kinds.SHAPE)) {
      return new MaskStep.As("");
    }
    if (kinds.of(word.word()).isEmpty()) {
      Set<String> words = new TreeSet<>(kinds.names());
      words.add(Kinds.SHAPE);
      words.add("clear");
      throw word.place()
          .problem(Failure.KIND_UNKNOWN, "unknown kind \"" + word.word() + "\"")
          .remedy(Nearest.hint(word.word(), words, Kinds.SEE_ALL));
    }
    return new MaskStep.As(word.word());
  }

  private MaskStep step(String name, YamlValue value) {
    return switch (name) {
      case "as" -> as(value);
      case "email-at" -> mailAt(value);
      case "list" -> lists.list(value);
      case "pattern" -> new MaskStep.Patterned(patterns(value));
      case "fixed" -> new MaskStep.Fixed(value.text());
      case "clear" -> only(value, new MaskStep.Clear());
      case "hidden" -> hidden(value);
      case "password" -> new MaskStep.Password(value.word());
      case "template" -> TemplateReader.read(value);
      case "token" -> token(value);
      case "digest" -> digest(value);
      case "noise" -> noise(value);
      case "shift" -> shift(value);
      case "replace" -> lists.replace(value);
      case "filler" -> only(value, new MaskStep.Filler());
      case "from-column" -> new MaskStep.FromColumn(value.oneOf(Drawn.class) == Drawn.WEIGHTED);
      case "unknown-paths" -> new MaskStep.UnknownPaths(value.oneOf(Unknown.class) == Unknown.STOP);
      case "range" -> range(value);
      default -> own(name, value.entries(), value);
    };
  }

  private MaskStep own(
      String name, List<Map.Entry<YamlValue, YamlValue>> entries, YamlValue value) {
    OwnMasks.Found found = own.all().get(name);
    SortedMap<String, String> options = new TreeMap<>();
    for (var entry : entries) {
      String option = entry.getKey().word();
      if (!found.mask().options().contains(option)) {
        throw entry
            .getKey()
            .place()
            .problem(Failure.WORD_UNKNOWN, "the mask " + name + " has no option \"" + option + "\"")
            .remedy(Nearest.hint(option, found.mask().options()));
      }
      options.put(option, entry.getValue().text());
    }
    try {
      found.mask().with(options);
    } catch (RuntimeException | LinkageError e) {
      Problem wrong =
          value
              .place()
              .problem(Failure.PLUGIN_FAILED, "the mask " + name + " takes no such options");
      throw (e instanceof IllegalArgumentException && e.getMessage() != null
              ? wrong.because(e.getMessage())
              : wrong.because("it throws " + e.getClass().getSimpleName()))
          .remedy("see what it wants: yemble masks " + name);
    }
    return new MaskStep.Own(name, options, found.digest(), found.mask());
  }

  private static MaskStep token(YamlValue value) {
    Map<String, YamlValue> fields = value.fields(Set.of("store", "like"));
    if (!fields.containsKey("store")) {
      throw value
          .place()
          .problem(Failure.WORD_MISSING, "which store keeps what leads back?")
          .remedy("name one of stores: { store: cards, like: '\\d{16}' }");
    }
    FinitePattern like = fields.containsKey("like") ? pattern(fields.get("like")) : null;
    if (like != null && (!like.isNumbered() || like.longest() > MOST_TOKEN)) {
      throw fields
          .get("like")
          .place()
          .problem(
              Failure.PATTERN_FORM,
              like.isNumbered()
                  ? "a token has at most " + MOST_TOKEN + " characters"
                  : "the pattern has too many values for a permutation")
          .because("it has " + like.count() + "; up to 4.6 quintillion can be counted")
          .remedy("write a shorter pattern, or one for the part that differs");
    }
    return new MaskStep.Token(fields.get("store").word(), like);
  }

  private static MaskStep mailAt(YamlValue value) {
    String domain = value.word();
    if (!domain.matches("[a-z0-9]([a-z0-9-]*[a-z0-9])?(\\.[a-z0-9]([a-z0-9-]*[a-z0-9])?)+")) {
      throw value
          .place()
          .problem(Failure.VALUE_FORM, "this is no domain")
          .remedy("write one of your own in small letters: test.orlisay.example");
    }
    return new MaskStep.MailAt(domain);
  }

  /** What is said by {@code true} alone. */
  private static MaskStep only(YamlValue value, MaskStep step) {
    if (!value.flag()) {
      throw value
          .place()
          .problem(Failure.MASK_RULE, "false says nothing here")
          .remedy("leave it out");
    }
    return step;
  }

  /** How often each value of a column comes. */
  private enum Drawn {
    WEIGHTED,
    EACH
  }

  /** What becomes of values at paths that the register does not know. */
  private enum Unknown {
    STOP,
    MASK
  }

  private static Set<MaskRule.Empty> also(YamlValue value) {
    Set<MaskRule.Empty> also = EnumSet.noneOf(MaskRule.Empty.class);
    several(value).forEach(one -> also.add(one.oneOf(MaskRule.Empty.class)));
    return also;
  }

  private static List<YamlValue> several(YamlValue value) {
    return value.isList() ? value.items() : List.of(value);
  }

  private static List<FinitePattern> patterns(YamlValue value) {
    List<FinitePattern> patterns = new ArrayList<>();
    several(value).forEach(one -> patterns.add(pattern(one)));
    if (patterns.isEmpty()) {
      throw value.place().problem(Failure.PATTERN_FORM, "a pattern is missing here");
    }
    return patterns;
  }

  /** A pattern of values, none of which is empty. */
  static FinitePattern pattern(YamlValue one) {
    try {
      FinitePattern pattern = FinitePattern.parse(one.word());
      if (pattern.matches("")) {
        throw one.place()
            .problem(Failure.PATTERN_FORM, "the pattern matches the empty text")
            .remedy("a value must not become empty: make some part of it obligatory");
      }
      return pattern;
    } catch (PatternProblem e) {
      throw one.place()
          .problem(
              Failure.PATTERN_FORM, "this is no pattern for values, see its character " + e.at())
          .because(e.getMessage())
          .remedy("write each part with what it may be and how often: '[A-F]-\\d{3}'");
    }
  }

  private static MaskStep hidden(YamlValue value) {
    Map<String, YamlValue> fields = value.fields(Set.of("keep-first", "keep-last", "with"));
    String with = fields.containsKey("with") ? fields.get("with").word() : "*";
    if (with.length() != 1) {
      throw fields.get("with").place().problem(Failure.VALUE_FORM, "one character is wanted here");
    }
    return new MaskStep.Hidden(
        count(fields, "keep-first"), count(fields, "keep-last"), with.charAt(0));
  }

  private static int count(Map<String, YamlValue> fields, String word) {
    return fields.containsKey(word) ? (int) Math.min(fields.get(word).number(0), 10_000) : 0;
  }

  private static MaskStep digest(YamlValue value) {
    long length = value.number(4);
    if (length > 32) {
      throw value
          .place()
          .problem(Failure.VALUE_FORM, "a digest has from 4 to 32 hexadecimal digits")
          .because("the function behind it gives 128 bits");
    }
    return new MaskStep.Digest((int) length);
  }

  private static MaskStep noise(YamlValue value) {
    String word = value.word();
    boolean percent = word.endsWith("%");
    BigDecimal most = number(value, percent ? word.substring(0, word.length() - 1).strip() : word);
    if (most.signum() <= 0 || (percent && most.compareTo(BigDecimal.valueOf(100)) >= 0)) {
      throw value
          .place()
          .problem(Failure.VALUE_FORM, "noise is above 0" + (percent ? " and below 100%" : ""))
          .remedy("write it as 10% or 500");
    }
    return new MaskStep.Noise(most, percent);
  }

  private static BigDecimal number(YamlValue value, String text) {
    if (!text.matches("-?[0-9]{1,30}(\\.[0-9]{1,20})?")) {
      throw value.place().problem(Failure.VALUE_FORM, "expected a number here");
    }
    return new BigDecimal(text);
  }

  private static MaskStep shift(YamlValue value) {
    Set<String> known = new TreeSet<>(UNITS);
    known.add("together");
    Map<String, YamlValue> fields = value.fields(known);
    List<String> units = UNITS.stream().filter(fields::containsKey).toList();
    if (units.size() != 1) {
      throw value
          .place()
          .problem(Failure.MASK_RULE, "how far may a date move?")
          .remedy("write one of days:, hours:, minutes: with how many at the most");
    }
    YamlValue amount = fields.get(units.get(0));
    long most = amount.number(1);
    if (most > MOST_SHIFTED) {
      throw amount.place().problem(Failure.VALUE_FORM, "at most " + MOST_SHIFTED + " here");
    }
    long seconds =
        switch (units.get(0)) {
          case "days" -> most * MaskStep.Shift.DAY;
          case "hours" -> most * 3_600;
          default -> most * 60;
        };
    return new MaskStep.Shift(
        seconds,
        fields.containsKey("together")
            ? fields.get("together").items().stream().map(YamlValue::word).toList()
            : List.of());
  }

  private static MaskStep range(YamlValue value) {
    List<YamlValue> ends = value.items();
    if (ends.size() != 2) {
      throw value
          .place()
          .problem(Failure.VALUE_FORM, "a range has two ends")
          .remedy("write it as [1000, 5000]");
    }
    BigDecimal from = number(ends.get(0), ends.get(0).word());
    BigDecimal to = number(ends.get(1), ends.get(1).word());
    if (to.compareTo(from) <= 0) {
      throw value
          .place()
          .problem(Failure.VALUE_FORM, "a range goes from the smaller number to the greater one");
    }
    return new MaskStep.Range(from, to);
  }
}
