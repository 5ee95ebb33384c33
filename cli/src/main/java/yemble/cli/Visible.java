package yemble.cli;

import java.io.FilterWriter;
import java.io.IOException;
import java.io.Writer;

/**
 * Text of data and names as it may reach a terminal: characters that move the cursor, set a title,
 * turn the direction of writing or end a line are shown as escapes, {@code \}{@code u001b}.
 */
final class Visible {
  /** Begins and ends the number of a tone; no text holds these, as they are no characters. */
  static final char TONE = '\uFDD0';

  static final char END = '\uFDD1';

  private Visible() {}

  /** A text with all such characters as escapes. */
  static String of(String text) {
    return of(text, false, false);
  }

  /** The same of lines that end with line feeds. */
  static String lines(String text) {
    return of(text, true, false);
  }

  /** The same of a text in which tones are marked, which stay. */
  static String marked(String text) {
    return of(text, true, true);
  }

  private static String of(String text, boolean lineFeeds, boolean marks) {
    StringBuilder visible = null;
    for (int i = 0; i < text.length(); ) {
      int c = text.codePointAt(i);
      int next = i + Character.charCount(c);
      boolean stays =
          !isHidden(c) || (lineFeeds && c == '\n') || (marks && (c == TONE || c == END));
      if (!stays && visible == null) {
        visible = new StringBuilder(text.length() + 16).append(text, 0, i);
      }
      if (visible != null) {
        if (stays) {
          visible.append(text, i, next);
        } else {
          escape(visible, text, i, next);
        }
      }
      i = next;
    }
    return visible == null ? text : visible.toString();
  }

  private static void escape(StringBuilder to, String text, int from, int until) {
    for (int i = from; i < until; i++) {
      char c = text.charAt(i);
      switch (c) {
        case '\n' -> to.append("\\n");
        case '\r' -> to.append("\\r");
        case '\t' -> to.append("\\t");
        default -> to.append(String.format("\\u%04x", (int) c));
      }
    }
  }

  private static boolean isHidden(int c) {
    if (c < ' ' || (c >= 0x7f && c < 0xa0)) {
      return true;
    }
    if (c < 0x61c) {
      return false;
    }
    int type = Character.getType(c);
    boolean joins = c == 0x200c || c == 0x200d;
    return (type == Character.FORMAT && !joins)
        || type == Character.LINE_SEPARATOR
        || type == Character.PARAGRAPH_SEPARATOR
        || type == Character.SURROGATE
        || (c >= 0xfdd0 && c <= 0xfdef)
        || (c & 0xfffe) == 0xfffe;
  }

  /** Takes JSON, in whose texts such characters may stand as the same escapes. */
  static Writer json(Writer to) {
    return new FilterWriter(to) {
      @Override
      public void write(int c) throws IOException {
        write(new char[] {(char) c}, 0, 1);
      }

      @Override
      public void write(String text, int from, int length) throws IOException {
        write(text.toCharArray(), from, length);
      }

      @Override
      public void write(char[] text, int from, int length) throws IOException {
        for (int i = from; i < from + length; i++) {
          char c = text[i];
          if (c != '\n' && !Character.isSurrogate(c) && isHidden(c)) {
            out.write(String.format("\\u%04x", (int) c));
          } else {
            out.write(c);
          }
        }
      }
    };
  }
}
