package yemble.core.project;

import java.io.IOException;
import java.math.BigDecimal;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.file.TextFile;
import yemble.core.problem.Failure;
import yemble.core.yaml.YamlValue;

/** Reads what a job picks. */
final class PickReader {
  private static final Set<String> WORDS =
      Set.of("where", "share", "rows", "newest", "rows-of", "all");
  private static final Pattern NEWEST = Pattern.compile("([0-9][0-9_]{0,11}) +by +(\\S.*)");

  private final Path directory;

  /**
   * @param directory what paths begin at
   */
  PickReader(Path directory) {
    this.directory = directory;
  }

  /** The picks of a table: one, or a list of them. */
  List<Pick> read(YamlValue table, YamlValue body) {
    if (!body.isList()) {
      return List.of(pick(table, body, table.place()));
    }
    List<Pick> picks = new ArrayList<>();
    for (YamlValue item : body.items()) {
      picks.add(pick(table, item, item.place()));
    }
    if (picks.isEmpty()) {
      throw body.place()
          .problem(Failure.WORD_MISSING, "no pick stands in this list")
          .remedy("write { where: … }, or {} for all rows");
    }
    return picks;
  }

  private Pick pick(YamlValue table, YamlValue body, yemble.core.yaml.Place place) {
    Map<String, YamlValue> fields = body.fields(WORDS);
    YamlValue where = fields.get("where");
    alone(fields, "newest", "share", "rows", "rows-of");
    alone(fields, "rows-of", "where", "share", "rows");
    if (fields.containsKey("all") && !fields.containsKey("rows-of")) {
      throw fields
          .get("all")
          .place()
          .problem(Failure.RULES_CONTRADICT, "all: says nothing without rows-of:")
          .remedy("add rows-of: with a file of keys, or take all: out");
    }
    return new Pick(
        table.word(),
        table.place(),
        where == null ? Condition.NONE : new Condition(where.word(), where.place()),
        fields.containsKey("share") ? AmountReader.share(fields.get("share")) : BigDecimal.ONE,
        fields.containsKey("rows") ? fields.get("rows").number(1) : Pick.ALL,
        Optional.ofNullable(fields.get("newest")).map(PickReader::newest),
        Optional.ofNullable(fields.get("rows-of"))
            .map(file -> keys(file, fields.containsKey("all") && fields.get("all").flag())),
        place);
  }

  private static void alone(Map<String, YamlValue> fields, String word, String... others) {
    for (String other : others) {
      if (fields.containsKey(word) && fields.containsKey(other)) {
        throw fields
            .get(other)
            .place()
            .problem(
                Failure.RULES_CONTRADICT, other + ": cannot stand beside " + word + ": in one pick")
            .remedy("write two picks of the table, as a list: what any of them takes is picked");
      }
    }
  }

  private static Pick.Newest newest(YamlValue value) {
    Matcher said = NEWEST.matcher(value.word().strip());
    long rows = said.matches() ? Long.parseLong(said.group(1).replace("_", "")) : 0;
    if (rows < 1) {
      throw value
          .place()
          .problem(Failure.VALUE_FORM, "expected a number of rows, and by which column, here")
          .remedy("write it as: newest: 500 by booked_at");
    }
    return new Pick.Newest(rows, said.group(2).strip(), value.place());
  }

  private Pick.Keys keys(YamlValue file, boolean all) {
    String name = file.word();
    String text;
    try {
      text = TextFile.read(directory.resolve(name), name);
    } catch (IOException e) {
      throw file.place()
          .problem(Failure.SETTING_UNREADABLE, "the keys in " + name + " cannot be read")
          .because("there is no such file in the project, or it is not UTF-8 text")
          .remedy("write its path from the project's folder: picks/" + name);
    }
    List<String> columns = new ArrayList<>();
    List<List<String>> rows = new ArrayList<>();
    List<Integer> lines = new ArrayList<>();
    CsvLines.read(
        text,
        name,
        Failure.LIST_FORM,
        (fields, place) -> {
          if (columns.isEmpty()) {
            columns.addAll(fields);
            if (new TreeSet<>(fields).size() < fields.size()) {
              throw place
                  .problem(Failure.LIST_FORM, "a column stands twice in the first line")
                  .remedy("name each column of the key once");
            }
          } else if (fields.size() != columns.size()) {
            throw place
                .problem(
                    Failure.LIST_FORM,
                    "this line has "
                        + fields.size()
                        + " fields, and the first one names "
                        + columns.size()
                        + " columns")
                .remedy("write one value for each column of the key");
          } else {
            rows.add(List.copyOf(fields));
            lines.add(place.line());
          }
        });
    if (rows.isEmpty()) {
      throw file.place()
          .problem(Failure.LIST_FORM, "there is no key in " + name)
          .remedy("its first line names the columns of a unique key, and each further one a row");
    }
    return new Pick.Keys(name, columns, rows, lines, all, file.place());
  }
}
