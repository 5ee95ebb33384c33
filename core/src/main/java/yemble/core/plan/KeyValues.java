package yemble.core.plan;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import yemble.core.mark.Digest;
import yemble.core.mask.Masks;
import yemble.core.mask.ValueMask;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.store.Reader;
import yemble.core.subset.Selection;

/**
 * The masked values of a key, all rows of it: how many meet. Of each row eight bytes are kept, a
 * digest under a key of this process; that two different values of a hundred million have the same
 * one has a chance below 1 in 3,000.
 */
final class KeyValues {
  private final Reader source;
  private final TablePlan table;
  private final List<Column> columns;
  private final ValueMask[] masks;
  private final int[] masked;
  private final RowMasker masker;

  private KeyValues(
      Reader source,
      TablePlan table,
      List<Column> columns,
      ValueMask[] masks,
      int[] masked,
      RowMasker masker) {
    this.source = source;
    this.table = table;
    this.columns = columns;
    this.masks = masks;
    this.masked = masked;
    this.masker = masker;
  }

  /** The values of a key; null if its masks cannot let any two meet. */
  static KeyValues of(
      Reader source,
      Plan plan,
      TablePlan table,
      List<String> key,
      Selection selection,
      Masks masks) {
    ValueMask[] made = new ValueMask[key.size()];
    boolean mayMeet = false;
    boolean byRow = false;
    int[] masked =
        key.stream()
            .mapToInt(table::position)
            .filter(position -> position >= 0 && table.columns().get(position).masked())
            .toArray();
    for (int i = 0; i < made.length; i++) {
      TablePlan.ColumnPlan column = table.column(key.get(i));
      if (column == null) {
        return null;
      }
      if (column.masked()) {
        byRow |= column.rule().readsRow() || column.isText() || column.isPinned();
        made[i] =
            byRow
                ? null
                : masks.values(
                    masks.of(column.kind(), column.rule().notKeyed()), column.rule().also());
        // What fills cells that hold no value gives all of them the same one.
        mayMeet |= byRow || made[i].mayMeet() || !column.rule().also().isEmpty();
      }
    }
    return mayMeet
        ? new KeyValues(
            source,
            table,
            key.stream().map(name -> table.table().column(name).orElseThrow()).toList(),
            made,
            masked,
            byRow ? new RowMasker(source, plan, table, selection, masks) : null)
        : null;
  }

  /** The positions of its masked columns in the table. */
  int[] masked() {
    return masked;
  }

  /**
   * What was found of a key.
   *
   * @param rows how many hold values that another row before them holds
   * @param values how many rows were looked at: keys with a NULL in them do not count
   */
  record Meeting(long rows, long values) {}

  /** Which rows hold values that another row holds, too. */
  Meeting meeting(RowSet rows, boolean caseless) {
    long[] digests = new long[(int) rows.size()];
    int[] count = new int[1];
    Digest digest = new Digest();
    int[] all = new int[columns.size()];
    Arrays.setAll(all, i -> i);
    if (masker == null) {
      source.rows(
          table.table(),
          rows,
          columns,
          (row, values) -> {
            for (int i = 0; i < masks.length; i++) {
              values[i] = masks[i] == null ? values[i] : masks[i].apply(values[i]);
            }
            add(digests, count, digest, all, values, caseless);
          });
    } else {
      int[] positions = columns.stream().mapToInt(c -> table.position(c.name())).toArray();
      masker.rows(
          rows,
          (row, before, after) -> {
            Object[] values = Arrays.stream(positions).mapToObj(i -> after[i]).toArray();
            add(digests, count, digest, all, values, caseless);
          });
    }
    Arrays.sort(digests, 0, count[0]);
    long meeting = 0;
    for (int i = 1; i < count[0]; i++) {
      meeting += digests[i] == digests[i - 1] ? 1 : 0;
    }
    return new Meeting(meeting, count[0]);
  }

  private static void add(
      long[] digests, int[] count, Digest digest, int[] all, Object[] values, boolean caseless) {
    for (int i = 0; i < values.length; i++) {
      if (values[i] == null) {
        return;
      }
      if (caseless && values[i] instanceof String text) {
        values[i] = text.toLowerCase(Locale.ROOT).stripTrailing();
      }
    }
    if (count[0] < digests.length) {
      digests[count[0]++] = digest.of(values, all);
    }
  }
}
