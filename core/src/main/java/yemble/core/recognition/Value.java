package yemble.core.recognition;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import yemble.core.vocabulary.Words;

/** A value with what many checks ask of it, found out once. For one thread. */
public final class Value {
  private final String text;
  private final int digits;
  private final int letters;
  private final int capitals;
  private final int spaces;
  private String lower;
  private String plain;
  private String compact;
  private List<String> words;

  private Value(String text) {
    int digitsSeen = 0;
    int lettersSeen = 0;
    int capitalsSeen = 0;
    int spacesSeen = 0;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c >= '0' && c <= '9') {
        digitsSeen++;
      } else if (Character.isLetter(c)) {
        lettersSeen++;
        capitalsSeen += Character.isUpperCase(c) ? 1 : 0;
      } else if (Character.isWhitespace(c)) {
        spacesSeen++;
      }
    }
    this.text = text;
    this.digits = digitsSeen;
    this.letters = lettersSeen;
    this.capitals = capitalsSeen;
    this.spaces = spacesSeen;
  }

  /** A text without space around it, which is not empty. */
  public static Value of(String text) {
    return new Value(text);
  }

  public String text() {
    return text;
  }

  /** The text in lower case. */
  String lower() {
    if (lower == null) {
      lower = text.toLowerCase(Locale.ROOT);
    }
    return lower;
  }

  /** The text in lower case without accents. */
  String plain() {
    if (plain == null) {
      plain = Words.plain(text);
    }
    return plain;
  }

  /** The words of the plain text: what stands between spaces and commas, without dots. */
  List<String> words() {
    if (words == null) {
      words = new ArrayList<>();
      StringBuilder word = new StringBuilder();
      for (int i = 0; i <= plain().length(); i++) {
        char c = i == plain().length() ? ' ' : plain().charAt(i);
        if (c == ' ' || c == ',' || c == '/' || c == '(' || c == ')') {
          if (!word.isEmpty()) {
            words.add(word.toString());
            word.setLength(0);
          }
        } else if (c != '.') {
          word.append(c);
        }
      }
    }
    return words;
  }

  /** How many ASCII digits there are. */
  public int digits() {
    return digits;
  }

  /** How many letters there are, of any script. */
  public int letters() {
    return letters;
  }

  /** How many of the letters are capitals. */
  int capitals() {
    return capitals;
  }

  public int spaces() {
    return spaces;
  }

  int length() {
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
    if (compact == null) {
      StringBuilder all = new StringBuilder(text.length());
      for (int i = 0; i < text.length(); i++) {
        char c = text.charAt(i);
        if ((c >= '0' && c <= '9') || (c >= 'A' && c <= 'Z')) {
          all.append(c);
        } else if (c >= 'a' && c <= 'z') {
          all.append((char) (c - 32));
        }
      }
      compact = all.toString();
    }
    return compact;
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
