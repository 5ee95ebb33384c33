package yemble.core.recognition;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.digits.CheckDigits;
import yemble.core.mask.Vocabulary;
import yemble.core.mask.contact.Email;
import yemble.core.mask.text.JsonText;
import yemble.core.vocabulary.Words;

/** Checks of addresses in nets, of dates, credentials and texts, by their forms. */
final class TextLooks {
  private static final Pattern EMAIL =
      Pattern.compile("[^@\\s\"{}\\[\\]<>(),;:]+@[\\p{L}0-9-]+(?:\\.[\\p{L}0-9-]+)+");
  private static final Set<String> STREET_WORDS =
      Set.of(
          "rue",
          "avenue",
          "impasse",
          "boulevard",
          "calle",
          "avenida",
          "plaza",
          "paseo",
          "via",
          "viale",
          "piazza",
          "corso",
          "rua",
          "travessa",
          "largo",
          "praca",
          "ul",
          "ulica",
          "aleja",
          "al",
          "os",
          "pl",
          "sok",
          "sokak",
          "cad",
          "cadde",
          "caddesi",
          "mah",
          "vicolo",
          "chemin",
          "allee",
          "quai",
          "travesia",
          "c");
  private static final List<String> STREET_ENDINGS =
      List.of(
          "strasse", "str", "weg", "gasse", "allee", "platz", "ring", "damm", "ufer", "straat",
          "laan", "plein", "gracht", "kade", "dijk", "sokagi");
  private static final Pattern IPV4 =
      Pattern.compile(
          "([0-9]{1,3})\\.([0-9]{1,3})\\.([0-9]{1,3})\\.([0-9]{1,3})(?:[:/][0-9]{1,5})?");
  private static final Pattern IPV6 =
      Pattern.compile("(?:[0-9a-f]{0,4}:){2,7}[0-9a-f]{0,4}(?:/[0-9]{1,3})?");
  private static final Pattern MAC =
      Pattern.compile(
          "[0-9a-f]{2}([:-])(?:[0-9a-f]{2}\\1){4}[0-9a-f]{2}|(?:[0-9a-f]{4}\\.){2}[0-9a-f]{4}");
  private static final Pattern UUID =
      Pattern.compile("[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}");
  private static final Pattern HASH =
      Pattern.compile(
          "\\$[0-9a-z-]{1,12}\\$.{20,}|\\{[A-Z0-9-]+}.{16,}|pbkdf2[_:].{20,}|scrypt:.{20,}|sha[0-9]+[$:].{20,}",
          Pattern.CASE_INSENSITIVE);
  private static final Pattern HEX =
      Pattern.compile("(?:[0-9a-f]{32}|[0-9a-f]{40}|[0-9a-f]{56}|[0-9a-f]{64}|[0-9a-f]{128})");
  private static final Pattern TOKEN = Pattern.compile("[A-Za-z0-9_+/=.\\-]{16,}");

  /** What programs write before the sign: numbers of messages and calls. */
  private static final Pattern COUNTED =
      Pattern.compile("(?:[0-9a-f.-]{12,}|[0-9.]{8,}[A-Za-z0-9]*)@");

  private static final Pattern HANDLE = Pattern.compile("@[A-Za-z0-9_.]{2,30}");
  private static final Pattern PROFILE =
      Pattern.compile(
          "(?:https?://)?(?:www\\.)?[a-z]+\\.(?:com|org|net|social|example)/(?:in/|@)?[A-Za-z0-9_.\\-]{2,40}/?");
  private static final Pattern LOGIN = Pattern.compile("[A-Za-z][A-Za-z0-9._@-]{2,63}");
  private static final Pattern AGENT =
      Pattern.compile(".*(?:Mozilla/|AppleWebKit|Opera/|Gecko/|[A-Za-z]+/[0-9.]+ \\().*");
  private static final Pattern PROGRAM =
      Pattern.compile("[A-Za-z][\\w. -]{2,40}[/ ]v?[0-9]+(?:\\.[0-9]+)+\\b.*");
  private static final Pattern VECTOR =
      Pattern.compile("\\[\\s*-?[0-9][0-9.eE+-]*(?:\\s*,\\s*-?[0-9][0-9.eE+-]*){3,}\\s*]");
  private static final Pattern ISO_DATE =
      Pattern.compile("((?:1[89]|20)[0-9]{2})-([0-9]{2})-([0-9]{2})(?:[T ].*)?");
  private static final Pattern OTHER_DATE =
      Pattern.compile("([0-9]{1,2})[./-]([0-9]{1,2})[./-]((?:19|20)[0-9]{2})(?: .*)?");
  private static final Pattern SHORT_DATE =
      Pattern.compile("((?:19|20)[0-9]{2})([0-9]{2})([0-9]{2})");
  private static final Set<String> HEALTH = Words.load("health-words");

  private static final int SMALLEST_NETWORK = 20;
  private static final Pattern FILE = Pattern.compile("\\.[a-z]{3,4}$");
  private static final int MOST_YEARS = 120;

  private TextLooks() {}

