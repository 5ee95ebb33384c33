package yemble.core.store;

import java.math.BigInteger;
import java.util.List;
import java.util.Optional;
import yemble.core.merge.MergePlan;
import yemble.core.merge.Tally;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.wording.Sentence;

/**
 * A load whose rows wait beside the tables of a target until they are merged into them. What {@link
 * #reader} reads is what waits; nobody sees any of it before {@link #commit}.
 */
public interface Merge extends Load {
  /** The tables of the target as they are. */
  Schema present();

  /** The greatest value of a column of whole numbers; empty for other types. */
  Optional<BigInteger> greatest(Column column);

  /** What a person should know before rows are merged into these tables; after {@link #decide}. */
  default List<String> warnings(MergePlan plan) {
    return List.of();
  }

  /**
   * Finds out what would become of each row that waits; once all have come. Asked again, it looks
   * again.
   *
   * @param plan the same each time
   * @throws yemble.core.problem.Problem of type REFUSED if keys cannot be given, or rows not told
   *     apart
   */
  List<Tally> decide(MergePlan plan);

  /** Keeps others from changing the tables, as far as the engine can, until the load ends. */
  void hold(MergePlan plan);

  /** Merges the rows as they were decided on last. */
  void put(MergePlan plan);

  /**
   * Puts back what was taken off, and counters behind the keys that are in use; once what was
   * merged has been looked at.
   *
   * @param source where counters stand that the target's go on from
   */
  void complete(Counting source);

  /**
   * What of the merged rows is not as it waited, or leads elsewhere, by joins that know nothing of
   * how they were put; a line for each fault.
   */
  List<Sentence> faults(MergePlan plan);

  /** Reads the target with the rows in it. */
  Reader merged();

  /** The rows of a table that the load neither inserts nor updates; after {@link #decide}. */
  void own(MergePlan.Part part, List<Column> columns, RowSource.RowVisitor visitor);
}
