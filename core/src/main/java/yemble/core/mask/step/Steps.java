package yemble.core.mask.step;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;

/** All steps, in the order of the reference. */
public final class Steps {
  public static final List<StepSort> ALL =
      List.of(
          As.SORT,
          FromList.SORT,
          Patterned.SORT,
          Fixed.SORT,
          Clear.SORT,
          Hidden.SORT,
          Template.SORT,
          Digest.SORT,
          Noise.SORT,
          Range.SORT,
          Shift.SORT,
          Password.SORT,
          MailAt.SORT,
          Replace.SORT,
          Filler.SORT,
          FromColumn.SORT,
          UnknownPaths.SORT,
          Token.SORT);

  private static final Map<String, StepSort> BY_WORD =
      ALL.stream().collect(Collectors.toMap(StepSort::word, Function.identity()));

  private Steps() {}

  /** The words of all steps. */
  public static Set<String> words() {
    return BY_WORD.keySet();
  }

  /** The steps of a word. */
  public static Optional<StepSort> of(String word) {
    return Optional.ofNullable(BY_WORD.get(word));
  }

  /** The words of the steps that make a value where there was none, in the reference's order. */
  public static List<String> makingValues() {
    return ALL.stream().filter(StepSort::makesValues).map(StepSort::word).toList();
  }
}
