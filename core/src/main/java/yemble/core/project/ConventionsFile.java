package yemble.core.project;

import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import yemble.core.kind.Category;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.mask.MaskRule;
import yemble.core.mask.MaskRuleReader;
import yemble.core.mask.Masks;
import yemble.core.mask.step.As;
import yemble.core.mask.step.MaskStep;
import yemble.core.own.OwnMasks;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.yaml.YamlValue;

/** Reads the {@code kinds}, {@code masks} and {@code survey} of a project or a baseline. */
final class ConventionsFile {
  private static final Set<String> BASELINE =
      Set.of("version", "kinds", "masks", "columns", "survey");
  private static final Set<String> KIND = Set.of("category", "holds");
  private static final String ALL = "all";
  private static final Set<String> SURVEY = Set.of("off", "review", "countries", "rules");
  private static final Set<String> RULE = Set.of("kind", "names", "pattern", "values", "at-least");
  private static final double USUAL_SHARE = 0.8;

  private final Conventions before;
  private final Map<String, Kind> own = new LinkedHashMap<>();
  private final Map<String, Conventions.Rule> rules = new LinkedHashMap<>();

  private final Map<String, MaskRule> masks = new LinkedHashMap<>();

  /** The kinds that this file says to be masked as others. */
  private final Set<String> asOthers = new HashSet<>();

  private final Path directory;

  private final OwnMasks ownMasks;

  private ConventionsFile(Path directory, Conventions before, OwnMasks ownMasks) {
    this.directory = directory;
    this.before = before;
    this.ownMasks = ownMasks;
  }

  /** What the baselines of a project lay down, each winning over those before it. */
  static Conventions baselines(Path directory, YamlValue files, OwnMasks ownMasks) {
    Conventions all = Conventions.NONE;
    if (files != null) {
      for (YamlValue file : files.items()) {
        Path path = directory.resolve(file.word());
        if (!path.toFile().exists()) {
          throw file.place()
              .problem(Failure.SETTING_UNREADABLE, "there is no baseline " + file.word())
              .remedy("write its path from the project's folder");
        }
        Map<String, YamlValue> fields = YamlValue.read(path, file.word()).fields(BASELINE);
        all = read(directory, fields, all, ownMasks);
      }
    }
    return all;
  }

  /** What a file lays down together with what is laid down already, over which it wins. */
  static Conventions read(
      Path directory, Map<String, YamlValue> fields, Conventions before, OwnMasks ownMasks) {
    return new ConventionsFile(directory, before, ownMasks).read(fields);
  }

  private Conventions read(Map<String, YamlValue> fields) {
    if (fields.containsKey("kinds")) {
      for (var entry : fields.get("kinds").entries()) {
        kind(entry.getKey(), entry.getValue());
      }
    }
    if (fields.containsKey("masks")) {
      masks(fields.get("masks").entries());
    }
    Map<String, YamlValue> survey =
        fields.containsKey("survey") ? fields.get("survey").fields(SURVEY) : Map.of();
    if (survey.containsKey("rules")) {
      for (var entry : survey.get("rules").entries()) {
        rule(entry.getKey(), entry.getValue());
      }
    }
    if (fields.containsKey("masks")) {
      noCircle(fields.get("masks").entries());
    }
    return before.and(
        new Conventions(
            own,
            rules,
            survey.containsKey("off") ? off(survey.get("off")) : List.of(),
            survey.containsKey("countries") ? countries(survey.get("countries")) : Set.of(),
            survey.containsKey("review")
                ? survey.get("review").oneOf(Conventions.Review.class)
                : null,
            masks,
            fields.containsKey("columns") ? columns(fields.get("columns")) : List.of()));
  }

  private Kinds known() {
    Map<String, Kind> all = new LinkedHashMap<>(before.own());
    all.putAll(own);
    return Kinds.BUILT_IN.with(all.values());
  }

