package yemble.core.kind;

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

/** The kinds that are known: those that ship with the tool, and a project's own. Immutable. */
public final class Kinds {
  /** How a person sees all kinds. */
  public static final String SEE_ALL = "yemble masks lists all";

  /** The mask of columns that are to be masked without a kind of their own. */
  public static final String SHAPE = "shape";

  /** The kind of what is another thing in each row. */
  public static final String VARIOUS = "various";

  /** The kind of free texts, which are masked by their row. */
  public static final String TEXT = "note";

  /** The kind of JSON, which is masked path by path. */
  public static final String JSON = "json";

  /** Those that ship with the tool. */
  public static final Kinds BUILT_IN = new Kinds(KindTable.shipped().kinds());

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

  /** Which part of a person's name a kind's values are. */
  public Traits.Part part(String name) {
    return traits(name).part();
  }

  /** Whether a kind's values are names of persons, or parts of such. */
  public boolean isName(String name) {
    return part(name) != Traits.Part.NONE;
  }

  /** The traits of a kind; plain for a name that is no kind's. */
  public Traits traits(String name) {
    return of(name).map(Kind::traits).orElse(Traits.PLAIN);
  }

  /**
   * The phrases in the names of columns that speak for the kinds that ship with the tool, read from
   * the table each time.
   */
  public static List<Sign> signs() {
    return KindTable.shipped().signs();
  }

  /**
   * The kinds whose columns people call so, by a phrase in lower case, in one of many languages.
   */
  public static Set<String> called(String phrase) {
    return signs().stream()
        .filter(sign -> String.join(" ", sign.words()).equals(phrase))
        .map(Sign::kind)
        .collect(Collectors.toSet());
  }
}
