package yemble.core.survey;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/**
 * What the names of a column and its table say: words, split at case, underscores and digits,
 * looked up in one list of what people call things, abbreviations and other languages included.
 */
final class NameEvidence {
  /** Words in a row that speak for a kind, and how strongly, from 0 to 1. */
  private record Sign(String kind, List<String> words, double strength) {}

  private static final List<Sign> SIGNS = new ArrayList<>();

  private static final Set<String> PEOPLE = new HashSet<>();
  private static final Set<String> THINGS = new HashSet<>();

  static {
    try (InputStream in = NameEvidence.class.getResourceAsStream("names.txt")) {
      new String(in.readAllBytes(), StandardCharsets.UTF_8)
          .lines()
          .filter(line -> !line.startsWith("#"))
          .forEach(NameEvidence::read);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** A line of the list: a kind, a strength, a colon, phrases parted by commas. */
  private static void read(String line) {
    int colon = line.indexOf(':');
    String[] head = line.substring(0, colon).split(" ");
    for (String phrase : line.substring(colon + 1).strip().split(", ")) {
      switch (head[0]) {
        case "people" -> PEOPLE.add(phrase);
        case "things" -> THINGS.add(phrase);
        default ->
            SIGNS.add(new Sign(head[0], List.of(phrase.split(" ")), Double.parseDouble(head[1])));
      }
    }
  }

  private NameEvidence() {}

  /** How strongly the names speak for each kind; kinds that they do not speak for are left out. */
  static Map<String, Double> of(String table, String column) {
    List<String> words = words(column);
    List<String> around = words(table);
    Map<String, Double> evidence = new LinkedHashMap<>();
    for (Sign sign : SIGNS) {
      if (contains(words, sign.words())) {
        double strength = sign.strength();
        if (words.size() > sign.words().size() + 1) {
          strength *= 0.9;
        }
        if (sign.kind().equals("full-name") && sign.strength() < 0.5) {
          strength = surrounded(strength, words, around);
        }
        evidence.merge(sign.kind(), strength, Math::max);
      }
    }
    if (evidence.keySet().stream().anyMatch(k -> k.endsWith("-name") && !k.equals("full-name"))) {
      evidence.remove("full-name");
      evidence.computeIfPresent("username", (k, v) -> v > 0.7 ? v : v / 2);
    }
    if (evidence.containsKey("email")) {
      evidence.remove("full-name");
    }
    return evidence;
  }

  /** A mere "name" is a person's beside people, and a thing's beside things. */
  private static double surrounded(double strength, List<String> words, List<String> table) {
    if (words.stream().anyMatch(THINGS::contains) || table.stream().anyMatch(THINGS::contains)) {
      return strength * 0.3;
    }
    boolean people = table.stream().anyMatch(NameEvidence::isPeople);
    return people ? 0.65 : strength;
  }

  private static boolean isPeople(String word) {
    return PEOPLE.contains(word)
        || (word.endsWith("s") && PEOPLE.contains(word.substring(0, word.length() - 1)));
  }

  private static boolean contains(List<String> words, List<String> phrase) {
    for (int i = 0; i + phrase.size() <= words.size(); i++) {
      if (words.subList(i, i + phrase.size()).equals(phrase)) {
        return true;
      }
    }
    return String.join("", words).equals(String.join("", phrase));
  }

  /** The words of a name, in lower case. */
  static List<String> words(String name) {
    String spaced =
        name.replaceAll("([a-z])([A-Z])", "$1 $2")
            .replaceAll("([A-Z]+)([A-Z][a-z])", "$1 $2")
            .replaceAll("[^\\p{L}]+", " ");
    List<String> words = new ArrayList<>();
    for (String word : spaced.strip().toLowerCase(Locale.ROOT).split(" ")) {
      if (!word.isEmpty()) {
        words.add(word);
      }
    }
    return words;
  }
}
