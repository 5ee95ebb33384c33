package yemble.core.plan;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import yemble.core.mask.Masks;
import yemble.core.name.ColumnName;
import yemble.core.pin.PinFile;
import yemble.core.pin.PinnedRows;
import yemble.core.pin.Pins;
import yemble.core.row.RowSet;
import yemble.core.schema.DataType;
import yemble.core.schema.Misfit;
import yemble.core.store.Reader;
import yemble.core.subset.Selection;
import yemble.core.wording.Sentence;

/** What stands against agreed stand-ins, seen before anything is loaded. */
final class PinClash {
  private static final int MOST = 20;

  private PinClash() {}

  /** The lines of a list whose value no column of a type can hold, with their places. */
  static List<Sentence> unfit(Pins pins, ColumnName name, DataType type) {
    List<Sentence> unfit = new ArrayList<>();
    Pins.Given given = pins.of(name).orElse(null);
    if (given == null || given.give().password()) {
      return unfit;
    }
    PinFile file = pins.list(given.list().name()).file();
    for (int line = 0; line < file.size() && unfit.size() < MOST; line++) {
      String value = file.value(line, given.field());
      Sentence reason = value.isEmpty() ? Sentence.NONE : Misfit.why(type, type.normal(value));
      if (!reason.isEmpty()) {
        unfit.add(
            LimitWording.PIN_MISFIT.of(given.give().field(), file.place(line), reason).about(name));
      }
    }
    return unfit;
  }

  /**
   * The stand-ins that some other row's value meets in a column that holds none twice, with both
   * places.
   *
   * @param caseless whether it passes over the case of letters
   */
  static List<Sentence> meeting(
      Reader source,
      Plan plan,
      TablePlan table,
      TablePlan.ColumnPlan column,
      Selection selection,
      Masks masks,
      RowSet rows,
      boolean caseless) {
    ColumnName name = table.table().name(column.column());
    Pins.Given given = plan.pins().of(name).orElseThrow();
    Pins.Resolved list = plan.pins().list(given.list().name());
    Map<String, Integer> lines = new HashMap<>();
    for (int line = 0; line < list.file().size(); line++) {
      String value = list.file().value(line, given.field());
      if (!value.isEmpty()) {
        lines.putIfAbsent(normal(value, caseless), line);
      }
    }
    PinnedRows pinned = new PinnedRows(source, plan.pins(), table.table().name());
    PinnedRows.Column theirs = pinned.column(name);
    int position = table.position(column.column().name());
    Map<Integer, Sentence> found = new TreeMap<>();
    rows.forEachPart(
        MOST * 1_000,
        some -> {
          pinned.about(some);
          new RowMasker(source, plan, table, selection, masks)
              .rows(
                  some,
                  (row, before, after) -> {
                    Integer line =
                        after[position] == null
                            ? null
                            : lines.get(normal(after[position].toString(), caseless));
                    int own = theirs.line(row);
                    boolean itself = own >= 0 && !list.file().value(own, given.field()).isEmpty();
                    if (line != null && !(itself && own == line)) {
                      found.putIfAbsent(
                          line,
                          itself
                              ? LimitWording.PIN_AT.of(list.file().place(own))
                              : LimitWording.MADE_FOR_ANOTHER.of(made(column)));
                    }
                  });
        });
    return found.entrySet().stream()
        .limit(MOST)
        .map(
            clash ->
                LimitWording.PIN_MEETS
                    .of(given.give().field(), list.file().place(clash.getKey()), clash.getValue())
                    .about(name))
        .toList();
  }

  /** By what a column is masked, and where that is said. */
  private static String made(TablePlan.ColumnPlan column) {
    String place = column.rule().place() == null ? "" : " (" + column.rule().place() + ")";
    return column.rule().words(column.kindName()) + place;
  }

  private static String normal(String value, boolean caseless) {
    return caseless ? value.toLowerCase(Locale.ROOT).stripTrailing() : value;
  }
}
