package yemble.core.mask.contact;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.mask.person.KnownNames;
import yemble.core.mask.person.Names;
import yemble.core.mask.shape.Letters;
import yemble.core.mask.shape.NameForm;
import yemble.core.vocabulary.Vocabularies;

/**
 * The names in what stands before the sign of an e-mail address, or in a login, told from its form
 * and from names that are known: the vocabularies', and those of the row it stands in where they
 * are given.
 *
 * <p>Words are parted by signs and digits. Of several the last is the family name and those before
 * it are given names, unless the vocabularies say the opposite; one letter is an initial. A word
 * alone is taken apart where it is two names that are known, an initial and one ({@code
 * otidewick}), or begins with a given name; else it is a given name if it is known as one, or a
 * family name.
 */
public final class LocalPart {
  private static final Set<String> MAILBOXES = Vocabularies.words("mailboxes");
  private static final int MOST_WORDS = 20_000;

  /** What family names are kept behind, apart from words that stand alone. */
  private static final String FAMILIES = "@";

  private static final int SHORTEST_FAMILY = 3;
  private static final int SHORTEST_PARTICLE = 2;
  private static final int LONGEST_PARTICLE = 5;

  /** Names as long as this are hardly found in a word by chance. */
  private static final int SURE = 4;

  /** What a family name that nobody knows has at the least, behind a given name that is known. */
  private static final int SHORTEST_UNKNOWN = 4;

  private LocalPart() {}

  /** What a stretch of a local part is. */
  enum Role {
    GIVEN,
    FAMILY,
    /** Of what is no name, or only stands beside one: it stays. */
    STAYS,
    DIGITS,
    SIGN
  }

  /** A stretch of a local part. */
  record Part(String text, Role role) {
    Part as(Role other) {
      return new Part(text, other);
    }

    boolean isWord() {
      return role != Role.DIGITS && role != Role.SIGN;
    }
  }

  /** Which words are names, by their normal forms. */
  public interface Known {
    /** The names of the vocabularies. */
    Known VOCABULARIES =
        new Known() {
          @Override
          public boolean isGiven(String form) {
            return KnownNames.isGiven(form);
          }

          @Override
          public boolean isFamily(String form) {
            return KnownNames.isFamily(form);
          }
        };

    boolean isGiven(String form);

    boolean isFamily(String form);

    /** The names of the row alone, which are looked for first; null without any. */
    default Known ofRow() {
      return null;
    }

    /** What a word that is a given name, or its initial, becomes; null for what its mask makes. */
    default String given(String word) {
      return null;
    }

    /** The same of a family name. */
    default String family(String word) {
      return null;
    }
  }

  /**
   * The stretches of a local part: joined they are the text.
   *
   * @param words those of words alone that were taken apart before, which come again and again
   */
  static List<Part> parts(String local, Known known, Map<String, List<Part>> words) {
    List<Part> parts = stretches(local);
    List<Integer> names = new ArrayList<>();
    for (int i = 0; i < parts.size(); i++) {
      if (parts.get(i).isWord()) {
        names.add(i);
      }
    }
    if (names.size() == 1) {
      int at = names.get(0);
      String word = parts.get(at).text();
      List<Part> apart = known.ofRow() == null ? words.get(word) : null;
      if (apart == null) {
        apart = apart(word, known);
        keep(words, word, apart, known);
      }
      parts.remove(at);
      parts.addAll(at, apart);
    } else {
      several(parts, names, known);
    }
    for (int i = parts.size() - 1; i >= 0; i--) {
      if (parts.get(i).role() == Role.FAMILY) {
        List<Part> family = families(parts.get(i).text(), known, words);
        if (family.size() != 1) {
          parts.remove(i);
          parts.addAll(i, family);
        }
      }
    }
    return parts;
  }

  /** A family name with its particles apart: itself where it has none, or nobody knows it. */
  private static List<Part> families(String word, Known known, Map<String, List<Part>> words) {
    List<Part> kept = known.ofRow() == null ? words.get(FAMILIES + word) : null;
    if (kept == null) {
      List<Part> found = family(word, known);
      kept = found == null ? List.of(new Part(word, Role.FAMILY)) : found;
      keep(words, FAMILIES + word, kept, known);
    }
    return kept;
  }