  private void kind(YamlValue name, YamlValue body) {
    if (!name.word().matches("[a-z][a-z0-9]*(-[a-z0-9]+)*")) {
      throw name.place()
          .problem(Failure.VALUE_FORM, "this is no name for a kind: \"" + name.word() + "\"")
          .remedy("use small letters, digits and hyphens: locker-code");
    }
    if (Kinds.BUILT_IN.of(name.word()).isPresent()) {
      throw name.place()
          .problem(Failure.RULES_CONTRADICT, "there is a kind \"" + name.word() + "\" already")
          .remedy("choose another name, or change its mask under masks:");
    }
    Map<String, YamlValue> fields = body.fields(KIND);
    if (!fields.containsKey("category")) {
      throw name.place()
          .problem(Failure.KIND_INCOMPLETE, "the kind \"" + name.word() + "\" has no category")
          .remedy("add one, for example category: identity");
    }
    own.put(
        name.word(),
        Kind.own(
            name.word(),
            fields.get("category").oneOf(Category.class),
            fields.containsKey("holds") ? fields.get("holds").word() : name.word(),
            name.place().toString()));
  }

  /**
   * Rules for kinds, for categories, and for all: what a narrower one leaves open is open to them.
   */
  private void masks(List<Map.Entry<YamlValue, YamlValue>> entries) {
    Map<String, MaskRule> wide = new LinkedHashMap<>();
    for (var entry : entries) {
      String name = entry.getKey().word();
      if (name.equals(ALL) || category(name).isPresent()) {
        wide.put(name, kindRule(entry.getKey(), entry.getValue()));
      } else {
        mask(entry.getKey(), entry.getValue());
      }
    }
    if (!wide.isEmpty()) {
      for (Kind kind : known().all()) {
        MaskRule wider =
            wide.getOrDefault(kind.category().toString(), MaskRule.NONE)
                .or(wide.getOrDefault(ALL, MaskRule.NONE));
        MaskRule rule =
            masks
                .getOrDefault(kind.name(), MaskRule.NONE)
                .or(asOthers.contains(kind.name()) ? wider.withoutSteps() : wider);
        if (!rule.isNone()) {
          put(kind, rule);
        }
      }
      if (wide.containsKey(ALL)) {
        masks.put("", wide.get(ALL));
      }
    }
  }

  /** Kinds that are masked as one another would never come to an end. */
  private void noCircle(List<Map.Entry<YamlValue, YamlValue>> entries) {
    for (var entry : entries) {
      String kind = entry.getKey().word();
      if (leadsTo(kind, kind, new HashSet<>())) {
        throw entry
            .getKey()
            .place()
            .problem(Failure.MASK_CIRCLE, "\"" + kind + "\" is masked as what is masked as it")
            .because("one of them must have a mask of its own")
            .remedy("take as: out of one of the kinds that it leads to");
      }
    }
  }

  private boolean leadsTo(String from, String wanted, Set<String> seen) {
    Set<String> next = new HashSet<>();
    known()
        .of(from)
        .map(Kind::mask)
        .filter(mask -> !mask.equals(from) && known().of(mask).isPresent())
        .ifPresent(next::add);
    MaskRule rule = masks.getOrDefault(from, before.masks().getOrDefault(from, MaskRule.NONE));
    for (MaskStep step : rule.steps()) {
      if (step instanceof As as && !as.kind().equals(from)) {
        next.add(as.kind());
      }
    }
    for (String kind : next) {
      if (kind.equals(wanted) || (seen.add(kind) && leadsTo(kind, wanted, seen))) {
        return true;
      }
    }
    return false;
  }

  private static Optional<Category> category(String name) {
    return Arrays.stream(Category.values()).filter(c -> c.toString().equals(name)).findFirst();
  }

  private void mask(YamlValue name, YamlValue body) {
    Kind kind = kindOf(name);
    MaskRule rule = kindRule(name, body);
    if (rule.steps().size() == 1
        && rule.steps().get(0) instanceof As as
        && !as.kind().equals(kind.name())) {
      as(kind, as.kind(), name, body);
      asOthers.add(kind.name());
      masks.put(kind.name(), MaskRule.NONE);
      rule = rule.withoutSteps();
    }
    if (!rule.isNone()) {
      put(own.getOrDefault(kind.name(), kind), rule);
    }
  }

