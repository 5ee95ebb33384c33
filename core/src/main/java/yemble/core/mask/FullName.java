package yemble.core.mask;

import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;

/**
 * The mask of a full name: its parts become what they become in the columns of given and family
 * names.
 *
 * <p>The family name is what stands before a comma; else the words in capitals among others that
 * are not; else the last word with the particles before it. Every other word is a given name;
 * particles and titles stay.
 */
final class FullName implements Mask {
  private final UnaryOperator<String> given;
  private final UnaryOperator<String> family;

  FullName(UnaryOperator<String> given, UnaryOperator<String> family) {
    this.given = given;
    this.family = family;
  }

  @Override
  public boolean keepsDifferent() {
    return false;
  }

  /** A word with where it stands. */
  private record Word(String text, int from, int to) {
    boolean isName() {
      return !Names.isAround(text);
    }

    boolean inCapitals() {
      String lower = Letters.lower(text);
      return text.length() > 1 && !lower.equals(text) && Letters.inCaseOf(text, lower).equals(text);
    }
  }

  @Override
  public String apply(String text) {
    if (Names.saysNothing(text)) {
      return text;
    }
    List<Word> words = words(text);
    List<Word> names = names(words);
    StringBuilder out = new StringBuilder(text.length() + 8);
    int at = 0;
    for (Word word : words) {
      out.append(text, at, word.from());
      if (!word.isName() && words.size() > 1) {
        out.append(word.text());
      } else {
        boolean last = names.size() <= 1 || isFamily(word, names, text);
        out.append((last ? family : given).apply(word.text()));
      }
      at = word.to();
    }
    return out.append(text, at, text.length()).toString();
  }

  /** A word of a full name, and whether it is part of the family name. */
  record Part(String word, boolean family) {}

  /** The words of a full name. */
  static List<Part> parts(String text) {
    List<Word> words = words(text);
    List<Word> names = names(words);
    return words.stream()
        .map(w -> new Part(w.text(), names.size() <= 1 || isFamily(w, names, text)))
        .toList();
  }

  private static List<Word> names(List<Word> words) {
    List<Word> names = new ArrayList<>(words.size());
    for (Word word : words) {
      if (word.isName()) {
        names.add(word);
      }
    }
    return names;
  }

  private static List<Word> words(String text) {
    List<Word> words = new ArrayList<>();
    for (int at = 0; at < text.length(); ) {
      int end = Names.wordEnd(text, at);
      if (end > at) {
        words.add(new Word(text.substring(at, end), at, end));
      }
      at = Math.max(end, at + 1);
    }
    return words;
  }

  private static boolean isFamily(Word word, List<Word> names, String text) {
    int comma = text.indexOf(',');
    if (comma >= 0) {
      return word.from() < comma;
    }
    int capitals = 0;
    for (Word name : names) {
      capitals += name.inCapitals() ? 1 : 0;
    }
    if (capitals > 0 && capitals < names.size()) {
      return word.inCapitals();
    }
    return isLast(word, names, text);
  }

  /** The last name, or one that is joined to it by hyphens. */
  private static boolean isLast(Word word, List<Word> names, String text) {
    for (int i = names.indexOf(word); i + 1 < names.size(); i++) {
      Word next = names.get(i + 1);
      if (next.from() != names.get(i).to() + 1 || text.charAt(next.from() - 1) != '-') {
        return false;
      }
    }
    return true;
  }
}
