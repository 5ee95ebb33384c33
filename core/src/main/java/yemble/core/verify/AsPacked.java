package yemble.core.verify;

import java.util.ArrayList;
import java.util.List;
import java.util.function.LongConsumer;
import yemble.core.mark.BucketSums;
import yemble.core.mark.Comparison;
import yemble.core.mark.Loaded;
import yemble.core.mark.LoadedTable;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.wording.Sentence;

/**
 * The proof of what was loaded from a parcel: its rows have the digests that its manifest has for
 * them, made when they were proved against the source; and the target's rows have the digests of
 * what these are to be there.
 */
public final class AsPacked {
  private final Reader parcel;
  private final Reader target;
  private final Loaded packed;
  private final Comparison comparison;
  private final List<LoadedTable> tables = new ArrayList<>();

  /**
   * @param target what has been loaded, under the parcel's names
   * @param packed what the manifest remembers
   */
  public AsPacked(Reader parcel, Reader target, Loaded packed, Comparison comparison) {
    this.parcel = parcel;
    this.target = target;
    this.packed = packed;
    this.comparison = comparison;
  }

  /** What a mark may remember of the tables; once they have been looked at. */
  public List<LoadedTable> tables() {
    return tables;
  }

  /**
   * Looks at all tables.
   *
   * @param progress is told how many rows have been looked at since it was told last
   */
  public Outcome finding(LongConsumer progress) {
    List<Sentence> faults = new ArrayList<>();
    long rows = 0;
    for (Table table : parcel.schema().tables()) {
      BucketSums found = new BucketSums();
      Sentence fault = fault(table, found);
      if (!fault.isEmpty()) {
        faults.add(fault.about(table.name()));
      }
      tables.add(LoadedTable.of(table, comparison, found));
      rows += found.rows();
      progress.accept(found.rows());
    }
    return finding(packed, faults, rows, tables.size());
  }

  static Outcome finding(Loaded packed, List<Sentence> faults, long rows, int tables) {
    return Outcome.of(
            Check.AS_PACKED,
            faults,
            ProofWording.AS_PACKED.of(rows, tables, AsLoaded.when(packed), packed.by()),
            ProofWording.NOT_AS_PACKED.of(faults.size()))
        .counting("rows", rows, "tables", tables);
  }

  /** What can be said where no rows were asked for. */
  public Outcome structureAlone() {
    for (Table table : parcel.schema().tables()) {
      tables.add(LoadedTable.of(table, comparison, new BucketSums()));
    }
    return Outcome.unchecked(Check.AS_PACKED, ProofWording.STRUCTURE_ALONE.of());
  }

  private Sentence fault(Table table, BucketSums found) {
    PackedTable rows = new PackedTable(table, packed, comparison);
    parcel.rows(table, "", table.written(), (row, values) -> rows.packed(values));
    if (!rows.isAsProved()) {
      return ProofWording.NOT_AS_PROVED.of();
    }
    target.rows(table, "", table.written(), (row, values) -> rows.found(values, found));
    BucketSums expected = rows.expected();
    int buckets = found.differing(expected).cardinality();
    if (found.rows() != expected.rows()) {
      return ProofWording.ROWS_AND_NOT.of(found.rows(), expected.rows());
    }
    return buckets == 0 ? Sentence.NONE : ProofWording.AT_LEAST_OTHERS.of(buckets);
  }
}
