package yemble.core.mask.person;

import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.mask.shape.Script;
import yemble.core.vocabulary.Vocabularies;

/**
 * Names in scripts that are no alphabets of Latin's kin: Chinese characters, kana, Hangul, Arabic
 * and Hebrew. Of other scripts there are none, so that a name becomes other letters of its script.
 */
final class NamesInScripts {
  private static final Map<String, List<String>> LISTS = load();
  private static final Set<String> FAMILY_SIGNS = new HashSet<>(list("HAN family 1"));
  private static final int LONGEST = 3;

  private NamesInScripts() {}

  private static Map<String, List<String>> load() {
    Map<String, List<String>> lists = new HashMap<>();
    for (String line : Vocabularies.lines("names-in-scripts")) {
      int colon = line.indexOf(':');
      lists.put(
          line.substring(0, colon), Arrays.asList(line.substring(colon + 1).strip().split(" ")));
    }
    return lists;
  }

  private static List<String> list(String name) {
    return LISTS.getOrDefault(name, List.of());
  }

  /** Family names as long as a word, where its script counts signs. */
  static List<String> family(Script.Native script, String word) {
    return list(script + " family" + length(script, word));
  }

  /** Given names of the gender that a word has, if its script's names tell one. */
  static List<String> given(Script.Native script, String word) {
    for (String gender : List.of("male", "female")) {
      List<String> names = list(script + " " + gender);
      if (names.contains(word)) {
        return names;
      }
    }
    List<String> both = list(script + " both");
    return both.isEmpty() ? list(script + " given" + length(script, word)) : both;
  }

  private static String length(Script.Native script, String word) {
    return script == Script.Native.HAN ? " " + Math.min(word.length(), LONGEST) : "";
  }

  /**
   * How many of the signs of a name without a space are the family name's, which stands first; 0 if
   * that is not told.
   */
  static int familySigns(String name) {
    Script.Native script = Script.Native.of(name);
    int signs = name.length();
    if (script == Script.Native.HANGUL) {
      return signs >= 2 && signs <= 4 ? 1 : 0;
    }
    if (script != Script.Native.HAN || signs < 2 || signs > 6) {
      return 0;
    }
    return signs <= 3 && FAMILY_SIGNS.contains(name.substring(0, 1)) ? 1 : signs > 2 ? 2 : 1;
  }
}
