package yemble.core.mask;

import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import java.util.regex.Pattern;

/**
 * Whether a value could be one of a kind: what survey asks of every sampled value.
 *
 * @param strength how much it means, from 0 to 1, if every value of a column is accepted
 * @param check null if the value is accepted; why not if it nearly is; an empty string if it is
 *     nothing of the sort
 */
public record Recognition(String kind, double strength, Function<String, String> check) {
  private static final Set<String> GIVEN = GivenNames.known();
  private static final Set<String> GENDERS =
      Set.of(
          "f",
          "m",
          "x",
          "w",
          "d",
          "female",
          "male",
          "other",
          "divers",
          "woman",
          "man",
          "nonbinary");
  private static final Pattern EMAIL =
      Pattern.compile("[^@\\s\"{}\\[\\]<>(),;:]+@[\\p{L}0-9-]+(?:\\.[\\p{L}0-9-]+)+");
  private static final String WORD = "\\p{Lu}[\\p{L}'’]+(?:[- ]\\p{Lu}[\\p{L}'’]+)*\\.?";

  /** Every recognition, the most telling first. */
  public static final List<Recognition> ALL =
      List.of(
          new Recognition("email", 0.98, Recognition::email),
          new Recognition("iban", 0.97, Recognition::iban),
          new Recognition("card-number", 0.93, Recognition::card),
          pattern(
              "password-hash",
              0.9,
              "\\$[0-9a-zA-Z-]{1,12}\\$.{20,}|\\{[A-Z0-9-]+}.{16,}|[0-9a-f]{32}|[0-9a-f]{40}|[0-9a-f]{64}"),
          new Recognition("json", 0.95, Recognition::json),
          new Recognition("phone", 0.8, Recognition::phone),
          new Recognition("gender", 0.3, t -> GENDERS.contains(Letters.lower(t)) ? null : ""),
          new Recognition("birth-date", 0.15, Recognition::birthDate),
          pattern("given-name", 0.1, WORD + "|\\p{Lu}{2,}"),
          pattern("family-name", 0.15, WORD + "|\\p{Lu}{2,}"),
          pattern(
              "full-name",
              0.6,
              "(?:(?:Dr|Mr|Mrs|Ms|Prof)\\.? )?\\p{Lu}[\\p{L}'’-]+,? \\p{Lu}[\\p{L}'’.-]*(?: \\p{Lu}[\\p{L}'’-]+)?"),
          new Recognition("street-address", 0.7, Recognition::street),
          pattern("city", 0.1, "\\p{Lu}[\\p{L}'’]+(?:[- ][\\p{L}'’]+){0,3}"),
          pattern(
              "postcode", 0.35, "[A-Z]{1,3}[0-9]{1,2}[A-Z]? ?[0-9][A-Z]{2}|[0-9]{5}(?:-[0-9]{4})?"),
          pattern("username", 0.1, "[a-zA-Z][a-zA-Z0-9._-]{2,31}"),
          pattern("national-id", 0.2, "[A-Z]{0,3}[ -]?[0-9][0-9 .-]{5,16}[A-Z]?"),
          pattern("vehicle-plate", 0.45, "[A-Z]{1,3}[ -]?[0-9]{1,4}[ -]?[A-Z]{1,3}"),
          new Recognition("note", 0.55, Recognition::prose));

  private static Recognition pattern(String kind, double strength, String expression) {
    Pattern pattern = Pattern.compile(expression);
    return new Recognition(kind, strength, t -> pattern.matcher(t).matches() ? null : "");
  }

  /** Whether a value is a given name of the vocabulary. */
  public static boolean isKnownGivenName(String value) {
    return GIVEN.contains(Letters.lower(value));
  }

  /** Null if the value is accepted; otherwise why not, in words without the value; maybe empty. */
  public String refusal(String value) {
    return value.length() > 20_000 ? "" : check.apply(value);
  }

  private static String email(String text) {
    int at = text.indexOf('@');
    if (at <= 0) {
      return "";
    }
    return EMAIL.matcher(text).matches() ? null : "not a complete address";
  }

  private static String iban(String text) {
    if (!Iban.looksLikeOne(text)) {
      return "";
    }
    return Iban.isValid(Iban.normal(text)) ? null : "check digits are wrong";
  }

  private static String card(String text) {
    String digits = CardNumber.digits(text);
    if (digits.length() < 13 || digits.length() > 19 || !digits.matches("[2-6].*|1800.*")) {
      return "";
    }
    return CardNumber.isValid(digits) ? null : "check digit is wrong";
  }

  private static String phone(String text) {
    if (!text.matches("[+(0][0-9()/ .-]{5,22}[0-9](?: ?(?:x|ext\\.?) ?[0-9]{1,5})?")) {
      return "";
    }
    long digits = text.chars().filter(c -> c >= '0' && c <= '9').count();
    boolean sameAlways = text.chars().distinct().count() == 1;
    return sameAlways
        ? "one digit only"
        : digits >= 7 && digits <= 15 ? null : "too short or too long";
  }

  private static String birthDate(String text) {
    if (text.length() < 8
        || !text.substring(0, 8).matches("[0-9]{4}-[0-9]{2}-|[0-9]{8}|[0-9./-]{8}")) {
      return "";
    }
    try {
      LocalDate date = LocalDate.parse(text.substring(0, Math.min(10, text.length())));
      return date.getYear() >= 1900 && date.getYear() < 2030
          ? null
          : "too long ago or in the future";
    } catch (DateTimeParseException e) {
      return text.matches("[0-9]{1,2}[./-][0-9]{1,2}[./-](19|20)[0-9]{2}.*") ? null : "";
    }
  }

  private static String street(String text) {
    boolean number = text.chars().anyMatch(c -> c >= '0' && c <= '9');
    boolean letters = text.chars().filter(Character::isLetter).count() > 4;
    return number && letters && text.indexOf(' ') > 0 && Places.namesStreet(text) ? null : "";
  }

  private static String json(String text) {
    boolean opens = text.startsWith("{") || text.startsWith("[");
    return opens && JsonText.walk(text, (path, value, string, from, to) -> {}) ? null : "";
  }

  private static String prose(String text) {
    return text.split("\\s+").length >= 4 && text.chars().anyMatch(c -> c >= 'a' && c <= 'z')
        ? null
        : "";
  }
}
