package yemble.core.links;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The words of a name of a table or column, in lower case, each in the singular: {@code
 * ticket_owners} and {@code TicketOwner} are the same.
 */
record NameParts(List<String> words) {
  private static final Pattern WORD =
      Pattern.compile("\\p{Lu}+(?!\\p{Ll})|\\p{Lu}?\\p{Ll}+|\\p{L}+|[0-9]+");

  /** Words that say that something is a key, and not of what. */
  private static final Set<String> OF_KEYS =
      Set.of(
          "id", "code", "no", "nr", "num", "number", "key", "uid", "uuid", "guid", "ref", "pk",
          "oid", "fk", "ident", "idx");

  NameParts {
    words = List.copyOf(words);
  }

  static NameParts of(String name) {
    List<String> words = new ArrayList<>();
    Matcher matcher = WORD.matcher(name);
    while (matcher.find()) {
      words.add(singular(matcher.group().toLowerCase(Locale.ROOT)));
    }
    return new NameParts(words);
  }

  private static String singular(String word) {
    if (word.length() > 4 && word.endsWith("ies")) {
      return word.substring(0, word.length() - 3) + "y";
    }
    if (word.length() > 4 && (word.endsWith("sses") || word.endsWith("xes"))) {
      return word.substring(0, word.length() - 2);
    }
    boolean plural = word.length() > 3 && word.endsWith("s");
    return plural && !word.endsWith("ss") && !word.endsWith("us") && !word.endsWith("is")
        ? word.substring(0, word.length() - 1)
        : word;
  }

  /** Without the words at its end that only say that it is a key. */
  NameParts role() {
    int end = words.size();
    while (end > 0 && OF_KEYS.contains(words.get(end - 1))) {
      end--;
    }
    return new NameParts(words.subList(0, end));
  }

  /** Without a number at its end, as tables have it that took the place of others. */
  NameParts bare() {
    boolean numbered = words.size() > 1 && last().chars().allMatch(Character::isDigit);
    return numbered ? new NameParts(words.subList(0, words.size() - 1)) : this;
  }

  /** Without its first word. */
  NameParts rest() {
    return words.isEmpty() ? this : new NameParts(words.subList(1, words.size()));
  }

  /** Without its last word. */
  NameParts lead() {
    return words.isEmpty() ? this : new NameParts(words.subList(0, words.size() - 1));
  }

  /** Whether it says nothing but that it is a key. */
  boolean isOfKeysAlone() {
    return role().words.isEmpty();
  }

  boolean isEmpty() {
    return words.isEmpty();
  }

  boolean endsWith(NameParts other) {
    int from = words.size() - other.words.size();
    return !other.isEmpty() && from >= 0 && words.subList(from, words.size()).equals(other.words);
  }

  String last() {
    return words.isEmpty() ? "" : words.get(words.size() - 1);
  }

  String first() {
    return words.isEmpty() ? "" : words.get(0);
  }

  /** All letters, run together. */
  String joined() {
    return String.join("", words);
  }
}
