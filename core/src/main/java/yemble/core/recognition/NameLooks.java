package yemble.core.recognition;

import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import yemble.core.mask.Vocabulary;
import yemble.core.vocabulary.Words;

/** Checks of names and words by vocabularies. */
final class NameLooks {
  private static final Set<String> GIVEN = given();
  private static final Set<String> FAMILY = Words.load("family-names");
  private static final Set<String> PARTICLES = Vocabulary.particles();
  private static final Set<String> CITIES = Words.load("cities");
  private static final Set<String> REGIONS = Words.load("regions");
  private static final Set<String> COUNTRIES = Words.load("countries");
  private static final Set<String> COUNTRY_CODES = countryCodes();
  private static final Set<String> NATIONALITIES = Words.load("nationalities");
  private static final Set<String> JOBS = Words.load("jobs");
  private static final Set<String> COMPANY_FORMS = Words.load("company-forms");
  private static final Set<String> TITLES =
      Set.of("mr", "mrs", "ms", "miss", "dr", "prof", "herr", "frau", "mme", "mlle", "sr", "sra");
  private static final Set<String> THINGS = Words.load("things");
  private static final Pattern NAME_WORD =
      Pattern.compile("\\p{L}[\\p{L}'’.-]*(?: \\p{L}[\\p{L}'’.-]*){0,3}");
  private static final int SHORTEST_LOGIN = 4;
  private static final int LONGEST_NAME = 60;

  private NameLooks() {}

  private static Set<String> given() {
    Set<String> given = Words.load("given-names");
    Vocabulary.givenNames().forEach(name -> given.add(Words.plain(name)));
    return given;
  }

  private static Set<String> countryCodes() {
    Set<String> codes = new java.util.HashSet<>(Set.of(Locale.getISOCountries()));
    for (String code : Locale.getISOCountries()) {
      codes.add(new Locale("", code).getISO3Country());
    }
    return codes;
  }

  static boolean isGivenName(String word) {
    return GIVEN.contains(Words.plain(word));
  }

  private static boolean nameShaped(Value value) {
    return value.digits() == 0
        && value.length() <= LONGEST_NAME
        && value.letters() > 0
        && NAME_WORD.matcher(value.text()).matches();
  }

  static Verdict given(Value value) {
    if (!nameShaped(value)) {
      return Verdict.NO;
    }
    boolean all = true;
    for (String word : value.words()) {
      all &= word.length() <= 2 || GIVEN.contains(word) || hyphened(word);
    }
    return all && value.letters() > 2
        ? Verdict.KNOWN
        : Verdict.possibleIf(value.spaces() <= 1 && capital(value));
  }

  private static boolean hyphened(String word) {
    int hyphen = word.indexOf('-');
    return hyphen > 0
        && GIVEN.contains(word.substring(0, hyphen))
        && GIVEN.contains(word.substring(hyphen + 1));
  }

  static Verdict family(Value value) {
    if (!nameShaped(value) || value.letters() < 2) {
      return Verdict.NO;
    }
    String plain = value.plain();
    int space = plain.indexOf(' ');
    if (space > 0 && GIVEN.contains(plain.substring(0, space))) {
      return Verdict.POSSIBLE;
    }
    String last = plain.substring(Math.max(plain.lastIndexOf(' '), plain.lastIndexOf('-')) + 1);
    return FAMILY.contains(plain) || FAMILY.contains(last)
        ? Verdict.KNOWN
        : Verdict.possibleIf(value.spaces() <= 3 && (value.capitals() > 0 || isParticle(plain)));
  }

  private static boolean isParticle(String plain) {
    for (String word : plain.split(" ")) {
      if (!PARTICLES.contains(word)) {
        return false;
      }
    }
    return true;
  }

  private static boolean capital(Value value) {
    return Character.isUpperCase(value.first());
  }

  static Verdict full(Value value) {
    if (value.spaces() == 0
        || value.spaces() > 5
        || value.digits() > 0
        || value.length() > LONGEST_NAME
        || !value.onlyWith(" .,'’-")) {
      return Verdict.NO;
    }
    boolean given = false;
    boolean family = false;
    boolean thing = false;
    int words = 0;
    for (String plain : value.words()) {
      words++;
      given |= TITLES.contains(plain) || GIVEN.contains(plain) || givenBefore(plain);
      family |= FAMILY.contains(plain);
      thing |= THINGS.contains(plain) || COMPANY_FORMS.contains(plain);
    }
    int capitals = value.capitals();
    if (words < 2 || capitals < 2 && value.capitals() > 0 || value.capitals() == 0) {
      return Verdict.NO;
    }
    if (thing) {
      return Verdict.NO;
    }
    return given ? Verdict.KNOWN : Verdict.possibleIf(words <= 4 || family);
  }

  /** See {@link Looks#nameOrder}. */
  static int order(Value value) {
    String first = "";
    String last = "";
    for (String plain : value.words()) {
      if (!TITLES.contains(plain) && plain.length() > 2) {
        first = first.isEmpty() ? plain : first;
        last = plain;
      }
    }
    boolean tells = !first.equals(last) && value.text().indexOf(',') < 0;
    boolean givenFirst = GIVEN.contains(first) || givenBefore(first);
    boolean givenLast = GIVEN.contains(last) || givenBefore(last);
    return !tells || givenFirst == givenLast ? 0 : givenFirst ? 1 : -1;
  }

