package yemble.core.mask.step;

import java.util.List;
import java.util.Locale;
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
          Plus.SORT,
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

  /** What people call what a step does, where its word is another. */
  private static final Map<String, String> CALLED =
      Map.ofEntries(
          Map.entry("list", "lookup substitute choice weighted"),
          Map.entry("pattern", "regex regular expression format"),
          Map.entry("fixed", "constant static literal same value"),
          Map.entry("clear", "null nullify empty delete remove erase"),
          Map.entry("hidden", "partial stars asterisks last four digits"),
          Map.entry("template", "concatenate compose combine concat"),
          Map.entry("digest", "hash checksum one-way"),
          Map.entry(
              "noise",
              "variance jitter perturb random number normal laplace gaussian differential"),
          Map.entry("plus", "add constant offset sum"),
          Map.entry("range", "between bounds random number"),
          Map.entry("shift", "offset date move days"),
          Map.entry("password", "test login"),
          Map.entry("email-at", "mail domain"),
          Map.entry("replace", "find words dictionary"),
          Map.entry("filler", "lorem blank text dummy text"),
          Map.entry("from-column", "shuffle distribution own values"),
          Map.entry("token", "reversible way back pseudonym"));

  private Steps() {}

  /** The steps that a word people use may mean: the step's own, or one that it is called by. */
  public static List<StepSort> meant(String word) {
    String lower = word.toLowerCase(Locale.ROOT);
    return ALL.stream()
        .filter(
            step ->
                step.word().contains(lower)
                    || (" " + CALLED.getOrDefault(step.word(), "")).contains(" " + lower))
        .toList();
  }

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
