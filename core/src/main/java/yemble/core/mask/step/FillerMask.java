package yemble.core.mask.step;

import java.util.List;
import yemble.core.crypto.Draw;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.vocabulary.Vocabularies;

/**
 * The mask that leaves of a text nothing but its length and its lines: words that say nothing stand
 * in its place, as many characters of them as there were.
 *
 * <p>Normal form: the text itself.
 */
final class FillerMask implements Mask {
  private static final List<String> WORDS = Vocabularies.load("filler");

  private final Prf prf;

  FillerMask(Prf prf) {
    this.prf = prf;
  }

  @Override
  public boolean leavesBlanks() {
    return false;
  }

  @Override
  public boolean keepsDifferent() {
    return false;
  }

  @Override
  public String apply(String text) {
    Draw draw = prf.draw(text);
    StringBuilder out = new StringBuilder(text.length());
    for (int at = 0; at < text.length(); ) {
      int end = lineEnd(text, at);
      line(out, end - at, draw);
      at = end;
      while (at < text.length() && isBreak(text.charAt(at))) {
        out.append(text.charAt(at++));
      }
    }
    return out.toString();
  }

  private static int lineEnd(String text, int from) {
    int end = from;
    while (end < text.length() && !isBreak(text.charAt(end))) {
      end++;
    }
    return end;
  }

  private static boolean isBreak(char c) {
    return c == '\n' || c == '\r';
  }

  /** Words with spaces between them, the last one cut off where the line ends; never a space. */
  private static void line(StringBuilder out, int length, Draw draw) {
    int end = out.length() + length;
    while (out.length() < end) {
      String word = WORDS.get(draw.below(WORDS.size()));
      int room = end - out.length();
      out.append(word, 0, Math.min(word.length(), room));
      if (end - out.length() == 1) {
        out.append('.');
      } else if (out.length() < end) {
        out.append(' ');
      }
    }
  }
}