  /** Whether all names of a local part are known. */
  static boolean isUnderstood(List<Part> parts, Known known) {
    for (Part part : parts) {
      boolean isName = part.role() == Role.GIVEN || part.role() == Role.FAMILY;
      if (isName && part.text().length() > 1) {
        String form = NameForm.of(part.text());
        if (!known.isGiven(form) && !known.isFamily(form)) {
          return false;
        }
      }
    }
    return true;
  }

  private static void keep(
      Map<String, List<Part>> words, String word, List<Part> apart, Known known) {
    if (known.ofRow() == null) {
      if (words.size() >= MOST_WORDS) {
        words.clear();
      }
      words.put(word, apart);
    }
  }

  private static List<Part> stretches(String local) {
    List<Part> parts = new ArrayList<>();
    for (int at = 0; at < local.length(); ) {
      int end = at + 1;
      Role role = role(local.charAt(at));
      while (end < local.length() && role(local.charAt(end)) == role) {
        end++;
      }
      parts.add(new Part(local.substring(at, end), role));
      at = end;
    }
    return parts;
  }

  /** A word is taken for a family name until more is known. */
  private static Role role(char c) {
    return Letters.isWord(c) ? Role.FAMILY : c >= '0' && c <= '9' ? Role.DIGITS : Role.SIGN;
  }

  private static void several(List<Part> parts, List<Integer> places, Known known) {
    List<Integer> names = new ArrayList<>(places);
    // Beside a name such a word is one, too: somebody is called Guest.
    boolean office =
        places.stream().allMatch(at -> MAILBOXES.contains(Letters.lower(parts.get(at).text())));
    for (int i = 0; i < places.size(); i++) {
      String lower = Letters.lower(parts.get(places.get(i)).text());
      boolean joined =
          places.get(i) + 1 < parts.size() && parts.get(places.get(i) + 1).text().equals("-");
      boolean particle = (i > 0 || joined) && i < places.size() - 1 && Names.isParticle(lower);
      if (particle || office) {
        set(parts, places.get(i), Role.STAYS);
        names.remove(places.get(i));
      }
    }
    if (names.isEmpty()) {
      return;
    }
    int first = names.get(0);
    int last = names.get(names.size() - 1);
    String firstForm = NameForm.of(parts.get(first).text());
    String lastForm = NameForm.of(parts.get(last).text());
    boolean reversed =
        names.size() > 1
            && (familyAlone(firstForm, known)
                    && (isInitial(parts.get(last))
                        || known.isGiven(lastForm)
                        || !known.isFamily(lastForm))
                || givenAlone(lastForm, known)
                    && (known.isFamily(firstForm) || !known.isGiven(firstForm)));
    if (names.size() == 1) {
      set(parts, first, givenAlone(firstForm, known) ? Role.GIVEN : Role.FAMILY);
      return;
    }
    int family = reversed ? first : last;
    for (int place : names) {
      boolean hyphened = isHyphened(parts, place, family);
      boolean more =
          place != first
              && place != last
              && familyAlone(NameForm.of(parts.get(place).text()), known);
      set(parts, place, place == family || hyphened || more ? Role.FAMILY : Role.GIVEN);
    }
  }

  /** Whether a word is joined to the family name by a hyphen where other signs part the names. */
  private static boolean isHyphened(List<Part> parts, int place, int family) {
    boolean others =
        parts.stream().anyMatch(part -> part.role() == Role.SIGN && !part.text().equals("-"));
    return others
        && Math.abs(place - family) == 2
        && parts.get((place + family) / 2).text().equals("-");
  }

  private static void set(List<Part> parts, int place, Role role) {
    parts.set(place, parts.get(place).as(role));
  }

  private static boolean isInitial(Part part) {
    return part.text().length() == 1;
  }

  private static boolean givenAlone(String form, Known known) {
    return known.isGiven(form) && !known.isFamily(form);
  }

  private static boolean familyAlone(String form, Known known) {
    return known.isFamily(form) && !known.isGiven(form);
  }

  /** The names that a single word is made of. */
  private static List<Part> apart(String word, Known known) {
    if (MAILBOXES.contains(Letters.lower(word))) {
      return List.of(new Part(word, Role.STAYS));
    }
    List<Part> ofRow = known.ofRow() == null ? null : told(word, known.ofRow());
    List<Part> told = ofRow == null ? told(word, known) : ofRow;
    return told == null ? List.of(new Part(word, Role.FAMILY)) : told;
  }

