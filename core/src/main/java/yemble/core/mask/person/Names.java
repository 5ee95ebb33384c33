package yemble.core.mask.person;

import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.function.UnaryOperator;
import yemble.core.crypto.Draw;
import yemble.core.crypto.Permutations;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.mask.Vocabulary;
import yemble.core.mask.shape.Letters;
import yemble.core.mask.shape.Memo;
import yemble.core.mask.shape.NameForm;
import yemble.core.mask.shape.Script;
import yemble.core.vocabulary.Vocabularies;

/**
 * The mask of a name column: every word of it becomes another name. Words are told apart by spaces,
 * hyphens and the like, which stay, as do particles (van, de la), titles, and values that only say
 * that nothing is known.
 *
 * <p>Normal form of a word: {@link NameForm}. Its case style and its script stay. The first letter
 * of what a name becomes is a function of its own first letter alone, under the key.
 */
public final class Names implements Mask {
  private static final Set<String> PARTICLES = Vocabularies.words("particles");
  private static final Set<String> TITLES = Vocabularies.words("titles");
  private static final Set<String> SUFFIXES = Vocabularies.words("suffixes");
  private static final int LONGEST_NUMBER = 15;
  private static final int LONGEST_NOTHING = 9;
  private static final int ALPHABET = 26;

  /** How far the signs of katakana lie behind those of hiragana. */
  private static final int KATAKANA = 0x60;

  private static final Set<String> NOTHING =
      Set.of(
          "n/a",
          "na",
          "n.a.",
          "none",
          "null",
          "nil",
          "unknown",
          "not known",
          "anonymous",
          "-",
          "--",
          "?",
          "tbd",
          "test",
          "xxx",
          "x",
          "deleted");

  /** The words that names become. */
  public interface Vocabulary {
    /** The capitals that there are enough names of. */
    String letters();

    /** Names that begin with one of these letters, for a word in its normal form. */
    List<String> choices(String word, char letter);

    /** Names in another script, for a word of it; empty if there are none. */
    List<String> choices(String word, Script.Native script);
  }

  private final Prf prf;
  private final Vocabulary vocabulary;
  private final Permutations permutations;
  private final Memo memo;

  public Names(Prf prf, Vocabulary vocabulary) {
    this.prf = prf;
    this.memo = new Memo(prf);
    this.vocabulary = vocabulary;
    this.permutations = new Permutations(prf);
  }

  @Override
  public boolean keepsDifferent() {
    return false;
  }

  /** Whether a value says that there is none. */
  public static boolean saysNothing(String text) {
    String stripped = text.strip();
    return stripped.length() <= LONGEST_NOTHING && NOTHING.contains(Letters.lower(stripped));
  }

  /** Whether a word is a particle or a title rather than a name, looked at without case. */
  public static boolean isAround(String word) {
    return isParticle(word) || TITLES.contains(Letters.lower(word)) || isSuffix(word);
  }

  /** Whether a word is one that stands before family names and belongs to them. */
  public static boolean isParticle(String word) {
    return PARTICLES.contains(Letters.lower(word));
  }

  /** Whether a word is a title or a degree that may stand behind a name. */
  static boolean isSuffix(String word) {
    return SUFFIXES.contains(Letters.lower(word));
  }

  @Override
  public String apply(String text) {
    if (saysNothing(text)) {
      return text;
    }
    StringBuilder out = new StringBuilder(text.length() + 8);
    boolean single = !containsSeveralWords(text);
    for (int at = 0; at < text.length(); ) {
      int end = wordEnd(text, at);
      if (isDigit(text.charAt(at))) {
        end = digitsEnd(text, at);
        out.append(digits(text.substring(at, end)));
        at = end;
      } else if (end == at) {
        out.append(text.charAt(at++));
      } else {
        String word = text.substring(at, end);
        boolean around = !single && (isSuffix(word) || isAround(word) && isFollowed(text, end));
        out.append(around ? word : word(word));
        at = end;
      }
    }
    return out.toString();
  }

