package yemble.core.mark;

import java.util.Map;
import java.util.TreeMap;

/**
 * What has been masked of a table where it stands, in all rewrites so far.
 *
 * @param masked the columns, each with a digest of how, keyed with the project's key
 * @param upto the greatest key of its rows, where that is one whole number; else an empty text
 * @param rows which rows the last rewrite changed, as a condition of the engine's; empty for all
 */
public record Rewritten(Map<String, String> masked, String upto, String rows) {
  public Rewritten {
    masked = new TreeMap<>(masked);
    // Whoever may write to the database may have written anything there.
    upto = upto.matches("-?\\d{1,19}") ? upto : "";
  }
}
