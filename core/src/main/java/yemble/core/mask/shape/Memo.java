package yemble.core.mask.shape;

import java.util.function.UnaryOperator;
import yemble.core.crypto.Prf;

/**
 * Remembers what words became, since names and places come again and again: looking one up costs a
 * fraction of the cipher. A word has four places where it may be kept, and takes the first one from
 * another if all are taken; so the size is bounded. What it holds never shows in a result.
 *
 * <p>Not a {@link java.util.HashMap}: the hash codes of texts of digits differ in few bits, so that
 * its buckets become trees.
 */
public final class Memo {
  private static final int USUAL_BITS = 15;
  private static final int LONGEST = 40;
  private static final int PLACES = 4;
  private final String[] words;
  private final String[] replacements;
  private final int shift;
  private final boolean forgets;

  public Memo(Prf prf) {
    this(prf, USUAL_BITS);
  }

  /** Remembers at most {@code 2^bits} words; none where they are not what results depend on. */
  public Memo(Prf prf, int bits) {
    this.forgets = !prf.isRepeatable();
    this.words = new String[1 << bits];
    this.replacements = new String[1 << bits];
    this.shift = Integer.SIZE - bits;
  }

  public String get(String word, UnaryOperator<String> mask) {
    if (forgets || word.length() > LONGEST) {
      return mask.apply(word);
    }
    int first = (word.hashCode() * 0x9E3779B9) >>> shift;
    int free = first;
    for (int i = PLACES - 1; i >= 0; i--) {
      int place = (first + i) & (words.length - 1);
      if (words[place] == null) {
        free = place;
      } else if (words[place].equals(word)) {
        return replacements[place];
      }
    }
    String replacement = mask.apply(word);
    words[free] = word;
    replacements[free] = replacement;
    return replacement;
  }
}
