package yemble.core.recognition;

import java.util.Locale;

/**
 * A value with what many checks ask of it, counted once.
 *
 * @param text without space around it, never empty
 * @param lower the same in lower case
 * @param digits how many of ASCII
 * @param letters how many, of any script
 * @param capitals how many of the letters are capitals
 * @param spaces how many
 */
public record Value(String text, String lower, int digits, int letters, int capitals, int spaces) {

  public static Value of(String text) {
    int digits = 0;
    int letters = 0;
    int capitals = 0;
    int spaces = 0;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c >= '0' && c <= '9') {
        digits++;
      } else if (Character.isLetter(c)) {
        letters++;
        capitals += Character.isUpperCase(c) ? 1 : 0;
      } else if (Character.isWhitespace(c)) {
        spaces++;
      }
    }
    return new Value(text, text.toLowerCase(Locale.ROOT), digits, letters, capitals, spaces);
  }

  public int length() {
    return text.length();
  }

  /** How many characters are neither digits nor letters nor spaces. */
  int others() {
    return text.length() - digits - letters - spaces;
  }

  char first() {
    return text.charAt(0);
  }

  /** The text without anything but ASCII digits and letters, in capitals. */
  String compact() {
    StringBuilder compact = new StringBuilder(text.length());
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if ((c >= '0' && c <= '9') || (c >= 'A' && c <= 'Z')) {
        compact.append(c);
      } else if (c >= 'a' && c <= 'z') {
        compact.append((char) (c - 32));
      }
    }
    return compact.toString();
  }

  /** Whether all characters are digits, letters or one of some others. */
  boolean onlyWith(String others) {
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (!Character.isLetterOrDigit(c) && others.indexOf(c) < 0) {
        return false;
      }
    }
    return true;
  }
}
