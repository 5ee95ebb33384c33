package yemble.core.recognition;

import java.time.LocalDate;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import yemble.core.official.NumberForm;

/** The checks by the names that the table of kinds calls them by. For one thread. */
public final class Looks {
  /** The sort of days of which the year has two digits. */
  public static final String SHORT_YEARS = "years of two digits";

  private final Map<String, Look> all = new LinkedHashMap<>();

  /**
   * @param countries whose forms of ids and numbers are looked for, as ISO 3166 writes them; empty
   *     for all
   * @param asOf the project's day: who is born after it is not born yet
   */
  public Looks(Collection<String> countries, LocalDate asOf) {
    all.put("given-name", Look.of(NameLooks::given));
    all.put("family-name", Look.of(NameLooks::family));
    all.put("full-name", Look.of(NameLooks::full));
    all.put("gender", NameLooks.gender());
    all.put("birth-date", Look.of(value -> TextLooks.birthDate(value, asOf)));
    all.put("age", Look.of(NumberLooks::age));
    all.put("nationality", Look.of(NameLooks::nationality));
    all.put("marital-status", NameLooks.oneOf("marital-statuses", false));
    all.put("email", Look.of(TextLooks::email));
    all.put("phone", NumberLooks.phone(countries));
    all.put("social-handle", Look.of(TextLooks::handle));
    all.put("street-address", Look.of(TextLooks::street));
    all.put("city", Look.of(NameLooks::city));
    all.put("region", Look.of(NameLooks::region));
    all.put("postcode", Look.of(NumberLooks::postcode));
    all.put("country", Look.of(NameLooks::country));
    all.put("latitude", NumberLooks.degrees(90));
    all.put("longitude", NumberLooks.degrees(180));
    all.put("card-number", Look.of(NumberLooks::card));
    all.put("card-expiry", Look.of(NumberLooks::expiry));
    all.put(
        "card-code",
        Look.of(
            v ->
                Verdict.possibleIf(
                    v.digits() == v.length() && v.length() >= 3 && v.length() <= 4)));
    all.put("iban", Look.of(NumberLooks::iban));
    all.put("bank-account", Look.of(NumberLooks::account));
    all.put("bic", Look.of(NumberLooks::bic));
    all.put("salary", Look.of(NumberLooks::salary));
    all.put("national-id", NumberLooks.official(NumberForm.Sort.NATIONAL, countries));
    all.put("tax-number", NumberLooks.official(NumberForm.Sort.TAX, countries));
    all.put("passport-number", Look.of(NumberLooks::passport));
    all.put("code-with-digits", Look.of(NumberLooks::codeWithDigits));
    all.put("insurance-number", NumberLooks.official(NumberForm.Sort.HEALTH, countries));
    all.put("vehicle-plate", Look.of(NumberLooks::plate));
    all.put("vin", Look.of(NumberLooks::vin));
    all.put("diagnosis", NumberLooks.diagnosis());
    all.put("blood-group", NameLooks.oneOf("blood-groups", false));
    all.put("health-note", Look.of(TextLooks::health));
    all.put("username", Look.of(TextLooks::login));
    all.put("password", Look.of(TextLooks::password));
    all.put("password-hash", Look.of(TextLooks::hash));
    all.put("secret", Look.of(TextLooks::secret));
    all.put("ip-address", Look.of(TextLooks::ip));
    all.put("mac-address", Look.of(TextLooks::mac));
    all.put("user-agent", Look.of(TextLooks::agent));
    all.put("device-id", Look.of(TextLooks::device));
    all.put("session-id", Look.of(TextLooks::session));
    all.put("job-title", Look.of(NameLooks::job));
    all.put("company", Look.of(NameLooks::company));
    all.put("religion", NameLooks.oneOf("religions", false));
    all.put("ethnicity", NameLooks.oneOf("ethnicities", false));
    all.put("political-view", NameLooks.oneOf("political-views", true));
    all.put("sexual-orientation", NameLooks.oneOf("sexual-orientations", false));
    all.put("union-membership", NameLooks.oneOf("unions", true));
    all.put("note", Look.of(TextLooks::prose));
    all.put("json", Look.of(TextLooks::json));
  }

  /** The names of all checks. */
  public Set<String> names() {
    return all.keySet();
  }

  /** The check of a name; null if there is none. */
  public Look of(String name) {
    return all.get(name);
  }

  /** What a check says of one value. */
  public Verdict verdict(String name, String text) {
    Hits hits = new Hits();
    hits.weight(1);
    all.get(name).at(Value.of(text), hits);
    return hits.last();
  }

  /** The day of a text that is one, in any of the usual forms. */
  public static Optional<LocalDate> date(String text) {
    return Optional.ofNullable(TextLooks.date(text));
  }

  /** Whether a word is a given name of the vocabulary. */
  public static boolean isKnownGivenName(String word) {
    return NameLooks.isGivenName(word);
  }

  /**
   * Which name comes first in a value of several words, as far as known given names tell: 1 the
   * given name, -1 the family name, 0 if nothing tells, or a comma does.
   */
  public static int nameOrder(Value value) {
    return NameLooks.order(value);
  }
}
