package yemble.core.plan;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import yemble.core.mask.Masks;
import yemble.core.mask.ValueMask;
import yemble.core.name.ColumnName;
import yemble.core.pin.PinnedRows;
import yemble.core.pin.Pins;
import yemble.core.project.MaskStep;
import yemble.core.store.CellChange;
import yemble.core.store.Reader;
import yemble.core.store.RowSet;

/**
 * Agreed stand-ins in the rows of one table: where a row is about somebody who has one, it takes
 * the place of what the column's mask makes. Cells that hold no value stay as the mask leaves them.
 * Belongs to one thread.
 */
final class RowPins {
  private static final int MOST_MADE = 1_000;

  private final PinnedRows rows;
  private final TablePlan table;
  private final Masks masks;
  private final Pins pins;
  private final int[] positions;

  /** Hashes of passwords, which take long to make. */
  private final Map<List<Object>, ValueMask> made =
      new LinkedHashMap<>(16, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<List<Object>, ValueMask> eldest) {
          return size() > MOST_MADE;
        }
      };

  RowPins(Reader source, Pins pins, TablePlan table, Masks masks) {
    this.rows = new PinnedRows(source, pins, table.table().name());
    this.table = table;
    this.masks = masks;
    this.pins = pins;
    this.positions =
        IntStream.range(0, table.columns().size())
            .filter(i -> table.columns().get(i).isPinned())
            .toArray();
  }

  /** Whether no column of the table takes a stand-in. */
  boolean isEmpty() {
    return positions.length == 0;
  }

  /** Looks up the rows that come next. */
  void about(RowSet coming) {
    rows.about(coming);
  }

  /** Puts stand-ins into a row that is masked otherwise. */
  void apply(long row, Object[] before, Object[] after) {
    for (int position : positions) {
      after[position] = standIn(row, position, before[position], after[position]);
    }
  }

  /** Whether a row has a stand-in in a column, of the rows that were looked up last. */
  boolean stands(long row, int position) {
    TablePlan.ColumnPlan column = table.columns().get(position);
    return column.isPinned() && !rows.standIn(row, table.table().name(column.column())).isEmpty();
  }

  private Object standIn(long row, int position, Object before, Object masked) {
    TablePlan.ColumnPlan column = table.columns().get(position);
    ColumnName name = table.table().name(column.column());
    String value = rows.standIn(row, name);
    if (value.isEmpty()) {
      return masked;
    }
    boolean password = pins.of(name).orElseThrow().give().password();
    MaskStep step = password ? new MaskStep.Password(value) : new MaskStep.Fixed(value);
    ValueMask mask =
        password
            ? made.computeIfAbsent(List.of(position, value), v -> mask(column, step))
            : mask(column, step);
    return mask.apply(before);
  }

  private ValueMask mask(TablePlan.ColumnPlan column, MaskStep step) {
    return masks.values(
        masks.of(column.kind(), column.rule().notKeyed().withSteps(List.of(step))),
        column.rule().also());
  }

  /** What becomes of the cells of a column, where rows are copied in blocks. */
  CellChange cells(int position, CellChange otherwise) {
    return CellChange.by(
        new CellChange.Function() {
          @Override
          public boolean needsRows() {
            return true;
          }

          @Override
          public void batch(RowSet coming) {
            about(coming);
          }

          @Override
          public Object apply(long row, Object value) {
            return standIn(row, position, value, otherwise.changed(row, value));
          }
        },
        otherwise.blanks());
  }
}
