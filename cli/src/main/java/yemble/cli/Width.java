package yemble.cli;

import org.jline.utils.AttributedString;

/**
 * How many columns of a terminal a text takes: wide characters and most emoji take two, combining
 * ones none (Unicode's East Asian Width, as JLine knows it).
 */
final class Width {
  private Width() {}

  static int of(String text) {
    return isPlain(text) ? text.length() : new AttributedString(text).columnLength();
  }

  private static boolean isPlain(String text) {
    for (int i = 0; i < text.length(); i++) {
      if (text.charAt(i) >= 0x300) {
        return false;
      }
    }
    return true;
  }

  /** What of a text fits into so many columns; with an ellipsis at its end if that is not all. */
  static String cut(String text, int columns) {
    return of(text) <= columns ? text : start(text, columns - 1) + "…";
  }

  /** The longest start of a text that fits into so many columns, of whole characters. */
  static String start(String text, int columns) {
    return isPlain(text)
        ? text.substring(0, Math.min(text.length(), Math.max(0, columns)))
        : new AttributedString(text).columnSubSequence(0, Math.max(0, columns)).toString();
  }

  /** A text with spaces behind it, up to so many columns. */
  static String padded(String text, int columns) {
    return text + gap(text, columns);
  }

  /** The spaces that a text lacks to take so many columns. */
  static String gap(String text, int columns) {
    return " ".repeat(Math.max(0, columns - of(text)));
  }
}
