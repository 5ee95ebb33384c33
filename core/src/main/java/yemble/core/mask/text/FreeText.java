package yemble.core.mask.text;

import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.digits.CheckDigits;
import yemble.core.mask.Mask;
import yemble.core.mask.Masks;
import yemble.core.mask.Vocabulary;
import yemble.core.mask.money.Iban;
import yemble.core.mask.person.GivenNames;
import yemble.core.mask.person.Names;
import yemble.core.mask.shape.Letters;
import yemble.core.vocabulary.Vocabularies;

/**
 * The mask of free text: what its row and the rows it belongs to hold is replaced by what it
 * becomes there, and what looks like an e-mail or web address, an IBAN, a card, an official or a
 * telephone number by the mask of its kind; likewise capitalised words after a form of address or a
 * given name of the vocabulary, and those that are spoken of as persons. Everything else stays.
 * What the user wants replaced comes before all of it.
 *
 * <p>What may remain: names of people whom the row does not know, written without such a sign.
 */
public final class FreeText implements Mask {
  private static final String LOCAL = "._%+'-";
  private static final Pattern DOMAIN = Pattern.compile("[\\p{L}0-9-]+(?:\\.[\\p{L}0-9-]+)+");
  private static final Pattern IBAN =
      Pattern.compile("\\b[A-Z]{2}[0-9]{2}(?: ?[A-Z0-9]{4}){2,7}(?: ?[A-Z0-9]{1,3})?\\b");
  private static final Pattern WORD_ENDS = Pattern.compile("[^\\p{L}]+");
  private static final Pattern SITE =
      Pattern.compile("(?<![\\p{L}0-9])(?:https?://|www\\.)[^\\s<>\"]*[\\p{L}0-9/]");
  private static final String PIECE = "[A-Z]{0,6}[0-9][A-Z0-9]*";
  private static final Pattern ID =
      Pattern.compile(
          "(?<![\\p{L}0-9])(?:[A-Z]{1,2} )?P(?:[ ./+-]P){0,5}(?: [A-Z])?(?![\\p{L}0-9])"
              .replace("P", PIECE));
  private static final Pattern ONE_ID = Pattern.compile(PIECE + "(?:[+-]" + PIECE + ")?");
  private static final Pattern CARD =
      Pattern.compile("(?<![0-9])[0-9](?:[ -]?[0-9]){11,18}(?![0-9])");
  private static final Pattern INTERNATIONAL =
      Pattern.compile("(?<![\\p{L}0-9])\\+[0-9][0-9()/ .-]{5,18}[0-9](?![0-9])");

  private static final Pattern PHONE =
      Pattern.compile("(?<![\\p{L}0-9])(?:\\+|\\(?0)[0-9()/ .-]{6,20}[0-9](?![0-9])");

  /** A number in groups; whether it is one of a country that is known, a numbering plan tells. */
  private static final Pattern NATIONAL =
      Pattern.compile(
          "(?<![\\p{L}0-9.,/:-])(?!(?:19|20)[0-9]{2}-)(?:\\([0-9]{2,5}\\)[ -]?)?"
              + "[0-9]{2,5}(?:[ .-][0-9]{2,5}){1,4}(?![\\p{L}0-9:])");

  private static final Pattern NOT_DIGITS = Pattern.compile("[^0-9]");
  private static final String OCTET = "(?:25[0-5]|2[0-4][0-9]|1?[0-9]?[0-9])";
  private static final Pattern IP =
      Pattern.compile("(?<![0-9.])(?:" + OCTET + "\\.){3}" + OCTET + "(?![0-9])(?!\\.[0-9])");
  private static final int FEWEST_IP_DIGITS = 4;
  private static final int FEWEST_DIGITS = 6;
  private static final int CARD_DIGITS = 12;
  private static final Set<String> ADDRESSED = Vocabularies.words("forms-of-address");

  private static final Set<String> GREETINGS = Vocabularies.words("greetings");
  private static final Pattern LAST_LINE =
      Pattern.compile("\\n[\\s>]*(\\p{Lu}[\\p{L}'’-]+(?: \\p{Lu}[\\p{L}'’-]+)?)[\\s.]*\\z");

  private static final Set<String> ACTS = Vocabularies.words("acts");
  private static final Set<String> ACTS_ON = Vocabularies.words("acts-on");
  private static final Set<String> DETERMINERS = Vocabularies.words("determiners");
  private static final Set<String> TOWARDS = Vocabularies.words("towards");

