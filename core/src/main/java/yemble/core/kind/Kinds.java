package yemble.core.kind;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.yaml.YamlValue;

/** The kinds that are known: those that ship with the tool, and a project's own. Immutable. */
public final class Kinds {
  /** The mask of columns that are to be masked without a kind of their own. */
  /** How a person sees all kinds. */
  public static final String SEE_ALL = "yemble masks lists all";

  public static final String SHAPE = "shape";

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
          "about");
  private static final Set<String> VALUES = Set.of("look", "telling", "likely", "without", "named");

  /** Those that ship with the tool. */
  public static final Kinds BUILT_IN = new Kinds(load());

  private final Map<String, Kind> all;

  private Kinds(Map<String, Kind> all) {
    this.all = all;
  }

  /** These and a project's own; an own one of a known name takes its place. */
  public Kinds with(Collection<Kind> own) {
    if (own.isEmpty()) {
      return this;
    }
    Map<String, Kind> kinds = new LinkedHashMap<>(all);
    own.forEach(kind -> kinds.put(kind.name(), kind));
    return new Kinds(kinds);
  }

  public Optional<Kind> of(String name) {
    return Optional.ofNullable(all.get(name));
  }

  /** How originals of a kind are known again; plain for a name that is no kind's. */
  public Kind.Original original(String name) {
    return of(name).map(Kind::original).orElse(Kind.Original.PLAIN);
  }

  /**
   * The kind of a name that somebody wrote.
   *
   * @throws Problem of type USAGE, without a place, for a name that is not known
   */
  public Kind known(String name) {
    Kind kind = all.get(name);
    if (kind == null) {
      throw Problem.of(Failure.KIND_UNKNOWN, "unknown kind \"" + name + "\"")
          .remedy(Nearest.hint(name, names(), SEE_ALL));
    }
    return kind;
  }

  /**
   * The kind by whose mask a kind is masked: another one if it is masked as that one, else itself.
   *
   * @param name of a known kind, or an empty string, which stands for the shape
   */
  public String maskedAs(String name) {
    Kind kind = all.get(name);
    return kind != null && all.containsKey(kind.mask()) ? kind.mask() : name;
  }

  /** All of them, in the order of the table. */
  public Collection<Kind> all() {
    return all.values();
  }

  public Set<String> names() {
    return all.keySet();
  }

  /**
   * The phrases in the names of columns that speak for the kinds that ship with the tool, read from
   * {@code names.txt} each time.
   */
  public static List<Sign> signs() {
    List<Sign> signs = new ArrayList<>();
    text("names.txt")
        .lines()
        .filter(line -> !line.startsWith("#"))
        .forEach(
            line -> {
              int colon = line.indexOf(':');
              String[] head = line.substring(0, colon).split(" ");
              for (String phrase : line.substring(colon + 1).split(",")) {
                signs.add(
                    new Sign(
                        head[0], List.of(phrase.strip().split(" ")), Double.parseDouble(head[1])));
              }
            });
    return signs;
  }

  private static String text(String name) {
    try (InputStream in = Kinds.class.getResourceAsStream(name)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static Map<String, Kind> load() {
    Map<String, Kind> kinds = new LinkedHashMap<>();
    for (var entry : YamlValue.parse(text("kinds.yaml"), "kinds.yaml").entries()) {
      kinds.put(entry.getKey().word(), read(entry.getKey().word(), entry.getValue()));
    }
    return kinds;
  }

  private static Kind read(String name, YamlValue body) {
    Map<String, YamlValue> fields = body.fields(WORDS);
    Map<String, YamlValue> values =
        fields.containsKey("values") ? fields.get("values").fields(VALUES) : Map.of();
    Kind.Look look =
        new Kind.Look(
            values.containsKey("look") ? values.get("look").word() : "",
            share(values, "telling", 0),
            share(values, "likely", 0),
            share(values, "without", 0.25),
            values.containsKey("named") && values.get("named").flag());
    return new Kind(
        name,
        fields.get("category").oneOf(Category.class),
        fields.get("holds").word(),
        fields.get("becomes").word(),
        fields.containsKey("alike") ? fields.get("alike").word() : "the text",
        fields.containsKey("mask") ? fields.get("mask").word() : name,
        fields.get("samples").items().stream().map(YamlValue::word).toList(),
        look,
        fields.containsKey("also")
            ? fields.get("also").items().stream()
                .map(sort -> sort.oneOf(TypeSort.class))
                .collect(Collectors.toSet())
            : Set.of(),
        original(fields.get("original")),
        fields.containsKey("about"),
        "");
  }

  private static Kind.Original original(YamlValue body) {
    if (body == null) {
      return Kind.Original.PLAIN;
    }
    Map<String, YamlValue> fields = body.fields(Set.of("form", "among", "stays"));
    return new Kind.Original(
        fields.containsKey("form") ? fields.get("form").oneOf(Kind.Form.class) : Kind.Form.NONE,
        fields.containsKey("among") ? fields.get("among").number(2) : Kind.Original.PLAIN.among(),
        fields.containsKey("stays") && fields.get("stays").flag());
  }

  private static double share(Map<String, YamlValue> fields, String word, double otherwise) {
    return fields.containsKey(word) ? fields.get(word).share() : otherwise;
  }
}
