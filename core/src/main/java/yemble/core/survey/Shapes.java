package yemble.core.survey;

import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * What values look like, without what they are: {@code A} for a capital, {@code a} for a small
 * letter, {@code 0} for a digit, more than four of a sort as four; signs as they are.
 */
final class Shapes {
  private static final int MOST = 500;
  private static final int LONGEST = 40;
  private static final int RUN = 4;
  private static final int SHOWN = 2;
  private static final double LEAST = 0.2;

  private final Map<String, Long> counts = new HashMap<>();

  /** Takes a value that comes so many times. */
  void add(String text, long times) {
    if (text.length() <= LONGEST) {
      String shape = of(text);
      if (counts.size() < MOST || counts.containsKey(shape)) {
        counts.merge(shape, times, Long::sum);
      }
    }
  }

  /** The one or two that are most usual, if a fifth of the values looks so. */
  List<String> usual(long values) {
    return counts.entrySet().stream()
        .filter(shape -> shape.getValue() >= LEAST * values)
        .sorted(Map.Entry.<String, Long>comparingByValue().reversed())
        .limit(SHOWN)
        .map(Map.Entry::getKey)
        .toList();
  }

  static String of(String text) {
    StringBuilder shape = new StringBuilder();
    int run = 0;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      char as =
          Character.isDigit(c)
              ? '0'
              : Character.isUpperCase(c) ? 'A' : Character.isLetter(c) ? 'a' : c;
      boolean again = shape.length() > 0 && shape.charAt(shape.length() - 1) == as;
      run = again && as != c | Character.isLetterOrDigit(c) ? run + 1 : 1;
      if (!again || !Character.isLetterOrDigit(c) || run <= RUN) {
        shape.append(as);
      }
    }
    return shape.toString();
  }
}