  /** What is no name though written with a capital. */
  private static final Set<String> NO_NAMES =
      Vocabularies.words("beginnings", "roles", "forms-of-address", "acts", "acts-on", "towards");

  private static final Set<String> AMBIGUOUS = Vocabularies.words("names-and-words");

  /** Words that are names only beside another word of the name. */
  private static final Set<String> ORDINARY = Vocabulary.ordinary();

  private static final int SHORTEST = 3;
  private static final int MOST_SIGNED = 80;
  private static final Set<String> BEGINNINGS = Vocabularies.words("beginnings");

  private final Masks masks;
  private final Map<String, String> replacements;
  private final Mask sites;
  private final Predicate<String> ids;
  private final Predicate<String> phones;
  private final Set<String> givenNames;
  private Mentions about = Mentions.NONE;

  /**
   * @param masks those of everything that is found
   * @param replacements the user's own, which come first: what becomes of which words
   * @param sites the mask of addresses on the web
   * @param ids whether a text is a right official number, and hardly one by chance
   * @param phones whether a text is a telephone number in national form of a country that is known
   */
  public FreeText(
      Masks masks,
      Map<String, String> replacements,
      Mask sites,
      Predicate<String> ids,
      Predicate<String> phones) {
    this.phones = phones;
    this.masks = masks;
    this.replacements = replacements;
    this.sites = sites;
    this.ids = ids;
    this.givenNames = GivenNames.known();
  }

  @Override
  public boolean leavesBlanks() {
    return false;
  }

  @Override
  public boolean keepsDifferent() {
    return false;
  }

  /**
   * Says what the texts that come next mention, where they come without a word of it: inside JSON.
   */
  public void about(Mentions mentions) {
    about = mentions;
  }

  @Override
  public String apply(String text) {
    return apply(text, about);
  }

  /** The text with what it mentions replaced. */
  public String apply(String text, Mentions mentions) {
    Draft draft = new Draft(text);
    replacements.forEach((word, replacement) -> draft.replaceAll(word, found -> replacement));
    for (String stays : mentions.kept()) {
      if (stays.indexOf('@') >= 0 || digits(stays) > 0) {
        draft.replaceAll(stays, found -> stays);
      }
    }
    pinned(draft, mentions, true);
    if (text.indexOf('@') >= 0) {
      // Before the words in it: a login may be the local part of an address.
      Mask emails = masks.of("email");
      addresses(text, (from, at, to) -> draft.replaceIfFree(from, to, emails::apply));
    }
    pinned(draft, mentions, false);
    for (Mentions.Value value : mentions.values()) {
      draft.replaceAll(value.text(), masks.of(value.kind())::apply);
    }
    for (Mentions.Value value : mentions.values()) {
      Respelled.replace(draft, value, masks.of(value.kind()));
    }
    if (text.indexOf("://") >= 0 || draft.holds("www.")) {
      draft.replaceAll(SITE, sites::apply);
    }
    int digits = digits(text);
    if (digits >= FEWEST_IP_DIGITS && text.indexOf('.') >= 0) {
      draft.replaceAll(IP, masks.of("ip-address")::apply);
    }
    if (digits >= FEWEST_DIGITS) {
      numbers(draft, digits);
    }
    names(draft, mentions);
    return draft.toString();
  }

  /** Replaces what has an agreed stand-in: addresses, or all else. */
  private static void pinned(Draft draft, Mentions mentions, boolean addresses) {
    for (Map.Entry<String, String> pinned : mentions.standIns()) {
      if (pinned.getKey().indexOf('@') >= 0 == addresses) {
        draft.replaceAll(pinned.getKey(), found -> pinned.getValue());
      }
    }
  }

  private static int digits(String text) {
    int digits = 0;
    for (int i = 0; i < text.length(); i++) {
      digits += text.charAt(i) >= '0' && text.charAt(i) <= '9' ? 1 : 0;
    }
    return digits;
  }

  private void numbers(Draft draft, int digits) {
    // A sign before it says what it is, whatever check digits say by chance.
    draft.replaceAll(INTERNATIONAL, masks.of("phone")::apply);
    draft.replaceAll(
        IBAN, found -> Iban.isValid(Iban.normal(found)) ? masks.of("iban").apply(found) : found);
    if (digits >= CARD_DIGITS) {
      draft.replaceAll(
          CARD,
          found ->
              CheckDigits.luhn(NOT_DIGITS.matcher(found).replaceAll(""))
                  ? masks.of("card-number").apply(found)
                  : found);
    }
    Matcher candidate = ID.matcher(draft.text());
    while (candidate.find()) {
      if (!official(draft, candidate.start(), candidate.end())) {
        Matcher piece = ONE_ID.matcher(draft.text()).region(candidate.start(), candidate.end());
        while (piece.find()) {
          official(draft, piece.start(), piece.end());
        }
      }
    }
    draft.replaceAll(PHONE, masks.of("phone")::apply);
    draft.replaceAll(
        NATIONAL, found -> phones.test(found) ? masks.of("phone").apply(found) : found);
  }

