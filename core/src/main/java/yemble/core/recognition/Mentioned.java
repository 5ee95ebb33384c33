package yemble.core.recognition;

import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What a text mentions of people: e-mail addresses, telephone, account and card numbers, names that
 * begin with a known given name or follow a form of address. Only what can hardly be anything else.
 */
public final class Mentioned {
  private static final Pattern TOKEN = Pattern.compile("[^\\s,;:()<>\\[\\]{}\"'=|]+");
  private static final Pattern PART = Pattern.compile("[^\\s,;:()<>\\[\\]{}\"'=|/?&~]+");
  private static final Pattern NAMES = Pattern.compile("(\\p{L}{3,})[._](\\p{L}{3,})[0-9]{0,4}");
  private static final int SHORTEST = 6;
  private static final int POINTS = 3;
  private static final List<String> AMONG_SIGNS = List.of("email", "ip-address");
  private static final Set<String> TITLES =
      Set.of(
          "Mr",
          "Mrs",
          "Ms",
          "Dr",
          "Prof",
          "Herr",
          "Frau",
          "Mme",
          "Monsieur",
          "Madame",
          "Señor",
          "Señora",
          "Signor",
          "Signora",
          "Dhr",
          "Mevr",
          "Pan",
          "Pani",
          "Mevrouw",
          "Bay",
          "Bayan");
  private static final Pattern INTERNATIONAL = Pattern.compile("\\+[0-9][0-9 ()./-]{6,20}[0-9]");
  private static final Pattern NATIONAL =
      Pattern.compile(
          "(?<![\\p{L}0-9./-])\\(?0[0-9]{2,5}\\)?[ /-][0-9][0-9 -]{4,12}[0-9](?![0-9])");
  private static final Pattern GROUPED_CARD =
      Pattern.compile("(?<![0-9])[0-9]{4}(?:[ -][0-9]{4}){3}(?![0-9])");
  private static final List<String> TELLING = List.of("email", "iban", "card-number");

  private final Looks looks;

  public Mentioned(Looks looks) {
    this.looks = looks;
  }

  /** The kinds of what a text mentions, in the order of their names. */
  public Set<String> kinds(String text) {
    Set<String> kinds = new TreeSet<>();
    boolean digits = text.chars().filter(c -> c >= '0' && c <= '9').count() >= 6;
    if (digits || text.indexOf('@') >= 0) {
      Matcher token = TOKEN.matcher(text);
      while (token.find()) {
        for (String kind : TELLING) {
          if (token.end() - token.start() >= 6
              && looks.verdict(kind, token.group()).grade() == Verdict.Grade.KNOWN) {
            kinds.add(kind);
          }
        }
      }
    }
    if (digits && (INTERNATIONAL.matcher(text).find() || NATIONAL.matcher(text).find())) {
      kinds.add("phone");
    }
    if (digits && GROUPED_CARD.matcher(text).find()) {
      kinds.add("card-number");
    }
    if (namesSomebody(text)) {
      kinds.add("full-name");
    }
    return kinds;
  }

  /**
   * The kinds of what a text of no words holds between signs: the address in {@code
   * EMAIL;TYPE=HOME:a@site.example}, in {@code udp:10.1.2.3:5060}, in a list; none if it is all of
   * it.
   */
  public Set<String> amongSigns(String text) {
    Set<String> kinds = new TreeSet<>();
    if (text.indexOf('@') < 0 && !mayHoldAddress(text)) {
      return kinds;
    }
    Matcher part = PART.matcher(text);
    while (part.find()) {
      boolean address =
          part.end() - part.start() >= SHORTEST && part.group().length() < text.length();
      for (String kind : address ? AMONG_SIGNS : List.<String>of()) {
        if (looks.verdict(kind, part.group()).grade() == Verdict.Grade.KNOWN) {
          kinds.add(kind);
        }
      }
    }
    return kinds;
  }

  /** Whether there are points enough between digits for an address of the internet. */
  private static boolean mayHoldAddress(String text) {
    int points = 0;
    for (int at = text.indexOf('.'); at >= 0 && points < POINTS; at = text.indexOf('.', at + 1)) {
      points += at > 0 && Character.isDigit(text.charAt(at - 1)) ? 1 : 0;
    }
    return points >= POINTS;
  }

  /**
   * Whether a path or the address of a page holds a login made of a known given name and another
   * word.
   */
  public boolean holdsLogin(String text) {
    if (text.indexOf('/') < 0) {
      return false;
    }
    Matcher part = PART.matcher(text);
    while (part.find()) {
      Matcher names = NAMES.matcher(part.group());
      if (part.group().length() < text.length()
          && names.matches()
          && Looks.isKnownGivenName(capital(names.group(1)))) {
        return true;
      }
    }
    return false;
  }

  private static String capital(String word) {
    return Character.toUpperCase(word.charAt(0)) + word.substring(1);
  }

  /** Whether a capitalised word follows a form of address or a known given name. */
  private static boolean namesSomebody(String text) {
    String before = "";
    int at = 0;
    while (at < text.length()) {
      if (!Character.isLetter(text.charAt(at))) {
        boolean joins = text.charAt(at) == ' ' || text.charAt(at) == '.';
        before = joins ? before : "";
        at++;
        continue;
      }
      int end = at;
      while (end < text.length()
          && (Character.isLetter(text.charAt(end)) || "'’-".indexOf(text.charAt(end)) >= 0)) {
        end++;
      }
      String word = text.substring(at, end);
      boolean capital = Character.isUpperCase(word.charAt(0));
      if (capital
          && word.length() > 1
          && !before.isEmpty()
          && (TITLES.contains(before) || Looks.isKnownGivenName(before))) {
        return true;
      }
      boolean ends = end < text.length() && text.charAt(end) == '.' && !TITLES.contains(word);
      before = capital && !ends ? word : "";
      at = end;
    }
    return false;
  }
}
