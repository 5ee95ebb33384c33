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
  private static final Pattern UMLAUT = Pattern.compile("(?i)ae|oe|ue");
  private static final Pattern MARKS = Pattern.compile("\\p{M}+");

  private static final int READABLE = 5;

  /** What German names of numbers end with: kundennr. */
  private static final String NUMBER = "nr";

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
        case "aspect", "beside", "people", "things", "other", "event", "sort" ->
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
      if (word.length() > NUMBER.length() + 2 && word.endsWith(NUMBER)) {
        words.add(word.substring(0, word.length() - NUMBER.length()));
        words.add(NUMBER);
      } else if (!word.isEmpty()) {
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
    return SORTS.get("aspect").contains(word)
        || word.length() > READABLE
            && word.endsWith("s")
            && SORTS.get("aspect").contains(word.substring(0, word.length() - 1));
  }

  /** Whether a word is listed as one that says something else than whose a value is. */
  static boolean isKnown(String word) {
    return isAspect(word) || isEvent(word) || isSort(word) || isOther(word);
  }

  /** Whether a word says that something of its own is numbered, named or described. */
  static boolean isOther(String word) {
    return in("other", word);
  }

  /** Whether a word says that something happened, or how much or many there is of something. */
  static boolean isEvent(String word) {
    return in("event", word);
  }

  /** Whether a word says which sort of a few something is: status, currency. */
  static boolean isSort(String word) {
    return in("sort", word);
  }

  /**
   * Whether a word looks like one that is written out: five letters or more, a fifth of them
   * vowels.
   */
  static boolean isReadable(String word) {
    long vowels = word.chars().filter(c -> "aeiouy".indexOf(c) >= 0).count();
    return word.length() >= READABLE && vowels * READABLE >= word.length();
  }

  /** A name whose plurals in -s are taken for singulars; empty if it has none. */
  static String inSingular(String name) {
    List<String> words = split(name);
    List<String> single =
        words.stream()
            .map(
                word ->
                    word.length() > 4 && word.endsWith("s") && !word.endsWith("ss")
                        ? word.substring(0, word.length() - 1)
                        : word)
            .toList();
    return single.equals(words) ? "" : String.join(" ", single);
  }

  /** A name in which umlauts are written as two letters, with one: strasse, koerper, mueller. */
  static String withoutUmlauts(String name) {
    return UMLAUT.matcher(name).replaceAll(two -> two.group().substring(0, 1));
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
