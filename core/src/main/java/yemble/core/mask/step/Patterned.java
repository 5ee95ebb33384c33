package yemble.core.mask.step;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import yemble.core.mask.Mask;
import yemble.core.pattern.FinitePattern;
import yemble.core.pattern.PatternProblem;
import yemble.core.problem.Failure;
import yemble.core.yaml.YamlValue;

/** A text that matches a pattern: the one that the value matches itself, or one of them. */
public record Patterned(List<FinitePattern> patterns) implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "pattern",
          "`pattern: REGEX` or `[…]`",
          "a text of the pattern. One that matches becomes another that matches the same pattern, by a permutation; any other is drawn."
              + " Sets, groups, `?`, `{n,m}`, `\\d` `\\w` `\\s`; nothing that repeats without end",
          "{\"oneOf\": [{\"type\": \"string\"}, {\"type\": \"array\", \"minItems\": 1, \"items\":"
              + " {\"type\": \"string\"}}]}",
          List.of("'[A-F]-\\d{3}'", "['[A-F]-\\d{3}', '[A-F]{2}/\\d']"),
          StepSort.Takes.NO_BYTES,
          Set.of(StepSort.Trait.MAKES_VALUES),
          Patterned::read);

  public Patterned {
    patterns = List.copyOf(patterns);
  }

  private static MaskStep read(YamlValue value, StepSort.Known known) {
    List<FinitePattern> patterns = new ArrayList<>();
    (value.isList() ? value.items() : List.of(value)).forEach(one -> patterns.add(pattern(one)));
    if (patterns.isEmpty()) {
      throw value.place().problem(Failure.PATTERN_FORM, "a pattern is missing here");
    }
    return new Patterned(patterns);
  }

  /** A pattern of values, none of which is empty. */
  public static FinitePattern pattern(YamlValue one) {
    try {
      FinitePattern pattern = FinitePattern.parse(one.word());
      if (pattern.matches("")) {
        throw one.place()
            .problem(Failure.PATTERN_FORM, "the pattern matches the empty text")
            .remedy("a value must not become empty: make some part of it obligatory");
      }
      return pattern;
    } catch (PatternProblem e) {
      throw one.place()
          .problem(
              Failure.PATTERN_FORM, "this is no pattern for values, see its character " + e.at())
          .because(e.getMessage())
          .remedy("write each part with what it may be and how often: '[A-F]-\\d{3}'");
    }
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public Mask mask(Making making) {
    return new PatternedMask(making.prf(), patterns);
  }
}
