package yemble.core.project;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import yemble.core.mask.step.Patterned;
import yemble.core.pattern.FinitePattern;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.yaml.Place;
import yemble.core.yaml.YamlValue;

/** Reads what a project says of agreed stand-ins. */
final class PinsReader {
  private static final Set<String> WORDS =
      Set.of("file", "by", "gives", "through", "remember", "patterns", "where");
  private static final Pattern NAME = Pattern.compile("[a-z][a-z0-9]*([_-][a-z0-9]+)*");
  private static final String FORM = "use small letters, digits, _ and -";

  private PinsReader() {}

  /** The lists of a section, by their names; none without one. */
  static Map<String, PinList> read(YamlValue section) {
    Map<String, PinList> lists = new LinkedHashMap<>();
    Map<String, Place> given = new LinkedHashMap<>();
    Map<String, Place> files = new LinkedHashMap<>();
    if (section == null) {
      return lists;
    }
    for (var entry : section.entries()) {
      PinList list = list(entry.getKey(), entry.getValue());
      for (PinList.Give give : list.gives()) {
        twice(given, give.column().name(), give.column().place(), "a column takes");
      }
      twice(files, list.file(), list.place(), "a file holds");
      lists.put(list.name(), list);
    }
    return lists;
  }

  private static void twice(Map<String, Place> seen, String what, Place place, String says) {
    Place first = seen.putIfAbsent(what, place);
    if (first != null) {
      throw place
          .problem(Failure.RULES_CONTRADICT, what + " stands in two lists of stand-ins")
          .because(says + " stand-ins of one list; the other one is at " + first)
          .remedy("keep one of them");
    }
  }

  private static PinList list(YamlValue name, YamlValue body) {
    name(name, "a list of stand-ins");
    Map<String, YamlValue> fields = body.fields(WORDS);
    for (String word : List.of("file", "by", "gives")) {
      if (!fields.containsKey(word)) {
        throw name.place()
            .problem(
                Failure.WORD_MISSING,
                "the list of stand-ins \"" + name.word() + "\" has no " + word)
            .remedy(
                switch (word) {
                  case "file" -> "add one: file: pins/" + name.word() + ".csv";
                  case "by" -> "say which column tells who it is: by: crew.national_id";
                  default -> "say which columns take its values: gives: { crew.gvn_nm: name }";
                });
      }
    }
    List<PinList.Give> gives = new ArrayList<>();
    for (var entry : fields.get("gives").entries()) {
      gives.add(give(entry.getKey(), entry.getValue()));
    }
    if (gives.isEmpty()) {
      throw fields
          .get("gives")
          .place()
          .problem(Failure.WORD_MISSING, "no column takes anything from this list")
          .remedy("name columns and the headings of the file: { crew.gvn_nm: name }");
    }
    PinList list =
        new PinList(
            name.word(),
            fields.get("file").word(),
            named(fields.get("by")),
            gives,
            several(fields.get("through")),
            fields.containsKey("remember") && fields.get("remember").flag(),
            fields.containsKey("patterns") ? patterns(fields.get("patterns"), gives) : Map.of(),
            fields.containsKey("where") ? fields.get("where").word() : "",
            name.place());
    for (PinList.Give give : gives) {
      if (list.isPassword(give.field()) != give.password()) {
        throw give.column()
            .place()
            .problem(
                Failure.RULES_CONTRADICT,
                "\"" + give.field() + "\" is a password for one column and a value for another")
            .remedy("give the value a heading of its own");
      }
    }
    return list;
  }

  private static void name(YamlValue name, String of) {
    if (!NAME.matcher(name.word()).matches()) {
      throw name.place()
          .problem(Failure.VALUE_FORM, "this is no name for " + of)
          .because(FORM)
          .remedy("write it like staff or test_staff");
    }
  }

  private static Job.Named named(YamlValue value) {
    return new Job.Named(value.word(), value.place());
  }

  private static List<Job.Named> several(YamlValue value) {
    return value == null
        ? List.of()
        : value.isList()
            ? value.items().stream().map(PinsReader::named).toList()
            : List.of(named(value));
  }

  private static PinList.Give give(YamlValue column, YamlValue body) {
    boolean password = body.isMapping();
    YamlValue field = password ? body.fields(Set.of("password")).get("password") : body;
    if (field == null) {
      throw body.place()
          .problem(Failure.WORD_MISSING, "what does " + column.word() + " take?")
          .remedy("name a heading of the file, or { password: HEADING }");
    }
    name(field, "a heading of the file");
    if (field.word().equals(PinList.KEY)) {
      throw field
          .place()
          .problem(Failure.RULES_CONTRADICT, "\"key\" is the heading of the key itself")
          .remedy("choose another name");
    }
    return new PinList.Give(named(column), field.word(), password);
  }

  private static Map<String, FinitePattern> patterns(YamlValue section, List<PinList.Give> gives) {
    Map<String, FinitePattern> patterns = new LinkedHashMap<>();
    List<String> fields = gives.stream().map(PinList.Give::field).toList();
    for (var entry : section.entries()) {
      String field = entry.getKey().word();
      if (!fields.contains(field)) {
        throw entry
            .getKey()
            .place()
            .problem(Failure.WORD_UNKNOWN, "no column takes \"" + field + "\"")
            .remedy(Nearest.hint(field, fields));
      }
      patterns.put(field, Patterned.pattern(entry.getValue()));
    }
    return patterns;
  }
}
