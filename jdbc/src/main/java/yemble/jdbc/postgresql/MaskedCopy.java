package yemble.jdbc.postgresql;

import java.util.ArrayList;
import java.util.List;
import java.util.function.LongConsumer;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.store.CellChange;
import yemble.core.store.RowSet;

/**
 * Copies rows from a source to a target as the text of COPY: only the fields that change are
 * decoded, the bytes of all others pass through.
 */
final class MaskedCopy {
  /** How many rows wait until the changes that look at whole rows have been told of them. */
  private static final int CHUNK = 2_000;

  private static final int PROGRESS = 4_096;

  private final PostgresqlReader source;
  private final Table table;
  private final ColumnType[] types;
  private final CellChange[] changes;
  private final CopyWriter writer;
  private final LongConsumer progress;
  private final boolean needsRows;
  private final List<byte[]> lines = new ArrayList<>();
  private final RowSet chunk = new RowSet();
  private final List<Long> numbers = new ArrayList<>();
  private final int[] chunkEnds;
  private long copied;

  MaskedCopy(
      PostgresqlReader source,
      Table table,
      List<CellChange> changes,
      CopyWriter writer,
      LongConsumer progress) {
    this.source = source;
    this.table = table;
    this.types = source.catalog().storage(table.name()).types(table.written());
    this.changes = changes.toArray(new CellChange[0]);
    this.writer = writer;
    this.progress = progress;
    this.needsRows = changes.stream().anyMatch(CellChange::needsRows);
    this.chunkEnds = new int[source.numbers(table.name()).width() + types.length];
  }

  /** Copies some rows. */
  void copy(RowSet rows) {
    List<Column> columns = table.written();
    boolean whole =
        rows.size() == source.count(table)
            && !source.catalog().storage(table.name()).partitioned()
            && !columns.isEmpty();
    if (whole && !needsRows) {
      source.lines(table, columns, this::write);
    } else {
      source.lines(
          table,
          rows,
          columns,
          (row, line, ends, skip) -> {
            if (needsRows) {
              hold(row, line);
            } else {
              write(row, line, ends, skip);
            }
          });
    }
    flush();
    progress.accept(copied);
  }

  private void hold(long row, byte[] line) {
    lines.add(line);
    numbers.add(row);
    chunk.add(row);
    if (lines.size() == CHUNK) {
      flush();
    }
  }

  private void flush() {
    if (lines.isEmpty()) {
      return;
    }
    RowSet told = chunk.copy();
    for (CellChange change : changes) {
      if (change.needsRows()) {
        change.batch(told);
      }
    }
    for (int i = 0; i < lines.size(); i++) {
      CopyText.split(lines.get(i), chunkEnds);
      write(numbers.get(i), lines.get(i), chunkEnds, chunkEnds.length - types.length);
    }
    chunk.removeAll(told);
    lines.clear();
    numbers.clear();
  }

  private void write(long row, byte[] line, int[] ends, int skip) {
    CopyText.Block block = writer.block();
    int pending = skip == 0 ? 0 : ends[skip - 1] + 1;
    for (int i = 0; i < changes.length; i++) {
      CellChange change = changes[i];
      if (change == CellChange.KEEP) {
        continue;
      }
      int at = skip + i;
      int from = at == 0 ? 0 : ends[at - 1] + 1;
      int to = ends[at];
      if (from == to || CopyText.isNull(line, from, to)) {
        continue;
      }
      block.raw(line, pending, from);
      block.value(change.apply(row, types[i].value(line, from, to)));
      pending = to;
    }
    if (changes.length > 0) {
      block.raw(line, pending, line.length - 1);
    }
    writer.endRow();
    if (++copied == PROGRESS) {
      progress.accept(copied);
      copied = 0;
    }
  }
}