  /** The first part of a name with a hyphen. */
  private static boolean givenBefore(String plain) {
    int hyphen = plain.indexOf('-');
    return hyphen > 1 && GIVEN.contains(plain.substring(0, hyphen));
  }

  static Verdict city(Value value) {
    if (value.digits() > 0 || value.spaces() > 4 || !value.onlyWith(" .'’-/()")) {
      return Verdict.NO;
    }
    return CITIES.contains(value.plain())
        ? Verdict.KNOWN
        : Verdict.possibleIf(capital(value) && value.letters() > 2);
  }

  static Verdict region(Value value) {
    if (value.digits() > 0 || value.spaces() > 4) {
      return Verdict.NO;
    }
    return REGIONS.contains(value.plain())
        ? Verdict.KNOWN
        : Verdict.possibleIf(capital(value) && value.onlyWith(" .'’-") && value.letters() > 1);
  }

  static Verdict country(Value value) {
    if (value.digits() > 0) {
      return Verdict.NO;
    }
    if (value.length() <= 3) {
      return Verdict.possibleIf(COUNTRY_CODES.contains(value.text().toUpperCase(Locale.ROOT)));
    }
    return Verdict.knownIf(COUNTRIES.contains(value.plain()));
  }

  static Verdict nationality(Value value) {
    if (value.digits() > 0) {
      return Verdict.NO;
    }
    if (value.length() <= 3) {
      return Verdict.possibleIf(COUNTRY_CODES.contains(value.text().toUpperCase(Locale.ROOT)));
    }
    String plain = value.plain();
    return NATIONALITIES.contains(plain)
        ? Verdict.KNOWN
        : Verdict.possibleIf(COUNTRIES.contains(plain));
  }

  static Verdict job(Value value) {
    if (value.digits() > 0 || value.spaces() > 6 || value.letters() < 2) {
      return Verdict.NO;
    }
    for (String word : value.words()) {
      if (JOBS.contains(word) || jobEnding(word)) {
        return Verdict.KNOWN;
      }
    }
    return Verdict.possibleIf(value.onlyWith(" .,&/()'-"));
  }

  /** German and Dutch write compounds, whose last part says the job. */
  private static boolean jobEnding(String word) {
    for (int from = 3; from < word.length() - 4; from++) {
      if (JOBS.contains(word.substring(from))) {
        return true;
      }
    }
    return false;
  }

  static Verdict company(Value value) {
    if (value.letters() < 3 || value.length() > 100) {
      return Verdict.NO;
    }
    List<String> words = value.words();
    for (int i = 1; i < words.size(); i++) {
      if (COMPANY_FORMS.contains(words.get(i))) {
        return Verdict.KNOWN;
      }
    }
    return Verdict.possibleIf(value.digits() <= 2 && value.capitals() > 0 && value.spaces() <= 6);
  }

  /** Words for genders and forms of address; single letters and digits stand for much else. */
  static Look gender() {
    Set<String> words = Words.load("genders");
    return Look.of(
        value ->
            !words.contains(value.plain())
                ? Verdict.NO
                : value.length() > 1 || "fmwFMW".indexOf(value.first()) >= 0
                    ? Verdict.KNOWN
                    : value.letters() == 1
                        ? Verdict.POSSIBLE
                        : new Verdict(Verdict.Grade.POSSIBLE, "", "a code"));
  }

  /**
   * Whether a login is made of a name that is known: given and family name with a sign between, or
   * an initial before or behind a family name, and digits behind.
   *
   * @param lower in lower case
   */
  static boolean isOfNames(String lower) {
    int end = lower.length();
    while (end > 0 && Character.isDigit(lower.charAt(end - 1))) {
      end--;
    }
    String letters = lower.substring(0, end);
    String[] parts = letters.split("[._-]");
    if (parts.length == 2) {
      return GIVEN.contains(parts[0])
          || GIVEN.contains(parts[1])
          || parts[0].length() == 1 && FAMILY.contains(parts[1]);
    }
    if (parts.length != 1 || letters.length() < SHORTEST_LOGIN) {
      return false;
    }
    for (int at = 3; at <= letters.length() - 3; at++) {
      if (GIVEN.contains(letters.substring(0, at)) && FAMILY.contains(letters.substring(at))) {
        return true;
      }
    }
    return FAMILY.contains(letters.substring(1))
        || FAMILY.contains(letters.substring(0, letters.length() - 1));
  }

  static Look oneOf(String list, boolean anyWord) {
    Set<String> words = Words.load(list);
    return Look.of(
        value -> {
          if (value.digits() == value.length() && value.length() <= 3) {
            return new Verdict(Verdict.Grade.POSSIBLE, "", "a code");
          }
          if (value.length() > 80) {
            return Verdict.NO;
          }
          String plain = value.plain();
          if (words.contains(plain)) {
            return Verdict.KNOWN;
          }
          if (anyWord && plain.length() < 80) {
            for (String word : value.words()) {
              if (word.length() > 3 && words.contains(word)) {
                return Verdict.KNOWN;
              }
            }
          }
          return Verdict.possibleIf(
              value.digits() == 0 && value.letters() > 0 && value.length() <= 40);
        });
  }
}
