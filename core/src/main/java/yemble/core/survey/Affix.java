package yemble.core.survey;

import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * What most columns of a table begin or end with, and which so says nothing of any of them: {@code
 * comment_} in {@code comment_date}, {@code _session} in {@code date_session}.
 */
final class Affix {
  private static final double MOST = 0.7;
  private static final int FEWEST = 4;

  private final List<String> before;
  private final List<String> behind;

  private Affix(List<String> before, List<String> behind) {
    this.before = before;
    this.behind = behind;
  }

  /** What the names of a table's columns have in common. */
  static Affix of(List<String> names) {
    return new Affix(common(names, true), common(names, false));
  }

  private static List<String> common(List<String> names, boolean before) {
    List<String> affix = List.of();
    while (true) {
      Map<List<String>, Integer> counts = new HashMap<>();
      for (String name : names) {
        List<String> words = words(name);
        int length = affix.size() + 1;
        if (words.size() > length) {
          List<String> part =
              before
                  ? words.subList(0, length)
                  : words.subList(words.size() - length, words.size());
          counts.merge(part, 1, Integer::sum);
        }
      }
      List<String> longer =
          counts.entrySet().stream()
              .filter(part -> part.getValue() >= Math.max(FEWEST, MOST * names.size()))
              .map(Map.Entry::getKey)
              .findFirst()
              .orElse(List.of());
      if (longer.isEmpty()) {
        return affix;
      }
      affix = longer;
    }
  }

  private static List<String> words(String name) {
    return Arrays.asList(name.toLowerCase(Locale.ROOT).split("_"));
  }

  /** A column's name without it; the name itself if nothing else would be left. */
  String without(String name) {
    List<String> words = words(name);
    int from = words.size() > before.size() && starts(words, before) ? before.size() : 0;
    int to = words.size();
    if (to - from > behind.size() && starts(words.subList(to - behind.size(), to), behind)) {
      to -= behind.size();
    }
    return from == 0 && to == words.size() ? name : String.join("_", words.subList(from, to));
  }

  private static boolean starts(List<String> words, List<String> with) {
    return words.subList(0, with.size()).equals(with);
  }

  /** It alone, as a name; empty if there is none. */
  String text() {
    return String.join("_", before) + (behind.isEmpty() ? "" : "_" + String.join("_", behind));
  }
}
