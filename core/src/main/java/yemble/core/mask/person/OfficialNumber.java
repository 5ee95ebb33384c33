package yemble.core.mask.person;

import yemble.core.mask.Mask;

/**
 * The mask of numbers by which states, tax offices and insurers know a person. Those of a form that
 * is known stay of it, and as right or wrong as they are ({@link OfficialNumbers}); any other
 * number keeps the state of a Luhn check digit, or its shape alone.
 *
 * <p>Normal form: capitals and digits, without what parts them. A bijection, but for Norwegian
 * numbers, of which each day has a few more or less, and, where the countries are not known, for
 * numbers that are right in several of them.
 */
public final class OfficialNumber implements Mask {
  private static final int SIGNED_LENGTH = 11;
  private static final int SIGN = 6;
  private static final int MOST_STEPS = 10_000;

  private final OfficialNumbers numbers;
  private final Mask others;

  /**
   * @param others the mask of what is of no known form
   */
  public OfficialNumber(OfficialNumbers numbers, Mask others) {
    this.numbers = numbers;
    this.others = others;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public boolean mayMeet() {
    return true;
  }

  @Override
  public String apply(String text) {
    boolean mayBeSigned = mayBeSigned(text);
    boolean signed = mayBeSigned && numbers.isRight(compact(text, true));
    String masked = numbers.masked(compact(text, signed));
    if (masked == null && mayBeSigned) {
      signed = true;
      masked = numbers.masked(compact(text, true));
    }
    return masked == null ? other(text) : written(text, masked, signed);
  }

  /** Walks until the result is no right number of a form by chance. */
  private String other(String text) {
    String masked = text;
    for (int step = 0; step < MOST_STEPS; step++) {
      masked = others.apply(masked);
      if (!numbers.isRight(compact(masked, false))
          && !(mayBeSigned(masked) && numbers.isRight(compact(masked, true)))) {
        return masked;
      }
    }
    return masked;
  }

  /** Whether a text is six digits, a sign or letter, three digits, and a digit or letter. */
  private static boolean mayBeSigned(String text) {
    if (text.length() != SIGNED_LENGTH) {
      return false;
    }
    for (int i = 0; i < SIGNED_LENGTH; i++) {
      char c = text.charAt(i);
      boolean digit = c >= '0' && c <= '9';
      boolean letter = (c >= 'A' && c <= 'Y') || (c >= 'a' && c <= 'y');
      boolean fits =
          i == SIGN ? letter || c == '-' || c == '+' : digit || (letter && i == SIGNED_LENGTH - 1);
      if (!fits) {
        return false;
      }
    }
    return true;
  }

  private static boolean isPart(char c) {
    return (c >= '0' && c <= '9') || (c >= 'A' && c <= 'Z') || (c >= 'a' && c <= 'z');
  }

  /** The capitals and digits of a text, and the sign in it if that may have a meaning. */
  public static String compact(String text) {
    return compact(text, mayBeSigned(text));
  }

  private static String compact(String text, boolean signed) {
    StringBuilder compact = new StringBuilder(text.length());
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (signed || isPart(c)) {
        compact.append(c >= 'a' && c <= 'z' ? (char) (c - 32) : c);
      }
    }
    return compact.toString();
  }

  /** The masked characters in the places and the case of the original's. */
  private static String written(String text, String masked, boolean signed) {
    char[] out = text.toCharArray();
    int next = 0;
    for (int i = 0; i < out.length; i++) {
      if (signed || isPart(out[i])) {
        char c = masked.charAt(next++);
        out[i] = out[i] >= 'a' && out[i] <= 'z' && c >= 'A' && c <= 'Z' ? (char) (c + 32) : c;
      }
    }
    return new String(out);
  }
}
