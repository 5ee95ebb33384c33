package yemble.core.mask.money;

import java.util.regex.Pattern;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Shape;

/**
 * The mask of a bank's code (ISO 9362): country and length stay, and a branch {@code XXX} for the
 * head office; the bank, its place and other branches change.
 *
 * <p>Normal form: capitals and digits. A bijection on the codes of a country.
 */
public final class BankCode implements Mask {
  private static final Pattern CODE = Pattern.compile("[A-Z]{6}[A-Z0-9]{2}([A-Z0-9]{3})?");
  private final Shape shape;

  public BankCode(Shape shape) {
    this.shape = shape;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public String apply(String text) {
    String code = Iban.normal(text);
    if (!CODE.matcher(code).matches()) {
      return shape.apply(text);
    }
    String branch = code.substring(8);
    boolean head = branch.isEmpty() || branch.equals("XXX");
    String free = code.substring(0, 4) + code.substring(6, 8) + (head ? "" : branch);
    String masked = free;
    do {
      masked = shape.permutedEverywhere(masked);
    } while (!head && masked.endsWith("XXX"));
    String made =
        masked.substring(0, 4)
            + code.substring(4, 6)
            + masked.substring(4, 6)
            + (head ? branch : masked.substring(6));
    return Iban.inFormat(text, made);
  }
}