  static Verdict email(Value value) {
    int at = value.text().indexOf('@');
    if (at <= 0 || value.spaces() > 0) {
      return Verdict.NO;
    }
    String address = Email.withoutScheme(value.text());
    if (!EMAIL.matcher(address).matches()) {
      return Verdict.refused("not a complete address");
    }
    return COUNTED.matcher(address).lookingAt() ? Verdict.POSSIBLE : Verdict.KNOWN;
  }

  static Verdict handle(Value value) {
    return HANDLE.matcher(value.text()).matches() || PROFILE.matcher(value.text()).matches()
        ? Verdict.KNOWN
        : Verdict.possibleIf(value.spaces() == 0 && value.letters() > 1 && value.length() <= 40);
  }

  static Verdict street(Value value) {
    if (value.length() <= 6 && value.digits() > 0 && value.letters() <= 2) {
      return Verdict.possibleIf(value.others() <= 1);
    }
    if (value.letters() < 4 || value.length() > 200 || value.text().indexOf('@') >= 0) {
      return Verdict.NO;
    }
    boolean houseNumber = houseNumber(value);
    boolean compound = compoundStreet(value);
    boolean sort = compound || Vocabulary.namesStreet(value.text());
    boolean name = compound || houseNumber || value.capitals() >= 2 && value.spaces() <= 4;
    if (value.spaces() > 9 || !name || !sort && !houseNumber) {
      return Verdict.NO;
    }
    return sort && (houseNumber || compound)
        ? Verdict.KNOWN
        : Verdict.possibleIf(value.spaces() > 0 || sort);
  }

  /** Whether a word of a text can be a house number, or a box's. */
  private static boolean houseNumber(Value value) {
    if (value.digits() == 0) {
      return false;
    }
    for (String word : value.words()) {
      if (word.length() <= 6
          && Character.isDigit(word.charAt(word.startsWith("n") ? word.length() - 1 : 0))) {
        return true;
      }
    }
    return false;
  }

  /** Whether a word is or ends with one for a sort of street, as other languages form them. */
  private static boolean compoundStreet(Value value) {
    List<String> words = value.words();
    for (int i = 0; i < words.size(); i++) {
      String word = words.get(i);
      if (STREET_WORDS.contains(word) && words.size() > 1) {
        return true;
      }
      for (String ending : STREET_ENDINGS) {
        if (word.length() > ending.length() + 2 && word.endsWith(ending)) {
          return true;
        }
      }
    }
    return false;
  }

  static Verdict ip(Value value) {
    Matcher four = IPV4.matcher(value.text());
    if (four.matches()) {
      for (int i = 1; i <= 4; i++) {
        if (Integer.parseInt(four.group(i)) > 255) {
          return Verdict.refused("a part above 255");
        }
      }
      // Versions of four parts begin with small numbers; few networks do.
      int first = Integer.parseInt(four.group(1));
      return first == 10 || first >= SMALLEST_NETWORK ? Verdict.KNOWN : Verdict.POSSIBLE;
    }
    boolean six =
        value.text().indexOf(':') >= 0
            && value.length() > 3
            && IPV6.matcher(value.lower()).matches()
            && !MAC.matcher(value.lower()).matches()
            && (value.text().contains("::")
                || value.text().chars().filter(c -> c == ':').count() == 7);
    return Verdict.knownIf(six);
  }

  static Verdict mac(Value value) {
    return Verdict.knownIf(
        value.length() >= 14 && value.length() <= 17 && MAC.matcher(value.lower()).matches());
  }

  static Verdict agent(Value value) {
    if (value.length() > 15
        && value.text().indexOf('/') > 0
        && AGENT.matcher(value.text()).matches()) {
      return Verdict.KNOWN;
    }
    return Verdict.possibleIf(PROGRAM.matcher(value.text()).matches());
  }

  /** Forms of device numbers: IMEI by Luhn (3GPP TS 23.003), UUID (RFC 9562), hexadecimal. */
  static Verdict device(Value value) {
    if (value.length() == 15 && value.digits() == 15) {
      return CheckDigits.luhn(value.text())
          ? Verdict.KNOWN
          : Verdict.refused("check digit is wrong");
    }
    return Verdict.possibleIf(
        UUID.matcher(value.lower()).matches()
            || (value.length() >= 14 && value.digits() > 2 && value.onlyWith("-:_")));
  }

  static Verdict session(Value value) {
    return Verdict.possibleIf(
        value.length() >= 16
            && value.spaces() == 0
            && (UUID.matcher(value.lower()).matches() || TOKEN.matcher(value.text()).matches()));
  }

  static Verdict hash(Value value) {
    if (value.length() < 24 || value.spaces() > 0) {
      return Verdict.NO;
    }
    return HASH.matcher(value.text()).matches()
        ? Verdict.KNOWN
        : Verdict.possibleIf(
            HEX.matcher(value.lower()).matches() || (value.length() >= 24 && isToken(value)));
  }

