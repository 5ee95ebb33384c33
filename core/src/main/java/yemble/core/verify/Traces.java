package yemble.core.verify;

import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.Charset;
import java.nio.charset.CoderResult;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.kind.Kind.Form;

/**
 * The forms in which an original can be met again: of a value that is known, and in anything that a
 * cell holds. Whole tokens are compared, never parts of them: {@code ann@a.example} is not found
 * within {@code joann@a.example}. Knows nothing of masks.
 */
final class Traces {
  private static final int LEAST_LOGIN = 6;
  private static final int LEAST_PHONE = 7;
  private static final int LEAST_DIGITS = 9;
  private static final int LEAST_CODE = 7;
  private static final int LEAST_CODE_DIGITS = 4;
  private static final int LEAST_TEXT = 16;
  private static final int TAIL = 9;
  private static final int GROUPS = 9;
  private static final int LAYERS = 3;

  private static final Pattern WORD = Pattern.compile("[\\p{L}\\p{M}'’-]{2,}");

  /** Sorts of characters that a token is made of: letters, marks and numbers of any script. */
  private static final int IN_TOKENS =
      1 << Character.UPPERCASE_LETTER
          | 1 << Character.LOWERCASE_LETTER
          | 1 << Character.TITLECASE_LETTER
          | 1 << Character.MODIFIER_LETTER
          | 1 << Character.OTHER_LETTER
          | 1 << Character.NON_SPACING_MARK
          | 1 << Character.ENCLOSING_MARK
          | 1 << Character.COMBINING_SPACING_MARK
          | 1 << Character.DECIMAL_DIGIT_NUMBER
          | 1 << Character.LETTER_NUMBER
          | 1 << Character.OTHER_NUMBER;

  private static final boolean[] IN_TOKEN = new boolean[128];

  static {
    for (int c = 0; c < IN_TOKEN.length; c++) {
      IN_TOKEN[c] = Character.isLetterOrDigit(c) || "._%+@'-".indexOf(c) >= 0;
    }
  }

  private static final Pattern DIGITS = Pattern.compile("\\d(?:[ ().+/-]{0,2}+\\d){6,}+");
  private static final Pattern GROUP = Pattern.compile("[A-Za-z0-9]+");

  /** Possessive, since Java's patterns run out of stack where a group comes again too often. */
  private static final Pattern ENCODED =
      Pattern.compile("[A-Za-z0-9+/_-]{16,}+(?:\\r?\\n[A-Za-z0-9+/_-]++)*+={0,2}");

  private static final Pattern ENTITY = Pattern.compile("&#(x[0-9A-Fa-f]{1,5}|[0-9]{1,6});");
  private static final Pattern ESCAPE =
      Pattern.compile("%([0-9A-Fa-f]{2})|=([0-9A-F]{2})|\\\\u([0-9A-Fa-f]{4})");

  private Traces() {}

  /** Takes a trace: a form and a text of it. */
  interface Sink {
    void trace(Form form, String text);
  }

  /** The traces by which an original of a form would be known again; none if it is too short. */
  static void ofOriginal(Form form, String value, Sink sink) {
    String text = value.strip();
    switch (form) {
      case NONE -> {}
      case ADDRESS -> {
        if (text.indexOf('@') > 0) {
          String whole = text.toLowerCase(Locale.ROOT);
          sink.trace(Form.ADDRESS, whole);
          // One that a scheme, a name or another address stands beside is an original by itself.
          tokens(
              text,
              (found, token) -> {
                if (found == Form.ADDRESS && !token.equals(whole)) {
                  sink.trace(Form.ADDRESS, token);
                }
              });
        }
      }
      case LOGIN -> {
        if (text.length() >= LEAST_LOGIN) {
          sink.trace(Form.LOGIN, text.toLowerCase(Locale.ROOT));
        }
      }
      case PHONE -> phone(digits(text), sink);
      case DIGITS -> {
        String digits = digits(text);
        if (digits.length() >= LEAST_DIGITS) {
          sink.trace(Form.DIGITS, digits);
        }
      }
      case CODE -> code(text, sink);
      case NAME -> names(text, sink);
      case TEXT -> {
        if (text.length() >= LEAST_TEXT) {
          sink.trace(Form.TEXT, text);
        }
      }
    }
  }

