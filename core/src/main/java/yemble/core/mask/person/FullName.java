package yemble.core.mask.person;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Letters;
import yemble.core.mask.shape.NameForm;
import yemble.core.vocabulary.Vocabularies;

/**
 * The mask of a full name: its parts become what they become in the columns of given and family
 * names.
 *
 * <p>The family name is what stands before a comma or a slash that a name stands behind; else the
 * words in capitals among others that are not; else the last word with the particles before it and
 * the words before it that are known as family names alone, or the first one where the column's
 * kind says so. A single word is a given name if it is known as one and not as a family name. Every
 * other word is a given name; particles, titles and degrees stay, and so does a value of words that
 * are no names ({@code Customer}, {@code VIP}). A name in Chinese characters or Hangul without a
 * space has its family name in front.
 */
public final class FullName implements Mask {
  private static final java.util.Set<String> NO_NAMES = Vocabularies.words("no-names");
  private static final int BEFORE_SIGN = -1;
  private static final int IN_CAPITALS = -2;

  /** Less the place of the last word of a family name that comes first. */
  private static final int UP_TO = -3;

  private static final int MOST_WORDS = 20_000;

  /** What is told of words that come again and again. */
  private final Map<String, Sort> sorts = new HashMap<>();

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

  /**
   * What is told of a word by itself.
   *
   * @param around whether it is a particle, a title or a degree
   * @param noName whether it is a word that names nobody
   */
  private record Sort(boolean around, boolean noName) {
    static Sort of(String word) {
      return new Sort(Names.isAround(word), NO_NAMES.contains(Letters.lower(word)));
    }
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
    if (sorts.size() > MOST_WORDS) {
      sorts.clear();
    }
    List<Word> words = words(text, familyFirst, sorts);
    boolean names = words.isEmpty();
    for (Word word : words) {
      names |= !sorts.computeIfAbsent(word.text(), Sort::of).noName();
    }
    if (!names || words.isEmpty()) {
      return text;
    }
    int family = family(words, text, familyFirst);
    int sign = sign(words, text);
    StringBuilder out = new StringBuilder(text.length() + 8);
    int at = 0;
    for (int i = 0; i < words.size(); i++) {
      Word word = words.get(i);
      out.append(text, at, word.from());
      if (!word.isName() && words.size() > 1) {
        out.append(word.text());
      } else {
        out.append((isFamily(word, i, family, sign) ? this.family : given).apply(word.text()));
      }
      at = word.to();
    }
    return out.append(text, at, text.length()).toString();
  }

  /** A word of a full name, and whether it is part of the family name. */
  public record Part(String word, boolean family) {}

  /** The words of a full name. */
  public static List<Part> parts(String text, boolean familyFirst) {
    List<Word> words = words(text, familyFirst, new HashMap<>());
    int family = family(words, text, familyFirst);
    int sign = sign(words, text);
    List<Part> parts = new ArrayList<>(words.size());
    for (int i = 0; i < words.size(); i++) {
      Word word = words.get(i);
      parts.add(new Part(word.text(), isFamily(word, i, family, sign)));
    }
    return parts;
  }

  private static List<Word> words(String text, boolean familyFirst, Map<String, Sort> sorts) {
    List<Word> words = new ArrayList<>();
    for (int at = 0; at < text.length(); ) {
      int end = Names.wordEnd(text, at);
      if (end > at) {
        String word = text.substring(at, end);
        int family = NamesInScripts.familySigns(word);
        if (family > 0 && end - at == text.strip().length()) {
          words.add(new Word(word.substring(0, family), at, at + family, true));
          words.add(new Word(word.substring(family), at + family, end, true));
        } else {
          words.add(new Word(word, at, end, !sorts.computeIfAbsent(word, Sort::of).around()));
        }
      }
      at = Math.max(end, at + 1);
    }
    namesOfParticles(words, familyFirst || text.indexOf(',') > 0);
    return words;
  }

  /**
   * Particles and titles that are names: those that no name stands behind, and a particle with a
   * capital that a full name begins with.
   */
  private static void namesOfParticles(List<Word> words, boolean familyFirst) {
    boolean followed = false;
    for (int i = words.size() - 1; i >= 0; i--) {
      Word word = words.get(i);
      boolean begins =
          i == 0
              && !familyFirst
              && Names.isParticle(word.text())
              && Letters.lower(word.text()).charAt(0) != word.text().charAt(0);
      if (!word.isName() && !Names.isSuffix(word.text()) && (!followed || begins)) {
        words.set(i, new Word(word.text(), word.from(), word.to(), true));
      }
      followed |= words.get(i).isName();
    }
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
      return isGivenAlone(words) ? words.size() : 0;
    }
    if (sign(words, text) > 0) {
      return BEFORE_SIGN;
    }
    if (capitals > 0 && capitals < names) {
      return IN_CAPITALS;
    }
    if (familyFirst || NamesInScripts.familySigns(text.strip()) > 0) {
      return UP_TO - firstEnd;
    }
    return withMoreFamilyNames(words, last);
  }

  private static boolean isGivenAlone(List<Word> words) {
    return words.stream()
        .filter(Word::isName)
        .map(word -> NameForm.of(word.text()))
        .allMatch(form -> GivenNames.isKnown(form) && !KnownNames.isFamily(form));
  }

  /** The comma or slash that parts a family name from given names; 0 if there is none. */
  private static int sign(List<Word> words, String text) {
    for (char sign : new char[] {',', '/'}) {
      int at = text.indexOf(sign);
      boolean between =
          at > 0
              && words.stream().anyMatch(word -> word.isName() && word.to() <= at)
              && words.stream().anyMatch(word -> word.isName() && word.from() > at);
      if (between) {
        return at;
      }
    }
    return 0;
  }

  /** The first of the words that end in the last one and are family names alone: not the first. */
  private static int withMoreFamilyNames(List<Word> words, int last) {
    int first = last;
    boolean seen = false;
    for (int i = last - 1; i > 0; i--) {
      Word word = words.get(i);
      boolean named = words.subList(0, i).stream().anyMatch(Word::isName);
      if (word.isName() && named && KnownNames.isFamilyAlone(NameForm.of(word.text()))) {
        first = i;
        seen = true;
      } else if (word.isName() || !seen && i < last - 1) {
        break;
      }
    }
    return first;
  }

  private static boolean isJoined(Word word, Word next, String text) {
    return next.from() == word.to() + 1 && text.charAt(word.to()) == '-';
  }

  private static boolean isFamily(Word word, int place, int family, int sign) {
    return switch (family) {
      case BEFORE_SIGN -> word.from() < sign;
      case IN_CAPITALS -> word.inCapitals();
      default -> family <= UP_TO ? place <= UP_TO - family : place >= family;
    };
  }
}
