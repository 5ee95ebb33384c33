package yemble.core.mask.shape;

import java.text.Normalizer;

/**
 * The normal form of a word of a name, which two spellings of it have in common: in lower case, as
 * it would be written in Latin ({@link Script}), without accents and apostrophes, and without what
 * is written for an accent where there is none ({@code ae} for {@code ä}, {@code aa} for {@code
 * å}). So {@code Müller}, {@code MUELLER} and the {@code muller} of an e-mail address are one.
 *
 * <p>Accents are told by the decompositions of Unicode, which never change once a character is
 * assigned (Unicode Standard Annex 15, stability policy).
 */
public final class NameForm {
  private static final String APART = "ßss øo æa œo åa łl đd ðd þth ħh ŧt ŋn ıi ĳi";

  private NameForm() {}

  /** Empty if a word has no letter but those that its spellings may lack. */
  public static String of(String word) {
    return withoutPairs(unaccented(word));
  }

  /** The letters a to z in which a name is written in an address. */
  public static String spelled(String name) {
    String plain = unaccented(name);
    if (isPlain(plain)) {
      return plain;
    }
    StringBuilder out = new StringBuilder(plain.length());
    for (int i = 0; i < plain.length(); i++) {
      if (isPlain(plain.substring(i, i + 1))) {
        out.append(plain.charAt(i));
      }
    }
    return out.toString();
  }

  private static boolean isPlain(String word) {
    for (int i = 0; i < word.length(); i++) {
      char c = word.charAt(i);
      if (c < 'a' || c > 'z') {
        return false;
      }
    }
    return true;
  }

  /** In lower case and Latin, without accents and apostrophes; other letters are spelled out. */
  public static String unaccented(String word) {
    String lower = Script.of(word).latin(Letters.lower(word));
    if (isPlain(lower)) {
      return lower;
    }
    String apart = Normalizer.normalize(lower, Normalizer.Form.NFD);
    StringBuilder out = new StringBuilder(apart.length());
    for (int i = 0; i < apart.length(); i++) {
      char c = apart.charAt(i);
      int at = c < 0x80 ? -1 : APART.indexOf(c);
      if (at >= 0) {
        int end = APART.indexOf(' ', at);
        out.append(APART, at + 1, end < 0 ? APART.length() : end);
      } else if (c != '\'' && c != '’' && !(c >= 0x300 && c <= 0x36F)) {
        out.append(c);
      }
    }
    return out.toString();
  }

  private static String withoutPairs(String word) {
    int at = pair(word, 0);
    if (at < 0) {
      return word;
    }
    StringBuilder out = new StringBuilder(word.length());
    int from = 0;
    while (at >= 0) {
      out.append(word, from, at + 1);
      from = at + 2;
      at = pair(word, from);
    }
    return out.append(word, from, word.length()).toString();
  }

  /** Where two letters stand that may be one with an accent. */
  private static int pair(String word, int from) {
    for (int i = from; i + 1 < word.length(); i++) {
      char c = word.charAt(i);
      char next = word.charAt(i + 1);
      if ((next == 'e' && (c == 'a' || c == 'o' || c == 'u')) || (c == 'a' && next == 'a')) {
        return i;
      }
    }
    return -1;
  }
}
