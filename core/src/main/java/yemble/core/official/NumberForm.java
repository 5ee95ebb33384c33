package yemble.core.official;

import java.time.LocalDate;
import java.util.List;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * A form of the numbers by which a state, a tax office or a health service knows a person: all that
 * there is to know of it. Survey recognises numbers by it, masks make others of it.
 *
 * @param country its code of ISO 3166
 * @param name what people call it
 * @param sort what it is for
 * @param source the authority that publishes its rule, and the rule in a few words
 * @param form what its digits and letters look like, in capitals, without anything between them
 * @param written how it is usually written; a value is looked at only if it is written so
 * @param check why a text of the form is none, in words without the text; null if it is one
 * @param permutations what of its numbers may change, as years of two digits are understood on a
 *     day; empty for a form that is masked by its shape
 */
public record NumberForm(
    String country,
    String name,
    Sort sort,
    String source,
    Pattern form,
    Pattern written,
    Function<String, String> check,
    Function<LocalDate, List<Permuted>> permutations) {
  static final String NO_DAY = "the day in it does not exist";
  static final String NEVER_ISSUED = "prefix never issued";
  static final String ELEVEN = "[0-9]{11}";

  /** What a number is for. */
  public enum Sort {
    NATIONAL,
    TAX,
    HEALTH
  }

  static NumberForm of(
      Sort sort,
      String country,
      String name,
      String source,
      String form,
      String written,
      Function<String, String> check) {
    return new NumberForm(
        country,
        name,
        sort,
        source,
        Pattern.compile(form),
        Pattern.compile(written),
        check,
        asOf -> List.of());
  }

  /** The same, whose numbers can become others. */
  NumberForm permuted(Function<LocalDate, List<Permuted>> ways) {
    return new NumberForm(
        country,
        name,
        sort,
        source,
        form,
        written,
        check,
        asOf -> ways.apply(asOf).stream().map(way -> way.in(country)).toList());
  }

  /**
   * The same, whose numbers can become others of one length with one check character, which is
   * found by trying each.
   *
   * @param rank as of {@link Permuted}
   * @param spelling what the numbers look like
   * @param free the places that may become others
   * @param checkAt the place of the check character; -1 for none
   * @param letters the check characters
   * @param as what else there is to say, as years of two digits are understood on a day
   */
  NumberForm solved(
      int rank,
      String spelling,
      int[] free,
      int checkAt,
      String letters,
      BiFunction<Permuted, LocalDate, Permuted> as) {
    Predicate<String> isRight = text -> check.apply(text) == null;
    int[] checks = checkAt < 0 ? new int[0] : new int[] {checkAt};
    Permuted way =
        Permuted.of(
                rank, name, spelling, free, checks, new Permuted.Solved(checkAt, letters, isRight))
            .letters(letters);
    Function<LocalDate, List<Permuted>> before = permutations;
    return permuted(
        asOf ->
            Stream.concat(before.apply(asOf).stream(), Stream.of(as.apply(way, asOf))).toList());
  }

  /** Null if a compact text (capitals and digits alone) is one; why not if it is of the form. */
  public String refusal(String compact) {
    return form.matcher(compact).matches() ? check.apply(compact) : "";
  }

  /** The least and the greatest number of digits and letters that it has. */
  public int[] lengths() {
    int least = 0;
    int most = 0;
    String pattern = form.pattern();
    int at = 0;
    while (at < pattern.length()) {
      int end = at + 1;
      int[] one = {1, 1};
      if (pattern.charAt(at) == '[') {
        end = pattern.indexOf(']', at) + 1;
      } else if (pattern.charAt(at) == '(') {
        end = pattern.indexOf(')', at) + 1;
        one[0] = Integer.MAX_VALUE;
        one[1] = 0;
        for (String choice : pattern.substring(at + 3, end - 1).split("\\|")) {
          int length = choice.replaceAll("\\[[^]]*]\\{[0-9]+}", "00").length();
          one[0] = Math.min(one[0], length);
          one[1] = Math.max(one[1], length);
        }
      }
      int[] times = {1, 1};
      if (end < pattern.length() && pattern.charAt(end) == '?') {
        times[0] = 0;
        end++;
      } else if (end < pattern.length() && pattern.charAt(end) == '{') {
        int close = pattern.indexOf('}', end);
        String[] bounds = pattern.substring(end + 1, close).split(",");
        times[0] = Integer.parseInt(bounds[0]);
        times[1] = Integer.parseInt(bounds[bounds.length - 1]);
        end = close + 1;
      }
      least += one[0] * times[0];
      most += one[1] * times[1];
      at = end;
    }
    return new int[] {least, most};
  }
}