  /** Replaces what stands in a place if it is an official number; whether it is. */
  private boolean official(Draft draft, int from, int to) {
    String found = draft.text().substring(from, to);
    if (!draft.isFree(from, to) || !ids.test(found)) {
      return false;
    }
    draft.replace(from, to, masks.of("national-id").apply(found));
    return true;
  }

  private void names(Draft draft, Mentions mentions) {
    String text = draft.text();
    boolean afterAddress = false;
    boolean afterGiven = false;
    String before = "";
    Map<String, String> met = inAddresses(text);
    int[] signed = signature(text);
    for (int at = 0; at < text.length(); ) {
      int end = Names.wordEnd(text, at);
      if (end == at) {
        char c = text.charAt(at);
        boolean initial = c == '.' && at > 0 && (at == 1 || !Letters.isLetter(text.charAt(at - 2)));
        afterAddress &= c == ' ' || c == '.' || c == '-';
        afterGiven &= c == ' ' || c == '-' || initial;
        before = c == ' ' ? before : "";
        at++;
        continue;
      }
      String word = possessed(text.substring(at, end));
      String lower = Letters.lower(word);
      boolean capital = Letters.lower(word.charAt(0)) != word.charAt(0);
      String kind = mentions.nameKind(word);
      boolean ordinary = kind != null && ORDINARY.contains(lower);
      if (ordinary && !(capital && besideName(text, at, end, mentions))) {
        kind = null;
      }
      boolean noName = NO_NAMES.contains(lower) || ORDINARY.contains(lower);
      boolean greeted = GREETINGS.contains(before) && lower.length() >= SHORTEST;
      boolean signs = at >= signed[0] && end <= signed[1];
      if (kind == null && capital && !noName && (greeted || signs)) {
        kind = givenNames.contains(lower) || signs && at < signed[2] ? "given-name" : "family-name";
      }
      if (kind == null && capital && !ordinary) {
        kind = met.get(lower);
      }
      if (kind == null && capital && afterAddress && lower.length() > 1) {
        kind = isCapital(text, end) ? "given-name" : "family-name";
      } else if (kind == null && capital && afterGiven && !BEGINNINGS.contains(lower)) {
        kind = "family-name";
      } else if (kind == null && capital && beginsFullName(lower, text, end)) {
        kind = "given-name";
      } else if (kind == null && capital && isSpokenOf(word, lower, before, text, end)) {
        kind = givenNames.contains(lower) ? "given-name" : "family-name";
      }
      if (kind != null && mentions.stays(word) && mentions.nameKind(word) == null) {
        kind = null;
      }
      if (kind != null) {
        met.put(lower, kind);
      }
      if (kind != null && draft.isFree(at, at + word.length())) {
        String pinned = mentions.pinnedWord(word);
        draft.replace(
            at,
            at + word.length(),
            pinned == null ? Names.word(masks.of(kind)).apply(word) : pinned);
      }
      afterGiven = kind != null && capital;
      afterAddress = ADDRESSED.contains(lower);
      before = lower;
      at = end;
    }
  }

  /**
   * Where the last line of a text lies if it is a name alone, one word or two, and where the last
   * word of it begins if they are two.
   */
  private static int[] signature(String text) {
    int from = text.length() - MOST_SIGNED;
    if (text.lastIndexOf('\n') < 0) {
      return new int[] {text.length() + 1, 0, 0};
    }
    Matcher line = LAST_LINE.matcher(text).region(Math.max(0, from), text.length());
    if (!line.find()) {
      return new int[] {text.length() + 1, 0, 0};
    }
    int space = text.indexOf(' ', line.start(1));
    boolean two = space > 0 && space < line.end(1);
    return new int[] {line.start(1), line.end(1), two ? space : 0};
  }

