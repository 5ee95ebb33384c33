package yemble.core.mask.person;

import java.util.regex.Pattern;
import yemble.core.crypto.Permutations;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Shape;

/**
 * The mask of ages in years: another one of the same decade, where the one that holds 18 is split
 * there. Anything but a whole number from 0 to 129 becomes another text of its shape.
 *
 * <p>Normal form: the number. A bijection within each block of years.
 */
public final class Age implements Mask {
  private static final Pattern YEARS = Pattern.compile("[0-9]{1,2}|1[0-2][0-9]");
  private static final int OF_AGE = 18;
  private static final int DECADE = 10;

  private final Permutations permutations;
  private final Shape shape;

  public Age(Prf prf, Shape shape) {
    this.permutations = new Permutations(prf);
    this.shape = shape;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public String apply(String text) {
    if (!YEARS.matcher(text).matches()) {
      return shape.apply(text);
    }
    int age = Integer.parseInt(text);
    int from = age - age % DECADE;
    int to = from + DECADE;
    if (from < OF_AGE && OF_AGE < to) {
      from = age < OF_AGE ? from : OF_AGE;
      to = age < OF_AGE ? OF_AGE : to;
    }
    long masked = from + permutations.of(to - from, "from " + from).of(age - from);
    return text.length() == 2 && masked < DECADE ? "0" + masked : Long.toString(masked);
  }
}
