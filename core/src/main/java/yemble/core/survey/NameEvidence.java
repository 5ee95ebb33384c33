package yemble.core.survey;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import yemble.core.kind.Kinds;
import yemble.core.kind.Sign;
import yemble.core.project.Conventions;
import yemble.core.wording.Sentence;

/**
 * What the name of a column says: the phrases of the kinds, found in its words, in words run
 * together, without vowels, or as part of a compound.
 */
final class NameEvidence {
  private static final double ABOUT_IT = 0.3;
  private static final double STRANGE_WORD = 0.88;
  private static final double COMPOUND = 0.85;
  private static final double SKELETON = 0.93;
  private static final double WITH_TABLE = 0.85;
  private static final double GLUED = 0.75;
  private static final double OF_END = 0.6;
  private static final Pattern SHORT_CAPITALS = Pattern.compile("[A-Z]{4,8}");
  private static final Set<String> BARE =
      Set.of("id", "key", "number", "code", "token", "name", "value");
  private static final int SHORTEST_CUT = 5;
  private static final int SHORTEST_END = 3;
  private static final int MOST_LEFT_OUT = 8;
  private static final List<String> NUMBERS = List.of("number", "nummer", "numarasi", "numero");
  private static final int LONGEST_PHRASE = 5;
  private static final int SHORTEST_COMPOUND = 6;
  private static final int SHORTEST_SKELETON = 4;
  private static final double OWN_RULE = 0.9;

  /** A phrase that speaks for a kind. */
  private record Phrase(String kind, String joined, double strength) {}

  private final Map<String, List<Phrase>> byJoined = new HashMap<>();
  private final Map<String, List<Phrase>> bySkeleton = new HashMap<>();
  private final List<Phrase> compounds = new ArrayList<>();
  private final List<Phrase> words = new ArrayList<>();

  /** How strongly a name speaks for a kind, and by which of its words. */
  record Said(double strength, Sentence by) {
    /** The same with a share of the strength. */
    Said times(double share) {
      return new Said(share * strength, by);
    }

    /** The same, if a comment says so. */
    Said inComment(double share) {
      return new Said(share * strength, SurveyWording.COMMENT.of(by.values().get(0)));
    }
  }

  NameEvidence(Conventions conventions) {
    for (Sign sign : Kinds.signs()) {
      add(sign.kind(), sign.words(), sign.strength());
    }
    for (Conventions.Rule rule : conventions.rules().values()) {
      rule.names().forEach(phrase -> add(rule.kind(), phrase, OWN_RULE));
    }
  }

  private void add(String kind, List<String> phrase, double strength) {
    String joined = String.join("", NameWords.of(String.join(" ", phrase)));
    Phrase sign = new Phrase(kind, joined, strength);
    byJoined.computeIfAbsent(joined, j -> new ArrayList<>()).add(sign);
    String asWritten = String.join("", phrase);
    if (!asWritten.equals(joined)) {
      byJoined.computeIfAbsent(asWritten, j -> new ArrayList<>()).add(sign);
    }
    String skeleton = NameWords.skeleton(asWritten);
    if (skeleton.length() >= SHORTEST_SKELETON
        && asWritten.length() >= SHORTEST_COMPOUND
        && skeleton.length() < asWritten.length()) {
      bySkeleton.computeIfAbsent(skeleton, s -> new ArrayList<>()).add(sign);
    }
    if (joined.length() >= SHORTEST_COMPOUND && strength > 0.7) {
      compounds.add(sign);
      if (phrase.size() == 1) {
        words.add(new Phrase(kind, asWritten, strength));
      }
    }
  }

  /** What a name says; kinds that it does not speak for are left out. */
  Map<String, Said> of(String name) {
    Map<String, Said> said = new LinkedHashMap<>();
    read(name, said);
    String single = NameWords.withoutUmlauts(name);
    if (!single.equals(name) && NameWords.split(name).stream().noneMatch(NameWords::isAspect)) {
      read(single, said);
    }
    String one = NameWords.inSingular(name);
    if (!one.isEmpty()) {
      spans(NameWords.of(one), said);
    }
    return said;
  }

  /**
   * What the last letters of a name in capitals say, where others stand before them that are no
   * word: LFPLZ, PGEB.
   */
  Map<String, Said> ofEnd(String name) {
    Map<String, Said> said = new LinkedHashMap<>();
    if (!SHORT_CAPITALS.matcher(name).matches()) {
      return said;
    }
    for (int from = 1; from <= name.length() - SHORTEST_END; from++) {
      String end = name.substring(from).toLowerCase(Locale.ROOT);
      String joined = String.join("", NameWords.of(end));
      for (Phrase sign : byJoined.getOrDefault(joined, List.of())) {
        say(said, sign, OF_END, List.of(end));
      }
    }
    return said;
  }

  private void read(String name, Map<String, Said> said) {
    List<String> words = NameWords.of(name);
    spans(words, said);
    List<String> written = NameWords.split(name);
    if (!written.equals(words)) {
      spans(written, said);
    }
    for (int i = 0; i < words.size(); i++) {
      compound(words.get(i), rest(words, i, i), said);
    }
    shortened(written, said);
  }

