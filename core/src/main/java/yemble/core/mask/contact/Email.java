package yemble.core.mask.contact;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.crypto.Draw;
import yemble.core.crypto.Prf;
import yemble.core.mask.shape.Letters;
import yemble.core.mask.shape.Memo;
import yemble.core.mask.shape.NameForm;
import yemble.core.mask.shape.Shape;
import yemble.core.vocabulary.Vocabularies;

/**
 * The mask of an e-mail address. The names in its local part ({@link LocalPart}) become what they
 * become as given and family names, an initial the initial of that; digits and separators stay in
 * kind, and so do words that are no names ({@code info}). A tag of eight characters keeps addresses
 * apart, and the domain becomes a reserved one (RFC 2606), the same for the same domain.
 *
 * <p>Normal form: trimmed, in lower case, without the scheme of a URI before it ({@code mailto:},
 * {@code sip:}), which stays. The tag holds 40 bits: among a million addresses with the very same
 * names two fall together with a chance of 0.37; names that differ make it far less.
 */
public final class Email implements FollowsNames {
  private static final String TAG = "abcdefghjkmnpqrstuvwxyz234567890";
  private static final int TAG_LENGTH = 8;

  /** RFC 5321. */
  private static final int LONGEST = 64;

  private static final int MOST_TOLD = 20_000;

  private static final Pattern SCHEME =
      Pattern.compile("(?i)(?:mailto|sips?|xmpp|acct|im|pres):(?=[^@:/]+@)");
  private static final List<String> DOMAINS = Vocabularies.load("sites");

  private final String domain;
  private final int longest;
  private final Prf prf;
  private final UnaryOperator<String> asGiven;
  private final UnaryOperator<String> asFamily;
  private final Shape shape;
  private final Memo sites;
  private final Memo givens;
  private final Memo families;
  private final List<LocalPart.Known> known;

  /** Words alone that were taken apart before, by generation. */
  private final List<Map<String, List<LocalPart.Part>>> words = new ArrayList<>();

  /** Local parts that were taken apart before, without their digits. */
  private final Map<String, List<LocalPart.Part>> told = new HashMap<>();

  private RowNames row;

  /**
   * @param domain where all addresses are; empty for reserved ones
   * @param longest how many characters stand before the sign at most; 0 for as many as may
   * @param known names, those of each generation with all before it
   */
  public Email(
      String domain,
      Prf prf,
      UnaryOperator<String> given,
      UnaryOperator<String> family,
      Shape shape,
      int longest,
      List<LocalPart.Known> known) {
    this.known = known;
    known.forEach(generation -> words.add(new HashMap<>()));
    this.longest = longest == 0 ? LONGEST : longest;
    this.domain = domain;
    this.prf = prf;
    this.sites = new Memo(prf);
    this.givens = new Memo(prf);
    this.families = new Memo(prf);
    this.asGiven = word -> ascii(given.apply(word));
    this.asFamily = word -> ascii(family.apply(word));
    this.shape = shape;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public boolean mayMeet() {
    return true;
  }

  @Override
  public String apply(String text) {
    String stripped = text.strip();
    String trimmed = withoutScheme(stripped);
    int at = trimmed.indexOf('@');
    if (at <= 0 || at == trimmed.length() - 1 || at != trimmed.lastIndexOf('@')) {
      return shape.apply(text);
    }
    String normal = Letters.lower(trimmed);
    Draw draw = prf.draw(normal);
    String tag = draw.text32(Math.min(TAG_LENGTH, longest), TAG);
    String site = domain.isEmpty() ? site(normal.substring(at + 1)) : domain;
    String names = cut(names(trimmed.substring(0, at), draw), longest - tag.length() - 1);
    String masked = (saysAnything(names) ? names + "." : "") + tag + "@" + site;
    return stripped.substring(0, stripped.length() - trimmed.length())
        + (inCapitals(trimmed, normal) ? masked.toUpperCase(java.util.Locale.ROOT) : masked);
  }

  /** An address without the scheme that a URI of it begins with (RFC 6068, RFC 3261, RFC 5122). */
  public static String withoutScheme(String text) {
    Matcher scheme = SCHEME.matcher(text);
    return scheme.lookingAt() ? text.substring(scheme.end()) : text;
  }

  private static boolean saysAnything(String names) {
    for (int i = 0; i < names.length(); i++) {
      char c = names.charAt(i);
      if (Letters.isLetter(c) || (c >= '0' && c <= '9')) {
        return true;
      }
    }
    return false;
  }

  /** The reserved domain that stands for one in lower case. */
  String site(String original) {
    return sites.get(original, this::computedSite);
  }

  private String computedSite(String original) {
    return DOMAINS.get(prf.draw("@" + original).below(DOMAINS.size())) + ".example";
  }

  private static boolean inCapitals(String text, String lower) {
    return !lower.equals(text) && Letters.isAllCapitals(text);
  }

  /** The local part with its names and digits replaced. */
  String names(String local, Draw draw) {
    StringBuilder out = new StringBuilder(local.length() + 24);
    for (LocalPart.Part part : parts(local)) {
      String text = part.text();
      switch (part.role()) {
        case GIVEN -> out.append(name(row == null ? null : row.given(text), text, givens, asGiven));
        case FAMILY ->
            out.append(name(row == null ? null : row.family(text), text, families, asFamily));
        case STAYS -> out.append(ascii(text));
        case DIGITS, SIGN -> {
          for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            out.append(c >= '0' && c <= '9' ? (char) ('0' + draw.below(10)) : safe(c));
          }
        }
      }
    }
    return out.toString();
  }

  /** The beginning of what is too long, without signs at its end. */
  static String cut(String names, int longest) {
    if (names.length() <= longest) {
      return names;
    }
    int end = Math.max(0, longest);
    while (end > 0 && !Character.isLetterOrDigit(names.charAt(end - 1))) {
      end--;
    }
    return names.substring(0, end);
  }

  /** As the first generation tells it that knows all names, or the last one. */
  private List<LocalPart.Part> parts(String local) {
    if (row != null) {
      return LocalPart.parts(local, row, words.get(0));
    }
    String form = withoutDigits(local);
    List<LocalPart.Part> parts = told.get(form);
    if (parts == null) {
      for (int i = 0; parts == null; i++) {
        List<LocalPart.Part> some = LocalPart.parts(form, known.get(i), words.get(i));
        boolean last = i == known.size() - 1;
        parts = last || LocalPart.isUnderstood(some, known.get(i)) ? some : null;
      }
      if (told.size() >= MOST_TOLD) {
        told.clear();
      }
      told.put(form, parts);
    }
    return parts;
  }

  /** The same with zeros for digits, of which the places alone count. */
  private static String withoutDigits(String local) {
    char[] out = null;
    for (int i = 0; i < local.length(); i++) {
      char c = local.charAt(i);
      if (c > '0' && c <= '9') {
        out = out == null ? local.toCharArray() : out;
        out[i] = '0';
      }
    }
    return out == null ? local : new String(out);
  }

  private static String name(
      String ofRow, String text, Memo memo, UnaryOperator<String> otherwise) {
    return ofRow == null ? memo.get(text, otherwise) : ofRow;
  }

  @Override
  public void about(RowNames names) {
    row = names;
  }

  /** A separator of the local part; what is not one of RFC 5322's atoms becomes a hyphen. */
  private static char safe(char c) {
    return c < 0x80 && "._-+!#$%&*/=?^`{|}~".indexOf(c) >= 0 ? c : '-';
  }

  /** The letters of a name that an address can hold. */
  private static String ascii(String written) {
    return NameForm.spelled(written);
  }
}
