package yemble.core.plan;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import yemble.core.mask.Masks;
import yemble.core.mask.ValueMask;
import yemble.core.mask.step.Password;
import yemble.core.name.ColumnName;
import yemble.core.pin.PinnedRows;
import yemble.core.pin.Pins;
import yemble.core.row.Blanks;
import yemble.core.row.CellChange;
import yemble.core.row.RowSet;
import yemble.core.store.Reader;
import yemble.core.subset.Selection;

/**
 * Agreed stand-ins in the rows of one table: where a row is about somebody who has one, it takes
 * the place of what the column's mask makes. Cells that hold no value stay as the mask leaves them.
 * Belongs to one thread.
 */
final class RowPins {
  private static final int MOST_MADE = 1_000;

  /** From so many rows on they are looked up at once, and not batch by batch. */
  private static final int FEWEST_INDEXED = 1_000;

  private final PinnedRows rows;
  private final TablePlan table;
  private final Masks masks;
  private final Slot[] slots;
  private final boolean isEmpty;

  /** What a column takes. */
  private record Slot(PinnedRows.Column values, boolean password, Blanks blanks) {}

  /** Hashes of passwords, which take long to make. */
  private final Map<List<Object>, ValueMask> made =
      new LinkedHashMap<>(16, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<List<Object>, ValueMask> eldest) {
          return size() > MOST_MADE;
        }
      };

  RowPins(Reader source, Plan plan, TablePlan table, Selection selection, Masks masks) {
    this.table = table;
    this.masks = masks;
    this.slots = new Slot[table.columns().size()];
    this.isEmpty = table.columns().stream().noneMatch(TablePlan.ColumnPlan::isPinned);
    this.rows = isEmpty ? null : rows(source, plan, table, selection);
    for (int i = 0; i < slots.length; i++) {
      TablePlan.ColumnPlan column = table.columns().get(i);
      if (column.isPinned()) {
        ColumnName name = table.table().name(column.column());
        Pins.Given given = plan.pins().of(name).orElseThrow();
        slots[i] =
            new Slot(rows.column(name), given.give().password(), Blanks.of(column.rule().also()));
      }
    }
  }

  private static PinnedRows rows(Reader source, Plan plan, TablePlan table, Selection selection) {
    RowSet selected = selection.part(table.table().name()).in();
    return selected.size() < FEWEST_INDEXED
        ? new PinnedRows(source, plan.pins(), table.table().name())
        : plan.pinnedRows(source, table.table().name(), selected);
  }

  /** Whether no column of the table takes a stand-in. */
  boolean isEmpty() {
    return isEmpty;
  }

  /** Whether it must be told of rows before they come. */
  boolean isTold() {
    return !isEmpty && !rows.isIndexed();
  }

  /** Looks up the rows that come next. */
  void about(RowSet coming) {
    if (!isEmpty) {
      rows.about(coming);
    }
  }

  /** Whether a row has a stand-in in a column, of the rows that were looked up last. */
  boolean stands(long row, int position) {
    return slots[position] != null && !slots[position].values().of(row).isEmpty();
  }

  /** Puts stand-ins into a row that is masked otherwise. */
  void apply(long row, Object[] before, Object[] after) {
    for (int i = 0; i < slots.length; i++) {
      if (slots[i] != null) {
        String value = standIn(row, i, before[i]);
        after[i] = value.isEmpty() ? after[i] : made(i, before[i], value);
      }
    }
  }

  /** What takes a cell's place; an empty text if nothing does. */
  private String standIn(long row, int position, Object before) {
    Slot slot = slots[position];
    return slot.blanks().stays(before) ? "" : slot.values().of(row);
  }

  private Object made(int position, Object before, String value) {
    if (!slots[position].password()) {
      return ValueMask.like(before, value);
    }
    TablePlan.ColumnPlan column = table.columns().get(position);
    return made.computeIfAbsent(
            List.of(position, value),
            v ->
                masks.values(
                    masks.of(
                        column.kind(),
                        column.rule().notKeyed().withSteps(List.of(new Password(value)))),
                    column.rule().also()))
        .apply(before);
  }

  /** What becomes of a cell that is masked otherwise, if the row has no stand-in for it. */
  Object changed(long row, int position, Object value, CellChange otherwise) {
    if (slots[position] == null) {
      return otherwise.changed(row, value);
    }
    String standIn = standIn(row, position, value);
    return standIn.isEmpty() ? otherwise.changed(row, value) : made(position, value, standIn);
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
          public boolean isTold() {
            return RowPins.this.isTold();
          }

          @Override
          public void batch(RowSet coming) {
            about(coming);
          }

          @Override
          public Object apply(long row, Object value) {
            return changed(row, position, value, otherwise);
          }
        },
        otherwise.blanks());
  }
}
