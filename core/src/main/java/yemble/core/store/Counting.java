package yemble.core.store;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import yemble.core.name.TableName;
import yemble.core.schema.Table;

/** What, beside rows, a finished structure takes from where the rows come from. */
public interface Counting {
  /** Where the counters stand that give tables their next key; tables without one are left out. */
  Map<TableName, Long> counters();

  /**
   * Where the sequences stand that are made by the engine's own statements, apart from tables;
   * empty where the structure is known in other words alone.
   */
  default Optional<List<SequencePosition>> sequences() {
    return Optional.empty();
  }

  /**
   * How many rows of a table break a check of it, as they may where it was not always there; only
   * those of the engine that the check is written for can tell.
   */
  default long breaking(Table table, String check) {
    return 0;
  }

  /**
   * What can be given in another form than rows one by one, for those who can take it in that.
   *
   * @param form the interface that describes it; empty if it cannot be given
   */
  default <T> Optional<T> as(Class<T> form) {
    return Optional.empty();
  }
}
