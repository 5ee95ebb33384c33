package yemble.core.mark;

import java.util.List;
import java.util.Optional;
import yemble.core.name.TableName;
import yemble.core.schema.Column;
import yemble.core.schema.DataType;
import yemble.core.schema.Table;

/**
 * What a mark remembers of a table as it was loaded.
 *
 * @param table its name in the target
 * @param columns that were written, in the order in which their values are digested
 * @param types in whose normal form a column's values are digested, one for each; nothing for the
 *     form in which the target's reader gives them
 * @param identity the columns that identify a row
 * @param sums of its rows, under the key of the mark
 * @param rewritten of a table that was masked where it stands: what of it
 */
public record LoadedTable(
    TableName table,
    List<String> columns,
    List<Optional<DataType.Base>> types,
    List<String> identity,
    BucketSums sums,
    Optional<Rewritten> rewritten) {
  /** A table that was loaded. */
  public LoadedTable(
      TableName table,
      List<String> columns,
      List<Optional<DataType.Base>> types,
      List<String> identity,
      BucketSums sums) {
    this(table, columns, types, identity, sums, Optional.empty());
  }

  public LoadedTable {
    columns = List.copyOf(columns);
    types = List.copyOf(types);
    identity = List.copyOf(identity);
  }

  /**
   * A table as a load has just filled it.
   *
   * @param table as the source knows it
   * @param comparison the form in which its rows were digested
   */
  public static LoadedTable of(Table table, Comparison comparison, BucketSums sums) {
    return new LoadedTable(
        comparison.there(table),
        names(table, table.written(), comparison),
        comparison.types(table),
        names(table, table.writtenIdentity(), comparison),
        sums.worthKeeping());
  }

  /** The same as it was masked where it stands. */
  public LoadedTable with(BucketSums of, Rewritten as) {
    return new LoadedTable(table, columns, types, identity, of.worthKeeping(), Optional.of(as));
  }

  /** What columns are called in the target. */
  private static List<String> names(Table table, List<Column> columns, Comparison comparison) {
    return columns.stream().map(column -> comparison.there(table, column)).toList();
  }

  /** Whether rows of a table, in this form, have the digests that are remembered here. */
  public boolean agrees(Table other, Comparison comparison) {
    return columns.equals(names(other, other.written(), comparison))
        && identity.equals(names(other, other.writtenIdentity(), comparison))
        && types.equals(comparison.types(other));
  }

  /** Where the columns are that identify a row, among the {@link #columns}. */
  public int[] identityPositions() {
    return identity.stream().mapToInt(columns::indexOf).toArray();
  }

  /** The columns in a table of the target; empty if it lacks one of them. */
  public Optional<List<Column>> in(Table found) {
    List<Column> there = columns.stream().flatMap(name -> found.column(name).stream()).toList();
    return there.size() == columns.size() ? Optional.of(there) : Optional.empty();
  }

  /** Values of a row of the target in the form in which they were digested; made in place. */
  public void normalise(Object[] values) {
    for (int i = 0; i < values.length; i++) {
      if (types.get(i).isPresent()) {
        values[i] = DataType.of(types.get(i).get()).normal(values[i]);
      }
    }
  }
}
