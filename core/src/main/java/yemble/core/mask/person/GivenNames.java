package yemble.core.mask.person;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.mask.shape.Letters;
import yemble.core.mask.shape.NameForm;
import yemble.core.mask.shape.Script;
import yemble.core.vocabulary.Vocabularies;

/**
 * Given names, chosen so that the gender that a reader would believe stays: a name that is known as
 * a woman's or a man's becomes another such, and any other one a name that both have. So a masked
 * name never says another gender than the columns beside it.
 */
public final class GivenNames implements Names.Vocabulary {
  private static final String LETTERS = "ABCDEFGHJKLMNPRST";

  /** The normal forms of names that are known as women's alone, and as men's. */
  private static final Set<String> WOMEN = forms("given-female", "known-female");

  private static final Set<String> MEN = forms("given-male", "known-male");
  private static final Set<String> BOTH = forms("given-both", "known-both");
  private static final Set<String> ALL = all();

  private final Map<Character, List<String>> female = byLetter("given-female", Gender.FEMALE);
  private final Map<Character, List<String>> male = byLetter("given-male", Gender.MALE);
  private final Map<Character, List<String>> both = byLetter("given-both", Gender.UNKNOWN);

  private GivenNames() {}

  public static GivenNames load() {
    return new GivenNames();
  }

  private static Map<Character, List<String>> byLetter(String list, Gender gender) {
    Map<Character, List<String>> names = new HashMap<>();
    for (String name : Vocabularies.load(list)) {
      if (gender(NameForm.of(name)) == gender) {
        names.computeIfAbsent(name.charAt(0), letter -> new ArrayList<>()).add(name);
      }
    }
    return names;
  }

  private static Set<String> forms(String... lists) {
    Set<String> forms = new HashSet<>();
    Vocabularies.words(lists).forEach(word -> forms.add(NameForm.of(word)));
    return forms;
  }

  private static Set<String> all() {
    Set<String> all = new HashSet<>(WOMEN);
    all.addAll(MEN);
    all.addAll(BOTH);
    return all;
  }

  /** All names that are given names before they are other words, in lower case. */
  public static Set<String> known() {
    Set<String> known = new HashSet<>();
    Vocabularies.words("given-female", "given-male", "known-female", "known-male", "known-both")
        .forEach(word -> known.add(Letters.lower(word)));
    return known;
  }

  /** Whether a word in its normal form is a given name of a list. */
  public static boolean isKnown(String form) {
    return ALL.contains(form);
  }

  /** Whose a name in its normal form is. */
  public static Gender gender(String form) {
    boolean women = WOMEN.contains(form);
    boolean men = MEN.contains(form);
    return women == men || BOTH.contains(form)
        ? Gender.UNKNOWN
        : women ? Gender.FEMALE : Gender.MALE;
  }

  /** Whose a given name is. */
  public enum Gender {
    FEMALE,
    MALE,
    /** Of both, or of nobody who is known. */
    UNKNOWN
  }

  @Override
  public String letters() {
    return LETTERS;
  }

  @Override
  public List<String> choices(String word, char letter) {
    return switch (gender(word)) {
      case FEMALE -> female.get(letter);
      case MALE -> male.get(letter);
      case UNKNOWN -> both.get(letter);
    };
  }

  @Override
  public List<String> choices(String word, Script.Native script) {
    return NamesInScripts.given(script, word);
  }
}
