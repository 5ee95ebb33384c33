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
                "each word in lower case",
                List.of("Orla", "TAVIN", "Anne-Marie", "J.", "unknown"),
                Masks::givenName),
            new Kind(
                "family-name",
                Category.IDENTITY,
                "last names of a person",
                "other family names",
                "each word in lower case",
                List.of("Tidewick", "van der Torr", "SKERRACK", "Vennask-Pellane", "O'Storr"),
                Masks::familyName),
            new Kind(
                "full-name",
                Category.IDENTITY,
                "given and family names in one value",
                "what its parts become as given and family names",
                "that of its parts",
                List.of(
                    "Orla Tidewick",
                    "Tidewick, Orla",
                    "TIDEWICK Orla",
                    "Dr. Tavin van Skerrack",
                    "ORLA TIDEWICK"),
                Masks::fullName),
            new Kind(
                "gender",
                Category.IDENTITY,
                "the gender of a person",
                "stays: given names keep the gender that a reader believes",
                "the text",
                List.of("F", "M", "female"),
                Masks::gender),
            new Kind(
                "birth-date",
                Category.IDENTITY,
                "the day a person was born",
                "another day of the same year, on the same side of an age limit",
                "the date",
                List.of("1974-04-29", "29.04.1974", "4/29/1974", "19740429", "2010-12-31 00:00:00"),
                Masks::birthDate),
            new Kind(
                "email",
                Category.CONTACT,
                "an e-mail address",
                "the masked names at a reserved domain, told apart by a tag",
                "trimmed, in lower case",
                List.of(
                    "orla.tidewick@site.example",
                    "ORLA.TIDEWICK@SITE.EXAMPLE",
                    "o_tidewick7@site.example",
                    "info@site.example",
                    "no address"),
                Masks::email),
            new Kind(
                "phone",
                Category.CONTACT,
                "a telephone number",
                "the same number but for its last seven digits",
                "the digits without the extension",
                List.of(
                    "+44 7700 900123",
                    "07700 900123",
                    "(0770) 0900-123 ext. 4",
                    "+1-555-0100-199",
                    "112"),
                Masks::phone),
            new Kind(
                "street-address",
                Category.PLACE,
                "street and house number",
                "another street and number",
                "each word and number in lower case",
                List.of("12 Harbour Road", "Flat 3, 12 Harbour Road", "Beacon Hill 7", "PO Box 55"),
                Masks::streetAddress),
            new Kind(
                "city",
                Category.PLACE,
                "a town",
                "a made-up town",
                "in lower case, single spaces",
                List.of("Skerrow", "SKERROW", "Little Skerrow"),
                Masks::city),
            new Kind(
                "postcode",
                Category.PLACE,
                "a postal code",
                "another one of its shape",
                "the text",
                List.of("OR5 2QX", "12345", "1234 AB"),
                Masks::postcode),
            new Kind(
                "card-number",
                Category.FINANCE,
                "the number of a payment card",
                "another of the same brand; a wrong check digit stays as wrong",
                "the digits",
                List.of(
                    "4000 0012 3456 7899",
                    "4000001234567899",
                    "5100001234567897",
                    "4000 0012 3456 7890"),
                Masks::cardNumber),
            new Kind(
                "iban",
                Category.FINANCE,
                "an international bank account number",
                "another of the same country; wrong check digits stay as wrong",
                "without spaces, in capitals",
                List.of("QO14 ORLI 1234 5678 9012 3", "QO11ORLI1234567890123"),
                Masks::iban),
            new Kind(
                "national-id",
                Category.OFFICIAL_ID,
                "a number by which a state knows a person",
                "another of its shape; the state of a Luhn check digit stays",
                "the text, digits for themselves",
                List.of("OR12345674", "OR12345670", "AB 12 34 56 C"),
                Masks::nationalId),
            new Kind(
                "vehicle-plate",
                Category.OFFICIAL_ID,
                "the number plate of a vehicle",
                "another of its shape",
                "the text",
                List.of("OA-123-BC", "AB12 CDE"),
                Masks::vehiclePlate),
            new Kind(
                "username",
                Category.CREDENTIAL,
                "a login name",
                "masked names and a tag that keeps logins apart",
                "trimmed, in lower case",
                List.of("orla_t17", "OTIDEWICK", "orla.tidewick@site.example"),
                Masks::username),
            new Kind(
                "password-hash",
                Category.CREDENTIAL,
                "the hash of a password",
                "another of the same scheme and cost; nobody can log in with it",
                "the text",
                List.of(
                    "$2b$12$abcdefghijklmnopqrstuuE1b2c3d4e5f6g7h8i9j0k1l2m3n4o5p6",
                    "0cc175b9c0f1b6a831c399e269772661"),
                Masks::passwordHash),
            new Kind(
                "note",
                Category.TEXT,
                "free text that may speak of people",
                "the same text, with what it mentions of its row and what looks personal replaced",
                "the text, its row and the rows it belongs to",
                List.of(
                    "Mr Tidewick called from +44 7700 900123.",
                    "Mail orla.tidewick@site.example before Friday."),
                Masks::note),
            new Kind(
                "json",
                Category.TEXT,
                "JSON that may hold personal fields",
                "the same JSON, masked path by path; unknown paths keep their shape alone",
                "each value as its kind has it",
                List.of("{\"name\":\"Orla\",\"visits\":17}", "not JSON at all"),
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
