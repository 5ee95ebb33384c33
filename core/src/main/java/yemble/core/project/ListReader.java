package yemble.core.project;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import yemble.core.file.TextFile;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.yaml.YamlValue;

/**
 * Reads lists of the user's own: values that masks choose from, and words with what they become.
 */
final class ListReader {
  private final Path directory;

  /**
   * @param directory what paths of lists begin at
   */
  ListReader(Path directory) {
    this.directory = directory;
  }

  /** A list: written there, with weights or without, or the name of a file. */
  MaskStep.FromList list(YamlValue value) {
    if (value.isList()) {
      return listed(
          "in " + value.place(), value, value.items().stream().map(YamlValue::text).toList());
    }
    if (value.isMapping()) {
      List<String> values = new ArrayList<>();
      List<Integer> weights = new ArrayList<>();
      for (var entry : value.entries()) {
        values.add(entry.getKey().text());
        weights.add((int) Math.min(entry.getValue().number(1), 1_000_000));
      }
      return checked(new MaskStep.FromList("in " + value.place(), values, weights, true), value);
    }
    return file(value);
  }

  private static MaskStep.FromList listed(String from, YamlValue at, List<String> values) {
    return checked(
        new MaskStep.FromList(from, values, values.stream().map(v -> 1).toList(), true), at);
  }

  private static MaskStep.FromList checked(MaskStep.FromList list, YamlValue at) {
    if (list.values().isEmpty() || list.values().stream().anyMatch(String::isEmpty)) {
      throw at.place()
          .problem(
              Failure.LIST_FORM,
              list.values().isEmpty() ? "the list is empty" : "the list holds an empty value")
          .remedy("a value must not become empty; use clear for NULL");
    }
    return list;
  }

  /** The lines of a file that say anything. */
  private List<String> lines(YamlValue name) {
    Path path = directory.resolve(name.word());
    try {
      return Arrays.stream(TextFile.read(path, name.word()).split("\\R"))
          .filter(line -> !line.isBlank() && !line.startsWith("#"))
          .toList();
    } catch (IOException e) {
      throw name.place()
          .problem(Failure.SETTING_UNREADABLE, "the list " + name.word() + " cannot be read")
          .because("there is no such file in the project, or it is not UTF-8 text")
          .remedy("write its path from the project's folder: lists/" + name.word());
    }
  }

  /** A file of values, one a line; behind a tab how often it comes, relative to the others. */
  private MaskStep.FromList file(YamlValue name) {
    List<String> lines = lines(name);
    List<String> values = new ArrayList<>();
    List<Integer> weights = new ArrayList<>();
    for (int i = 0; i < lines.size(); i++) {
      String[] parts = lines.get(i).split("\t", 2);
      values.add(parts[0].strip());
      weights.add(parts.length == 1 ? 1 : weight(parts[1].strip(), name.word(), i));
    }
    return checked(new MaskStep.FromList(name.word(), values, weights, true), name);
  }

  /** What becomes of which words: written there, or in a file, parted by a tab, one a line. */
  MaskStep.Replace replace(YamlValue value) {
    Map<String, String> words = new LinkedHashMap<>();
    if (value.isMapping()) {
      value.entries().forEach(entry -> words.put(entry.getKey().text(), entry.getValue().text()));
    } else {
      List<String> lines = lines(value);
      for (int i = 0; i < lines.size(); i++) {
        String[] parts = lines.get(i).split("\t", 2);
        if (parts.length < 2) {
          throw Problem.of(Failure.LIST_FORM, "nothing is said to put in the place of this")
              .at(value.word() + ", entry " + (i + 1))
              .remedy("write what is looked for, a tab, and what it becomes");
        }
        words.put(parts[0].strip(), parts[1].strip());
      }
    }
    if (words.isEmpty()
        || words.keySet().stream().anyMatch(String::isBlank)
        || words.values().stream().anyMatch(String::isEmpty)) {
      throw value
          .place()
          .problem(Failure.LIST_FORM, "a word to look for, or what it becomes, is missing here")
          .remedy("write what is looked for and what it becomes: replace: { Old Quay: New Quay }");
    }
    return new MaskStep.Replace(value.isMapping() ? "in " + value.place() : value.word(), words);
  }

  private static int weight(String text, String file, int index) {
    if (!text.matches("[1-9][0-9]{0,6}")) {
      throw Problem.of(Failure.LIST_FORM, "the weight of a value is no whole number")
          .at(file + ", value " + (index + 1))
          .remedy(
              String.format(Locale.ROOT, "behind the tab stands how often it comes, from 1 on"));
    }
    return Integer.parseInt(text);
  }
}
