package yemble.core.pin;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.store.Reader;
import yemble.core.store.RowSet;
import yemble.core.store.Values;

/**
 * Which line of a list the rows of a table are about, asked for a set of rows at a time. Belongs to
 * one thread.
 */
public final class PinnedRows {
  private final Reader source;
  private final Map<Asked, PinKey.Maker> asked = new LinkedHashMap<>();
  private final Map<Asked, Map<Long, Integer>> lines = new HashMap<>();
  private final Pins pins;

  /** A list, and a way on which it is asked. */
  private record Asked(String list, PinWay way) {}

  public PinnedRows(Reader source, Pins pins, TableName table) {
    this.source = source;
    this.pins = pins;
    pins.columns()
        .forEach(
            (column, given) -> {
              if (column.table().equals(table)) {
                asked.computeIfAbsent(asked(given), a -> pins.keys(given.list()));
              }
            });
  }

  private static Asked asked(Pins.Given given) {
    return new Asked(given.list().name(), given.way());
  }

  /** Looks up the rows that are asked about next. */
  public void about(RowSet rows) {
    asked.forEach(
        (each, maker) ->
            lines.put(each, lines(source, pins.list(each.list()), maker, each.way(), rows)));
  }

  private static Map<Long, Integer> lines(
      Reader source, Pins.Resolved list, PinKey.Maker maker, PinWay way, RowSet rows) {
    Map<Long, Integer> found = new HashMap<>();
    keys(source, list, maker, way, rows)
        .forEach(
            (row, key) -> {
              int line = list.file().line(key);
              if (line >= 0) {
                found.put(row, line);
              }
            });
    return found;
  }

  /**
   * Whom the rows of a set are about.
   *
   * @param way on which they lead there
   * @return by row; without those that are about nobody
   */
  public static Map<Long, PinKey> keys(
      Reader source, Pins.Resolved list, PinKey.Maker maker, PinWay way, RowSet rows) {
    Map<Long, PinKey> keys = new HashMap<>();
    if (rows.isEmpty()) {
      return keys;
    }
    if (way.steps().isEmpty()) {
      values(source, list, maker, rows, keys);
      return keys;
    }
    Map<Long, Long> ends = way.ends(source, rows);
    RowSet people = new RowSet();
    ends.values().forEach(people::add);
    Map<Long, PinKey> theirs = new HashMap<>();
    if (!people.isEmpty()) {
      values(source, list, maker, people, theirs);
    }
    ends.forEach(
        (row, person) -> {
          PinKey key = theirs.get(person);
          if (key != null) {
            keys.put(row, key);
          }
        });
    return keys;
  }

  private static void values(
      Reader source, Pins.Resolved list, PinKey.Maker maker, RowSet rows, Map<Long, PinKey> into) {
    source.rows(
        list.table(),
        rows,
        List.of(list.by()),
        (row, values) -> {
          String value =
              values[0] == null || values[0] instanceof byte[] ? "" : Values.text(values[0]);
          if (!value.isBlank()) {
            into.put(row, maker.of(value));
          }
        });
  }

  /** The keys of rows of a list's own table. */
  public static Map<Long, PinKey> keys(
      Reader source, Pins.Resolved list, PinKey.Maker maker, RowSet people) {
    return keys(source, list, maker, new PinWay(List.of()), people);
  }

  /**
   * The line that a row is about in what a column takes, of those that were looked up last.
   *
   * @return -1 if it is about none
   */
  public int line(Pins.Given given, long row) {
    Integer line = lines.getOrDefault(asked(given), Map.of()).get(row);
    return line == null ? -1 : line;
  }

  /**
   * The stand-in for a row's value in a column, as the list has it: of a password the password.
   *
   * @return an empty text if there is none
   */
  public String standIn(long row, ColumnName column) {
    Pins.Given given = pins.of(column).orElse(null);
    if (given == null) {
      return "";
    }
    int line = line(given, row);
    return line < 0 ? "" : pins.list(given.list().name()).file().value(line, given.field());
  }
}
