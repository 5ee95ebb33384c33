package yemble.core.mask.text;

import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.mask.shape.Letters;

/** A text while parts of it are replaced, each place at most once. */
public final class Draft {
  private final String text;
  private final String lower;
  private final String[] replacements;
  private final int[] ends;
  private final boolean[] taken;

  public Draft(String text) {
    this.text = text;
    this.lower = Letters.lower(text);
    this.replacements = new String[text.length()];
    this.ends = new int[text.length()];
    this.taken = new boolean[text.length()];
  }

  String text() {
    return text;
  }

  /** Whether a word in lower case stands anywhere, looked for without regard to case. */
  boolean holds(String word) {
    return lower.contains(word);
  }

  boolean isFree(int from, int to) {
    for (int i = from; i < to; i++) {
      if (taken[i]) {
        return false;
      }
    }
    return true;
  }

  /** Puts a replacement in a place; one that is cleared leaves an ellipsis. */
  void replace(int from, int to, String masked) {
    String replacement = masked == null || masked.isEmpty() ? "…" : masked;
    for (int i = from; i < to; i++) {
      taken[i] = true;
    }
    replacements[from] = replacement;
    ends[from] = to;
  }

  /** Replaces a value wherever it stands as whole words, without regard to case. */
  public void replaceAll(String value, UnaryOperator<String> mask) {
    String wanted = Letters.lower(value);
    for (int at = lower.indexOf(wanted); at >= 0; at = lower.indexOf(wanted, at + 1)) {
      int end = at + wanted.length();
      boolean whole =
          (at == 0 || !isPart(text.charAt(at - 1)))
              && (end == text.length() || !isPart(text.charAt(end)));
      if (whole && isFree(at, end)) {
        replace(at, end, mask.apply(value));
      }
    }
  }

  private static boolean isPart(char c) {
    return Letters.isLetter(c) || (c >= '0' && c <= '9');
  }

  /** Replaces what stands in a place unless something there is replaced already. */
  void replaceIfFree(int from, int to, UnaryOperator<String> mask) {
    if (isFree(from, to)) {
      String found = text.substring(from, to);
      String replacement = mask.apply(found);
      if (!found.equals(replacement)) {
        replace(from, to, replacement);
      }
    }
  }

  void replaceAll(Pattern pattern, UnaryOperator<String> mask) {
    Matcher found = pattern.matcher(text);
    while (found.find()) {
      replaceIfFree(found.start(), found.end(), mask);
    }
  }

  @Override
  public String toString() {
    StringBuilder out = new StringBuilder(text.length() + 16);
    for (int at = 0; at < text.length(); ) {
      if (replacements[at] != null) {
        out.append(replacements[at]);
        at = ends[at];
      } else {
        out.append(text.charAt(at++));
      }
    }
    return out.toString();
  }
}
