package yemble.core.mask.device;

import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.crypto.Permutations;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Letters;
import yemble.core.mask.shape.Shape;

/**
 * The mask of internet addresses, byte by byte: each byte is permuted under all bytes before it, so
 * that two addresses share as long a beginning afterwards as before, in whole bytes (after the idea
 * of Xu, Fan, Ammar and Moon, "Prefix-Preserving IP Address Anonymization", 2002, who do it bit by
 * bit). Private, local and reserved networks stay themselves. Of an address of version 6 the first
 * two bytes stay, and the groups behind them are permuted likewise; one of version 4 within it
 * becomes what it becomes alone. What follows the address (a port, the length of a network, a zone)
 * stays; what is no address becomes another text of its shape.
 *
 * <p>Normal form: the text in lower case. A bijection.
 */
public final class IpAddress implements Mask {
  private static final Pattern FOUR =
      Pattern.compile("([0-9]{1,3})\\.([0-9]{1,3})\\.([0-9]{1,3})\\.([0-9]{1,3})([:/].*)?");

  /** What stands before an address of version 4 within one of version 6 (RFC 4291, RFC 6052). */
  private static final Pattern MAPPED =
      Pattern.compile("(?i)(?:(?:0{1,4}:){5}|::)(?:ffff:)?(?:0:)?|64:ff9b::");

  private static final Pattern GROUP = Pattern.compile("[0-9a-f]{1,4}");
  private static final int BYTE = 256;

  private final Prf prf;
  private final Permutations permutations;
  private final Shape shape;
  private final byte[] message = new byte[5];
  private final int[] networks = new int[1 << 16];

  public IpAddress(Prf prf) {
    this.prf = prf;
    this.permutations = new Permutations(prf);
    this.shape = new Shape(prf);
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public String apply(String text) {
    Matcher four = FOUR.matcher(text);
    int last = text.lastIndexOf(':', text.indexOf('.') < 0 ? 0 : text.indexOf('.'));
    if (last > 0 && FOUR.matcher(text.substring(last + 1)).matches()) {
      String before = text.substring(0, last + 1);
      boolean mapped = MAPPED.matcher(before).matches();
      return (mapped ? before : six(before)) + apply(text.substring(last + 1));
    }
    if (four.matches()) {
      int[] bytes = new int[4];
      for (int i = 0; i < 4; i++) {
        bytes[i] = Integer.parseInt(four.group(i + 1));
        if (bytes[i] >= BYTE) {
          return shape.apply(text);
        }
      }
      return four(bytes) + (four.group(5) == null ? "" : four.group(5));
    }
    return text.indexOf(':') >= 0 ? six(text) : shape.apply(text);
  }

  private String four(int[] bytes) {
    int address = bytes[0] << 24 | bytes[1] << 16 | bytes[2] << 8 | bytes[3];
    int kept = 8 * reserved(bytes);
    int masked = address;
    if (kept == 0) {
      masked = masked & 0x00ffffff | first(bytes[0]) << 24;
      kept = 8;
    }
    masked ^= kept < 16 ? flips16(address, kept) : 0;
    masked ^= flips(address, Math.max(16, kept), 32);
    return (masked >>> 24)
        + "."
        + (masked >>> 16 & 255)
        + "."
        + (masked >>> 8 & 255)
        + "."
        + (masked & 255);
  }

  /** The first byte is permuted among those that mean no private or reserved network. */
  private int first(int value) {
    long masked = value;
    do {
      masked = permutations.of(BYTE, "first byte").of(masked);
    } while (isReserved((int) masked));
    return (int) masked;
  }

  /** The flips of the second byte, kept for networks that come again. */
  private int flips16(int address, int from) {
    int network = address >>> 16;
    if (networks[network] == 0) {
      networks[network] = 1 << 24 | flips(address, from, 16);
    }
    return networks[network] & 0x00ff0000;
  }

  /**
   * Which bits from a place to another one are flipped: each by one bit of the pseudo-random
   * function of the bits before it, as Xu, Fan, Ammar and Moon have it ("Prefix-preserving IP
   * address anonymization", 2002).
   */
  private int flips(int address, int from, int to) {
    int flips = 0;
    for (int bit = from; bit < to; bit++) {
      int before = address & -1 << 32 - bit;
      message[0] = (byte) bit;
      message[1] = (byte) (before >>> 24);
      message[2] = (byte) (before >>> 16);
      message[3] = (byte) (before >>> 8);
      message[4] = (byte) before;
      flips |= (prf.of(message)[15] & 1) << 31 - bit;
    }
    return flips;
  }

  private static boolean isReserved(int first) {
    return first == 0
        || first == 10
        || first == 127
        || first == 169
        || first == 172
        || first == 192
        || first >= 224;
  }

  /** How many bytes stay: those that say that a network is private or reserved. */
  private static int reserved(int[] bytes) {
    return switch (bytes[0]) {
      case 172, 192, 169 -> 2;
      default -> isReserved(bytes[0]) ? 1 : 0;
    };
  }

  private String six(String text) {
    int end = 0;
    while (end < text.length() && "/%".indexOf(text.charAt(end)) < 0) {
      end++;
    }
    String lower = Letters.lower(text.substring(0, end));
    boolean capitals = !lower.equals(text.substring(0, end));
    StringBuilder before = new StringBuilder();
    StringBuilder out = new StringBuilder();
    Matcher group = GROUP.matcher(lower);
    int at = 0;
    int groups = 0;
    while (group.find()) {
      out.append(text, at, group.start());
      String value = group.group();
      out.append(groups++ == 0 ? text.substring(0, group.end()) : group(value, before.toString()));
      before.append(value).append(':');
      at = group.end();
    }
    out.append(lower.substring(at));
    String masked = capitals ? upper(out.toString()) : out.toString();
    return masked + text.substring(end);
  }

  private static String upper(String text) {
    return text.toUpperCase(java.util.Locale.ROOT);
  }

  private String group(String value, String before) {
    long size = 1L << (4 * value.length());
    long least = value.length() == 1 ? 0 : size >> 4;
    long number = Long.parseLong(value, 16);
    if (number < least) {
      return value;
    }
    long masked =
        least
            + permutations
                .of(size - least, "6/" + value.length() + "/" + before)
                .of(number - least);
    return Long.toHexString(masked);
  }
}