  static Verdict secret(Value value) {
    if (value.length() < 12 || value.spaces() > 0 || UUID.matcher(value.lower()).matches()) {
      return Verdict.possibleIf(value.length() >= 4 && value.spaces() == 0 && value.digits() > 0);
    }
    return value.length() >= 16 && isToken(value) && !HEX.matcher(value.lower()).matches()
        ? Verdict.KNOWN
        : Verdict.possibleIf(value.digits() > 0);
  }

  /** Capitals, small letters and digits mixed as no word mixes them. */
  private static boolean isToken(Value value) {
    return TOKEN.matcher(value.text()).matches()
        && value.digits() >= 2
        && value.capitals() >= 2
        && value.letters() - value.capitals() >= 2
        && changes(value.text()) * 3 > value.length();
  }

  /** How often the class of characters changes. */
  private static int changes(String text) {
    int changes = 0;
    for (int i = 1; i < text.length(); i++) {
      changes += Character.getType(text.charAt(i)) != Character.getType(text.charAt(i - 1)) ? 1 : 0;
    }
    return changes;
  }

  static Verdict password(Value value) {
    if (value.spaces() > 3
        || value.length() > 40
        || value.length() < 4
        || HEX.matcher(value.lower()).matches()) {
      return Verdict.NO;
    }
    return value.others() > 0 && value.digits() > 0 && value.letters() > 2
        ? Verdict.KNOWN
        : Verdict.possibleIf(value.digits() == value.length() || value.digits() > 0);
  }

  static Verdict login(Value value) {
    if (value.spaces() > 0
        || !LOGIN.matcher(value.text()).matches()
        || FILE.matcher(value.lower()).find()) {
      return Verdict.NO;
    }
    int sign = 0;
    while (sign < value.length() && Character.isLetter(value.text().charAt(sign))) {
      sign++;
    }
    sign = sign == value.length() ? -1 : sign;
    boolean named =
        sign > 0 && NameLooks.isGivenName(value.text().substring(0, sign))
            || NameLooks.isOfNames(value.lower());
    return named ? Verdict.KNOWN : Verdict.POSSIBLE;
  }

  static Verdict birthDate(Value value, LocalDate asOf) {
    if (value.digits() == value.length() && value.length() == 4) {
      int year = Integer.parseInt(value.text());
      return Verdict.possibleIf(year > asOf.getYear() - MOST_YEARS && year <= asOf.getYear());
    }
    if (value.digits() == value.length() && value.length() == 6) {
      return isShortDay(value.text()) ? Verdict.known(Looks.SHORT_YEARS) : Verdict.NO;
    }
    if (value.digits() < 6 || value.length() < 8) {
      return Verdict.NO;
    }
    LocalDate date = date(value.text());
    if (date == null) {
      return Verdict.NO;
    }
    return date.getYear() < 1895 || date.isAfter(asOf)
        ? Verdict.refused("too long ago or in the future")
        : Verdict.POSSIBLE;
  }

  /** Whether six digits are a day, the year first or last; one in sixteen is one by chance. */
  private static boolean isShortDay(String text) {
    int first = Integer.parseInt(text.substring(0, 2));
    int month = Integer.parseInt(text.substring(2, 4));
    int last = Integer.parseInt(text.substring(4));
    return month >= 1 && month <= 12 && (first >= 1 && first <= 31 || last >= 1 && last <= 31);
  }

  /** The day of a text that is one, in any of the usual forms; null if it is none. */
  static LocalDate date(String text) {
    try {
      Matcher iso = ISO_DATE.matcher(text);
      if (iso.matches()) {
        return day(iso.group(1), iso.group(2), iso.group(3));
      }
      Matcher other = OTHER_DATE.matcher(text);
      if (other.matches()) {
        boolean american = Integer.parseInt(other.group(2)) > 12;
        return day(other.group(3), other.group(american ? 1 : 2), other.group(american ? 2 : 1));
      }
      Matcher shortly = SHORT_DATE.matcher(text);
      return shortly.matches() ? day(shortly.group(1), shortly.group(2), shortly.group(3)) : null;
    } catch (DateTimeException e) {
      return null;
    }
  }

  private static LocalDate day(String year, String month, String day) {
    return LocalDate.of(Integer.parseInt(year), Integer.parseInt(month), Integer.parseInt(day));
  }

  static Verdict json(Value value) {
    boolean opens = value.first() == '{' || value.first() == '[';
    // Nothing but numbers in a row is a vector: what it is of, its name has to say.
    return Verdict.knownIf(
        opens
            && !VECTOR.matcher(value.text()).matches()
            && JsonText.walk(value.text(), (path, v, string, from, to) -> {}));
  }

  static Verdict prose(Value value) {
    if (value.spaces() < 2 || value.letters() * 10 < value.length() * 6) {
      return Verdict.NO;
    }
    int words = value.spaces() + 1;
    boolean sentence = value.letters() - value.capitals() > words * 2;
    return words >= 5 && sentence ? Verdict.KNOWN : Verdict.possibleIf(words >= 3 && sentence);
  }

  static Verdict health(Value value) {
    for (String word : value.words()) {
      if (word.length() > 3 && HEALTH.contains(word)) {
        return Verdict.KNOWN;
      }
    }
    return Verdict.possibleIf(true);
  }
}