  /** A rule for kinds, which reads nothing but the value. */
  private MaskRule kindRule(YamlValue name, YamlValue body) {
    MaskRule rule = new MaskRuleReader(directory, known(), ownMasks).read(body);
    if (rule.readsRow()) {
      throw body.place()
          .problem(
              Failure.MASK_NEEDS_COLUMN, "the mask of \"" + name.word() + "\" depends on the row")
          .because(
              "keyed-by, when, follow-names, template and together speak of the columns of one table")
          .remedy("say it for a column, under columns:");
    }
    if (rule.token().isPresent()) {
      throw body.place()
          .problem(Failure.MASK_NEEDS_COLUMN, "a token is made for the values of one column")
          .because("what texts mention could not be led back, as no store would keep it")
          .remedy("say it for a column, under columns:");
    }
    if (rule.settings().dialable() != null
        && known().of(name.word()).filter(kind -> Masks.makesPhones(kind.mask())).isEmpty()) {
      throw body.place()
          .problem(Failure.MASK_RULE, "dialable is for telephone numbers alone")
          .remedy("say it for their kind: masks: { phone: { dialable: false } }");
    }
    if (rule.settings().loginLength() > 0 && !Kinds.BUILT_IN.traits(name.word()).ofNames()) {
      throw body.place()
          .problem(Failure.MASK_RULE, "login-length is for logins and addresses alone")
          .remedy("say it for their kinds: masks: { username: { login-length: 10 } }");
    }
    if (rule.drawsFromColumn()) {
      throw body.place()
          .problem(Failure.MASK_NEEDS_COLUMN, "from-column speaks of the values of one column")
          .remedy("say it for a column, under columns:");
    }
    return rule;
  }

  private void put(Kind kind, MaskRule rule) {
    MaskRule whole = rule;
    if (rule.steps().isEmpty()
        && known().of(kind.mask()).isPresent()
        && !kind.mask().equals(kind.name())) {
      whole = rule.or(MaskRule.of(List.of(new As(kind.mask())), rule.place()));
    }
    masks.put(kind.name(), whole);
    own.put(
        kind.name(),
        whole.steps().isEmpty()
            ? kind
            : kind.masked(
                Kind.BY_RULE,
                "as the project has it: " + whole.words(kind.name()),
                rule.place().toString()));
  }

  private void as(Kind kind, String as, YamlValue name, YamlValue body) {
    if (as.isEmpty()) {
      own.put(
          name.word(), kind.masked("own-shape", "another of its shape", name.place().toString()));
      return;
    }
    Kind other = known().known(as);
    if (other.mask().isEmpty()) {
      throw body.place().problem(Failure.KIND_INCOMPLETE, "\"" + as + "\" has no mask itself");
    }
    String mask = Kinds.BUILT_IN.of(as).isPresent() ? as : other.mask();
    own.put(
        name.word(),
        kind.masked(
            mask,
            "what " + other.name() + " becomes: " + other.becomes(),
            name.place().toString()));
  }

  private List<Conventions.ColumnRule> columns(YamlValue section) {
    List<Conventions.ColumnRule> columns = new ArrayList<>();
    MaskRuleReader reader = new MaskRuleReader(directory, known(), ownMasks);
    for (var entry : section.entries()) {
      MaskRule rule = reader.read(entry.getValue());
      if (rule.settings().dialable() != null || rule.settings().loginLength() > 0) {
        throw entry
            .getValue()
            .place()
            .problem(Failure.MASK_RULE, "dialable and login-length hold for all of a kind alike")
            .because("a number or a login may stand in more than one column, and in texts")
            .remedy("say it under masks:, for example masks: { phone: { dialable: false } }");
      }
      columns.add(new Conventions.ColumnRule(entry.getKey().word(), rule, entry.getKey().place()));
    }
    return columns;
  }

