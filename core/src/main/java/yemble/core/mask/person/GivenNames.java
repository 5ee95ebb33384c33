package yemble.core.mask.person;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import yemble.core.mask.shape.Letters;
import yemble.core.vocabulary.Vocabularies;

/**
 * Given names, chosen so that the gender that a reader would believe stays: by the lists where the
 * name stands in one of them, else by its ending, else from all of them.
 */
public final class GivenNames implements Names.Vocabulary {
  private static final List<String> FEMALE_ENDINGS =
      List.of("a", "ie", "ette", "elle", "ine", "yn", "lyn", "een", "beth", "th", "wen");
  private static final List<String> MALE_ENDINGS =
      List.of("o", "us", "ard", "bert", "ric", "rick", "ton", "son", "mir", "an", "en", "on", "or");

  private final List<String> female;
  private final List<String> male;
  private final List<String> all;
  private final Set<String> knownFemale;
  private final Set<String> knownMale;

  private GivenNames(List<String> female, List<String> male) {
    this.female = female;
    this.male = male;
    this.all = new java.util.ArrayList<>(female);
    all.addAll(male);
    this.knownFemale = lower(female);
    this.knownMale = lower(male);
  }

  public static GivenNames load() {
    return new GivenNames(Vocabularies.load("given-female"), Vocabularies.load("given-male"));
  }

  /** All given names of the lists, in lower case. */
  public static Set<String> known() {
    Set<String> known = lower(Vocabularies.load("given-female"));
    known.addAll(lower(Vocabularies.load("given-male")));
    return known;
  }

  private static Set<String> lower(List<String> words) {
    Set<String> lower = new HashSet<>();
    words.forEach(word -> lower.add(Letters.lower(word)));
    return lower;
  }

  @Override
  public List<String> choices(String word) {
    boolean isFemale = knownFemale.contains(word);
    boolean isMale = knownMale.contains(word);
    if (isFemale != isMale) {
      return isFemale ? female : male;
    }
    if (!isFemale) {
      if (endsIn(word, FEMALE_ENDINGS)) {
        return female;
      }
      if (endsIn(word, MALE_ENDINGS)) {
        return male;
      }
    }
    return all;
  }

  private static boolean endsIn(String word, List<String> endings) {
    for (String ending : endings) {
      if (word.endsWith(ending)) {
        return true;
      }
    }
    return false;
  }
}
