package yemble.core.official;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Which characters may stand where in a number: a sequence of single characters and classes of
 * them, {@code [0-9]{6}[-+A][0-9X]}. Read once, then looked up in a fraction of a matcher's time.
 *
 * @param low for each place a bit for each character below 64
 * @param high the same for those from 64 to 127
 */
public record Spelling(long[] low, long[] high) {
  private static final Pattern PIECE = Pattern.compile("(\\[[^]]*]|[0-9A-Z])(?:\\{([0-9]+)})?");

  /**
   * @throws IllegalArgumentException if there is anything else in a form
   */
  static Spelling of(String form) {
    List<long[]> places = new ArrayList<>();
    Matcher piece = PIECE.matcher(form);
    int at = 0;
    while (piece.find() && piece.start() == at) {
      int times = piece.group(2) == null ? 1 : Integer.parseInt(piece.group(2));
      places.addAll(Collections.nCopies(times, characters(piece.group(1))));
      at = piece.end();
    }
    if (at < form.length()) {
      throw new IllegalArgumentException("no spelling: " + form);
    }
    return new Spelling(
        places.stream().mapToLong(place -> place[0]).toArray(),
        places.stream().mapToLong(place -> place[1]).toArray());
  }

  /** Which characters a class has: bits of those below 64, and of those above. */
  private static long[] characters(String written) {
    Pattern pattern = Pattern.compile(written);
    long[] bits = new long[2];
    for (char c = 0; c < 128; c++) {
      if (pattern.matcher(String.valueOf(c)).matches()) {
        bits[c / 64] |= 1L << c;
      }
    }
    return bits;
  }

  int length() {
    return low.length;
  }

  /** The characters that may stand at a place. */
  public String at(int place) {
    StringBuilder may = new StringBuilder();
    for (char c = 0; c < 128; c++) {
      if (((c < 64 ? low : high)[place] >>> c & 1) != 0) {
        may.append(c);
      }
    }
    return may.toString();
  }

  /** Whether every character of a text may stand where it does. */
  public boolean matches(String text) {
    if (text.length() != low.length) {
      return false;
    }
    for (int i = 0; i < low.length; i++) {
      char c = text.charAt(i);
      if (c >= 128 || ((c < 64 ? low : high)[i] >>> c & 1) == 0) {
        return false;
      }
    }
    return true;
  }
}
