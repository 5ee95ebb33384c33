package yemble.core.crossing;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import yemble.core.name.ColumnName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.schema.Misfit;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Counting;
import yemble.core.store.ForwardingSink;
import yemble.core.store.Sink;
import yemble.core.wording.Sentence;

/** A sink for another engine's rows: speaks of tables as the source does. */
public class CrossedSink extends ForwardingSink {
  private final Crossing crossing;

  public CrossedSink(Sink sink, Crossing crossing) {
    super(sink);
    this.crossing = crossing;
  }

  @Override
  public RowWriter rows(Table table) {
    RowWriter writer = super.rows(crossing.made(table));
    return new RowWriter() {
      private long number;

      @Override
      public void write(long row, Object[] values) {
        Object[] taken = values.clone();
        crossing.take(table, taken);
        crossing.once(table, taken);
        // After a value that does not fit rows are only looked at: nothing will come of the load.
        if (crossing.misfits().isEmpty()) {
          // A table without columns has one there.
          writer.write(++number, taken.length == 0 ? new Object[1] : taken);
        }
      }

      @Override
      public void close() {
        writer.close();
      }
    };
  }

  /**
   * Completes the structure.
   *
   * @throws Problem of type USAGE if there were values that do not fit
   */
  @Override
  public void finish(Schema schema, Counting source) {
    refuse(crossing.misfits());
    super.finish(crossing.schema(), crossing.counters(source));
  }

  /** Says which values do not fit, if there are any. */
  public static void refuse(Map<ColumnName, Map<Sentence, Long>> misfits) {
    if (misfits.isEmpty()) {
      return;
    }
    List<Sentence> why = new ArrayList<>();
    misfits.forEach(
        (column, reasons) ->
            reasons.entrySet().stream()
                .sorted(Comparator.comparing(reason -> reason.getKey().toString()))
                .map(reason -> Misfit.CELLS.of(reason.getValue(), reason.getKey()).about(column))
                .forEach(why::add));
    throw Problem.of(Failure.SOURCE_UNFIT, "values of the source do not fit the target's columns")
        .because(why)
        .remedy(
            "settle each column in the job, for example unfit: { table.column: clear }; clear makes"
                + " such values NULL, trim takes from a text what does not fit, { value: … } puts"
                + " another one in their place");
  }
}
