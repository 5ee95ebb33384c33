package yemble.core.mask;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Every kind that Yemble knows. */
public final class Kinds {
  /** The scope of the mask for columns that are to be masked without a kind of their own. */
  public static final String SHAPE = "shape";

  private static final Map<String, Kind> ALL = new LinkedHashMap<>();

  static {
    for (Kind kind :
        List.of(
            new Kind(
                "given-name",
                Category.IDENTITY,
                "first and middle names of a person",
                "other given names, of the same believed gender",
                Masks::givenName),
            new Kind(
                "family-name",
                Category.IDENTITY,
                "last names of a person",
                "other family names",
                Masks::familyName),
            new Kind(
                "full-name",
                Category.IDENTITY,
                "given and family names in one value",
                "what its parts become as given and family names",
                Masks::fullName),
            new Kind(
                "birth-date",
                Category.IDENTITY,
                "the day a person was born",
                "another day of the same year, on the same side of an age limit",
                Masks::birthDate),
            new Kind(
                "email",
                Category.CONTACT,
                "an e-mail address",
                "the masked names at a reserved domain, told apart by a short tag",
                Masks::email),
            new Kind(
                "phone",
                Category.CONTACT,
                "a telephone number",
                "the same number but for its last seven digits",
                Masks::phone))) {
      ALL.put(kind.name(), kind);
    }
  }

  private Kinds() {}

  public static Optional<Kind> of(String name) {
    return Optional.ofNullable(ALL.get(name));
  }

  public static Set<String> names() {
    return ALL.keySet();
  }
}