  /** The names that are known in a word; null if it holds none. */
  private static List<Part> told(String word, Known known) {
    String form = NameForm.of(word);
    if (known.isGiven(form) || known.isFamily(form)) {
      return List.of(new Part(word, known.isGiven(form) ? Role.GIVEN : Role.FAMILY));
    }
    List<Part> particled = family(word, known);
    if (particled != null) {
      return particled;
    }
    int length = word.length();
    List<Part> sure = twoNames(word, SURE, known);
    if (sure != null) {
      return sure;
    }
    if (length > SURE && family(word.substring(1), known) != null) {
      return given(word, 1, known);
    }
    List<Part> initialLast = length > SURE ? family(word.substring(0, length - 1), known) : null;
    if (initialLast != null) {
      initialLast.add(new Part(word.substring(length - 1), Role.GIVEN));
      return initialLast;
    }
    List<Part> names = twoNames(word, SHORTEST_FAMILY, known);
    if (names != null) {
      return names;
    }
    if (length > SHORTEST_FAMILY && family(word.substring(1), known) != null) {
      return given(word, 1, known);
    }
    if (length > SHORTEST_FAMILY && known.isGiven(form(word, 0, length - 1))) {
      return two(word, length - 1, Role.GIVEN, Role.FAMILY);
    }
    if (length > SHORTEST_FAMILY + 1 && family(word.substring(2), known) != null) {
      List<Part> parts = two(word.substring(0, 2), 1, Role.GIVEN, Role.GIVEN);
      parts.addAll(family(word.substring(2), known));
      return parts;
    }
    for (int at = length - SHORTEST_UNKNOWN; at >= SHORTEST_FAMILY; at--) {
      if (known.isGiven(form(word, 0, at))) {
        return two(word, at, Role.GIVEN, Role.FAMILY);
      }
    }
    return null;
  }

  /**
   * A given and a family name that are known, or a family and a given name.
   *
   * @param least how long each is at the least
   */
  private static List<Part> twoNames(String word, int least, Known known) {
    int length = word.length();
    for (int at = length - least; at >= least; at--) {
      if (known.isGiven(form(word, 0, at)) && family(word.substring(at), known) != null) {
        return given(word, at, known);
      }
    }
    for (int at = length - least; at >= least; at--) {
      if (known.isGiven(form(word, at, length)) && known.isFamily(form(word, 0, at))) {
        return two(word, at, Role.FAMILY, Role.GIVEN);
      }
    }
    return null;
  }

  /**
   * A family name that is known, or two, with particles run together with them; null if it is none.
   */
  private static List<Part> family(String word, Known known) {
    if (word.length() >= SHORTEST_FAMILY && known.isFamily(NameForm.of(word))) {
      return new ArrayList<>(List.of(new Part(word, Role.FAMILY)));
    }
    int longest = Math.min(LONGEST_PARTICLE, word.length() - SHORTEST_FAMILY);
    for (int at = longest; at >= SHORTEST_PARTICLE; at--) {
      if (Names.isParticle(word.substring(0, at))) {
        List<Part> rest = family(word.substring(at), known);
        if (rest != null) {
          rest.add(0, new Part(word.substring(0, at), Role.STAYS));
          return rest;
        }
      }
    }
    for (int at = word.length() - SURE; at >= SURE; at--) {
      if (known.isFamily(form(word, 0, at)) && known.isFamily(form(word, at, word.length()))) {
        return two(word, at, Role.FAMILY, Role.FAMILY);
      }
    }
    return null;
  }

  private static String form(String word, int from, int to) {
    return NameForm.of(word.substring(from, to));
  }

  /** A given name or an initial up to a place, and the family name behind it. */
  private static List<Part> given(String word, int at, Known known) {
    List<Part> parts = new ArrayList<>(List.of(new Part(word.substring(0, at), Role.GIVEN)));
    parts.addAll(family(word.substring(at), known));
    return parts;
  }

  private static List<Part> two(String word, int at, Role first, Role second) {
    return new ArrayList<>(
        List.of(new Part(word.substring(0, at), first), new Part(word.substring(at), second)));
  }
}
