package yemble.core.mask.health;

import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.crypto.Permutation;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.mask.person.Names;
import yemble.core.mask.shape.Letters;

/**
 * The mask of blood groups: another group, in the spelling of the original. {@code A}, {@code B}
 * and {@code AB} with their signs are permuted among themselves, and so are the two of {@code O} or
 * {@code 0}, since a value does not tell which of the two its column writes.
 *
 * <p>Normal form: the group and its sign. A bijection within each spelling.
 */
public final class BloodGroup implements Mask {
  private static final List<String> GROUPS = List.of("A", "B", "AB");
  private static final Pattern FORM =
      Pattern.compile(
          "(?i)(ab|[ab0o])([\\s(]*(?:rh)?[\\s(]*d?[\\s(]*)"
              + "(\\+|-|−|positive|negative|positivo|negativo|positiva|negativa|positif|négatif|negatif"
              + "|positiv|negativ|pos|neg)?(ve)?([\\s)]*)");
  private static final List<String[]> SIGNS =
      List.of(
          new String[] {"+", "-"},
          new String[] {"+", "−"},
          new String[] {"positive", "negative"},
          new String[] {"positivo", "negativo"},
          new String[] {"positiva", "negativa"},
          new String[] {"positif", "négatif"},
          new String[] {"positif", "negatif"},
          new String[] {"positiv", "negativ"},
          new String[] {"pos", "neg"});

  private final Permutation signed;
  private final Permutation bare;
  private final Mask others;

  /**
   * @param others the mask of what is no blood group
   */
  public BloodGroup(Prf prf, Mask others) {
    this.signed = prf.permutation(GROUPS.size() * 2L, "signed");
    this.bare = prf.permutation(GROUPS.size(), "bare");
    this.others = others;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public String apply(String text) {
    Matcher form = FORM.matcher(text);
    if (!form.matches()) {
      return Names.saysNothing(text) ? text : other(text);
    }
    String group = form.group(1).toUpperCase(java.util.Locale.ROOT);
    String sign = form.group(3);
    int number = GROUPS.indexOf(group);
    int negative = sign == null ? 0 : isNegative(sign) ? 1 : 0;
    String otherGroup = form.group(1);
    String otherSign = sign == null ? "" : sign;
    if (number < 0) {
      otherSign = sign == null ? "" : opposite(sign);
    } else if (sign == null) {
      otherGroup = moved(bare, number, 1);
    } else {
      int moved = next(signed, number * 2 + negative, GROUPS.size() * 2);
      otherGroup = GROUPS.get(moved / 2);
      otherSign = moved % 2 == negative ? sign : opposite(sign);
    }
    boolean small = Letters.lower(form.group(1)).equals(form.group(1)) && number >= 0;
    return (small ? Letters.lower(otherGroup) : otherGroup)
        + form.group(2)
        + otherSign
        + (form.group(4) == null ? "" : form.group(4))
        + form.group(5);
  }

  /** What is no group walks on until it still is none: so it never meets one. */
  private String other(String text) {
    String masked = text;
    do {
      masked = others.apply(masked);
    } while (FORM.matcher(masked).matches());
    return masked;
  }

  private static String moved(Permutation order, int number, int each) {
    return GROUPS.get(next(order, number, GROUPS.size() * each));
  }

  /** The one that comes behind a number in a keyed order: so none stays. */
  private static int next(Permutation order, int number, int size) {
    for (int i = 0; i < size; i++) {
      if (order.of(i) == number) {
        return (int) order.of((i + 1) % size);
      }
    }
    return number;
  }

  private static boolean isNegative(String sign) {
    return SIGNS.stream().anyMatch(pair -> pair[1].equalsIgnoreCase(sign));
  }

  private static String opposite(String sign) {
    for (String[] pair : SIGNS) {
      for (int i = 0; i < 2; i++) {
        if (pair[i].equalsIgnoreCase(sign)) {
          return Letters.inCaseOf(sign, capital(sign, pair[1 - i]));
        }
      }
    }
    return sign;
  }

  private static String capital(String sign, String other) {
    boolean capital = Letters.lower(sign.charAt(0)) != sign.charAt(0);
    return capital ? Letters.upper(other.charAt(0)) + other.substring(1) : other;
  }
}
