package yemble.core.mask.step;

import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.mask.Mask;
import yemble.core.problem.Failure;
import yemble.core.yaml.YamlValue;

/** The value with all but its first and last characters hidden; separators stay. */
public record Hidden(int first, int last, char with) implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "hidden",
          "`hidden: { keep-first, keep-last, with }`",
          "`*` for every letter and digit but those; what parts them stays",
          """
          {"type": "object", "additionalProperties": false, "properties": {
            "keep-first": {"type": "integer", "minimum": 0},
            "keep-last": {"type": "integer", "minimum": 0},
            "with": {"type": ["string", "integer"]}}}""",
          List.of("{ keep-first: 3 }", "{ keep-last: 4, with: '#' }"),
          StepSort.Takes.ALL,
          Set.of(),
          Hidden::read);

  private static MaskStep read(YamlValue value, StepSort.Known known) {
    Map<String, YamlValue> fields = value.fields(Set.of("keep-first", "keep-last", "with"));
    String with = fields.containsKey("with") ? fields.get("with").word() : "*";
    if (with.length() != 1) {
      throw fields.get("with").place().problem(Failure.VALUE_FORM, "one character is wanted here");
    }
    return new Hidden(count(fields, "keep-first"), count(fields, "keep-last"), with.charAt(0));
  }

  private static int count(Map<String, YamlValue> fields, String word) {
    return fields.containsKey(word) ? (int) Math.min(fields.get(word).number(0), 10_000) : 0;
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public Mask mask(Making making) {
    return new HiddenMask(first, last, with);
  }
}
