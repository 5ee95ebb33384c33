package yemble.core.survey;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/**
 * What the names of a column and its table say: words, split at case, underscores and digits,
 * looked up in one list of what people call things, abbreviations and other languages included.
 */
final class NameEvidence {
  /** Words in a row that speak for a kind, and how strongly, from 0 to 1. */
  private record Sign(String kind, List<String> words, double strength) {}

  private static final List<Sign> SIGNS = new ArrayList<>();

  private static void signs(String kind, double strength, String... phrases) {
    for (String phrase : phrases) {
      SIGNS.add(new Sign(kind, List.of(phrase.split(" ")), strength));
    }
  }

  static {
    signs(
        "given-name",
        0.85,
        "given name",
        "first name",
        "forename",
        "fname",
        "fnm",
        "gvn nm",
        "frst nm",
        "given nm",
        "firstname",
        "givenname",
        "christian name",
        "middle name",
        "vorname",
        "prenom",
        "nombre",
        "nome",
        "voornaam",
        "imie");
    signs(
        "family-name",
        0.85,
        "family name",
        "last name",
        "surname",
        "lname",
        "lnm",
        "fam nm",
        "lst nm",
        "lastname",
        "familyname",
        "maiden name",
        "nachname",
        "apellido",
        "apellidos",
        "cognome",
        "achternaam",
        "nazwisko",
        "soyad");
    signs(
        "full-name",
        0.8,
        "full name",
        "fullname",
        "display name",
        "person name",
        "contact name",
        "customer name",
        "cardholder",
        "card holder",
        "account holder");
    signs(
        "full-name",
        0.5,
        "sender",
        "recipient",
        "payer",
        "payee",
        "holder",
        "contact",
        "owner",
        "author",
        "actor",
        "signatory",
        "addressee",
        "beneficiary");
    signs("full-name", 0.35, "name", "nm");
    signs("gender", 0.85, "gender", "sex", "geschlecht", "sexe", "sexo", "geslacht");
    signs(
        "birth-date",
        0.9,
        "birth date",
        "birthdate",
        "date of birth",
        "dob",
        "birthday",
        "born",
        "birth dt",
        "brth dt",
        "geburtsdatum",
        "naissance",
        "nacimiento",
        "nascita");
    signs("email", 0.85, "email", "e mail", "mail", "eml", "correo", "courriel");
    signs(
        "phone",
        0.8,
        "phone",
        "telephone",
        "tel",
        "mobile",
        "mob",
        "cell",
        "fax",
        "msisdn",
        "phn",
        "telefon",
        "handy",
        "telefono",
        "callback");
    signs(
        "street-address",
        0.75,
        "street",
        "address",
        "addr",
        "address line",
        "strasse",
        "rue",
        "calle",
        "via",
        "adresse",
        "direccion",
        "indirizzo");
    signs("city", 0.8, "city", "town", "ort", "ville", "ciudad", "citta", "stad", "miasto");
    signs(
        "postcode",
        0.85,
        "postcode",
        "post code",
        "zip",
        "zipcode",
        "postal code",
        "postal",
        "plz",
        "cap",
        "code postal");
    signs(
        "card-number",
        0.85,
        "card number",
        "card no",
        "card nr",
        "card num",
        "ccn",
        "pan",
        "credit card",
        "cardnumber",
        "cc number");
    signs("iban", 0.9, "iban");
    signs(
        "username",
        0.8,
        "username",
        "user name",
        "login",
        "usr nm",
        "userid",
        "login name",
        "benutzername");
    signs("username", 0.4, "user", "usr", "nick", "account");
    signs(
        "password-hash",
        0.9,
        "password",
        "passwd",
        "pwd",
        "pwd hash",
        "password hash",
        "passwort",
        "secret");
    signs(
        "national-id",
        0.85,
        "national id",
        "ssn",
        "nin",
        "national insurance",
        "personal number",
        "identity number",
        "social security",
        "passport",
        "passport no",
        "tax id",
        "id card",
        "dni");
    signs(
        "vehicle-plate",
        0.85,
        "plate",
        "licence plate",
        "license plate",
        "number plate",
        "kennzeichen",
        "registration plate",
        "numberplate");
    signs(
        "note",
        0.6,
        "note",
        "notes",
        "remark",
        "remarks",
        "comment",
        "comments",
        "body",
        "message",
        "memo",
        "bemerkung");
    signs("note", 0.45, "summary", "description", "text", "reason", "details", "action", "subject");
    signs("json", 0.3, "json", "data", "payload", "attributes", "properties");
  }

