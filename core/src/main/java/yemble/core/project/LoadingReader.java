package yemble.core.project;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.problem.Failure;
import yemble.core.project.Loading.Way;
import yemble.core.yaml.YamlValue;

/** Reads what a job says about how its rows come into the target. */
final class LoadingReader {
  /** What fresh keys of texts are told apart by. */
  static final String NUMBER = "{number}";

  private static final Map<Way, Set<String>> TERMS =
      Map.of(
          Way.EMPTY, Set.of(),
          Way.REPLACE, Set.of(),
          Way.ADD, Set.of("conflicts", "match"),
          Way.UPDATE, Set.of("conflicts", "match", "leave"),
          Way.ALONGSIDE, Set.of("same", "keys", "broken", "helper"));

  private LoadingReader() {}

  /** A way alone, as {@code load: add}, or with its terms below it. */
  static Loading read(YamlValue value) {
    if (!value.isMapping()) {
      return Loading.of(value.oneOf(Way.class), value.place());
    }
    List<Map.Entry<YamlValue, YamlValue>> ways = value.entries();
    if (ways.size() != 1) {
      throw value
          .place()
          .problem(Failure.RULES_CONTRADICT, "a job loads in one way, and here are several")
          .remedy("keep one of them, with what belongs to it below");
    }
    Way way = ways.get(0).getKey().oneOf(Way.class);
    YamlValue body = ways.get(0).getValue();
    Map<String, YamlValue> fields = body.fields(TERMS.get(way));
    Loading.Broken broken =
        fields.containsKey("broken")
            ? fields.get("broken").oneOf(Loading.Broken.class)
            : Loading.Broken.REFUSE;
    String helper = fields.containsKey("helper") ? fields.get("helper").word().strip() : "";
    if (!helper.isEmpty() && broken == Loading.Broken.FRESH) {
      throw fields
          .get("helper")
          .place()
          .problem(Failure.RULES_CONTRADICT, "helper: and broken: fresh do not go together")
          .because("a key that no row has can be kept in no column of a row")
          .remedy("say broken: null, or leave helper: out");
    }
    return new Loading(
        way,
        fields.containsKey("conflicts")
            && fields.get("conflicts").oneOf(Conflicts.class) == Conflicts.LEAVE,
        columns(fields.get("match")),
        leave(fields.get("leave")),
        columns(fields.get("same")),
        keys(fields.get("keys")),
        broken,
        helper,
        ways.get(0).getKey().place());
  }

  private enum Conflicts {
    REFUSE,
    LEAVE
  }

  private static List<Job.Named> leave(YamlValue list) {
    return list == null
        ? List.of()
        : list.items().stream().map(item -> new Job.Named(item.word(), item.place())).toList();
  }

  private static List<Loading.Columns> columns(YamlValue section) {
    List<Loading.Columns> all = new ArrayList<>();
    if (section != null) {
      for (Map.Entry<YamlValue, YamlValue> entry : section.entries()) {
        List<String> names = entry.getValue().items().stream().map(YamlValue::word).toList();
        if (names.isEmpty()) {
          throw entry
              .getValue()
              .place()
              .problem(Failure.WORD_MISSING, "no column is named here")
              .remedy("write the columns that tell its rows apart: [email]");
        }
        all.add(new Loading.Columns(named(entry.getKey()), names));
      }
    }
    return all;
  }

  private static List<Loading.Pattern> keys(YamlValue section) {
    List<Loading.Pattern> all = new ArrayList<>();
    if (section != null) {
      for (Map.Entry<YamlValue, YamlValue> entry : section.entries()) {
        String text = entry.getValue().word();
        if (text.indexOf(NUMBER) < 0 || text.indexOf(NUMBER) != text.lastIndexOf(NUMBER)) {
          throw entry
              .getValue()
              .place()
              .problem(Failure.VALUE_FORM, "a fresh key must hold " + NUMBER + " once")
              .remedy("write it as \"DEV-" + NUMBER + "\"");
        }
        all.add(new Loading.Pattern(named(entry.getKey()), text));
      }
    }
    return all;
  }

  private static Job.Named named(YamlValue key) {
    return new Job.Named(key.word().strip(), key.place());
  }
}
