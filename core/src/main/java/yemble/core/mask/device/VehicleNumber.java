package yemble.core.mask.device;

import yemble.core.mask.Mask;
import yemble.core.mask.money.Iban;
import yemble.core.mask.shape.Shape;
import yemble.core.official.Vin;

/**
 * The mask of a vehicle identification number (ISO 3779): maker, model year and plant stay, what
 * describes the vehicle and its serial number change, within digits and letters. Where the ninth
 * place is its check digit (49 CFR 565.15), it is computed anew.
 *
 * <p>Normal form: capitals and digits. A bijection.
 */
public final class VehicleNumber implements Mask {
  private static final int[] FREE = {3, 4, 5, 6, 7, 11, 12, 13, 14, 15, 16};

  private final Shape shape;

  public VehicleNumber(Shape shape) {
    this.shape = shape;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public String apply(String text) {
    String compact = Iban.normal(text);
    if (!Vin.matches(compact)) {
      return shape.apply(text);
    }
    boolean checked = compact.charAt(Vin.CHECK) == Vin.check(compact);
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
        out[Vin.CHECK] = Vin.check(new String(out));
      }
    } while (!isOne(out) || (!checked && out[Vin.CHECK] == Vin.check(new String(out))));
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
}