  /** A given and a family name that stand in two columns of one row. */
  static void ofName(String given, String family, Sink sink) {
    List<String> first = words(given);
    List<String> last = words(family);
    if (!first.isEmpty() && !last.isEmpty()) {
      sink.trace(Form.NAME, first.get(first.size() - 1) + " " + last.get(0));
      sink.trace(Form.NAME, first.get(0) + " " + last.get(last.size() - 1));
    }
  }

  private static void phone(String digits, Sink sink) {
    if (digits.length() >= LEAST_PHONE) {
      sink.trace(Form.PHONE, digits);
      if (digits.length() > TAIL) {
        sink.trace(Form.PHONE, digits.substring(digits.length() - TAIL));
      }
    }
  }

  private static void code(String text, Sink sink) {
    String code = lettersAndDigits(text);
    if (code.length() >= LEAST_CODE && digits(code).length() >= LEAST_CODE_DIGITS) {
      sink.trace(Form.CODE, code);
    }
  }

  /** The ASCII letters and digits of a text, in capitals. */
  private static String lettersAndDigits(String text) {
    StringBuilder found = new StringBuilder(text.length());
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if ((c >= '0' && c <= '9') || (c >= 'A' && c <= 'Z')) {
        found.append(c);
      } else if (c >= 'a' && c <= 'z') {
        found.append((char) (c - 'a' + 'A'));
      }
    }
    return found.toString();
  }

  private static void names(String text, Sink sink) {
    List<String> words = words(text);
    if (words.size() >= 2) {
      String first = words.get(0);
      String last = words.get(words.size() - 1);
      sink.trace(Form.NAME, first + " " + last);
      sink.trace(Form.NAME, last + " " + first);
    }
  }

  private static List<String> words(String text) {
    List<String> words = new ArrayList<>();
    Matcher word = WORD.matcher(text);
    while (word.find()) {
      words.add(word.group().toLowerCase(Locale.ROOT));
    }
    return words;
  }

  /** The digits of a text without zeros in front, as they may or may not be written. */
  private static String digits(String text) {
    StringBuilder digits = new StringBuilder(text.length());
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c >= '0' && c <= '9' && (digits.length() > 0 || c != '0')) {
        digits.append(c);
      }
    }
    return digits.toString();
  }

  /** All that a cell holds in which an original may stand: itself, its tokens, layers within. */
  static void ofCell(Object value, Sink sink) {
    if (value instanceof byte[] bytes) {
      ofBytes(bytes, sink, LAYERS);
    } else if (value instanceof Long number) {
      String digits = digits(number.toString());
      if (digits.length() >= LEAST_DIGITS) {
        phone(digits, sink);
        sink.trace(Form.DIGITS, digits);
        sink.trace(Form.CODE, digits);
      }
    } else if (value instanceof String text) {
      ofText(text, sink, LAYERS);
    }
  }

  private static void ofBytes(byte[] bytes, Sink sink, int layers) {
    int zeros = 0;
    for (byte b : bytes) {
      zeros += b == 0 ? 1 : 0;
    }
    if (zeros * 4L > bytes.length && bytes.length >= 8) {
      ofText(new String(bytes, StandardCharsets.UTF_16LE), sink, layers);
      ofText(new String(bytes, StandardCharsets.UTF_16BE), sink, layers);
    } else {
      String utf8 = decoded(bytes, StandardCharsets.UTF_8);
      ofText(utf8 == null ? new String(bytes, StandardCharsets.ISO_8859_1) : utf8, sink, layers);
    }
  }

  private static String decoded(byte[] bytes, Charset charset) {
    CharBuffer text = CharBuffer.allocate(bytes.length);
    CoderResult end = charset.newDecoder().decode(ByteBuffer.wrap(bytes), text, true);
    return end.isError() ? null : text.flip().toString();
  }

  private static void ofText(String text, Sink sink, int layers) {
    if (text.length() < LEAST_LOGIN || isMoment(text)) {
      return;
    }
    Letters letters = new Letters(text);
    sink.trace(Form.LOGIN, text.strip().toLowerCase(Locale.ROOT));
    if (text.length() >= LEAST_TEXT) {
      sink.trace(Form.TEXT, text.strip());
    }
    if (letters.at || letters.digits > 0 || letters.marks || letters.run >= LEAST_TEXT) {
      tokens(text, sink);
    }
    if (letters.digits >= LEAST_PHONE) {
      numbers(text, sink);
    }
    if (letters.digits >= LEAST_CODE_DIGITS && text.length() >= LEAST_CODE) {
      groups(text, sink);
    }
    if (letters.gaps) {
      pairs(text, sink);
    }
    if (layers > 0) {
      if (letters.escapes) {
        String plain = plain(text);
        if (!plain.equals(text)) {
          ofText(plain, sink, 0);
        }
      }
      if (letters.run >= LEAST_TEXT) {
        encoded(text, sink, layers - 1);
      }
    }
  }

  /** Whether a text is a day or a moment, which tells nobody. */
  private static boolean isMoment(String text) {
    return (text.length() == 10 || text.length() >= 19 && text.length() <= 32)
        && text.charAt(4) == '-'
        && text.charAt(7) == '-'
        && Character.isDigit(text.charAt(0))
        && Character.isDigit(text.charAt(9))
        && (text.length() == 10 || text.charAt(13) == ':' && text.charAt(16) == ':');
  }

  /** What stands in a text, found out in one pass: most cells hold little that can be a trace. */
  private static final class Letters {
    private int digits;
    private boolean at;
    private boolean marks;
    private boolean gaps;
    private boolean escapes;

    /** The longest run without white space. */
    private int run;

    Letters(String text) {
      int since = 0;
      boolean letter = false;
      for (int i = 0; i < text.length(); i++) {
        char c = text.charAt(i);
        if (c >= '0' && c <= '9') {
          digits++;
        } else if (c == '@') {
          at = true;
        } else if (c == '.' || c == '_' || c == '-') {
          marks = true;
        } else if (c == '%' || c == '&' || c == '\\' || c == '=') {
          escapes = true;
        }
        boolean white = c <= ' ';
        since = white ? 0 : since + 1;
        run = Math.max(run, since);
        gaps |= letter && (white || c == ',');
        letter = Character.isLetter(c);
      }
    }
  }

  /** Addresses, long tokens, and what somebody may sign in with. */
  private static void tokens(String text, Sink sink) {
    for (int end = 0; end < text.length(); ) {
      int from = end;
      end = endOfToken(text, from);
      if (end == from) {
        end += Character.charCount(text.codePointAt(from));
        continue;
      }
      String token = end - from < LEAST_LOGIN ? "" : trimmed(text.substring(from, end));
      if (token.length() >= LEAST_LOGIN) {
        String lower = token.toLowerCase(Locale.ROOT);
        if (token.indexOf('@') > 0) {
          sink.trace(Form.ADDRESS, lower);
        } else if (!token.chars().allMatch(Character::isLetter)) {
          sink.trace(Form.LOGIN, lower);
        }
        if (token.length() >= LEAST_TEXT) {
          sink.trace(Form.TEXT, token);
        }
      }
    }
  }

  /** Where letters, marks, digits and what stands between them in an address end. */
  private static int endOfToken(String text, int from) {
    int end = from;
    while (end < text.length()) {
      int c = text.codePointAt(end);
      boolean within = c < 128 ? IN_TOKEN[c] : (IN_TOKENS >> Character.getType(c) & 1) != 0;
      if (!within) {
        return end;
      }
      end += Character.charCount(c);
    }
    return end;
  }

  private static String trimmed(String token) {
    int from = 0;
    int to = token.length();
    while (from < to && ".'-%+".indexOf(token.charAt(from)) >= 0) {
      from++;
    }
    while (to > from && ".'-%+".indexOf(token.charAt(to - 1)) >= 0) {
      to--;
    }
    return token.substring(from, to);
  }

  private static void numbers(String text, Sink sink) {
    Matcher matcher = DIGITS.matcher(text);
    while (matcher.find()) {
      String digits = digits(matcher.group());
      phone(digits, sink);
      if (digits.length() >= LEAST_DIGITS) {
        sink.trace(Form.DIGITS, digits);
      }
    }
  }

  /** Groups of letters and digits that stand together, as account numbers are written. */
  private static void groups(String text, Sink sink) {
    List<int[]> groups = new ArrayList<>();
    Matcher matcher = GROUP.matcher(text);
    while (matcher.find()) {
      groups.add(new int[] {matcher.start(), matcher.end()});
    }
    for (int first = 0; first < groups.size(); first++) {
      StringBuilder code = new StringBuilder();
      int digits = 0;
      for (int i = first; i < groups.size() && i < first + GROUPS; i++) {
        int[] group = groups.get(i);
        if (i > first && group[0] - groups.get(i - 1)[1] > 1) {
          break;
        }
        int before = code.length();
        code.append(text, group[0], group[1]);
        for (int at = before; at < code.length(); at++) {
          digits += Character.isDigit(code.charAt(at)) ? 1 : 0;
        }
        if (digits == 0 && i > first) {
          break; // Words, not groups of a number.
        }
        if (code.length() >= LEAST_CODE && digits >= LEAST_CODE_DIGITS) {
          sink.trace(Form.CODE, code.toString().toUpperCase(Locale.ROOT));
        }
        if (code.length() > 40) {
          break;
        }
      }
    }
  }

  private static void pairs(String text, Sink sink) {
    Matcher matcher = WORD.matcher(text);
    String before = null;
    int end = 0;
    while (matcher.find()) {
      String word = matcher.group().toLowerCase(Locale.ROOT);
      if (before != null && matcher.start() - end <= 2) {
        sink.trace(Form.NAME, before + " " + word);
      }
      before = word;
      end = matcher.end();
    }
  }

  /** A text without escapes: entities of XML, those of URLs and mail, and of JSON. */
  private static String plain(String text) {
    String entities =
        ENTITY
            .matcher(text)
            .replaceAll(
                m -> {
                  String code = m.group(1);
                  int c =
                      code.startsWith("x")
                          ? Integer.parseInt(code.substring(1), 16)
                          : Integer.parseInt(code);
                  return Matcher.quoteReplacement(
                      Character.isValidCodePoint(c) ? Character.toString(c) : " ");
                });
    String joined = entities.replaceAll("=\\r?\\n", "");
    return ESCAPE
        .matcher(joined)
        .replaceAll(
            m -> {
              String code =
                  m.group(1) != null ? m.group(1) : m.group(2) != null ? m.group(2) : m.group(3);
              return Matcher.quoteReplacement(
                  Character.toString((char) Integer.parseInt(code, 16)));
            });
  }

  /** What lies in base64 within a text. */
  private static void encoded(String text, Sink sink, int layers) {
    Matcher matcher = ENCODED.matcher(text);
    while (matcher.find()) {
      String run = matcher.group().replaceAll("[\\r\\n=]", "").replace('-', '+').replace('_', '/');
      if (run.length() % 4 == 1) {
        continue;
      }
      byte[] bytes = Base64.getDecoder().decode(run);
      if (readable(bytes)) {
        ofBytes(bytes, sink, layers);
      }
    }
  }

  /** Whether bytes look like text: few of them control anything. */
  private static boolean readable(byte[] bytes) {
    int odd = 0;
    for (byte b : bytes) {
      odd += b >= 0 && b < 32 && b != '\n' && b != '\r' && b != '\t' && b != 0 ? 1 : 0;
    }
    return bytes.length >= LEAST_LOGIN && odd * 10L < bytes.length;
  }
}
