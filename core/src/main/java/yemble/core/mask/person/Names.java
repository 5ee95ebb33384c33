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
import yemble.core.mask.shape.Script;
import yemble.core.vocabulary.Vocabularies;

/**
 * The mask of a name column: every word of it becomes another name. Words are told apart by spaces,
 * hyphens and the like, which stay, as do particles (van, de la), titles, and values that only say
 * that nothing is known.
 *
 * <p>Normal form of a word: its letters in lower case ({@link Letters}), Cyrillic and Greek ones as
 * they would be written in Latin ({@link Script}). Its case style and its script stay.
 */
public final class Names implements Mask {
  private static final Set<String> AROUND = Vocabularies.words("particles", "titles");
  private static final int LONGEST_NUMBER = 15;
  private static final int LONGEST_NOTHING = 9;
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
    /** The words to choose from, written with a capital, for a word in lower case. */
    List<String> choices(String word);
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
    return AROUND.contains(Letters.lower(word));
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
        out.append(!single && isAround(word) ? word : word(word));
        at = end;
      }
    }
    return out.toString();
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
    Script script = Script.of(word);
    String lower = script.latin(Letters.lower(word));
    Draw draw = prf.draw(lower);
    if (word.length() == 1) {
      String letter = "" + (char) ('A' + draw.below(26));
      return Letters.inCaseOf(word, script.written(letter, word, draw));
    }
    List<String> choices = vocabulary.choices(lower);
    int index = draw.below(choices.size());
    String replacement = choices.get(index);
    if (Letters.lower(replacement).equals(lower)) {
      replacement = choices.get((index + 1) % choices.size());
    }
    return Letters.inCaseOf(word, script.written(replacement, word, draw));
  }
}
