package yemble.core.store;

import java.util.Map;
import yemble.core.name.TableName;

/** Knows where the counters of tables stand. */
public interface Counting {
  /** Where the counters stand that give tables their next key; tables without one are left out. */
  Map<TableName, Long> counters();
}
