package yemble.core.survey;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.text.Normalizer;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * The words of the names of tables and columns: split at case, signs and digits, in lower case
 * without accents, abbreviations written out, words that mean nothing left out.
 */
final class NameWords {
  private static final Pattern SMALL_BIG = Pattern.compile("(\\p{Ll})(\\p{Lu})");
  private static final Pattern BIG_WORD = Pattern.compile("(\\p{Lu}+)(\\p{Lu}\\p{Ll})");
  private static final Pattern NO_LETTERS = Pattern.compile("[^\\p{L}]+");
  private static final Pattern MARKS = Pattern.compile("\\p{M}+");

  /** Endings of plurals in the languages that the lists are in. */
  private static final List<String> PLURALS =
      List.of("s", "es", "en", "n", "e", "er", "i", "y", "lar", "ler", "ow");

  private static final Map<String, String> WRITTEN_OUT = new HashMap<>();
  private static final Set<String> EMPTY = new HashSet<>();
  private static final Map<String, Set<String>> SORTS = new HashMap<>();

  static {
    try (InputStream in = NameWords.class.getResourceAsStream("words.txt")) {
      new String(in.readAllBytes(), StandardCharsets.UTF_8)
          .lines()
          .filter(line -> line.indexOf('=') >= 0 && !line.startsWith("#"))
          .forEach(NameWords::read);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private NameWords() {}

  private static void read(String line) {
    int equals = line.indexOf('=');
    String head = line.substring(0, equals).strip();
    for (String word : line.substring(equals + 1).split(",")) {
      String stripped = word.strip();
      switch (head) {
        case "" -> EMPTY.add(stripped);
        case "aspect", "beside", "people", "things" ->
            SORTS.computeIfAbsent(head, h -> new HashSet<>()).add(stripped);
        default -> WRITTEN_OUT.put(stripped, head);
      }
    }
  }

  /** The words of a name; never empty if it holds a letter. */
  static List<String> of(String name) {
    List<String> all = new ArrayList<>();
    for (String word : split(name)) {
      all.add(WRITTEN_OUT.getOrDefault(word, word));
    }
    List<String> meaning = all.stream().filter(word -> !EMPTY.contains(word)).toList();
    return meaning.isEmpty() ? all : meaning;
  }

  /** The words as they are written. */
  static List<String> split(String name) {
    String spaced = SMALL_BIG.matcher(name).replaceAll("$1 $2");
    spaced = BIG_WORD.matcher(spaced).replaceAll("$1 $2");
    List<String> words = new ArrayList<>();
    for (String word : NO_LETTERS.split(plain(spaced))) {
      if (!word.isEmpty()) {
        words.add(word);
      }
    }
    return words;
  }

  private static String plain(String text) {
    String lower = text.toLowerCase(Locale.ROOT);
    return MARKS
        .matcher(Normalizer.normalize(lower, Normalizer.Form.NFD))
        .replaceAll("")
        .replace("ß", "ss")
        .replace("ł", "l")
        .replace("ø", "o")
        .replace("ı", "i");
  }

  /** Whether a word says that a column is about a value, and does not hold it. */
  static boolean isAspect(String word) {
    return SORTS.get("aspect").contains(word);
  }

  /** Whether nothing is lost beside a word. */
  static boolean isBeside(String word) {
    return SORTS.get("beside").contains(word) || isPeople(word);
  }

  /** Whether a word speaks of people, in the singular or a plural. */
  static boolean isPeople(String word) {
    return in("people", word);
  }

  /** Whether a word speaks of things. */
  static boolean isThings(String word) {
    return in("things", word);
  }

  private static boolean in(String sort, String word) {
    Set<String> words = SORTS.get(sort);
    if (words.contains(word)) {
      return true;
    }
    if (word.endsWith("ies") && words.contains(word.substring(0, word.length() - 3) + "y")) {
      return true;
    }
    for (String plural : PLURALS) {
      if (word.length() > plural.length() + 3
          && word.endsWith(plural)
          && words.contains(word.substring(0, word.length() - plural.length()))) {
        return true;
      }
    }
    return false;
  }

  /** A word without its vowels, but for the first letter. */
  static String skeleton(String word) {
    StringBuilder skeleton = new StringBuilder();
    for (int i = 0; i < word.length(); i++) {
      if (i == 0 || "aeiou".indexOf(word.charAt(i)) < 0) {
        skeleton.append(word.charAt(i));
      }
    }
    return skeleton.toString();
  }
}