  /**
   * A phrase of one long word, cut off (ansprechp for Ansprechpartner) or with its middle left out
   * (geb_ort for Geburtsort, kv_nr for a word that ends in -nummer).
   */
  private void shortened(List<String> written, Map<String, Said> said) {
    for (int i = 0; i < written.size(); i++) {
      String word = written.get(i);
      if (NameWords.isKnown(word)) {
        continue; // A word of its own, no part of another one.
      }
      String next = i + 1 < written.size() ? written.get(i + 1) : "";
      for (Phrase sign : words) {
        String phrase = sign.joined();
        boolean cut =
            word.length() >= SHORTEST_CUT
                && phrase.length() > word.length() + 1
                && phrase.length() <= word.length() + MOST_LEFT_OUT
                && phrase.startsWith(word);
        boolean middle =
            word.length() >= SHORTEST_END
                && !next.isEmpty()
                && phrase.length() > word.length() + next.length()
                && phrase.length() <= word.length() + next.length() + MOST_LEFT_OUT
                && phrase.startsWith(word)
                && ends(phrase, next);
        if (middle) {
          say(said, sign, rest(written, i, i + 1) * COMPOUND, List.of(word, next));
        } else if (isGlued(phrase, word)) {
          say(said, sign, rest(written, i, i) * GLUED, List.of(word));
        } else if (cut) {
          say(said, sign, rest(written, i, i) * COMPOUND, List.of(word));
        }
      }
    }
  }

  /** Whether a word is the beginning of a phrase and that of its last part: gebjahr, famst. */
  private static boolean isGlued(String phrase, String word) {
    if (word.length() < SHORTEST_CUT || phrase.length() < word.length() + 3) {
      return false;
    }
    for (int at = word.length() - 2; at >= SHORTEST_END; at--) {
      int rest = phrase.indexOf(word.substring(at), at + 2);
      if (phrase.startsWith(word.substring(0, at)) && rest > 0 && phrase.length() - rest <= 5) {
        return true;
      }
    }
    return false;
  }

  private static boolean ends(String phrase, String word) {
    return word.length() >= SHORTEST_END && phrase.endsWith(word)
        || NameWords.of(word).equals(List.of("number"))
            && NUMBERS.stream().anyMatch(phrase::endsWith);
  }

  /** What a name that says nothing by itself, such as "id", says behind that of its table. */
  Map<String, Said> ofBare(String table, String name) {
    List<String> words = NameWords.of(name);
    if (words.size() != 1 || !BARE.contains(words.get(0))) {
      return Map.of();
    }
    List<String> around =
        NameWords.of(table).stream().filter(word -> !word.equals("table")).toList();
    String last = around.isEmpty() ? "" : around.get(around.size() - 1);
    String singular = last.endsWith("s") ? last.substring(0, last.length() - 1) : last;
    Map<String, Said> said = new LinkedHashMap<>();
    for (String word : List.of(last, singular)) {
      for (Phrase sign : byJoined.getOrDefault(word + words.get(0), List.of())) {
        say(said, sign, WITH_TABLE, List.of(word, words.get(0)));
      }
    }
    return said;
  }

  private void spans(List<String> words, Map<String, Said> said) {
    for (int from = 0; from < words.size(); from++) {
      StringBuilder joined = new StringBuilder();
      for (int to = from; to < words.size() && to < from + LONGEST_PHRASE; to++) {
        joined.append(words.get(to));
        String text = joined.toString();
        double rest = rest(words, from, to);
        for (Phrase sign : byJoined.getOrDefault(text, List.of())) {
          say(said, sign, rest, words.subList(from, to + 1));
        }
        if (text.length() >= SHORTEST_SKELETON && NameWords.skeleton(text).equals(text)) {
          for (Phrase sign : bySkeleton.getOrDefault(text, List.of())) {
            say(said, sign, rest * SKELETON, words.subList(from, to + 1));
          }
        }
      }
    }
  }

  private static void say(Map<String, Said> said, Phrase sign, double share, List<String> by) {
    double strength = sign.strength() * share;
    Said before = said.get(sign.kind());
    if (before == null || before.strength() < strength) {
      said.put(sign.kind(), new Said(strength, SurveyWording.CALLED.of(String.join(" ", by))));
    }
  }

  /** What is left of a sign's strength by the words around it. */
  private static double rest(List<String> words, int from, int to) {
    double share = 1;
    for (int i = 0; i < words.size(); i++) {
      if (i >= from && i <= to) {
        continue;
      }
      String word = words.get(i);
      if (NameWords.isAspect(word)) {
        share *= i > to || word.equals("is") || word.equals("has") ? ABOUT_IT : 0.6;
      } else if (!NameWords.isBeside(word)) {
        share *= STRANGE_WORD;
      }
    }
    return share;
  }

  /** A long word that begins or ends with a phrase: emailadresse, geburtsdatum. */
  private void compound(String word, double others, Map<String, Said> said) {
    if (word.length() <= SHORTEST_COMPOUND || NameWords.isKnown(word)) {
      return;
    }
    for (Phrase sign : compounds) {
      if (word.length() > sign.joined().length()
          && (word.startsWith(sign.joined()) || word.endsWith(sign.joined()))) {
        String rest =
            word.startsWith(sign.joined())
                ? word.substring(sign.joined().length())
                : word.substring(0, word.length() - sign.joined().length());
        double share = NameWords.isAspect(rest) ? ABOUT_IT : COMPOUND;
        say(said, sign, others * share, List.of(word));
      }
    }
  }
}
