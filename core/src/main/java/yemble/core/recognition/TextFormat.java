package yemble.core.recognition;

import java.util.Arrays;
import java.util.Base64;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import yemble.core.mask.text.BytesText;

/**
 * What a text is, when it is more than words: something that a program reads again. Masked as free
 * text it would be broken, or keep what the program alone can see.
 */
public final class TextFormat {
  /** May be cut off behind its beginning, as samples of long values are. */
  private static final Pattern MARKUP =
      Pattern.compile(
          "(?is)\\s*<(?:\\?xml\\b.*|!doctype\\b.*"
              + "|[A-Z][\\w:.-]*(?:\\s[^<>]*)?(?:/>.*|>.*</.*|>\\s*<.*))");

  private static final Pattern SERIALISED =
      Pattern.compile("(?s)\\s*(?:[aOC]:\\d+:[\"{].*|s:\\d+:\".*\";|rO0AB[A-Za-z0-9+/=\\s]*)");
  private static final Pattern CARD = Pattern.compile("(?is)\\s*BEGIN:(VCARD|VCALENDAR)\\b.*");
  private static final Pattern HEADERS =
      Pattern.compile(
          "(?s)(?:[A-Za-z][A-Za-z0-9-]{1,40}:[^\\n]*+\\n(?:[ \\t][^\\n]*+\\n)*+){2,}+(?:\\r?\\n.*)?");
  private static final Pattern OF_MAIL =
      Pattern.compile(
          "(?im)^(from|to|subject|received|message-id|mime-version|content-type|return-path):");
  private static final Pattern BASE64 =
      Pattern.compile("\\s*+(?:[A-Za-z0-9+/]{4}\\s*+){6,}+[A-Za-z0-9+/]{0,3}={0,2}\\s*+");
  private static final int SHORTEST = 8;
  private static final int SHORTEST_BASE64 = 24;

  /**
   * Shorter ones may be keys or digests: then they are only what they seem if words lie in them.
   */
  private static final int LONG = 400;

  private static final int CUT = 3;

  /** So many printable characters in a row are words; chance puts them there in 1 of 8 million. */
  private static final int WORDS = 16;

  private TextFormat() {}

  /** The format of a text in a word or two; empty for words, and for JSON, which is a kind. */
  public static Optional<String> of(String text) {
    if (text.length() < SHORTEST) {
      return Optional.empty();
    }
    char first = text.stripLeading().charAt(0);
    if (first == '<' && MARKUP.matcher(text).matches()) {
      boolean page = text.toLowerCase(Locale.ROOT).contains("<html");
      return Optional.of(page ? "HTML" : "XML");
    }
    if ("aOCsr".indexOf(first) >= 0 && SERIALISED.matcher(text).matches()) {
      return Optional.of("serialised objects");
    }
    if ((first == 'B' || first == 'b') && CARD.matcher(text).matches()) {
      return Optional.of("vCards");
    }
    if (text.indexOf(':') > 0
        && text.indexOf('\n') > 0
        && HEADERS.matcher(text + "\n").matches()
        && isMail(text)) {
      return Optional.of("mails with headers");
    }
    return text.length() >= SHORTEST_BASE64
            && BASE64.matcher(text).matches()
            && isEncoded(text.replaceAll("\\s", ""))
        ? Optional.of("base64")
        : Optional.empty();
  }

  private static boolean isMail(String text) {
    return OF_MAIL.matcher(text).results().limit(2).count() == 2;
  }

  /**
   * Whether bytes hold a text, or did before they were cut off within a letter; or words between
   * other bytes, as serialised objects do.
   */
  private static boolean isText(byte[] bytes) {
    int run = 0;
    for (byte b : bytes) {
      run = b >= ' ' && b < 127 ? run + 1 : 0;
      if (run == WORDS) {
        return true;
      }
    }
    for (int cut = 0; cut <= CUT && bytes.length - cut >= SHORTEST; cut++) {
      if (BytesText.of(Arrays.copyOf(bytes, bytes.length - cut)).isPresent()) {
        return true;
      }
    }
    return false;
  }

  /** Whether letters of all three sorts are in it, as chance puts them there, and it decodes. */
  private static boolean isEncoded(String text) {
    boolean mixed =
        text.chars().anyMatch(c -> c >= '0' && c <= '9')
            && text.chars().anyMatch(c -> c >= 'a' && c <= 'z')
            && text.chars().anyMatch(c -> c >= 'A' && c <= 'Z');
    try {
      String whole = text.substring(0, text.length() / 4 * 4);
      return mixed && (whole.length() >= LONG || isText(Base64.getDecoder().decode(whole)));
    } catch (IllegalArgumentException e) {
      return false;
    }
  }
}
