package yemble.core.mask.place;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import yemble.core.crypto.Permutation;
import yemble.core.crypto.Prf;
import yemble.core.mask.CodeMask;
import yemble.core.mask.money.Iban;
import yemble.core.mask.shape.Shape;
import yemble.core.vocabulary.Vocabularies;

/**
 * The mask of country codes of two or three letters (ISO 3166-1): the code of another country, the
 * same one for both lengths. What is no such code becomes another text of its shape.
 *
 * <p>Normal form: capitals. A bijection on the codes of one length.
 */
public final class CountryCode implements CodeMask {
  private static final List<String> CODES = Vocabularies.load("country-codes");
  private static final int SHORT = 2;

  private final Permutation permutation;
  private final Map<String, Integer> numbers = new HashMap<>();
  private final Shape shape;

  public CountryCode(Prf prf, Shape shape) {
    this.permutation = prf.permutation(CODES.size(), "codes");
    this.shape = shape;
    for (int i = 0; i < CODES.size(); i++) {
      numbers.put(CODES.get(i).substring(0, SHORT), i);
      numbers.put(CODES.get(i).substring(SHORT), i);
    }
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public String apply(String text) {
    Integer number = numbers.get(Iban.normal(text));
    return number == null ? other(text) : Iban.inFormat(text, moved(text, number));
  }

  @Override
  public boolean isOne(String text) {
    return numbers.containsKey(Iban.normal(text));
  }

  private String moved(String text, int number) {
    String codes = CODES.get((int) permutation.of(number));
    return Iban.normal(text).length() == SHORT ? codes.substring(0, SHORT) : codes.substring(SHORT);
  }

  /** What is no code walks on until it still is none: so it never meets one. */
  private String other(String text) {
    String masked = text;
    do {
      masked = shape.apply(masked);
    } while (isOne(masked));
    return masked;
  }
}
