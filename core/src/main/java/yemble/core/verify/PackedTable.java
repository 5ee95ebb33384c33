package yemble.core.verify;

import java.util.List;
import java.util.Optional;
import yemble.core.mark.BucketSums;
import yemble.core.mark.Comparison;
import yemble.core.mark.Loaded;
import yemble.core.mark.LoadedTable;
import yemble.core.mark.RowDigest;
import yemble.core.schema.Column;
import yemble.core.schema.Table;

/**
 * The rows of one table as they come out of a parcel, held against the digests that its manifest
 * has for them, and what they are to be where they go.
 */
final class PackedTable {
  private final Table table;
  private final Loaded packed;
  private final Comparison comparison;
  private final RowDigest digest;
  private final int[] identity;
  private final BucketSums source = new BucketSums();
  private final BucketSums expected = new BucketSums();

  PackedTable(Table table, Loaded packed, Comparison comparison) {
    this.table = table;
    this.packed = packed;
    this.comparison = comparison;
    this.digest = new RowDigest(packed.digestKey());
    List<Column> written = table.written();
    this.identity = table.writtenIdentity().stream().mapToInt(written::indexOf).toArray();
  }

  /** A row of the parcel; left as it is. */
  void packed(Object[] values) {
    digest.take(values, identity);
    source.add(digest);
    digest.take(comparison.expected(table, values.clone()), identity);
    expected.add(digest);
  }

  /** A row of where they went. */
  void found(Object[] values, BucketSums sums) {
    digest.take(comparison.found(table, values.clone()), identity);
    sums.add(digest);
  }

  /** What its rows are to be where they go. */
  BucketSums expected() {
    return expected;
  }

  /** Whether all rows that came are those that were proved when they were packed. */
  boolean isAsProved() {
    Optional<LoadedTable> remembered = packed.table(table.name());
    return remembered.isPresent()
        && source.folded(remembered.get().sums().bits()).equals(remembered.get().sums());
  }
}
