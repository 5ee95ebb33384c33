package yemble.core.merge;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import yemble.core.name.TableName;

/**
 * What becomes of the rows that come into a table.
 *
 * @param table its name in the target
 * @param inserted rows that are not there yet
 * @param updated rows that take the place of others
 * @param left rows that are there as they should be, or that stay as they are
 * @param conflicts rows that are there with other content, or whose place another row holds: how
 *     many, by what they conflict in
 */
public record Tally(
    TableName table, long inserted, long updated, long left, Map<String, Long> conflicts) {
  public Tally {
    conflicts = Collections.unmodifiableMap(new LinkedHashMap<>(conflicts));
  }

  /** How many rows conflict with the target's. */
  public long conflicting() {
    return conflicts.values().stream().mapToLong(Long::longValue).sum();
  }

  /** How many rows came. */
  public long rows() {
    return inserted + updated + left + conflicting();
  }
}
