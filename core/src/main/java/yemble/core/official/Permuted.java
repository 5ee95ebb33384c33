package yemble.core.official;

import static yemble.core.digits.CheckDigits.digit;

import java.util.function.BiPredicate;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;
import java.util.stream.IntStream;

/**
 * What of the numbers of a form may change, and how they stay numbers of it. Numbers are compact:
 * capitals and digits, and a sign where it has a meaning.
 *
 * @param rank where it stands among the forms that a number may be of: of one length those first
 *     that fewest numbers are of by chance
 * @param country its code of ISO 3166
 * @param name by which its permutations are told apart: never changed, as masked values hang on it
 * @param form what all of its numbers look like
 * @param free the places that may become any other character of their alphabet
 * @param checks the places of its check characters
 * @param letters the check characters in the order of their values
 * @param checked puts the right check characters into a number; null if the rest has none
 * @param birth how it holds a day of birth; null if it holds none
 * @param given whether the state gives out such numbers, check characters and day apart
 * @param alike what a number keeps when its free places change: the gender that it tells, and the
 *     like
 * @param kept for a form some of whose numbers have no check characters: the same for two numbers
 *     of a day if and only if they are alike; null for other forms
 */
public record Permuted(
    int rank,
    String country,
    String name,
    Spelling form,
    int[] free,
    int[] checks,
    String letters,
    UnaryOperator<String> checked,
    Birth birth,
    Predicate<String> given,
    BiPredicate<String, String> alike,
    UnaryOperator<String> kept) {
  public static final String DIGITS = "0123456789";

  /** A form of digits alone. */
  static Permuted of(
      int rank, String name, String form, int[] free, int[] checks, UnaryOperator<String> checked) {
    return new Permuted(
        rank,
        "",
        name,
        Spelling.of(form),
        free,
        checks,
        DIGITS,
        checked,
        null,
        text -> true,
        (before, after) -> true,
        null);
  }

  /** The same of a country. */
  Permuted in(String iso) {
    return new Permuted(
        rank, iso, name, form, free, checks, letters, checked, birth, given, alike, kept);
  }

  Permuted born(Birth holds) {
    return new Permuted(
        rank, country, name, form, free, checks, letters, checked, holds, given, alike, kept);
  }

  Permuted given(Predicate<String> only) {
    return new Permuted(
        rank, country, name, form, free, checks, letters, checked, birth, only, alike, kept);
  }

  Permuted alike(BiPredicate<String, String> keeps) {
    return new Permuted(
        rank, country, name, form, free, checks, letters, checked, birth, given, keeps, kept);
  }

  Permuted gaps(UnaryOperator<String> keptWith) {
    return new Permuted(
        rank, country, name, form, free, checks, letters, checked, birth, given, alike, keptWith);
  }

  /** Whether some of its numbers have no check characters. */
  public boolean gaps() {
    return kept != null;
  }

  Permuted letters(String inOrder) {
    return new Permuted(
        rank, country, name, form, free, checks, inOrder, checked, birth, given, alike, kept);
  }

  public int length() {
    return form.length();
  }

  /** Whether a text has the form, and a day in it that exists. */
  public boolean fits(String text) {
    return form.matches(text) && (birth == null || birth.read(text) != null) && given.test(text);
  }

  /** Whether it is right in every way. */
  public boolean isRight(String text) {
    return fits(text)
        && (checked instanceof Solved solved
            ? solved.isRight().test(text)
            : text.equals(checked.apply(text)));
  }

  /**
   * Finds the check character by trying each.
   *
   * @param at its place; -1 for none
   * @param letters that it can be
   * @param isRight whether a number is right
   */
  record Solved(int at, String letters, Predicate<String> isRight)
      implements UnaryOperator<String> {
    @Override
    public String apply(String text) {
      if (isRight.test(text)) {
        return text;
      }
      for (int i = 0; at >= 0 && i < letters.length(); i++) {
        String made = text.substring(0, at) + letters.charAt(i) + text.substring(at + 1);
        if (isRight.test(made)) {
          return made;
        }
      }
      return null;
    }
  }

  /** The places from one on, up to another. */
  static int[] places(int from, int to) {
    return IntStream.range(from, to).toArray();
  }

  /** A number with its last character replaced; null for a check value that has none. */
  static String last(String text, int check) {
    return check > 9 ? null : text.substring(0, text.length() - 1) + check;
  }

  /** Whether digits that begin at a place lie in the same half of all. */
  static boolean sameHalf(String before, String after, int at) {
    return digit(before, at) < 5 == digit(after, at) < 5;
  }

  static boolean sameParity(String before, String after, int at) {
    return digit(before, at) % 2 == digit(after, at) % 2;
  }
}
