package yemble.core.mask.step;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import yemble.core.mask.Mask;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.yaml.YamlValue;

/**
 * A value of a list.
 *
 * @param from what the list is called
 * @param weights how often each comes, relative to the others
 * @param differs whether a value never stays the same, if there is another one
 */
public record FromList(String from, List<String> values, List<Integer> weights, boolean differs)
    implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "list",
          "`list: FILE`, `[…]` or `{ value: weight }`",
          "a value of a list; in a file one a line, behind a tab how often it comes beside the others",
          "{\"oneOf\": [{\"type\": \"string\"}, {\"type\": \"array\", \"minItems\": 1, \"items\": "
              + StepSort.SCALAR
              + "}, {\"type\": \"object\", \"minProperties\": 1, \"additionalProperties\":"
              + " {\"type\": \"integer\", \"minimum\": 1}}]}",
          List.of("[Red, Green]", "{ A: 70, B: 30 }"),
          StepSort.Takes.NO_BYTES,
          Set.of(StepSort.Trait.MAKES_VALUES),
          FromList::read);

  public FromList {
    values = List.copyOf(values);
    weights = List.copyOf(weights);
  }

  private static MaskStep read(YamlValue value, StepSort.Known known) {
    if (value.isList()) {
      List<String> values = value.items().stream().map(YamlValue::text).toList();
      return checked(
          new FromList("in " + value.place(), values, values.stream().map(v -> 1).toList(), true),
          value);
    }
    if (value.isMapping()) {
      List<String> values = new ArrayList<>();
      List<Integer> weights = new ArrayList<>();
      for (var entry : value.entries()) {
        values.add(entry.getKey().text());
        weights.add((int) Math.min(entry.getValue().number(1), 1_000_000));
      }
      return checked(new FromList("in " + value.place(), values, weights, true), value);
    }
    return file(value, known);
  }

  /** A file of values, one a line; behind a tab how often it comes, relative to the others. */
  private static FromList file(YamlValue name, StepSort.Known known) {
    List<String> lines = ListFile.lines(known.directory(), name);
    List<String> values = new ArrayList<>();
    List<Integer> weights = new ArrayList<>();
    for (int i = 0; i < lines.size(); i++) {
      String[] parts = lines.get(i).split("\t", 2);
      values.add(parts[0].strip());
      weights.add(parts.length == 1 ? 1 : weight(parts[1].strip(), name.word(), i));
    }
    return checked(new FromList(name.word(), values, weights, true), name);
  }

  private static FromList checked(FromList list, YamlValue at) {
    if (list.values().isEmpty() || list.values().stream().anyMatch(String::isEmpty)) {
      throw at.place()
          .problem(
              Failure.LIST_FORM,
              list.values().isEmpty() ? "the list is empty" : "the list holds an empty value")
          .remedy("a value must not become empty; use clear for NULL");
    }
    return list;
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

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public String words() {
    return "list " + from;
  }

  @Override
  public Mask mask(Making making) {
    return new OwnList(making.prf(), values, weights, differs);
  }
}
