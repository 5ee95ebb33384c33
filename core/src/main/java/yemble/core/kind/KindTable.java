package yemble.core.kind;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.yaml.YamlValue;

/** The table of the kinds that ship with the tool, {@code kinds.yaml}, as it is read. */
final class KindTable {
  static final String FILE = "kinds.yaml";

  private static final Set<String> WORDS =
      Set.of(
          "category",
          "also",
          "holds",
          "becomes",
          "alike",
          "mask",
          "samples",
          "names",
          "original",
          "values",
          "about",
          "only",
          "around",
          "yields",
          "claims",
          "gives-way",
          "figures",
          "narrower",
          "given",
          "sorts",
          "part",
          "turned",
          "area",
          "one",
          "born",
          "of-names",
          "gender",
          "texts");
  private static final Set<String> VALUES =
      Set.of("look", "telling", "likely", "without", "named", "many", "long", "said");

  private final Map<String, Kind> kinds = new LinkedHashMap<>();
  private final Map<String, String> phrases = new LinkedHashMap<>();
  private final List<YamlValue> masks = new ArrayList<>();
  private final List<YamlValue> looks = new ArrayList<>();
  private final List<YamlValue> others = new ArrayList<>();

  private KindTable() {}

  /** The table that ships with the tool. */
  static KindTable shipped() {
    try (InputStream in = KindTable.class.getResourceAsStream(FILE)) {
      return of(new String(in.readAllBytes(), StandardCharsets.UTF_8));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /**
   * Reads a table.
   *
   * @throws Problem with the line, for a word that is none of the table's
   */
  static KindTable of(String yaml) {
    KindTable table = new KindTable();
    for (var entry : YamlValue.parse(yaml, FILE).entries()) {
      String name = entry.getKey().word();
      table.kinds.put(name, table.kind(name, entry.getValue().fields(WORDS)));
    }
    return table;
  }

  Map<String, Kind> kinds() {
    return kinds;
  }

  /** The phrases in the names of columns that speak for each kind. */
  List<Sign> signs() {
    List<Sign> signs = new ArrayList<>();
    phrases.forEach(
        (kind, lines) ->
            lines
                .lines()
                .forEach(
                    line -> {
                      int colon = line.indexOf(':');
                      double strength = Double.parseDouble(line.substring(0, colon));
                      for (String phrase : line.substring(colon + 1).split(",")) {
                        signs.add(new Sign(kind, List.of(phrase.strip().split(" ")), strength));
                      }
                    }));
    return signs;
  }

  /**
   * Holds the table against what there is.
   *
   * @param known the names of all masks
   * @param checks the names of all checks of values
   * @throws Problem with the line of the first mask, check or kind that there is none of
   */
  void refersTo(Collection<String> known, Collection<String> checks) {
    for (YamlValue mask : masks) {
      if (!mask.word().startsWith(Kind.LIST)) {
        held(mask, known, "mask");
      }
    }
    looks.forEach(look -> held(look, checks, "check"));
    others.forEach(other -> held(other, kinds.keySet(), "kind"));
  }

  private static void held(YamlValue word, Collection<String> known, String what) {
    if (!known.contains(word.word())) {
      throw word.place()
          .problem(Failure.WORD_UNKNOWN, "there is no " + what + " \"" + word.word() + "\"")
          .remedy(Nearest.hint(word.word(), known));
    }
  }

  private Kind kind(String name, Map<String, YamlValue> fields) {
    if (fields.containsKey("mask")) {
      masks.add(fields.get("mask"));
    }
    if (fields.containsKey("names")) {
      phrases.put(name, fields.get("names").text());
    }
    return new Kind(
        name,
        fields.get("category").oneOf(Category.class),
        fields.get("holds").word(),
        fields.get("becomes").word(),
        word(fields, "alike", "the text"),
        word(fields, "mask", name),
        fields.get("samples").items().stream().map(YamlValue::word).toList(),
        look(inside(fields, "values", VALUES)),
        fields.containsKey("also")
            ? fields.get("also").items().stream()
                .map(sort -> sort.oneOf(TypeSort.class))
                .collect(Collectors.toSet())
            : Set.of(),
        original(inside(fields, "original", Set.of("form", "among", "stays"))),
        word(fields, "about", "").equals("person"),
        traits(fields),
        "");
  }

  private Kind.Look look(Map<String, YamlValue> values) {
    if (values.containsKey("look")) {
      looks.add(values.get("look"));
    }
    return new Kind.Look(
        word(values, "look", ""),
        share(values, "telling", 0),
        share(values, "likely", 0),
        share(values, "without", 0.25),
        flag(values, "named", false),
        flag(values, "many", false),
        flag(values, "long", false),
        word(values, "said", Kind.Look.HAVE_FORM));
  }

  private static Kind.Original original(Map<String, YamlValue> fields) {
    return new Kind.Original(
        oneOf(fields, "form", Kind.Form.NONE),
        fields.containsKey("among") ? fields.get("among").number(2) : Kind.Original.PLAIN.among(),
        flag(fields, "stays", false));
  }

  private Traits traits(Map<String, YamlValue> fields) {
    Map<String, YamlValue> texts = inside(fields, "texts", Set.of("repeated", "said", "called"));
    return new Traits(
        oneOf(fields, "part", Traits.Part.NONE),
        other(fields, "turned"),
        oneOf(fields, "area", Traits.Area.NONE),
        flag(fields, "one", false),
        oneOf(fields, "born", Traits.Born.NONE),
        flag(fields, "of-names", false),
        flag(fields, "gender", false),
        new Traits.Texts(
            flag(texts, "repeated", true), flag(texts, "said", true), word(texts, "called", "")),
        weighing(fields));
  }

  private Traits.Weighing weighing(Map<String, YamlValue> fields) {
    Map<Double, Double> around = new HashMap<>();
    if (fields.containsKey("around")) {
      fields
          .get("around")
          .entries()
          .forEach(e -> around.put(e.getKey().share(), e.getValue().share()));
    } else if (fields.containsKey("about")) {
      around.put(0.0, 0.0);
    }
    Map<String, YamlValue> figures = inside(fields, "figures", Set.of("of", "most", "else"));
    return new Traits.Weighing(
        word(fields, "only", "").equals("people"),
        around,
        fields.containsKey("yields")
            ? fields.get("yields").items().stream().map(this::yields).toList()
            : List.of(),
        flag(fields, "claims", false),
        flag(fields, "gives-way", false),
        new Traits.Figures(
            oneOf(figures, "of", Traits.Figures.Of.ANY),
            figures.containsKey("most") ? figures.get("most").number(1) : 0,
            share(figures, "else", 1)),
        other(fields, "narrower"),
        flag(fields, "given", false),
        sorts(fields));
  }

  private Map<String, String> sorts(Map<String, YamlValue> fields) {
    Map<String, String> sorts = new HashMap<>();
    if (fields.containsKey("sorts")) {
      for (var entry : fields.get("sorts").entries()) {
        others.add(entry.getValue());
        sorts.put(entry.getKey().word(), entry.getValue().word());
      }
    }
    return sorts;
  }

  private Traits.Yield yields(YamlValue body) {
    Map<String, YamlValue> fields = body.fields(Set.of("to", "keeps", "strong"));
    Map<String, Double> to = new HashMap<>();
    for (var entry : fields.get("to").entries()) {
      others.add(entry.getKey());
      to.put(entry.getKey().word(), entry.getValue().share());
    }
    double keeps = fields.get("keeps").share();
    return new Traits.Yield(to, keeps, share(fields, "strong", keeps));
  }

  private String other(Map<String, YamlValue> fields, String word) {
    if (fields.containsKey(word)) {
      others.add(fields.get(word));
    }
    return word(fields, word, "");
  }

  private static Map<String, YamlValue> inside(
      Map<String, YamlValue> fields, String word, Set<String> known) {
    return fields.containsKey(word) ? fields.get(word).fields(known) : Map.of();
  }

  private static String word(Map<String, YamlValue> fields, String word, String otherwise) {
    return fields.containsKey(word) ? fields.get(word).word() : otherwise;
  }

  private static boolean flag(Map<String, YamlValue> fields, String word, boolean otherwise) {
    return fields.containsKey(word) ? fields.get(word).flag() : otherwise;
  }

  private static double share(Map<String, YamlValue> fields, String word, double otherwise) {
    return fields.containsKey(word) ? fields.get(word).share() : otherwise;
  }

  private static <E extends Enum<E>> E oneOf(
      Map<String, YamlValue> fields, String word, E otherwise) {
    return fields.containsKey(word)
        ? fields.get(word).oneOf(otherwise.getDeclaringClass())
        : otherwise;
  }
}
