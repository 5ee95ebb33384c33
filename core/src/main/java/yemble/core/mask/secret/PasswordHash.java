package yemble.core.mask.secret;

import java.util.Collections;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Letters;
import yemble.core.mask.shape.Shape;

/**
 * The mask of a password hash: the hash of one test password, in the same scheme and at the same
 * cost, made once for each. Where the scheme cannot be told, scheme and length stay and nobody can
 * log in.
 *
 * <p>Normal form: the scheme and its cost.
 */
public final class PasswordHash implements Mask {
  /** The password that opens every account of a masked copy, unless the project says another. */
  public static final String USUAL = "test-password";

  private static final Pattern HEAD =
      Pattern.compile(
          "(\\$2[abxy]\\$[0-9]{2}\\$|\\$argon2(?:id|i|d)\\$v=[0-9]+\\$m=[0-9]+,t=[0-9]+,p=[0-9]+\\$"
              + "|\\$(?:1|apr1)\\$|\\$[56]\\$(?:rounds=[0-9]+\\$)?"
              + "|\\$?pbkdf2[_-]sha(?:1|256|512)\\$[0-9]+\\$|\\{S?SHA(?:256|512)?\\}|\\{MD5\\}).*");
  private static final Pattern HEX = Pattern.compile("[0-9a-f]+|[0-9A-F]+");

  /** Hashes that take long to make, for all who ask for the same: the proof asks once more. */
  private static final Map<List<String>, String> MADE =
      Collections.synchronizedMap(
          new LinkedHashMap<>(16, 0.75f, true) {
            @Override
            protected boolean removeEldestEntry(Map.Entry<List<String>, String> eldest) {
              return size() > MOST_MADE;
            }
          });

  private static final int MOST_MADE = 100_000;

  private final String salts;
  private final Prf prf;
  private final String password;
  private final Shape shape;
  private final Map<String, String> made = new HashMap<>();

  /**
   * @param prf what salts are drawn from
   * @param shape masks what is of no known scheme
   */
  public PasswordHash(Prf prf, String password, Shape shape) {
    this.prf = prf;
    this.salts = HexFormat.of().formatHex(prf.of("salts"));
    this.password = password;
    this.shape = shape;
  }

  @Override
  public boolean keepsDifferent() {
    return false;
  }

  @Override
  public String apply(String text) {
    Matcher head = HEAD.matcher(text);
    if (head.matches()) {
      String scheme = head.group(1);
      String hash = made.computeIfAbsent(scheme + "/" + text.length(), s -> hash(scheme, text));
      if (hash != null) {
        return hash;
      }
    }
    if (HEX.matcher(text).matches()) {
      String digest =
          made.computeIfAbsent(
              "hex " + text.length(), s -> PasswordSchemes.digest(text.length(), password));
      if (digest != null) {
        return Letters.inCaseOf(text, digest);
      }
    }
    return other(text);
  }

  /** The same as often as the same is asked for, by this mask or another one like it. */
  private String hash(String scheme, String text) {
    List<String> asked = List.of(salts, scheme, String.valueOf(text.length()), password);
    String known = MADE.get(asked);
    if (known == null) {
      known = PasswordSchemes.hash(scheme, text, password, prf);
      if (known != null) {
        MADE.put(asked, known);
      }
    }
    return known;
  }

  private String other(String text) {
    int from =
        text.startsWith("$") ? schemeEnd(text) : text.startsWith("{") ? text.indexOf('}') + 1 : 0;
    String rest = text.substring(from);
    if (rest.isEmpty()) {
      return shape.apply(text);
    }
    return text.substring(0, from)
        + (HEX.matcher(rest).matches() ? shape.hex(rest) : shape.apply(rest));
  }

  /**
   * The position behind scheme and parameters: the third dollar, or behind those with {@code =}.
   */
  private static int schemeEnd(String text) {
    int at = text.indexOf('$', 1) + 1;
    while (at > 0) {
      int next = text.indexOf('$', at);
      String part = next < 0 ? "" : text.substring(at, next);
      if (part.isEmpty() || !(part.contains("=") || part.matches("[0-9]{1,7}"))) {
        return at;
      }
      at = next + 1;
    }
    return 0;
  }
}
