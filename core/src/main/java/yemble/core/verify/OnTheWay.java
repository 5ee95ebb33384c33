package yemble.core.verify;

import java.util.ArrayList;
import java.util.List;
import yemble.core.mark.Comparison;
import yemble.core.mark.Loaded;
import yemble.core.mark.LoadedTable;
import yemble.core.schema.Table;
import yemble.core.store.ForwardingSink;
import yemble.core.store.Sink;
import yemble.core.wording.Sentence;

/**
 * Looks at the rows of a parcel on their way into a sink that cannot be read back: whether those
 * that went in are those that were proved when they were packed. What somebody makes of the sink
 * afterwards it does not know.
 */
public final class OnTheWay extends ForwardingSink {
  private final Loaded packed;
  private final Comparison comparison;
  private final List<LoadedTable> tables = new ArrayList<>();
  private final List<Sentence> faults = new ArrayList<>();
  private long rows;

  /**
   * @param packed what the manifest remembers
   * @param comparison what becomes of rows in the sink
   */
  public OnTheWay(Sink sink, Loaded packed, Comparison comparison) {
    super(sink);
    this.packed = packed;
    this.comparison = comparison;
  }

  @Override
  public RowWriter rows(Table table) {
    PackedTable seen = new PackedTable(table, packed, comparison);
    RowWriter writer = super.rows(table);
    return new RowWriter() {
      @Override
      public void write(long row, Object[] values) {
        seen.packed(values);
        writer.write(row, values);
      }

      @Override
      public void close() {
        writer.close();
        if (!seen.isAsProved()) {
          faults.add(ProofWording.NOT_AS_PROVED.of().about(table.name()));
        }
        rows += seen.expected().rows();
        tables.add(LoadedTable.of(table, comparison, seen.expected()));
      }
    };
  }

  /** What came of it, once all tables have gone through. */
  public Outcome finding() {
    return AsPacked.finding(packed, faults, rows, tables.size());
  }

  /** What a mark may remember of the tables. */
  public List<LoadedTable> tables() {
    return tables;
  }
}
