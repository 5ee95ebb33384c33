package yemble.core.mask;

import java.util.HashMap;
import java.util.Map;
import java.util.function.UnaryOperator;

/**
 * Remembers what words became, since names and places come again and again: looking one up costs a
 * fraction of the cipher. Forgets everything when it is full, so its size is bounded; what it holds
 * never shows in a result.
 */
final class Memo {
  private static final int USUAL = 20_000;
  private static final int LONGEST = 40;
  private final Map<String, String> known = new HashMap<>();
  private final int most;

  Memo() {
    this(USUAL);
  }

  /** Remembers at most so many words. */
  Memo(int most) {
    this.most = most;
  }

  String get(String word, UnaryOperator<String> mask) {
    String replacement = known.get(word);
    if (replacement == null) {
      replacement = mask.apply(word);
      if (word.length() <= LONGEST) {
        if (known.size() >= most) {
          known.clear();
        }
        known.put(word, replacement);
      }
    }
    return replacement;
  }
}
