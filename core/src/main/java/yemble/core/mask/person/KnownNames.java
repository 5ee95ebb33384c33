package yemble.core.mask.person;

import java.util.HashSet;
import java.util.Set;
import yemble.core.mask.shape.NameForm;
import yemble.core.vocabulary.Vocabularies;

/** Which words are known as names, by their normal forms: pinned with the mask version. */
public final class KnownNames {
  private static final Set<String> FAMILY = family();

  private KnownNames() {}

  private static Set<String> family() {
    Set<String> forms = new HashSet<>();
    Vocabularies.load("known-family").forEach(word -> forms.add(NameForm.of(word)));
    return forms;
  }

  public static boolean isGiven(String form) {
    return GivenNames.isKnown(form);
  }

  public static boolean isFamily(String form) {
    return FAMILY.contains(form);
  }

  /** Whether it is known as a family name, and not as a given one. */
  public static boolean isFamilyAlone(String form) {
    return isFamily(form) && !isGiven(form);
  }
}
