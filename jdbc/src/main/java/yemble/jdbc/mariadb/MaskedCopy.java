package yemble.jdbc.mariadb;

import java.util.ArrayList;
import java.util.List;
import java.util.function.LongConsumer;
import java.util.function.Supplier;
import yemble.core.row.CellChange;
import yemble.core.row.RowSet;
import yemble.core.schema.Table;
import yemble.core.store.Maskers;
import yemble.jdbc.ways.LoadDataRows;

/**
 * Copies rows from server to server: one thread reads, as many as there are processors mask and
 * write the text of LOAD DATA, one sends it. Texts that are kept travel as bytes.
 */
final class MaskedCopy {
  private static final int ROWS_AT_ONCE = 1_000;

  private final LoadDataRows source;
  private final Table table;
  private final boolean[] raw;
  private final Supplier<List<CellChange>> changes;
  private final ColumnForm[] forms;
  private final RowSink sink;
  private final LongConsumer progress;

  /**
   * @param raw which of {@link Table#written()} are read as bytes
   * @param forms of the same columns in the target
   * @param changes makes the changes, for one thread each time
   */
  MaskedCopy(
      LoadDataRows source,
      Table table,
      boolean[] raw,
      ColumnForm[] forms,
      Supplier<List<CellChange>> changes,
      RowSink sink,
      LongConsumer progress) {
    this.source = source;
    this.table = table;
    this.raw = raw;
    this.forms = forms;
    this.changes = changes;
    this.sink = sink;
    this.progress = progress;
  }

  /** Copies some rows. */
  void copy(RowSet rows) {
    if (rows.size() <= ROWS_AT_ONCE) {
      CellChange[] mine = changes.get().toArray(new CellChange[0]);
      source.rows(
          table,
          rows,
          raw,
          (row, values) -> {
            change(mine, row, values);
            sink.write(values);
          });
      progress.accept(rows.size());
      return;
    }
    try (Maskers maskers = new Maskers(changes)) {
      List<Object[]> waiting = new ArrayList<>(ROWS_AT_ONCE);
      long[] numbers = new long[ROWS_AT_ONCE];
      source.rows(
          table,
          rows,
          raw,
          (row, values) -> {
            numbers[waiting.size()] = row;
            waiting.add(values.clone());
            if (waiting.size() == ROWS_AT_ONCE) {
              hand(maskers, numbers, waiting);
            }
          });
      hand(maskers, numbers, waiting);
    }
  }

  private void hand(Maskers maskers, long[] numbers, List<Object[]> waiting) {
    List<Object[]> rows = List.copyOf(waiting);
    long[] theirs = numbers.clone();
    waiting.clear();
    progress.accept(rows.size());
    sink.hand(maskers.mask(own -> masked(own, theirs, rows)));
  }

  private LoadText.Block masked(CellChange[] own, long[] numbers, List<Object[]> rows) {
    LoadText.Block block = new LoadText.Block(rows.size() * 128);
    for (int i = 0; i < rows.size(); i++) {
      change(own, numbers[i], rows.get(i));
      block.row(rows.get(i), forms);
    }
    return block;
  }

  private static void change(CellChange[] changes, long row, Object[] values) {
    for (int i = 0; i < changes.length; i++) {
      values[i] = changes[i].apply(row, values[i]);
    }
  }
}
