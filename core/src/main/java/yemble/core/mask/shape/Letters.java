package yemble.core.mask.shape;

/**
 * Letters and their case, by tables of our own: what a Java library says of a character may change
 * with its version, and a mask must not. Covers Latin with its first extensions, Greek and
 * Cyrillic; any other character has no case here.
 */
public final class Letters {
  private Letters() {}

  /** The lower-case form of a text, character by character; its length stays the same. */
  public static String lower(String text) {
    int at = 0;
    while (at < text.length() && lower(text.charAt(at)) == text.charAt(at)) {
      at++;
    }
    if (at == text.length()) {
      return text;
    }
    char[] lower = text.toCharArray();
    for (int i = at; i < lower.length; i++) {
      lower[i] = lower(lower[i]);
    }
    return new String(lower);
  }

  public static char lower(char c) {
    if (c < 0x80) {
      return c >= 'A' && c <= 'Z' ? (char) (c + 32) : c;
    }
    if (c >= 0xC0 && c <= 0xDE) {
      return c == 0xD7 ? c : (char) (c + 32);
    }
    if (c >= 0x100 && c <= 0x17F) {
      return latinExtended(c, true);
    }
    if (c == 0x386) {
      return 0x3AC;
    }
    if (c >= 0x388 && c <= 0x38A) {
      return (char) (c + 37);
    }
    if (c == 0x38C || c == 0x38E || c == 0x38F) {
      return (char) (c == 0x38C ? 0x3CC : c + 63);
    }
    if (c >= 0x391 && c <= 0x3AB && c != 0x3A2) {
      return (char) (c + 32);
    }
    if (c >= 0x400 && c <= 0x40F) {
      return (char) (c + 80);
    }
    return c >= 0x410 && c <= 0x42F ? (char) (c + 32) : c;
  }

  public static char upper(char c) {
    if (c < 0x80) {
      return c >= 'a' && c <= 'z' ? (char) (c - 32) : c;
    }
    if (c >= 0xE0 && c <= 0xFE) {
      return c == 0xF7 ? c : (char) (c - 32);
    }
    if (c >= 0x100 && c <= 0x17F) {
      return latinExtended(c, false);
    }
    if (c == 0x3AC) {
      return 0x386;
    }
    if (c >= 0x3AD && c <= 0x3AF) {
      return (char) (c - 37);
    }
    if (c >= 0x3CC && c <= 0x3CE) {
      return (char) (c == 0x3CC ? 0x38C : c - 63);
    }
    if (c >= 0x3B1 && c <= 0x3CB && c != 0x3C2) {
      return (char) (c - 32);
    }
    if (c >= 0x450 && c <= 0x45F) {
      return (char) (c - 80);
    }
    return c >= 0x430 && c <= 0x44F ? (char) (c - 32) : c;
  }

  /** Latin Extended-A: capitals at even places, but at odd ones in two stretches. */
  private static char latinExtended(char c, boolean toLower) {
    if (c == 0x178) {
      return toLower ? (char) 0xFF : c;
    }
    if (c == 0x130 || c == 0x131 || c == 0x138 || c == 0x149 || c == 0x17F) {
      return c;
    }
    boolean oddCapitals = (c >= 0x139 && c <= 0x148) || c >= 0x179;
    boolean capital = (c % 2 == 1) == oddCapitals;
    if (capital == toLower) {
      return (char) (toLower ? c + 1 : c - 1);
    }
    return c;
  }

  public static boolean isLetter(char c) {
    if (c < 0x80) {
      return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
    }
    return lower(c) != c
        || upper(c) != c
        || c == 0xDF
        || (c >= 0x100 && c <= 0x17F)
        || (c >= 0x370 && c <= 0x3FF)
        || (c >= 0x460 && c <= 0x52F)
        || (c >= 0x531 && c <= 0x587)
        || (c >= 0x5D0 && c <= 0x5EA)
        || (c >= 0x620 && c <= 0x6D3)
        || (c >= 0x900 && c <= 0x1FFF)
        || (c >= 0x3041 && c <= 0xD7A3)
        || Character.isSurrogate(c);
  }

  /**
   * Whether a character belongs to a word: a letter, an apostrophe or an accent set on a letter.
   */
  public static boolean isWord(char c) {
    return isLetter(c) || c == '\'' || c == '’' || (c >= 0x300 && c <= 0x36F);
  }

  /** Whether a text holds no letter that has a capital. */
  public static boolean isAllCapitals(String text) {
    for (int i = 0; i < text.length(); i++) {
      if (upper(text.charAt(i)) != text.charAt(i)) {
        return false;
      }
    }
    return true;
  }

  /** A word in the case of another one: all capitals, all small, or the first letter alone. */
  public static String inCaseOf(String original, String word) {
    boolean anyUpper = false;
    boolean anyLower = false;
    int letters = 0;
    for (int i = 0; i < original.length(); i++) {
      char c = original.charAt(i);
      anyUpper |= lower(c) != c;
      anyLower |= upper(c) != c;
      letters += isLetter(c) ? 1 : 0;
    }
    if (anyUpper && !anyLower && letters > 1) {
      return upper(word);
    }
    return anyLower && !anyUpper ? lower(word) : word;
  }

  private static String upper(String text) {
    char[] upper = new char[text.length()];
    for (int i = 0; i < upper.length; i++) {
      upper[i] = upper(text.charAt(i));
    }
    return new String(upper);
  }
}
