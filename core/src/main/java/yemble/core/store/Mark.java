package yemble.core.store;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * What Yemble leaves in a target: who loaded it, what with, and which tables it made. It says
 * nothing of when, so that the same load twice gives the same target; the run log and the file's
 * own date do.
 *
 * @param tool Yemble with its version
 * @param job the job's name
 * @param source the source's name and environment in the project
 * @param by the name of the user who ran it
 * @param key the fingerprint of the key
 * @param rows how many rows were loaded
 * @param made what Yemble made, in the engine's own spelling
 */
public record Mark(
    String tool, String job, String source, String by, String key, long rows, List<String> made) {
  public Mark {
    made = List.copyOf(made);
  }

  /** The same mark for a load that made these. */
  public Mark with(List<String> made) {
    return new Mark(tool, job, source, by, key, rows, made);
  }

  /** The mark as it lies in a target, item by item, what Yemble made left out. */
  public Map<String, String> items() {
    Map<String, String> items = new LinkedHashMap<>();
    items.put("tool", tool);
    items.put("job", job);
    items.put("source", source);
    items.put("by", by);
    items.put("key", key);
    items.put("rows", Long.toString(rows));
    return items;
  }

  /** The mark of what lies in a target; an item that is missing there is empty. */
  public static Mark of(Map<String, String> items, List<String> made) {
    return new Mark(
        items.getOrDefault("tool", ""),
        items.getOrDefault("job", ""),
        items.getOrDefault("source", ""),
        items.getOrDefault("by", ""),
        items.getOrDefault("key", ""),
        Long.parseLong(items.getOrDefault("rows", "0")),
        made);
  }

  /** Who loaded what, for people. */
  public String description() {
    return String.format(
        Locale.ROOT, "%,d rows loaded by %s with %s, job %s from %s", rows, by, tool, job, source);
  }
}
