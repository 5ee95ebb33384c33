package yemble.core.mask;

import java.util.Collection;
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
                "other given names of the same believed gender",
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
                "gender",
                Category.IDENTITY,
                "the gender of a person",
                "stays: given names keep the gender that a reader believes",
                Masks::gender),
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
                "the masked names at a reserved domain, told apart by a tag",
                Masks::email),
            new Kind(
                "phone",
                Category.CONTACT,
                "a telephone number",
                "the same number but for its last seven digits",
                Masks::phone),
            new Kind(
                "street-address",
                Category.PLACE,
                "street and house number",
                "another street and number",
                Masks::streetAddress),
            new Kind("city", Category.PLACE, "a town", "a made-up town", Masks::city),
            new Kind(
                "postcode",
                Category.PLACE,
                "a postal code",
                "another one of its shape",
                Masks::postcode),
            new Kind(
                "card-number",
                Category.FINANCE,
                "the number of a payment card",
                "another of the same brand; a wrong check digit stays as wrong",
                Masks::cardNumber),
            new Kind(
                "iban",
                Category.FINANCE,
                "an international bank account number",
                "another of the same country; wrong check digits stay as wrong",
                Masks::iban),
            new Kind(
                "national-id",
                Category.OFFICIAL_ID,
                "a number by which a state knows a person",
                "another of its shape; the state of a Luhn check digit stays",
                Masks::nationalId),
            new Kind(
                "vehicle-plate",
                Category.OFFICIAL_ID,
                "the number plate of a vehicle",
                "another of its shape",
                Masks::vehiclePlate),
            new Kind(
                "username",
                Category.CREDENTIAL,
                "a login name",
                "masked names and a tag that keeps logins apart",
                Masks::username),
            new Kind(
                "password-hash",
                Category.CREDENTIAL,
                "the hash of a password",
                "another of the same scheme and cost; nobody can log in with it",
                Masks::passwordHash),
            new Kind(
                "note",
                Category.TEXT,
                "free text that may speak of people",
                "the same text, with what it mentions of its row and what looks personal replaced",
                Masks::note),
            new Kind(
                "json",
                Category.TEXT,
                "JSON that may hold personal fields",
                "the same JSON, masked path by path; unknown paths keep their shape alone",
                Masks::json))) {
      ALL.put(kind.name(), kind);
    }
  }

  private Kinds() {}

  public static Optional<Kind> of(String name) {
    return Optional.ofNullable(ALL.get(name));
  }

  public static Collection<Kind> all() {
    return ALL.values();
  }

  public static Set<String> names() {
    return ALL.keySet();
  }
}