  private static final Set<String> PEOPLE =
      Set.of(
          "person",
          "people",
          "passenger",
          "customer",
          "client",
          "user",
          "member",
          "employee",
          "staff",
          "crew",
          "patient",
          "student",
          "contact",
          "guest",
          "driver",
          "author",
          "subscriber",
          "newsletter",
          "account",
          "profile",
          "psgr",
          "cust",
          "emp",
          "companion",
          "guardian",
          "owner");
  private static final Set<String> THINGS =
      Set.of(
          "port",
          "vessel",
          "ship",
          "route",
          "product",
          "item",
          "category",
          "tariff",
          "country",
          "region",
          "company",
          "department",
          "role",
          "file",
          "table",
          "event",
          "setting",
          "config",
          "currency",
          "language",
          "status",
          "type",
          "host",
          "server",
          "group",
          "folder",
          "tag",
          "label",
          "template",
          "key",
          "index",
          "column",
          "field",
          "class",
          "model",
          "brand",
          "cache",
          "dictionary",
          "collected");

  private NameEvidence() {}

  /** How strongly the names speak for each kind; kinds that they do not speak for are left out. */
  static Map<String, Double> of(String table, String column) {
    List<String> words = words(column);
    List<String> around = words(table);
    Map<String, Double> evidence = new LinkedHashMap<>();
    for (Sign sign : SIGNS) {
      if (contains(words, sign.words())) {
        double strength = sign.strength();
        if (words.size() > sign.words().size() + 1) {
          strength *= 0.9;
        }
        if (sign.kind().equals("full-name") && sign.strength() < 0.5) {
          strength = surrounded(strength, words, around);
        }
        evidence.merge(sign.kind(), strength, Math::max);
      }
    }
    if (evidence.keySet().stream().anyMatch(k -> k.endsWith("-name") && !k.equals("full-name"))) {
      evidence.remove("full-name");
      evidence.computeIfPresent("username", (k, v) -> v > 0.7 ? v : v / 2);
    }
    if (evidence.containsKey("email")) {
      evidence.remove("full-name");
    }
    return evidence;
  }

  /** A mere "name" is a person's beside people, and a thing's beside things. */
  private static double surrounded(double strength, List<String> words, List<String> table) {
    if (words.stream().anyMatch(THINGS::contains) || table.stream().anyMatch(THINGS::contains)) {
      return strength * 0.3;
    }
    boolean people = table.stream().anyMatch(NameEvidence::isPeople);
    return people ? 0.65 : strength;
  }

  private static boolean isPeople(String word) {
    return PEOPLE.contains(word)
        || (word.endsWith("s") && PEOPLE.contains(word.substring(0, word.length() - 1)));
  }

  private static boolean contains(List<String> words, List<String> phrase) {
    for (int i = 0; i + phrase.size() <= words.size(); i++) {
      if (words.subList(i, i + phrase.size()).equals(phrase)) {
        return true;
      }
    }
    return String.join("", words).equals(String.join("", phrase));
  }

  /** The words of a name, in lower case. */
  static List<String> words(String name) {
    String spaced =
        name.replaceAll("([a-z])([A-Z])", "$1 $2")
            .replaceAll("([A-Z]+)([A-Z][a-z])", "$1 $2")
            .replaceAll("[^\\p{L}]+", " ");
    List<String> words = new ArrayList<>();
    for (String word : spaced.strip().toLowerCase(Locale.ROOT).split(" ")) {
      if (!word.isEmpty()) {
        words.add(word);
      }
    }
    return words;
  }
}
