package yemble.core.project;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import yemble.core.file.TextFile;
import yemble.core.file.WrittenFile;
import yemble.core.file.WrittenFile.Readers;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.yaml.YamlValue;

/**
 * Adds lines to a section of a project file, and leaves all else of it as it is: comments, layout,
 * line ends.
 */
public final class ProjectLines {
  /** The section of links. */
  public static final String LINKS = "links";

  /** The section of how columns are masked. */
  public static final String COLUMNS = "columns";

  private ProjectLines() {}

  /**
   * A link as a line of the section, without its indentation.
   *
   * @param link as {@code child.column -> parent.column}
   * @param condition under which it exists; empty for always
   */
  public static String line(String link, String condition) {
    return quoted(link) + ": " + (condition.isEmpty() ? "{}" : "{ if: " + quoted(condition) + " }");
  }

  /**
   * How a column is masked, as a line of its section.
   *
   * @param rule in the braces
   */
  public static String column(String column, String rule) {
    return (column.matches("[\\w.]+") ? column : quoted(column)) + ": { " + rule + " }";
  }

  /**
   * The rule of a column that holds another thing in each row, for {@link #column}.
   *
   * @param selector the column that says what it holds
   * @param numbers whether that holds numbers
   * @param kinds by the values of that column
   */
  public static String cases(String selector, boolean numbers, Map<String, String> kinds) {
    StringBuilder cases = new StringBuilder("cases: [");
    kinds.forEach(
        (key, kind) ->
            cases
                .append("{ when: ")
                .append(quoted(selector + " = " + (numbers ? key : quoted(key))))
                .append(", as: ")
                .append(kind)
                .append(" }, "));
    return cases.append("{ else: shape }]").toString();
  }

  private static String quoted(String text) {
    return '\'' + text.replace("'", "''") + '\'';
  }

  /**
   * Adds lines to the project in a folder.
   *
   * @param section its name
   * @param lines each as {@link #line} or {@link #column}
   * @throws Problem of type USAGE if they cannot be added without touching what is there, of type
   *     DATABASE if the file cannot be written
   */
  public static void add(Path directory, String section, List<String> lines) {
    if (lines.isEmpty()) {
      return;
    }
    Path file = directory.resolve(Project.FILE);
    try {
      String text = TextFile.read(file, Project.FILE);
      String added = added(text, section, lines);
      YamlValue.parse(added, Project.FILE);
      WrittenFile.replace(file, added, Readers.USUAL);
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "the project file cannot be written")
          .at(Project.FILE)
          .causedBy(e);
    }
  }

  /** The text of a project file with more lines in a section. */
  static String added(String text, String name, List<String> lines) {
    String end = text.contains("\r\n") ? "\r\n" : "\n";
    Optional<Map.Entry<YamlValue, YamlValue>> section =
        YamlValue.parse(text, Project.FILE).entries().stream()
            .filter(entry -> entry.getKey().text().equals(name))
            .findFirst();
    if (section.isEmpty()) {
      boolean open = !text.isEmpty() && !text.endsWith("\n");
      return text + (open ? end : "") + end + name + ":" + end + lines("  ", lines, end);
    }
    int line = section.get().getKey().place().line();
    YamlValue value = section.get().getValue();
    String[] all = text.split("(?<=\n)");
    String head = all[line - 1].endsWith("\n") ? all[line - 1] : all[line - 1] + end;
    String indent = "  ";
    if (value.isEmpty()) {
      head = head.replaceFirst(":(\\s*)\\{\\s*}", ":");
    } else {
      YamlValue first = value.entries().get(0).getKey();
      if (first.place().line() == line) {
        throw value
            .place()
            .problem(Failure.FILE_FORM, name + " stands in braces here, where no line can be added")
            .remedy("write each in a line of its own, below " + name + ":");
      }
      indent = " ".repeat(first.place().column() - 1);
    }
    all[line - 1] = head + lines(indent, lines, end);
    return String.join("", all);
  }

  private static String lines(String indent, List<String> lines, String end) {
    return lines.stream().map(line -> indent + line + end).collect(Collectors.joining());
  }
}
