package yemble.core.mask;

import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.crypto.Permutations;
import yemble.core.crypto.Prf;

/**
 * The mask of internet addresses, byte by byte: each byte is permuted under all bytes before it, so
 * that two addresses share as long a beginning afterwards as before, in whole bytes (after the idea
 * of Xu, Fan, Ammar and Moon, "Prefix-Preserving IP Address Anonymization", 2002, who do it bit by
 * bit). Private, local and reserved networks stay themselves. Of an address of version 6 the first
 * two bytes stay, and the groups behind them are permuted likewise. What follows the address (a
 * port, the length of a network) stays; what is no address becomes another text of its shape.
 *
 * <p>Normal form: the text in lower case. A bijection.
 */
final class IpAddress implements Mask {
  private static final Pattern FOUR =
      Pattern.compile("([0-9]{1,3})\\.([0-9]{1,3})\\.([0-9]{1,3})\\.([0-9]{1,3})([:/].*)?");
  private static final Pattern GROUP = Pattern.compile("[0-9a-f]{1,4}");
  private static final int BYTE = 256;

  private final Permutations permutations;
  private final Shape shape;

  IpAddress(Prf prf) {
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
    int from = reserved(bytes);
    StringBuilder before = new StringBuilder();
    StringBuilder out = new StringBuilder();
    for (int i = 0; i < 4; i++) {
      int masked = i < from ? bytes[i] : permuted(bytes[i], before, i);
      before.append(bytes[i]).append('.');
      out.append(i == 0 ? "" : ".").append(masked);
    }
    return out.toString();
  }

  /** The first byte is permuted among those that mean no private or reserved network. */
  private int permuted(int value, StringBuilder before, int position) {
    long masked = value;
    do {
      masked = permutations.of(BYTE, "4/" + before).of(masked);
    } while (position == 0 && isReserved((int) masked));
    return (int) masked;
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
    String lower = Letters.lower(text);
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
    return out.append(text.substring(at)).toString();
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
