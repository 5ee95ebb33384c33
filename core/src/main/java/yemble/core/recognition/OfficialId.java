package yemble.core.recognition;

import java.util.function.Function;
import java.util.regex.Pattern;

/**
 * A number by which a state, a tax office or a health service knows a person.
 *
 * @param country its code of ISO 3166
 * @param name what people call it
 * @param sort what it is for
 * @param telling whether its form alone, check digit left out, is rare among other numbers
 * @param form what its digits and letters look like, in capitals, without anything between them
 * @param written how it is usually written; a value is looked at only if it is written so
 * @param check why a text of the form is none, in words without the text; null if it is one
 */
record OfficialId(
    String country,
    String name,
    Sort sort,
    boolean telling,
    Pattern form,
    Pattern written,
    Function<String, String> check) {
  /** What a number is for. */
  enum Sort {
    NATIONAL,
    TAX,
    HEALTH
  }

  /** Null if a compact text (capitals and digits alone) is one; why not if it is of the form. */
  String refusal(String compact) {
    return form.matcher(compact).matches() ? check.apply(compact) : "";
  }
}
