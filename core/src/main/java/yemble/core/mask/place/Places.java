package yemble.core.mask.place;

import java.util.List;
import java.util.Set;
import yemble.core.crypto.Draw;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.mask.person.Names;
import yemble.core.mask.shape.Letters;
import yemble.core.mask.shape.Memo;
import yemble.core.vocabulary.Vocabularies;

/**
 * The masks of towns and streets. A town becomes another made-up town as a whole. Of a street
 * address the numbers become others of their length and the words other words; those that say what
 * sort of street or dwelling it is stay.
 *
 * <p>Normal form: of a town the text in lower case with single spaces; of a street each word in
 * lower case.
 */
public final class Places implements Mask {
  private static final Set<String> STAYING = Vocabularies.words("street-words");

  private final Prf prf;
  private final boolean streets;
  private final Memo memo;
  private final List<String> first = Vocabularies.load("family-first");
  private final List<String> towns = Vocabularies.load("town-second");

  private Places(Prf prf, boolean streets) {
    this.prf = prf;
    this.memo = new Memo(prf);
    this.streets = streets;
  }

  public static Places towns(Prf prf) {
    return new Places(prf, false);
  }

  public static Places streets(Prf prf) {
    return new Places(prf, true);
  }

  /** Whether a text holds a word that says what sort of street it is. */
  public static boolean namesStreet(String text) {
    for (String word : Letters.lower(text).split("[^\\p{L}]+")) {
      if (word.length() > 1 && STAYING.contains(word) && !Names.isAround(word)) {
        return true;
      }
    }
    return false;
  }

  @Override
  public boolean keepsDifferent() {
    return false;
  }

  @Override
  public String apply(String text) {
    if (Names.saysNothing(text)) {
      return text;
    }
    return streets ? street(text) : town(text);
  }

  private String town(String text) {
    String normal =
        Letters.lower(
            text.strip().indexOf("  ") < 0 ? text.strip() : text.strip().replaceAll(" +", " "));
    return Letters.inCaseOf(text, word(normal));
  }

  private String word(String normal) {
    return memo.get(normal, this::computed);
  }

  private String computed(String normal) {
    Draw draw = prf.draw(normal);
    String word = first.get(draw.below(first.size())) + towns.get(draw.below(towns.size()));
    return Letters.lower(word).equals(normal)
        ? first.get(draw.below(first.size())) + towns.get(draw.below(towns.size()))
        : word;
  }

  private String street(String text) {
    int last = lastWord(text);
    boolean named = hasNameOfItsOwn(text);
    StringBuilder out = new StringBuilder();
    for (int at = 0; at < text.length(); ) {
      int end = Names.wordEnd(text, at);
      if (end > at) {
        String word = text.substring(at, end);
        boolean stays = isSort(word) && (named || (at == last && at > 0));
        out.append(stays ? word : Letters.inCaseOf(word, word(Letters.lower(word))));
        at = end;
      } else {
        end = digitsEnd(text, at);
        out.append(end > at ? number(text.substring(at, end)) : text.substring(at, at + 1));
        at = Math.max(end, at + 1);
      }
    }
    return out.toString();
  }

  private static boolean isSort(String word) {
    return word.length() == 1 || STAYING.contains(Letters.lower(word));
  }

  /**
   * Whether a word would be replaced; an address of staying words alone keeps only its last one.
   */
  private static boolean hasNameOfItsOwn(String text) {
    for (int at = 0; at < text.length(); at = Math.max(at + 1, Names.wordEnd(text, at))) {
      int end = Names.wordEnd(text, at);
      if (end > at && !isSort(text.substring(at, end))) {
        return true;
      }
    }
    return false;
  }

  /** Where the last word begins; -1 without words. */
  private static int lastWord(String text) {
    int last = -1;
    for (int at = 0; at < text.length(); at = Math.max(at + 1, Names.wordEnd(text, at))) {
      last = Names.wordEnd(text, at) > at ? at : last;
    }
    return last;
  }

  private static int digitsEnd(String text, int at) {
    int end = at;
    while (end < text.length() && text.charAt(end) >= '0' && text.charAt(end) <= '9') {
      end++;
    }
    return end;
  }

  private String number(String digits) {
    Draw draw = prf.draw("number " + digits);
    StringBuilder out = new StringBuilder();
    for (int i = 0; i < digits.length(); i++) {
      out.append((char) (i == 0 ? '1' + draw.below(9) : '0' + draw.below(10)));
    }
    return out.toString();
  }
}
