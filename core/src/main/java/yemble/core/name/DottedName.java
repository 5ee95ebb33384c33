package yemble.core.name;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Names joined by dots, as people write them: {@code booking.id}, {@code "Odd name".column}. A part
 * in double quotes may hold anything; a double quote in it is doubled.
 */
public record DottedName(List<String> parts) {
  public DottedName {
    parts = List.copyOf(parts);
  }

  /** The parts of a text; empty if a part is empty without quotes, or a quote is left open. */
  public static Optional<DottedName> parse(String text) {
    List<String> parts = new ArrayList<>();
    int at = 0;
    while (true) {
      StringBuilder part = new StringBuilder();
      boolean quoted = at < text.length() && text.charAt(at) == '"';
      if (quoted) {
        at = quotedPart(text, at + 1, part);
        if (at < 0) {
          return Optional.empty();
        }
      } else {
        while (at < text.length() && text.charAt(at) != '.') {
          part.append(text.charAt(at++));
        }
      }
      if ((part.length() == 0 && !quoted) || (at < text.length() && text.charAt(at) != '.')) {
        return Optional.empty();
      }
      parts.add(part.toString());
      if (at == text.length()) {
        return Optional.of(new DottedName(parts));
      }
      at++;
    }
  }

  /** Reads a quoted part that begins at {@code at}; the position after it, or -1. */
  private static int quotedPart(String text, int at, StringBuilder part) {
    while (at < text.length()) {
      if (text.charAt(at) != '"') {
        part.append(text.charAt(at++));
      } else if (at + 1 < text.length() && text.charAt(at + 1) == '"') {
        part.append('"');
        at += 2;
      } else {
        return at + 1;
      }
    }
    return -1;
  }

  /**
   * Where, behind the name of a column, a path inside it begins: the first {@code " $"} outside of
   * quotes; -1 if there is none.
   */
  public static int pathAt(String written) {
    boolean quoted = false;
    for (int i = 0; i + 1 < written.length(); i++) {
      quoted ^= written.charAt(i) == '"';
      if (!quoted && written.startsWith(" $", i)) {
        return i;
      }
    }
    return -1;
  }

  /** A name as a path writes it: in double quotes unless it is made of letters, digits, _ and $. */
  public static String quoted(String name) {
    for (int i = 0; i < name.length(); i++) {
      char c = name.charAt(i);
      if (!Character.isLetterOrDigit(c) && c != '_' && c != '$') {
        return '"' + name.replace("\"", "\"\"") + '"';
      }
    }
    return name.isEmpty() ? "\"\"" : name;
  }

  public String last() {
    return parts.get(parts.size() - 1);
  }

  /** The path without its last part; empty for a path of one part. */
  public List<String> before() {
    return parts.subList(0, parts.size() - 1);
  }

  @Override
  public String toString() {
    return String.join(".", parts.stream().map(DottedName::quoted).toList());
  }
}
