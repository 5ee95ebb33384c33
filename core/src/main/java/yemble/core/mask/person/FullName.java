package yemble.core.mask.person;

import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Letters;

/**
 * The mask of a full name: its parts become what they become in the columns of given and family
 * names.
 *
 * <p>The family name is what stands before a comma; else the words in capitals among others that
 * are not; else the last word with the particles before it, or the first one where the column's
 * kind says so. Every other word is a given name; particles and titles stay.
 */
public final class FullName implements Mask {
  private static final int BEFORE_COMMA = -1;
  private static final int IN_CAPITALS = -2;

  /** Less the place of the last word of a family name that comes first. */
  private static final int UP_TO = -3;

  private final boolean familyFirst;
  private final UnaryOperator<String> given;
  private final UnaryOperator<String> family;

  /**
   * @param familyFirst whether values whose form does not tell begin with the family name
   */
  public FullName(boolean familyFirst, UnaryOperator<String> given, UnaryOperator<String> family) {
    this.familyFirst = familyFirst;
    this.given = given;
    this.family = family;
  }

  @Override
  public boolean keepsDifferent() {
    return false;
  }

  /** A word with where it stands, and whether it is a name or a particle or title around one. */
  private record Word(String text, int from, int to, boolean isName) {
    boolean inCapitals() {
      return text.length() > 1 && Letters.isAllCapitals(text) && !Letters.lower(text).equals(text);
    }
  }

  @Override
  public String apply(String text) {
    if (Names.saysNothing(text)) {
      return text;
    }
    List<Word> words = words(text);
    int family = family(words, text, familyFirst);
    StringBuilder out = new StringBuilder(text.length() + 8);
    int at = 0;
    for (int i = 0; i < words.size(); i++) {
      Word word = words.get(i);
      out.append(text, at, word.from());
      if (!word.isName() && words.size() > 1) {
        out.append(word.text());
      } else {
        out.append((isFamily(word, i, family, text) ? this.family : given).apply(word.text()));
      }
      at = word.to();
    }
    return out.append(text, at, text.length()).toString();
  }

  /** A word of a full name, and whether it is part of the family name. */
  public record Part(String word, boolean family) {}

  /** The words of a full name. */
  public static List<Part> parts(String text, boolean familyFirst) {
    List<Word> words = words(text);
    int family = family(words, text, familyFirst);
    List<Part> parts = new ArrayList<>(words.size());
    for (int i = 0; i < words.size(); i++) {
      Word word = words.get(i);
      parts.add(new Part(word.text(), isFamily(word, i, family, text)));
    }
    return parts;
  }

  private static List<Word> words(String text) {
    List<Word> words = new ArrayList<>();
    for (int at = 0; at < text.length(); ) {
      int end = Names.wordEnd(text, at);
      if (end > at) {
        String word = text.substring(at, end);
        words.add(new Word(word, at, end, !Names.isAround(word)));
      }
      at = Math.max(end, at + 1);
    }
    return words;
  }

  /** Which word the family name begins with, or how else one tells which words it has. */
  private static int family(List<Word> words, String text, boolean familyFirst) {
    int names = 0;
    int capitals = 0;
    int last = 0;
    int firstEnd = -1;
    int beforeLast = -1;
    for (int i = 0; i < words.size(); i++) {
      Word word = words.get(i);
      if (word.isName()) {
        names++;
        capitals += word.inCapitals() ? 1 : 0;
        boolean joined = beforeLast >= 0 && isJoined(words.get(beforeLast), word, text);
        last = joined ? last : i;
        firstEnd = names == 1 || (joined && firstEnd == beforeLast) ? i : firstEnd;
        beforeLast = i;
      }
    }
    if (names <= 1) {
      return 0;
    }
    if (text.indexOf(',') >= 0) {
      return BEFORE_COMMA;
    }
    if (capitals > 0 && capitals < names) {
      return IN_CAPITALS;
    }
    return familyFirst ? UP_TO - firstEnd : last;
  }

  private static boolean isJoined(Word word, Word next, String text) {
    return next.from() == word.to() + 1 && text.charAt(word.to()) == '-';
  }

  private static boolean isFamily(Word word, int place, int family, String text) {
    return switch (family) {
      case BEFORE_COMMA -> word.from() < text.indexOf(',');
      case IN_CAPITALS -> word.inCapitals();
      default -> family <= UP_TO ? place <= UP_TO - family : place >= family;
    };
  }
}
