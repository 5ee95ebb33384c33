package yemble.core.pin;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.row.RowSet;
import yemble.core.row.Values;
import yemble.core.store.Reader;

/**
 * Which line of a list the rows of a table are about, asked for a set of rows at a time, or for all
 * of them at once. Belongs to one thread, unless it is {@linkplain #isIndexed indexed}.
 */
public final class PinnedRows {
  private static final int BATCH = 50_000;

  private final Reader source;
  private final Pins pins;
  private final boolean indexed;
  private final Map<Asked, Answer> answers = new LinkedHashMap<>();

  /** A list, and a way on which it is asked. */
  private record Asked(String list, PinWay way) {
    static Asked of(Pins.Given given) {
      return new Asked(given.list().name(), given.way());
    }
  }

  /** What came of that, for the rows that were looked up last. */
  private static final class Answer {
    private final PinKey.Maker maker;
    private PinnedLines lines = new PinnedLines();

    Answer(PinKey.Maker maker) {
      this.maker = maker;
    }
  }

  /** Asked for a batch at a time. */
  public PinnedRows(Reader source, Pins pins, TableName table) {
    this(source, pins, table, false);
  }

  private PinnedRows(Reader source, Pins pins, TableName table, boolean indexed) {
    this.source = source;
    this.pins = pins;
    this.indexed = indexed;
    pins.columns()
        .forEach(
            (column, given) -> {
              if (column.table().equals(table)) {
                answers.computeIfAbsent(
                    Asked.of(given), asked -> new Answer(pins.keys(given.list())));
              }
            });
  }

  /** All rows of a set at once: whoever asks about them later need not say so before. */
  public static PinnedRows indexed(Reader source, Pins pins, TableName table, RowSet rows) {
    PinnedRows all = new PinnedRows(source, pins, table, true);
    all.lookUp(rows);
    return all;
  }

  /** Whether all rows that are asked about are known. */
  public boolean isIndexed() {
    return indexed;
  }

  /** Looks up the rows that are asked about next. */
  public void about(RowSet rows) {
    if (!indexed) {
      lookUp(rows);
    }
  }

  private void lookUp(RowSet rows) {
    answers.forEach(
        (asked, answer) ->
            answer.lines = lines(source, pins.list(asked.list()), answer.maker, asked.way(), rows));
  }

  private static PinnedLines lines(
      Reader source, Pins.Resolved list, PinKey.Maker maker, PinWay way, RowSet rows) {
    PinnedLines found = new PinnedLines();
    if (rows.isEmpty() || list.file().size() == 0) {
      return found;
    }
    if (way.steps().isEmpty()) {
      // In one go: of a million rows no more is held than which of them are on the list.
      values(source, list, maker, rows, (row, key) -> put(found, row, list.file().line(key)));
      return found;
    }
    rows.forEachPart(
        BATCH,
        some ->
            keys(source, list, maker, way, some)
                .forEach((row, key) -> put(found, row, list.file().line(key))));
    return found;
  }

  private static void put(PinnedLines found, long row, int line) {
    if (line >= 0) {
      found.put(row, line);
    }
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
      values(source, list, maker, rows, keys::put);
      return keys;
    }
    Map<Long, Long> ends = way.ends(source, rows);
    RowSet people = new RowSet();
    ends.values().forEach(people::add);
    Map<Long, PinKey> theirs = new HashMap<>();
    if (!people.isEmpty()) {
      values(source, list, maker, people, theirs::put);
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
      Reader source,
      Pins.Resolved list,
      PinKey.Maker maker,
      RowSet rows,
      BiConsumer<Long, PinKey> into) {
    source.rows(
        list.table(),
        rows,
        List.of(list.by()),
        (row, values) -> {
          String value =
              values[0] == null || values[0] instanceof byte[] ? "" : Values.text(values[0]);
          if (!value.isBlank()) {
            into.accept(row, maker.of(value));
          }
        });
  }

  /** Shows the keys of rows of a list's own table, in one pass. */
  public static void people(
      Reader source,
      Pins.Resolved list,
      PinKey.Maker maker,
      RowSet people,
      BiConsumer<Long, PinKey> visitor) {
    if (!people.isEmpty()) {
      values(source, list, maker, people, visitor);
    }
  }

  /** What a column takes that takes something. */
  public Column column(ColumnName column) {
    return new Column(pins.of(column).orElseThrow());
  }

  /** What a column takes, by rows. */
  public final class Column {
    private final Answer answer;
    private final PinFile file;
    private final int field;

    private Column(Pins.Given given) {
      this.answer = answers.get(Asked.of(given));
      this.file = pins.list(given.list().name()).file();
      this.field = given.field();
    }

    /**
     * The line that a row is about, of those that were looked up last.
     *
     * @return -1 if it is about none
     */
    public int line(long row) {
      return answer.lines.get(row);
    }

    /**
     * The stand-in for a row's value, as the list has it: of a password the password.
     *
     * @return an empty text if there is none
     */
    public String of(long row) {
      int line = line(row);
      return line < 0 ? "" : file.value(line, field);
    }
  }
}
