package yemble.core.mask.id;

import java.util.function.BiPredicate;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;

/**
 * A form of official numbers, as the state that gives them out describes it. Numbers are compact:
 * capitals and digits, and a sign where it has a meaning.
 *
 * @param country its code of ISO 3166
 * @param name what people call it
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
record IdForm(
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
  static final String DIGITS = "0123456789";

  /** A form of digits alone. */
  static IdForm of(
      String country,
      String name,
      String form,
      int[] free,
      int[] checks,
      UnaryOperator<String> checked) {
    return new IdForm(
        country,
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

  IdForm born(Birth holds) {
    return new IdForm(
        country, name, form, free, checks, letters, checked, holds, given, alike, kept);
  }

  IdForm given(Predicate<String> only) {
    return new IdForm(
        country, name, form, free, checks, letters, checked, birth, only, alike, kept);
  }

  IdForm alike(BiPredicate<String, String> keeps) {
    return new IdForm(
        country, name, form, free, checks, letters, checked, birth, given, keeps, kept);
  }

  IdForm gaps(UnaryOperator<String> keptWith) {
    return new IdForm(
        country, name, form, free, checks, letters, checked, birth, given, alike, keptWith);
  }

  /** Whether some of its numbers have no check characters. */
  boolean gaps() {
    return kept != null;
  }

  IdForm letters(String inOrder) {
    return new IdForm(
        country, name, form, free, checks, inOrder, checked, birth, given, alike, kept);
  }

  int length() {
    return form.length();
  }

  /** Whether a text has the form, and a day in it that exists. */
  boolean fits(String text) {
    return form.matches(text) && (birth == null || birth.read(text) != null) && given.test(text);
  }

  /** Whether it is right in every way. */
  boolean isRight(String text) {
    return fits(text) && text.equals(checked.apply(text));
  }
}
