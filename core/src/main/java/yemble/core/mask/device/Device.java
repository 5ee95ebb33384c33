package yemble.core.mask.device;

import org.apache.commons.validator.routines.checkdigit.CheckDigitException;
import org.apache.commons.validator.routines.checkdigit.LuhnCheckDigit;
import yemble.core.crypto.Permutations;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Letters;
import yemble.core.mask.shape.Shape;

/**
 * The mask of what tells devices and sessions from others. A hardware address keeps its maker, and
 * so the sort of address it is, a device number of 15 digits its model and the state of its check
 * digit (3GPP TS 23.003), a UUID (RFC 9562) its version and variant; hexadecimal digits become
 * others, anything else its shape.
 *
 * <p>Normal form: in lower case, without what parts digits.
 */
public final class Device implements Mask {
  private static final int KEPT = 8;
  private static final int SERIAL = 1_000_000;
  private static final int NETWORK = 1 << 24;

  private final boolean hardware;
  private final Permutations permutations;
  private final Mask hex;

  /**
   * @param hardware whether twelve hexadecimal digits that nothing parts are a hardware address
   */
  public Device(Prf prf, boolean hardware) {
    this.hardware = hardware;
    this.permutations = new Permutations(prf);
    this.hex = new HexDigits(new Shape(prf));
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
    String compact = compact(text);
    if (compact.length() == 12 && isHex(compact) && (hardware || text.length() > 12)) {
      long number = Long.parseLong(compact, 16);
      long masked = permutations.of(NETWORK, "maker " + (number >> 24)).of(number & NETWORK - 1);
      return written(text, compact.substring(0, 6) + padded(Long.toHexString(masked), 6));
    }
    if (compact.length() == 15 && compact.chars().allMatch(c -> c >= '0' && c <= '9')) {
      return written(text, device(compact));
    }
    String masked = hex.apply(text);
    if (compact.length() == 32 && isHex(compact) && isUuid(text)) {
      char[] out = masked.toCharArray();
      out[14] = text.charAt(14);
      out[19] = variant(text.charAt(19), out[19]);
      return new String(out);
    }
    return masked;
  }

  private String device(String digits) {
    String head = digits.substring(0, KEPT);
    int wrongBy = digits.charAt(14) - luhn(digits.substring(0, 14));
    long serial = Long.parseLong(digits.substring(KEPT, 14));
    String body =
        head + padded(Long.toString(permutations.of(SERIAL, "model " + head).of(serial)), 6);
    return body + Math.floorMod(luhn(body) - '0' + wrongBy, 10);
  }

  private static char luhn(String body) {
    try {
      return LuhnCheckDigit.LUHN_CHECK_DIGIT.calculate(body).charAt(0);
    } catch (CheckDigitException e) {
      return '0';
    }
  }

  private static String padded(String digits, int length) {
    return "0".repeat(length - digits.length()) + digits;
  }

  private static boolean isUuid(String text) {
    return text.length() == 36
        && text.charAt(8) == '-'
        && text.charAt(13) == '-'
        && text.charAt(18) == '-'
        && text.charAt(23) == '-';
  }

  /** The masked digit with the bits of the variant as they were. */
  private static char variant(char original, char masked) {
    int kept = Character.digit(original, 16) & 0b1100;
    int made = kept | Character.digit(masked, 16) & 0b0011;
    char digit = Character.forDigit(made, 16);
    return original >= 'A' && original <= 'F' && digit > '9' ? (char) (digit - 32) : digit;
  }

  private static boolean isHex(String text) {
    return text.chars().allMatch(c -> Character.digit(c, 16) >= 0 && c < 0x80);
  }

  private static String compact(String text) {
    StringBuilder compact = new StringBuilder(text.length());
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c != ':' && c != '-' && c != '.' && c != ' ') {
        compact.append(Letters.lower(c));
      }
    }
    return compact.toString();
  }

  private static String written(String text, String digits) {
    boolean capitals = !Letters.lower(text).equals(text);
    StringBuilder out = new StringBuilder(text);
    int next = 0;
    for (int i = 0; i < out.length(); i++) {
      char c = out.charAt(i);
      if (c != ':' && c != '-' && c != '.' && c != ' ') {
        char digit = digits.charAt(next++);
        out.setCharAt(i, capitals ? Letters.upper(digit) : digit);
      }
    }
    return out.toString();
  }
}
