package yemble.core.problem;

import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.apache.commons.text.similarity.DamerauLevenshteinDistance;

/** Finds the known word that an unknown one was probably meant to be. */
public final class Nearest {
  private static final int SHOWN = 20;
  private static final DamerauLevenshteinDistance DISTANCE = new DamerauLevenshteinDistance();

  private Nearest() {}

  /**
   * The known word at the least edit distance from {@code word}, letters compared without case, if
   * it is near enough to be meant: at most a third of the word's length, and at least one edit.
   */
  public static Optional<String> to(String word, Collection<String> known) {
    int limit = Math.max(1, (word.length() + 2) / 3);
    String best = null;
    int least = limit + 1;
    for (String candidate : known) {
      int distance = distance(word.toLowerCase(), candidate.toLowerCase());
      if (distance < least) {
        least = distance;
        best = candidate;
      }
    }
    return Optional.ofNullable(best);
  }

  /** A sentence for the user: the nearest word, or the known ones, nearest first. */
  public static String hint(String word, Collection<String> known) {
    return hint(word, known, "");
  }

  /**
   * A sentence for the user: the nearest word, or the known ones, nearest first.
   *
   * @param see how to see all of them where they are many, or an empty text
   */
  public static String hint(String word, Collection<String> known, String see) {
    Optional<String> nearest = to(word, known);
    if (nearest.isPresent()) {
      return "did you mean \"" + nearest.get() + "\"?";
    }
    if (known.isEmpty()) {
      return "";
    }
    List<String> shown =
        known.stream()
            .sorted(Comparator.comparingInt(k -> distance(word.toLowerCase(), k.toLowerCase())))
            .limit(SHOWN)
            .toList();
    int more = known.size() - shown.size();
    return "known here: "
        + String.join(", ", shown)
        + (more == 0 ? "" : ", and " + more + " more" + (see.isEmpty() ? "" : "; " + see));
  }

  private static int distance(String a, String b) {
    return DISTANCE.apply(a, b);
  }
}
