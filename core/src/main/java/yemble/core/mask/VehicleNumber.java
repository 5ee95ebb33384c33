package yemble.core.mask;

import java.util.regex.Pattern;

/**
 * The mask of a vehicle identification number (ISO 3779): maker, model year and plant stay, what
 * describes the vehicle and its serial number change, within digits and letters. Where the ninth
 * place is its check digit (49 CFR 565.15), it is computed anew.
 *
 * <p>Normal form: capitals and digits. A bijection.
 */
final class VehicleNumber implements Mask {
  private static final Pattern CHARACTERS = Pattern.compile("[A-HJ-NPR-Z0-9]{17}");
  private static final int LENGTH = 17;
  private static final int CHECK = 8;
  private static final int[] FREE = {3, 4, 5, 6, 7, 11, 12, 13, 14, 15, 16};
  private static final int[] WEIGHTS = {8, 7, 6, 5, 4, 3, 2, 10, 0, 9, 8, 7, 6, 5, 4, 3, 2};
  private static final String LETTERS = "ABCDEFGHJKLMNPRSTUVWXYZ";
  private static final String VALUES = "12345678123457923456789";

  private final Shape shape;

  VehicleNumber(Shape shape) {
    this.shape = shape;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public String apply(String text) {
    String compact = Iban.normal(text);
    if (compact.length() != LENGTH || !CHARACTERS.matcher(compact).matches()) {
      return shape.apply(text);
    }
    boolean checked = compact.charAt(CHECK) == check(compact);
    StringBuilder free = new StringBuilder();
    for (int at : FREE) {
      free.append(compact.charAt(at));
    }
    String masked = free.toString();
    char[] out;
    do {
      masked = shape.permutedEverywhere(masked);
      out = compact.toCharArray();
      for (int i = 0; i < FREE.length; i++) {
        out[FREE[i]] = masked.charAt(i);
      }
      if (checked) {
        out[CHECK] = check(new String(out));
      }
    } while (!isOne(out) || (!checked && out[CHECK] == check(new String(out))));
    return Iban.inFormat(text, new String(out));
  }

  private static boolean isOne(char[] text) {
    for (char c : text) {
      if (c == 'I' || c == 'O' || c == 'Q') {
        return false;
      }
    }
    return true;
  }

  private static char check(String text) {
    int sum = 0;
    for (int i = 0; i < LENGTH; i++) {
      char c = text.charAt(i);
      int letter = LETTERS.indexOf(c);
      sum += WEIGHTS[i] * ((letter < 0 ? c : VALUES.charAt(letter)) - '0');
    }
    return sum % 11 == 10 ? 'X' : (char) ('0' + sum % 11);
  }
}
