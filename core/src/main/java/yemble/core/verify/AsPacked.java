package yemble.core.verify;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.LongConsumer;
import yemble.core.mark.BucketSums;
import yemble.core.mark.Comparison;
import yemble.core.mark.Loaded;
import yemble.core.mark.LoadedTable;
import yemble.core.schema.Table;
import yemble.core.store.Reader;

/**
 * The proof of what was loaded from a parcel: its rows have the digests that its manifest has for
 * them, made when they were proved against the source; and the target's rows have the digests of
 * what these are to be there.
 */
public final class AsPacked {
  static final String CHECK = "as packed";

  /** What is wrong with a table whose rows have other digests than the manifest has for them. */
  static final String OTHERS = "its rows in the parcel are not those that were proved";

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
    List<String> faults = new ArrayList<>();
    long rows = 0;
    for (Table table : parcel.schema().tables()) {
      BucketSums found = new BucketSums();
      String fault = fault(table, found);
      if (!fault.isEmpty()) {
        faults.add(table.name() + ": " + fault);
      }
      tables.add(LoadedTable.of(table, comparison, found));
      rows += found.rows();
      progress.accept(found.rows());
    }
    return finding(packed, faults, rows, tables.size());
  }

  static Outcome finding(Loaded packed, List<String> faults, long rows, int tables) {
    String when = packed.when();
    return Outcome.of(
            CHECK,
            faults,
            String.format(
                Locale.ROOT,
                "%,d rows in %,d tables are what was packed%s by %s",
                rows,
                tables,
                when.isEmpty() ? "" : " on " + when,
                packed.by()),
            TargetChecks.counted(faults.size(), "table") + " not as packed")
        .counting("rows", rows, "tables", tables);
  }

  /** What can be said where no rows were asked for. */
  public Outcome structureAlone() {
    for (Table table : parcel.schema().tables()) {
      tables.add(LoadedTable.of(table, comparison, new BucketSums()));
    }
    return new Outcome(
        CHECK, Outcome.Result.NOT_CHECKED, "only the structure was asked for", List.of());
  }

  private String fault(Table table, BucketSums found) {
    PackedTable rows = new PackedTable(table, packed, comparison);
    parcel.rows(table, "", table.written(), (row, values) -> rows.packed(values));
    if (!rows.isAsProved()) {
      return OTHERS;
    }
    target.rows(table, "", table.written(), (row, values) -> rows.found(values, found));
    BucketSums expected = rows.expected();
    int buckets = found.differing(expected).cardinality();
    if (found.rows() != expected.rows()) {
      return String.format(Locale.ROOT, "%,d rows and not %,d", found.rows(), expected.rows());
    }
    return buckets == 0 ? "" : String.format(Locale.ROOT, "at least %,d rows are others", buckets);
  }
}