  /** Whether the word before or behind, with a capital, is a name of the row's as well. */
  private static boolean besideName(String text, int from, int to, Mentions mentions) {
    int behind = to;
    while (behind < text.length() && " ,".indexOf(text.charAt(behind)) >= 0) {
      behind++;
    }
    if (behind > to && isName(text.substring(behind, Names.wordEnd(text, behind)), mentions)) {
      return true;
    }
    if (from < 2 || " ,".indexOf(text.charAt(from - 1)) < 0) {
      return false;
    }
    int end = from - 1;
    while (end > 0 && " ,".indexOf(text.charAt(end - 1)) >= 0) {
      end--;
    }
    int start = end;
    while (start > 0 && Letters.isLetter(text.charAt(start - 1))) {
      start--;
    }
    return isName(text.substring(start, end), mentions);
  }

  private static boolean isName(String word, Mentions mentions) {
    return !word.isEmpty()
        && Letters.lower(word.charAt(0)) != word.charAt(0)
        && mentions.nameKind(possessed(word)) != null;
  }

  /**
   * Whether a capitalised word alone is spoken of as a person: by what it does, or by what is done
   * to it; within a sentence also because it is a given name of the vocabulary and nothing else.
   *
   * @param before the word before it, in lower case; empty where a sentence begins
   */
  private boolean isSpokenOf(String word, String lower, String before, String text, int end) {
    if (lower.length() < SHORTEST || NO_NAMES.contains(lower)) {
      return false;
    }
    boolean named =
        givenNames.contains(lower)
            && !before.isEmpty()
            && !AMBIGUOUS.contains(lower)
            && !Letters.isAllCapitals(word);
    return named || TOWARDS.contains(before) || acts(text, end);
  }

  /** Whether what follows is something that a person does. */
  private static boolean acts(String text, int end) {
    String verb = next(text, end);
    return ACTS.contains(verb)
        || (ACTS_ON.contains(verb) && DETERMINERS.contains(next(text, end + 1 + verb.length())));
  }

  /** The word behind a space, as it is written; empty if there is none. */
  private static String next(String text, int end) {
    return end < text.length() && text.charAt(end) == ' '
        ? text.substring(end + 1, Names.wordEnd(text, end + 1))
        : "";
  }

  /** Whether a word with a capital follows after a space. */
  private static boolean isCapital(String text, int end) {
    int next = end + 1;
    return next < text.length()
        && text.charAt(end) == ' '
        && Letters.lower(text.charAt(next)) != text.charAt(next);
  }

  /** Sees an e-mail address in a text. */
  private interface AddressVisitor {
    /**
     * @param at where its @ stands
     */
    void address(int from, int at, int to);
  }

  private static void addresses(String text, AddressVisitor visitor) {
    for (int at = text.indexOf('@'); at >= 0; at = text.indexOf('@', at + 1)) {
      int from = at;
      while (from > 0 && isLocal(text.charAt(from - 1))) {
        from--;
      }
      Matcher domain = DOMAIN.matcher(text).region(at + 1, text.length());
      if (from < at && domain.lookingAt()) {
        visitor.address(from, at, domain.end());
      }
    }
  }

  private static boolean isLocal(char c) {
    return Letters.isLetter(c) || (c >= '0' && c <= '9') || LOCAL.indexOf(c) >= 0;
  }

  /** The names that stand in the e-mail addresses of a text, since it may speak of them, too. */
  private static Map<String, String> inAddresses(String text) {
    Map<String, String> names = new HashMap<>();
    addresses(
        text,
        (from, at, to) -> {
          String[] words = WORD_ENDS.split(Letters.lower(text.substring(from, at)));
          for (int i = 0; i < words.length; i++) {
            if (words[i].length() > 2) {
              names.put(words[i], i == words.length - 1 ? "family-name" : "given-name");
            }
          }
        });
    return names;
  }

  /** A word without the 's of possession. */
  private static String possessed(String word) {
    return word.endsWith("'s") || word.endsWith("’s") ? word.substring(0, word.length() - 2) : word;
  }

  /**
   * Whether a capitalised word begins a full name: a given name of the vocabulary before another
   * capital, or any word that is not a usual beginning of a sentence before a capitalised one.
   */
  private boolean beginsFullName(String lower, String text, int end) {
    int next = end + 1;
    if (next >= text.length()
        || text.charAt(end) != ' '
        || Letters.lower(text.charAt(next)) == text.charAt(next)) {
      return false;
    }
    String following = text.substring(next, Names.wordEnd(text, next));
    return givenNames.contains(lower)
        || (lower.length() > 2
            && !NO_NAMES.contains(lower)
            && following.length() > 2
            && !NO_NAMES.contains(Letters.lower(following)));
  }
}
