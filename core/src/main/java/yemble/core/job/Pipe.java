package yemble.core.job;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntFunction;
import java.util.function.LongConsumer;
import java.util.function.Supplier;
import yemble.core.name.TableName;
import yemble.core.row.CellChange;
import yemble.core.row.RowSet;
import yemble.core.schema.Table;
import yemble.core.store.Passage;
import yemble.core.store.RowSource;
import yemble.core.store.Sink;

/** Pours rows of a source into a sink, one table after another. */
public final class Pipe {
  private Pipe() {}

  /**
   * The rows of one table that go through.
   *
   * @param passages what becomes of them, for each of several threads by its number, from 0
   */
  public record Flow(Table table, RowSet rows, IntFunction<Passage> passages) {}

  /**
   * Pours all rows, in blocks where source and sink have a form in common and each column can be
   * changed alone, else one by one.
   *
   * @param progress is told how many rows have gone through since it was told last
   * @return how many rows went through, by table
   */
  public static Map<TableName, Long> pour(
      RowSource source, Iterable<Flow> flows, Sink sink, LongConsumer progress) {
    Map<TableName, Long> poured = new LinkedHashMap<>();
    for (Flow flow : flows) {
      Passage passage = flow.passages().apply(0);
      int[] threads = new int[1];
      Supplier<List<CellChange>> cells = () -> flow.passages().apply(threads[0]++).cells();
      boolean apart = !passage.cells().isEmpty();
      if (!apart || !sink.copy(source, flow.table(), flow.rows(), cells, progress)) {
        try (Sink.RowWriter writer = sink.rows(flow.table())) {
          passage.rows(
              flow.rows(),
              (row, before, after) -> {
                writer.write(row, after);
                progress.accept(1);
              });
        }
      }
      poured.put(flow.table().name(), flow.rows().size());
    }
    return poured;
  }
}
