package yemble.core.job;

import java.util.List;
import yemble.core.mark.BucketSums;
import yemble.core.mark.LoadedTable;
import yemble.core.mark.RowDigest;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.store.RowSource;

/** Sums of rows as they are now, to be held against those that a mark remembers. */
final class RowSums implements RowSource.RowVisitor {
  private final Table table;
  private final List<Column> columns;
  private final int[] identity;
  private final RowDigest digest;
  private final BucketSums sums;

  /**
   * @param known what is remembered of the table
   * @param sums that the digests of rows are added to
   */
  RowSums(Table table, LoadedTable known, byte[] digestKey, BucketSums sums) {
    this.table = table;
    this.columns = known.columns().stream().map(name -> table.column(name).orElseThrow()).toList();
    this.identity = known.identityPositions();
    this.digest = new RowDigest(digestKey);
    this.sums = sums;
  }

  /** The sums of all rows of a table. */
  static BucketSums of(Reader reader, Table table, LoadedTable known, byte[] digestKey) {
    return of(reader, table, reader.all(table), known, digestKey);
  }

  /** The same of some of its rows. */
  static BucketSums of(
      Reader reader, Table table, RowSet rows, LoadedTable known, byte[] digestKey) {
    BucketSums sums = BucketSums.of(known.sums().bits());
    new RowSums(table, known, digestKey, sums).add(reader, rows);
    return sums;
  }

  void add(Reader reader, RowSet rows) {
    reader.rows(table, rows, columns, this);
  }

  /** Adds the rows for which a condition is true; all of them for an empty text. */
  void add(Reader reader, String condition) {
    reader.rows(table, condition, columns, this);
  }

  @Override
  public void row(long row, Object[] values) {
    digest.take(values, identity);
    sums.add(digest);
  }
}
