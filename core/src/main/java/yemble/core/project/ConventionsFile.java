package yemble.core.project;

import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import yemble.core.kind.Category;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.problem.Nearest;
import yemble.core.yaml.YamlValue;

/** Reads the {@code kinds}, {@code masks} and {@code survey} of a project or a baseline. */
final class ConventionsFile {
  private static final Set<String> BASELINE = Set.of("version", "kinds", "masks", "survey");
  private static final Set<String> KIND = Set.of("category", "holds");
  private static final Set<String> MASK = Set.of("as");
  private static final Set<String> SURVEY = Set.of("off", "review", "countries", "rules");
  private static final Set<String> RULE = Set.of("kind", "names", "pattern", "values", "at-least");
  private static final double USUAL_SHARE = 0.8;

  private final Conventions before;
  private final Map<String, Kind> own = new LinkedHashMap<>();
  private final Map<String, Conventions.Rule> rules = new LinkedHashMap<>();

  private ConventionsFile(Conventions before) {
    this.before = before;
  }

  /** What the baselines of a project lay down, each winning over those before it. */
  static Conventions baselines(Path directory, YamlValue files) {
    Conventions all = Conventions.NONE;
    if (files != null) {
      for (YamlValue file : files.items()) {
        Path path = directory.resolve(file.word());
        if (!path.toFile().isFile()) {
          throw file.place()
              .problem("there is no baseline " + file.word())
              .remedy("write its path from the project's folder");
        }
        Map<String, YamlValue> fields = YamlValue.read(path, file.word()).fields(BASELINE);
        all = read(fields, all);
      }
    }
    return all;
  }

  /** What a file lays down together with what is laid down already, over which it wins. */
  static Conventions read(Map<String, YamlValue> fields, Conventions before) {
    return new ConventionsFile(before).read(fields);
  }

  private Conventions read(Map<String, YamlValue> fields) {
    if (fields.containsKey("kinds")) {
      for (var entry : fields.get("kinds").entries()) {
        kind(entry.getKey(), entry.getValue());
      }
    }
    if (fields.containsKey("masks")) {
      for (var entry : fields.get("masks").entries()) {
        mask(entry.getKey(), entry.getValue());
      }
    }
    Map<String, YamlValue> survey =
        fields.containsKey("survey") ? fields.get("survey").fields(SURVEY) : Map.of();
    if (survey.containsKey("rules")) {
      for (var entry : survey.get("rules").entries()) {
        rule(entry.getKey(), entry.getValue());
      }
    }
    return before.and(
        new Conventions(
            own,
            rules,
            survey.containsKey("off") ? off(survey.get("off")) : List.of(),
            survey.containsKey("countries") ? countries(survey.get("countries")) : Set.of(),
            survey.containsKey("review")
                ? survey.get("review").oneOf(Conventions.Review.class)
                : null));
  }

  private Kinds known() {
    Map<String, Kind> all = new LinkedHashMap<>(before.own());
    all.putAll(own);
    return Kinds.BUILT_IN.with(all.values());
  }

  private void kind(YamlValue name, YamlValue body) {
    if (!name.word().matches("[a-z][a-z0-9]*(-[a-z0-9]+)*")) {
      throw name.place()
          .problem("this is no name for a kind: \"" + name.word() + "\"")
          .remedy("use small letters, digits and hyphens: locker-code");
    }
    if (Kinds.BUILT_IN.of(name.word()).isPresent()) {
      throw name.place()
          .problem("there is a kind \"" + name.word() + "\" already")
          .remedy("choose another name, or change its mask under masks:");
    }
    Map<String, YamlValue> fields = body.fields(KIND);
    if (!fields.containsKey("category")) {
      throw name.place()
          .problem("the kind \"" + name.word() + "\" has no category")
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

  private void mask(YamlValue name, YamlValue body) {
    Kind kind = kindOf(name);
    YamlValue as = body.fields(MASK).get("as");
    if (as == null) {
      throw body.place()
          .problem("which mask does \"" + name.word() + "\" get?")
          .remedy("write { as: KIND }, or { as: shape }");
    }
    String becomes = "another of its shape";
    String mask = "own-shape";
    if (!as.word().equals(Kinds.SHAPE)) {
      Kind other = kindOf(as);
      if (other.mask().isEmpty()) {
        throw as.place().problem("\"" + as.word() + "\" has no mask itself");
      }
      becomes = "what " + other.name() + " becomes: " + other.becomes();
      mask = Kinds.BUILT_IN.of(other.name()).isPresent() ? other.name() : other.mask();
    }
    own.put(name.word(), kind.masked(mask, becomes, name.place().toString()));
  }

  private Kind kindOf(YamlValue name) {
    Kinds known = known();
    return known
        .of(name.word())
        .orElseThrow(
            () ->
                name.place()
                    .problem("unknown kind \"" + name.word() + "\"")
                    .remedy(Nearest.hint(name.word(), known.names())));
  }

  private void rule(YamlValue name, YamlValue body) {
    Map<String, YamlValue> fields = body.fields(RULE);
    if (!fields.containsKey("kind")) {
      throw name.place()
          .problem("the rule \"" + name.word() + "\" does not say which kind it speaks for")
          .remedy("add kind: with a known one, or one of your own under kinds:");
    }
    if (!fields.containsKey("names")
        && !fields.containsKey("pattern")
        && !fields.containsKey("values")) {
      throw name.place()
          .problem("the rule \"" + name.word() + "\" says nothing to look for")
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
          .problem("this is no pattern: " + e.getDescription())
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
          .problem("there is no pack or kind \"" + name.word() + "\"")
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
            .problem("\"" + item.word() + "\" is no country")
            .remedy("write its two letters as ISO 3166 has them: [DE, FR]");
      }
      countries.add(country);
    }
    return countries;
  }
}