  private Kind kindOf(YamlValue name) {
    Kinds known = known();
    return known
        .of(name.word())
        .orElseThrow(
            () ->
                name.place()
                    .problem(Failure.KIND_UNKNOWN, "unknown kind \"" + name.word() + "\"")
                    .remedy(Nearest.hint(name.word(), known.names(), Kinds.SEE_ALL)));
  }

  private void rule(YamlValue name, YamlValue body) {
    Map<String, YamlValue> fields = body.fields(RULE);
    if (!fields.containsKey("kind")) {
      throw name.place()
          .problem(
              Failure.WORD_MISSING,
              "the rule \"" + name.word() + "\" does not say which kind it speaks for")
          .remedy("add kind: with a known one, or one of your own under kinds:");
    }
    if (!fields.containsKey("names")
        && !fields.containsKey("pattern")
        && !fields.containsKey("values")) {
      throw name.place()
          .problem(
              Failure.WORD_MISSING, "the rule \"" + name.word() + "\" says nothing to look for")
          .remedy("add names:, pattern: or values:");
    }
    rules.put(
        name.word(),
        new Conventions.Rule(
            name.word(),
            kindOf(fields.get("kind")).name(),
            fields.containsKey("names")
                ? fields.get("names").items().stream().map(ConventionsFile::phrase).toList()
                : List.of(),
            fields.containsKey("pattern") ? pattern(fields.get("pattern")) : null,
            fields.containsKey("values") ? values(fields.get("values")) : Set.of(),
            fields.containsKey("at-least") ? fields.get("at-least").share() : USUAL_SHARE,
            name.place()));
  }

  private static List<String> phrase(YamlValue phrase) {
    return Arrays.asList(phrase.word().toLowerCase(Locale.ROOT).split("[^\\p{L}]+"));
  }

  private static Pattern pattern(YamlValue pattern) {
    try {
      return Pattern.compile(pattern.word());
    } catch (PatternSyntaxException e) {
      throw pattern
          .place()
          .problem(Failure.PATTERN_FORM, "this is no pattern: " + e.getDescription())
          .because("patterns are regular expressions without references and lookaround")
          .remedy("test it on a value, and put it into single quotes");
    }
  }

  private static Set<String> values(YamlValue values) {
    Set<String> all = new LinkedHashSet<>();
    values.items().forEach(item -> all.add(item.word().toLowerCase(Locale.ROOT)));
    return all;
  }

  private List<Conventions.Off> off(YamlValue list) {
    List<Conventions.Off> off = new ArrayList<>();
    for (YamlValue item : list.items()) {
      if (item.isMapping()) {
        for (var entry : item.entries()) {
          off.add(
              new Conventions.Off(
                  pack(entry.getKey()),
                  entry.getValue().items().stream().map(YamlValue::word).toList(),
                  entry.getKey().place()));
        }
      } else {
        off.add(new Conventions.Off(pack(item), List.of(), item.place()));
      }
    }
    return off;
  }

  /** The name of a category, which is a pack, or of a kind. */
  private String pack(YamlValue name) {
    Set<String> packs = new TreeSet<>(known().names());
    for (Category category : Category.values()) {
      packs.add(category.toString());
    }
    if (!packs.contains(name.word())) {
      throw name.place()
          .problem(Failure.KIND_UNKNOWN, "there is no pack or kind \"" + name.word() + "\"")
          .remedy(Nearest.hint(name.word(), packs));
    }
    return name.word();
  }

  private static Set<String> countries(YamlValue list) {
    Set<String> iso = Set.of(Locale.getISOCountries());
    Set<String> countries = new TreeSet<>();
    for (YamlValue item : list.items()) {
      String country = item.word().toUpperCase(Locale.ROOT);
      if (!iso.contains(country)) {
        throw item.place()
            .problem(Failure.VALUE_FORM, "\"" + item.word() + "\" is no country")
            .remedy("write its two letters as ISO 3166 has them: [DE, FR]");
      }
      countries.add(country);
    }
    return countries;
  }
}
