package yemble.core.mask.step;

import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import yemble.core.mask.Mask;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.yaml.YamlValue;

/**
 * The text with some of its words replaced; of free text, before anything else is.
 *
 * @param from what the list is called
 * @param found what becomes of each word or phrase, found as whole words without regard to case;
 *     the longest first, so that one is found before another that is part of it
 */
public record Replace(String from, Map<String, String> found) implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "replace",
          "`replace: { words: others }` or FILE",
          "the text with some words or phrases replaced, found as whole words in any case; in a file one pair a line, parted by a tab."
              + " For free text they come first, then everything else that its kind replaces; in other columns the rest stays",
          "{\"oneOf\": [{\"type\": \"string\"}, {\"type\": \"object\", \"minProperties\": 1,"
              + " \"additionalProperties\": "
              + StepSort.SCALAR
              + "}]}",
          List.of("{ Old Quay: New Quay }"),
          StepSort.Takes.TEXTS,
          Set.of(StepSort.Trait.SETS_TEXT),
          Replace::read);

  public Replace {
    SortedMap<String, String> sorted =
        new TreeMap<>(
            Comparator.comparingInt(String::length)
                .reversed()
                .thenComparing(Comparator.naturalOrder()));
    sorted.putAll(found);
    found = Collections.unmodifiableSortedMap(sorted);
  }

  /** What becomes of which words: written there, or in a file, parted by a tab, one a line. */
  private static MaskStep read(YamlValue value, StepSort.Known known) {
    Map<String, String> words = new LinkedHashMap<>();
    if (value.isMapping()) {
      value.entries().forEach(entry -> words.put(entry.getKey().text(), entry.getValue().text()));
    } else {
      List<String> lines = ListFile.lines(known.directory(), value);
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
    return new Replace(value.isMapping() ? "in " + value.place() : value.word(), words);
  }

  /** All words of steps together, in the same order; the first step that speaks of one wins. */
  public static Map<String, String> together(List<MaskStep> steps) {
    Map<String, String> all = new HashMap<>();
    for (MaskStep step : steps) {
      if (step instanceof Replace replace) {
        replace.found().forEach(all::putIfAbsent);
      }
    }
    return new Replace("", all).found();
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public Mask mask(Making making) {
    return new Replacing(found);
  }
}
