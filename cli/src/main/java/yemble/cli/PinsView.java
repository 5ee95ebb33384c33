package yemble.cli;

import java.util.ArrayList;
import java.util.List;
import yemble.core.job.PinCounts;

/** Who has an agreed stand-in, as it is printed after a run. */
final class PinsView {
  private PinsView() {}

  /** A line for each list; nothing without lists. */
  static void print(Output output, List<PinCounts> lists) {
    for (PinCounts list : lists) {
      List<String> words = new ArrayList<>();
      words.add(Output.number(list.pinned()) + " pinned");
      add(words, list.added(), "new");
      add(words, list.replaced(), "already replaced");
      add(words, list.ambiguous(), "ambiguous");
      add(words, list.without(), "without one");
      output.line("  stand-ins of " + list.list() + ": " + String.join(", ", words));
    }
    if (!lists.isEmpty()) {
      output.line();
    }
  }

  private static void add(List<String> words, long count, String word) {
    if (count > 0) {
      words.add(Output.number(count) + " " + word);
    }
  }

  static List<Object> json(List<PinCounts> lists) {
    return Json.list(
        lists,
        list ->
            Json.object(
                "list", list.list(),
                "pinned", list.pinned(),
                "new", list.added(),
                "replaced", list.replaced(),
                "ambiguous", list.ambiguous(),
                "without", list.without()));
  }
}
