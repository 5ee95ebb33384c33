package yemble.core.wording;

import java.util.List;

/**
 * A sentence with gaps, which have names. Each package that finds something has an enumeration of
 * its wordings; nothing else in it speaks.
 *
 * <p>{@code ${rows}} is filled with a value: a number with its thousands parted, a list with
 * commas. {@code ${rows:row}} counts, {@code 1 row} or {@code 2 rows}, {@code ${texts:text
 * holds|texts hold}} with forms of its own, and {@code ${rows?is|are}} says the form alone.
 */
public interface Wording {
  /** The sentence, with its gaps. */
  String words();

  /** Its code. */
  String name();

  /**
   * What was found.
   *
   * @param values in the order in which the gaps of other names first come
   * @throws IllegalArgumentException if they are more or fewer than these
   */
  default Sentence of(Object... values) {
    return new Sentence("", "", this, List.of(values));
  }
}
