package yemble.jdbc.postgresql;

import java.util.ArrayList;
import java.util.List;
import java.util.function.LongConsumer;
import java.util.function.Supplier;
import yemble.core.row.CellChange;
import yemble.core.row.RowSet;
import yemble.core.schema.Table;
import yemble.core.store.Maskers;
import yemble.jdbc.ways.CopyLines;

/**
 * Copies rows from a source to a target as the text of COPY: only the fields that change are
 * decoded, the bytes of all others pass through. One thread reads, one writes, and where fields are
 * masked as many as there are processors mask in between; rows stay in their order.
 */
final class MaskedCopy {
  /** How many rows wait until the changes that look at whole rows have been told of them. */
  private static final int CHUNK = 2_000;

  /** How many bytes of rows are masked at a time. */
  private static final int MASKED_AT_ONCE = 1 << 17;

  private static final int PROGRESS = 4_096;

  private final CopyLines source;
  private final Table table;
  private final List<CopyLines.Field> fields;
  private final Supplier<List<CellChange>> changes;
  private final CopyWriter writer;
  private final LongConsumer progress;
  private long copied;

  /**
   * @param changes makes the changes, for one thread each time
   */
  MaskedCopy(
      CopyLines source,
      Table table,
      Supplier<List<CellChange>> changes,
      CopyWriter writer,
      LongConsumer progress) {
    this.source = source;
    this.table = table;
    this.fields = source.fields(table);
    this.changes = changes;
    this.writer = writer;
    this.progress = progress;
  }

  /** Copies some rows. */
  void copy(RowSet rows) {
    CellChange[] mine = changes.get().toArray(new CellChange[0]);
    if (has(mine, CellChange::isTold)) {
      InChunks chunks = new InChunks(mine);
      source.lines(table, rows, true, (row, line, ends, skip) -> chunks.add(row, line, skip));
      chunks.flush();
    } else if (has(mine, change -> !change.keeps() && !change.clears()) && rows.size() > CHUNK) {
      inParallel(rows, has(mine, CellChange::needsRows));
    } else {
      source.lines(
          table,
          rows,
          has(mine, CellChange::needsRows),
          (row, line, ends, skip) -> {
            write(mine, row, line, ends, skip, writer.block());
            writer.endRow();
            count(1);
          });
    }
    progress.accept(copied);
  }

  private static boolean has(
      CellChange[] changes, java.util.function.Predicate<CellChange> condition) {
    return java.util.Arrays.stream(changes).anyMatch(condition);
  }

  private void count(int rows) {
    copied += rows;
    if (copied >= PROGRESS) {
      progress.accept(copied);
      copied = 0;
    }
  }

  /**
   * @param numbered whether the changes must know the numbers of rows
   */
  private void inParallel(RowSet rows, boolean numbered) {
    try (Maskers maskers = new Maskers(changes)) {
      List<byte[]> lines = new ArrayList<>();
      List<Long> numbers = new ArrayList<>();
      int[] state = new int[2];
      source.lines(
          table,
          rows,
          numbered,
          (row, line, ends, skip) -> {
            lines.add(line);
            if (numbered) {
              numbers.add(row);
            }
            state[0] += line.length;
            state[1] = skip;
            if (state[0] >= MASKED_AT_ONCE) {
              hand(maskers, numbers, lines, skip);
              state[0] = 0;
            }
          });
      hand(maskers, numbers, lines, state[1]);
    }
  }

  private void hand(Maskers maskers, List<Long> numbers, List<byte[]> waiting, int skip) {
    List<byte[]> lines = List.copyOf(waiting);
    List<Long> theirs = List.copyOf(numbers);
    waiting.clear();
    numbers.clear();
    count(lines.size());
    writer.hand(maskers.mask(own -> masked(own, theirs, lines, skip)));
  }

  /**
   * @param numbers of the rows; none if nobody asks for them
   */
  private CopyText.Block masked(
      CellChange[] own, List<Long> numbers, List<byte[]> lines, int skip) {
    CopyText.Block block = new CopyText.Block(MASKED_AT_ONCE + MASKED_AT_ONCE / 4);
    int[] ends = new int[skip + Math.max(1, fields.size())];
    for (int i = 0; i < lines.size(); i++) {
      CopyText.split(lines.get(i), ends);
      write(own, numbers.isEmpty() ? 0 : numbers.get(i), lines.get(i), ends, skip, block);
      block.raw('\n');
    }
    return block;
  }

  /** Rows that wait until the changes that look at whole rows have been told of them. */
  private final class InChunks {
    private final CellChange[] mine;
    private final List<byte[]> lines = new ArrayList<>();
    private final List<Long> numbers = new ArrayList<>();
    private int skip;

    InChunks(CellChange[] mine) {
      this.mine = mine;
    }

    void add(long row, byte[] line, int leading) {
      skip = leading;
      lines.add(line);
      numbers.add(row);
      if (lines.size() == CHUNK) {
        flush();
      }
    }

    void flush() {
      RowSet told = new RowSet();
      numbers.forEach(told::add);
      for (CellChange change : mine) {
        if (change.isTold() && !told.isEmpty()) {
          change.batch(told);
        }
      }
      int[] ends = new int[skip + fields.size()];
      for (int i = 0; i < lines.size(); i++) {
        CopyText.split(lines.get(i), ends);
        write(mine, numbers.get(i), lines.get(i), ends, skip, writer.block());
        writer.endRow();
      }
      count(lines.size());
      lines.clear();
      numbers.clear();
    }
  }

  /** Whether a field passes through without being decoded. */
  private static boolean leaves(CellChange change, long row, boolean none, boolean empty) {
    return none
        ? !change.blanks().nulls()
        : empty && !change.blanks().empties() && !change.clears(row);
  }

  private void write(
      CellChange[] own, long row, byte[] line, int[] ends, int skip, CopyText.Block block) {
    int pending = skip == 0 ? 0 : ends[skip - 1] + 1;
    for (int i = 0; i < own.length; i++) {
      CellChange change = own[i];
      if (change.keeps()) {
        continue;
      }
      int at = skip + i;
      int from = at == 0 ? 0 : ends[at - 1] + 1;
      int to = ends[at];
      boolean none = CopyText.isNull(line, from, to);
      if (leaves(change, row, none, from == to)) {
        continue;
      }
      block.raw(line, pending, from);
      block.value(change.apply(row, none ? null : fields.get(i).value(line, from, to)));
      pending = to;
    }
    if (own.length > 0) {
      block.raw(line, pending, line.length - 1);
    }
  }
}
