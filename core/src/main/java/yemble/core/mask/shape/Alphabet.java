package yemble.core.mask.shape;

/**
 * Letters that may stand for each other: a stretch of code points without gaps. A letter of no
 * alphabet known here stands for itself if it is punctuation, and otherwise for those of its row of
 * 32 code points, so that no script passes unmasked.
 */
public record Alphabet(int first, int size) {
  static final Alphabet ONE = new Alphabet(-1, 1);
  static final Alphabet FIRST_DIGIT = new Alphabet('1', 9);
  private static final Alphabet DIGIT = new Alphabet('0', 10);
  private static final Alphabet SMALL = new Alphabet('a', 26);
  private static final Alphabet CAPITAL = new Alphabet('A', 26);
  private static final Alphabet[] OTHERS = {
    new Alphabet(0xC0, 23),
    new Alphabet(0xD8, 7),
    new Alphabet(0xDF, 24),
    new Alphabet(0xF8, 8),
    new Alphabet(0x391, 17),
    new Alphabet(0x3A3, 9),
    new Alphabet(0x3B1, 25),
    new Alphabet(0x400, 48),
    new Alphabet(0x430, 48),
    new Alphabet(0x5D0, 27),
    new Alphabet(0x621, 26),
    new Alphabet(0x641, 10),
    new Alphabet(0x3041, 86),
    new Alphabet(0x30A1, 90),
    new Alphabet(0x4E00, 20_902),
    new Alphabet(0xAC00, 11_172)
  };

  /** The alphabet of a character. */
  public static Alphabet of(char c) {
    if (c < 0x80) {
      if (c >= '0' && c <= '9') {
        return DIGIT;
      }
      if (c >= 'a' && c <= 'z') {
        return SMALL;
      }
      return c >= 'A' && c <= 'Z' ? CAPITAL : ONE;
    }
    for (Alphabet alphabet : OTHERS) {
      if (c >= alphabet.first && c < alphabet.first + alphabet.size) {
        return alphabet;
      }
    }
    boolean stays =
        c < 0x100
            || Character.isSurrogate(c)
            || (c >= 0x2000 && c <= 0x2BFF)
            || (c >= 0x3000 && c <= 0x303F)
            || (c >= 0x300 && c <= 0x36F)
            || c >= 0xE000;
    return stays ? ONE : new Alphabet(c & ~31, 32);
  }

  boolean isFixed() {
    return size == 1;
  }

  /** A character that stands for the alphabet in a shape. */
  char sign() {
    return (char) first;
  }

  int index(char c) {
    return isFixed() ? 0 : c - first;
  }

  char letter(char original, int index) {
    return isFixed() ? original : (char) (first + index);
  }
}
