package yemble.core.job;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import yemble.core.name.TableName;
import yemble.core.pin.PinFile;
import yemble.core.pin.PinKey;
import yemble.core.pin.PinnedRows;
import yemble.core.pin.Pins;
import yemble.core.row.RowSet;

/**
 * Who of some rows has an agreed stand-in. Counts rows of the table that says who it is.
 *
 * @param pinned who has one, at least for one column; the new ones included
 * @param added who got it during this command
 * @param replaced who bears one already, as the copy's mark says
 * @param ambiguous of whom two lines say different things: the mask decides
 * @param without who has none
 * @param unused lines of the file that speak of none of the rows
 * @param unfilled lines that have no value yet
 * @param lines of the file
 */
public record PinCounts(
    String list,
    long pinned,
    long added,
    long replaced,
    long ambiguous,
    long without,
    long unused,
    long unfilled,
    long lines) {
  /** The counts of every list of a job. */
  static List<PinCounts> of(
      Preparation job,
      Function<Pins.Resolved, RowSet> rows,
      Map<String, PinFilling.Filled> filled,
      Function<TableName, Long> replaced) {
    List<PinCounts> all = new ArrayList<>();
    for (Pins.Resolved list : job.plan().pins().lists()) {
      PinFilling.Filled now = filled.getOrDefault(list.list().name(), PinFilling.Filled.NOTHING);
      TableName table = list.table().name();
      all.add(of(job, list, rows.apply(list), now.added(), replaced.apply(table)));
    }
    return all;
  }

  private static PinCounts of(
      Preparation job, Pins.Resolved list, RowSet people, long added, long replaced) {
    PinFile file = list.file();
    PinKey.Maker maker = job.plan().pins().keys(list.list());
    long[] counts = new long[3];
    Set<PinKey> met = new HashSet<>();
    PinnedRows.people(
        job.source(),
        list,
        maker,
        people,
        (row, key) -> {
          int line = file.line(key);
          if (line >= 0 || file.isAmbiguous(key)) {
            met.add(key);
          }
          counts[line >= 0 && !isEmpty(file, line) ? 0 : file.isAmbiguous(key) ? 1 : 2]++;
        });
    long unfilled = 0;
    Set<PinKey> keys = new HashSet<>();
    for (int line = 0; line < file.size(); line++) {
      keys.add(file.key(line));
      unfilled += isEmpty(file, line) ? 1 : 0;
    }
    return new PinCounts(
        list.list().name(),
        counts[0],
        added,
        replaced,
        counts[1],
        counts[2],
        keys.size() - met.size(),
        unfilled,
        file.size());
  }

  private static boolean isEmpty(PinFile file, int line) {
    for (int field = 0; field < file.fields().size(); field++) {
      if (!file.value(line, field).isEmpty()) {
        return false;
      }
    }
    return true;
  }
}
