package yemble.core.mask;

import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import yemble.core.crypto.Draw;
import yemble.core.crypto.Permutation;
import yemble.core.crypto.Prf;
import yemble.core.mask.shape.Letters;
import yemble.core.mask.shape.NameForm;
import yemble.core.vocabulary.Vocabularies;

/**
 * Lists of words and codes that are the whole of what a column can hold: a word becomes another one
 * of its own list, so in its own language, and a code another code of its set: the next one in an
 * order that the key gives. A bijection within each list, in which nothing stays.
 *
 * <p>Codes (up to four letters, all capitals) are looked for among codes first: {@code GAY} is one,
 * {@code gay} a word.
 */
final class ClosedLists {
  private static final int LONGEST_CODE = 4;

  private final Map<String, Place> words = new HashMap<>();
  private final Map<String, Place> codes = new HashMap<>();
  private final Map<Integer, List<String>> sets = new HashMap<>();

  /** A word of a list, the one that comes next, and whether the list has words with accents. */
  private record Place(String entry, String next, boolean accented) {}

  /**
   * @param name of the lists, each of which is permuted under the PRF
   */
  ClosedLists(Prf prf, String name) {
    for (String line : Vocabularies.lines("closed")) {
      if (line.startsWith(name + ":")) {
        String entries = line.substring(name.length() + 1);
        add(prf, Arrays.stream(entries.split(",")).map(String::strip).toList());
      }
    }
  }

  private void add(Prf prf, List<String> entries) {
    Permutation order = prf.permutation(entries.size(), "closed " + entries);
    boolean accented = entries.stream().anyMatch(entry -> !isPlain(entry));
    for (int i = 0; i < entries.size(); i++) {
      String entry = entries.get((int) order.of(i));
      String next = entries.get((int) order.of((i + 1) % entries.size()));
      Place place = new Place(entry, next, accented);
      if (isCode(entry)) {
        codes.putIfAbsent(entry, place);
        sets.putIfAbsent(entry.length(), entries);
      } else {
        words.putIfAbsent(Letters.lower(entry), place);
        words.putIfAbsent(NameForm.unaccented(entry), place);
      }
    }
  }

  private static boolean isCode(String text) {
    return text.length() <= LONGEST_CODE && Letters.isAllCapitals(text);
  }

  /**
   * The word that a stripped text becomes, in its case and with accents if it has any; null if no
   * list has it.
   */
  String masked(String text) {
    String lower = Letters.lower(text);
    Place place = isCode(text) ? codes.get(text) : null;
    place = place == null && text.length() < LONGEST_CODE ? codeOf(text) : place;
    place = place == null ? words.get(lower) : place;
    if (place == null) {
      return null;
    }
    boolean without =
        place.accented() && isPlain(lower) && !Letters.lower(place.entry()).equals(lower);
    return styled(text, without ? NameForm.unaccented(place.next()) : place.next());
  }

  /** A code of as many characters as one that no list holds; null if there is none. */
  String another(String code, Draw draw) {
    List<String> set = sets.get(code.length());
    return set == null ? null : styled(code, set.get(draw.below(set.size())));
  }

  /** Codes in small letters are codes as well, where no word is written so. */
  private Place codeOf(String text) {
    return words.containsKey(Letters.lower(text))
        ? null
        : codes.get(text.toUpperCase(java.util.Locale.ROOT));
  }

  private static boolean isPlain(String text) {
    return text.chars().allMatch(c -> c < 0x80);
  }

  /** A word in the case of another: all capitals, all small, the first letter, or that of each. */
  static String styled(String original, String word) {
    String cased = Letters.inCaseOf(original, word);
    boolean mixed = !Letters.isAllCapitals(original) && !Letters.lower(original).equals(original);
    boolean single = original.length() == 1;
    if (single) {
      return Letters.lower(original).equals(original) ? Letters.lower(word) : word;
    }
    if (!mixed) {
      return cased;
    }
    boolean each = true;
    boolean before = true;
    for (char c : original.toCharArray()) {
      each &= !before || Letters.lower(c) != c || !Letters.isLetter(c);
      before = c == ' ' || c == '-';
    }
    StringBuilder out = new StringBuilder(Letters.lower(word));
    boolean first = true;
    for (int i = 0; i < out.length(); i++) {
      if (first) {
        out.setCharAt(i, Letters.upper(out.charAt(i)));
      }
      first = each && (out.charAt(i) == ' ' || out.charAt(i) == '-');
    }
    return out.toString();
  }
}