  /** Whether a name stands behind: a particle or title at the end is one itself. */
  private static boolean isFollowed(String text, int from) {
    for (int at = from; at < text.length(); ) {
      int end = wordEnd(text, at);
      if (end > at && !isAround(text.substring(at, end))) {
        return true;
      }
      at = Math.max(end, at + 1);
    }
    return false;
  }

  private static boolean containsSeveralWords(String text) {
    int first = 0;
    while (first < text.length() && !Letters.isWord(text.charAt(first))) {
      first++;
    }
    for (int at = wordEnd(text, first); at < text.length(); at++) {
      if (Letters.isLetter(text.charAt(at))) {
        return true;
      }
    }
    return false;
  }

  /** The position after the word that begins at {@code at}. */
  public static int wordEnd(String text, int at) {
    int end = at;
    while (end < text.length() && Letters.isWord(text.charAt(end))) {
      end++;
    }
    return end;
  }

  private static boolean isDigit(char c) {
    return c >= '0' && c <= '9';
  }

  private static int digitsEnd(String text, int at) {
    int end = at;
    while (end < text.length() && isDigit(text.charAt(end))) {
      end++;
    }
    return end;
  }

  /** Digits beside a name are permuted among as many, so that names told apart by them stay so. */
  private String digits(String digits) {
    if (digits.length() > LONGEST_NUMBER) {
      return digits(digits.substring(0, LONGEST_NUMBER)) + digits(digits.substring(LONGEST_NUMBER));
    }
    long size = (long) Math.pow(10, digits.length());
    long masked = permutations.of(size, "digits " + digits.length()).of(Long.parseLong(digits));
    String text = Long.toString(masked);
    return "0".repeat(digits.length() - text.length()) + text;
  }

  /** What a mask of names makes of a single word, whatever else the word might say. */
  public static UnaryOperator<String> word(Mask mask) {
    return mask instanceof Names names
        ? names::word
        : word -> Objects.requireNonNullElse(mask.apply(word), "");
  }

  /** The replacement of one word; a single letter becomes a single letter. */
  public String word(String word) {
    return memo.get(word, this::computed);
  }

  private String computed(String word) {
    String form = NameForm.of(word);
    if (form.isEmpty()) {
      return word;
    }
    Draw draw = prf.draw(form);
    Script script = Script.of(word);
    if (script == Script.OTHER) {
      return inScript(word, draw);
    }
    char letter = letter(form.charAt(0), draw);
    boolean initial = word.length() == 1;
    String chosen = initial ? "" + letter : chosen(vocabulary.choices(form, letter), form, draw);
    return Letters.inCaseOf(word, script.written(chosen, word, draw));
  }

  /**
   * The first letter of the names that those with a first letter become: so an initial becomes that
   * of the name it stands for, without knowing it.
   */
  private char letter(char first, Draw draw) {
    String letters = vocabulary.letters();
    boolean known = first >= 'a' && first <= 'z';
    return letters.charAt(
        known
            ? (int) (permutations.of(ALPHABET, "first letter").of(first - 'a') % letters.length())
            : draw.below(letters.length()));
  }

  private static String chosen(List<String> choices, String form, Draw draw) {
    int index = draw.below(choices.size());
    String replacement = choices.get(index);
    return NameForm.of(replacement).equals(form)
        ? choices.get((index + 1) % choices.size())
        : replacement;
  }

  private String inScript(String word, Draw draw) {
    Script.Native script = Script.Native.of(word);
    boolean katakana = script == Script.Native.KATAKANA;
    String looked = katakana ? moved(word, -KATAKANA) : word;
    List<String> choices = vocabulary.choices(looked, katakana ? Script.Native.HIRAGANA : script);
    if (choices.isEmpty()) {
      return Script.OTHER.written("", word, draw);
    }
    String name = choices.get(draw.below(choices.size()));
    name = name.equals(looked) ? choices.get((choices.indexOf(name) + 1) % choices.size()) : name;
    return katakana ? moved(name, KATAKANA) : name;
  }

  /** Signs of one kana as those of the other. */
  private static String moved(String word, int by) {
    StringBuilder out = new StringBuilder(word.length());
    for (char c : word.toCharArray()) {
      out.append(c == 'ー' ? c : (char) (c + by));
    }
    return out.toString();
  }
}
