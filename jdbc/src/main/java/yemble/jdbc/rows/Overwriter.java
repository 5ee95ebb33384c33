package yemble.jdbc.rows;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;
import java.util.function.LongConsumer;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.schema.Column;
import yemble.core.store.InPlace.Edited;
import yemble.core.store.InPlace.Part;
import yemble.core.store.InPlace.Way;
import yemble.core.store.Waited;
import yemble.core.wording.Sentence;

/**
 * The statements that put rows in the place of others: rows wait in tables of their own, with all
 * columns that are written, and are found by the key that they have in common.
 */
public final class Overwriter {
  private final MergeDialect sql;
  private final Function<TableName, String> written;

  public Overwriter(MergeDialect sql) {
    this(sql, null);
  }

  /**
   * @param written how statements name what was written for a table before; null where nothing is
   *     known of it, and rows are rewritten whatever they are
   */
  public Overwriter(MergeDialect sql, Function<TableName, String> written) {
    this.sql = sql;
    this.written = written;
  }

  /** The columns that tell whether a row is still what it was. */
  private static List<Column> others(Part part) {
    return part.table().written().stream()
        .filter(column -> !part.table().primaryKey().contains(column.name()))
        .toList();
  }

  /** Whether a row is another one, but for its key, than one whose columns have another lead. */
  private String differ(Part part, String one, String other, String lead) {
    List<Column> columns = others(part);
    return columns.isEmpty()
        ? "1 = 0"
        : IntStream.range(0, columns.size())
            .mapToObj(
                i ->
                    sql.differs(
                        columns.get(i),
                        one + "." + sql.quoted(columns.get(i).name()),
                        other
                            + "."
                            + (lead.isEmpty() ? sql.quoted(columns.get(i).name()) : lead + i)))
            .map(test -> "(" + test + ")")
            .collect(Collectors.joining(" OR "));
  }

  /** How many rows are what waits for them; where no key tells, all of them or none. */
  public long alike(Part part) throws SQLException {
    TableName table = part.table().name();
    if (part.way() == Way.BY_KEY) {
      return Long.parseLong(
          sql.one(
              "SELECT count(*) FROM "
                  + sql.staged(table)
                  + " s JOIN "
                  + sql.target(table)
                  + " t ON "
                  + same(part, "s", "t")
                  + " WHERE NOT ("
                  + differ(part, "s", "t", "")
                  + ")"));
    }
    return faults(part).isEmpty()
        ? Long.parseLong(sql.one("SELECT count(*) FROM " + sql.target(table)))
        : -1;
  }

  /**
   * The rows that are neither what was written nor what waits.
   *
   * @param most of how many the keys are told
   */
  public Edited edited(Part part, int most) throws SQLException {
    TableName table = part.table().name();
    String those =
        " FROM "
            + written.apply(table)
            + " w JOIN "
            + sql.staged(table)
            + " s ON "
            + same(part, "w", "s")
            + " LEFT JOIN "
            + sql.target(table)
            + " t ON "
            + same(part, "w", "t")
            + " WHERE t."
            + sql.quoted(key(part))
            + " IS NULL OR (("
            + differ(part, "t", "w", "")
            + ") AND ("
            + differ(part, "t", "s", "")
            + "))";
    long rows = Long.parseLong(sql.one("SELECT count(*)" + those));
    List<String> keys = new ArrayList<>();
    if (rows > 0 && most > 0) {
      List<String> columns =
          part.table().primaryKey().stream()
              .map(
                  name ->
                      sql.text(part.table().column(name).orElseThrow(), "w." + sql.quoted(name)))
              .toList();
      int size = columns.size();
      sql.query(
          "SELECT " + String.join(", ", columns) + those + " ORDER BY 1 LIMIT " + most,
          row -> {
            List<String> key = new ArrayList<>();
            for (int k = 1; k <= size; k++) {
              key.add(row.getString(k));
            }
            keys.add(String.join(",", key));
          });
    }
    return new Edited(rows, keys, rows > 0 && way(part) == Way.WHOLE);
  }

  private String key(Part part) {
    return part.table().primaryKey().get(0);
  }

  private Column keyColumn(Part part) {
    return part.table().column(key(part)).orElseThrow();
  }

  String same(Part part, String one, String other) {
    return part.table().primaryKey().stream()
        .map(name -> sql.sameKey(one + "." + sql.quoted(name), other + "." + sql.quoted(name)))
        .collect(Collectors.joining(" AND "));
  }

  /**
   * How a table goes: one whose new values meet old ones of a unique key on the way goes whole. The
   * answer is the same however far it has come.
   */
  public Way way(Part part) throws SQLException {
    if (part.way() != Way.BY_KEY) {
      return part.way();
    }
    for (List<String> unique : part.unique()) {
      String meets =
          sql.one(
              "SELECT 1 FROM "
                  + sql.staged(part.table().name())
                  + " s JOIN "
                  + sql.target(part.table().name())
                  + " t ON "
                  + unique.stream()
                      .map(name -> "t." + sql.quoted(name) + " = s." + sql.quoted(name))
                      .collect(Collectors.joining(" AND "))
                  + " WHERE NOT ("
                  + same(part, "t", "s")
                  + ") LIMIT 1");
      if (meets != null) {
        return Way.WHOLE;
      }
    }
    return Way.BY_KEY;
  }

  /**
   * Looks whether new values of unique keys meet those of rows that stay; before anything is
   * written.
   *
   * @throws Problem of type USAGE if they do
   */
  public void check(List<Part> parts) throws SQLException {
    for (Part part : parts) {
      if (part.way() != Way.BY_KEY) {
        continue;
      }
      for (List<String> unique : part.unique()) {
        long rows =
            Long.parseLong(
                sql.one(
                    "SELECT count(*) FROM "
                        + sql.staged(part.table().name())
                        + " s JOIN "
                        + sql.target(part.table().name())
                        + " t ON "
                        + unique.stream()
                            .map(name -> "t." + sql.quoted(name) + " = s." + sql.quoted(name))
                            .collect(Collectors.joining(" AND "))
                        + " WHERE NOT EXISTS (SELECT 1 FROM "
                        + sql.staged(part.table().name())
                        + " o WHERE "
                        + same(part, "o", "t")
                        + ")"));
        if (rows > 0) {
          throw Problem.of(Failure.MASKED_UNFIT, "masked values would meet those of rows that stay")
              .at(part.table().name() + "." + String.join(", ", unique))
              .because(
                  String.format(
                      Locale.ROOT,
                      "the column is a unique key, and %,d rows would get what others hold that"
                          + " are not of the job",
                      rows))
              .remedy("let the job take all rows: whole: [" + part.table().name() + "]");
        }
      }
    }
  }

  /**
   * The last key of the next batch, as a literal; null if there is none.
   *
   * @param after the last key of the one before, as a literal; empty for the first
   */
  public String next(Part part, String after, int batch) throws SQLException {
    String name = sql.quoted(key(part));
    String found =
        sql.one(
            "SELECT "
                + sql.shown(keyColumn(part), "b.k")
                + " FROM (SELECT "
                + name
                + " AS k FROM "
                + sql.staged(part.table().name())
                + (after.isEmpty() ? "" : " WHERE " + name + " > " + after)
                + " ORDER BY "
                + name
                + " LIMIT "
                + batch
                + ") b ORDER BY b.k DESC LIMIT 1");
    return found == null ? null : sql.literal(keyColumn(part), found);
  }

  String range(Part part, String alias, String after, String last) {
    String name = alias + "." + sql.quoted(key(part));
    return (after.isEmpty() ? "" : name + " > " + after + " AND ") + name + " <= " + last;
  }

  /** How many rows wait in a batch. */
  private long rows(Part part, String after, String last) throws SQLException {
    return Long.parseLong(
        sql.one(
            "SELECT count(*) FROM "
                + sql.staged(part.table().name())
                + " s WHERE "
                + range(part, "s", after, last)));
  }

  /** Rewrites the rows of a batch. */
  private void update(Part part, String after, String last) throws SQLException {
    List<String> set = part.changed().stream().map(column -> sql.quoted(column.name())).toList();
    List<String> columns = new ArrayList<>();
    part.table().primaryKey().forEach(name -> columns.add("s." + sql.quoted(name)));
    set.forEach(name -> columns.add("s." + name));
    String from = sql.staged(part.table().name()) + " s";
    String on = same(part, "t", "x");
    if (written != null) {
      List<Column> compared = others(part);
      for (int i = 0; i < compared.size(); i++) {
        columns.add("w." + sql.quoted(compared.get(i).name()) + " AS yemble_w_" + i);
      }
      from += " JOIN " + written.apply(part.table().name()) + " w ON " + same(part, "s", "w");
      on += " AND NOT (" + differ(part, "t", "x", "yemble_w_") + ")";
    }
    sql.execute(
        sql.update(
            sql.target(part.table().name()),
            set,
            "SELECT "
                + String.join(", ", columns)
                + " FROM "
                + from
                + " WHERE "
                + range(part, "s", after, last),
            on));
  }

  /** Removes all rows of a table. */
  private void empty(Part part) throws SQLException {
    sql.execute("DELETE FROM " + sql.target(part.table().name()));
  }

  /** Lets all rows of a table come back that wait for it; or those that wait, if others stay. */
  private void refill(Part part) throws SQLException {
    String target = sql.target(part.table().name());
    String staged = sql.staged(part.table().name());
    String columns =
        part.table().written().stream()
            .map(column -> sql.quoted(column.name()))
            .collect(Collectors.joining(", "));
    String those =
        part.table().primaryKey().isEmpty() || part.way() == Way.WHOLE
            ? ""
            : " WHERE EXISTS (SELECT 1 FROM "
                + staged
                + " s WHERE "
                + part.table().primaryKey().stream()
                    .map(
                        name ->
                            sql.sameKey("s." + sql.quoted(name), target + "." + sql.quoted(name)))
                    .collect(Collectors.joining(" AND "))
                + ")";
    sql.execute("DELETE FROM " + target + those);
    sql.execute(
        "INSERT INTO "
            + target
            + " ("
            + columns
            + ") "
            + sql.inserting()
            + "SELECT "
            + columns
            + " FROM "
            + staged);
  }

  /** How far a table has come; what one says lasts with the rows that it is said of. */
  public interface Ledger {
    /** Where all is one transaction: nothing has come anywhere. */
    Ledger NONE =
        new Ledger() {
          @Override
          public boolean isDone() {
            return false;
          }

          @Override
          public String upto() {
            return "";
          }

          @Override
          public void begin() {}

          @Override
          public void reached(String last) {}

          @Override
          public void done() {}
        };

    boolean isDone() throws SQLException;

    /** The last key of the last batch, as a literal; empty before the first. */
    String upto() throws SQLException;

    /** A batch begins. */
    void begin() throws SQLException;

    /** A batch is written, up to a key. */
    void reached(String last) throws SQLException;

    /** The table is done. */
    void done() throws SQLException;
  }

  /**
   * Puts what waits for a table in the place of its rows, from where it was cut off.
   *
   * @param progress is told how many rows each batch had
   */
  public void put(Part part, Ledger ledger, int batch, LongConsumer progress) throws SQLException {
    if (ledger.isDone()) {
      return;
    }
    Way way = way(part);
    if (way == Way.BY_KEY) {
      String after = ledger.upto();
      String last = next(part, after, batch);
      while (last != null) {
        ledger.begin();
        update(part, after, last);
        ledger.reached(last);
        progress.accept(rows(part, after, last));
        after = last;
        last = next(part, after, batch);
      }
      ledger.begin();
    } else {
      ledger.begin();
      if (way == Way.EMPTIED) {
        empty(part);
      } else if (written == null || part.way() == Way.WHOLE || !edited(part, 0).whole()) {
        refill(part);
      }
    }
    ledger.done();
  }

  /** What of some tables is not as it waited. */
  public List<Sentence> faults(List<Part> parts) throws SQLException {
    List<Sentence> faults = new ArrayList<>();
    for (Part part : parts) {
      faults.addAll(faults(part));
    }
    return faults;
  }

  /** What of a table is not as it waited. */
  private List<Sentence> faults(Part part) throws SQLException {
    List<Sentence> faults = new ArrayList<>();
    String target = sql.target(part.table().name());
    String staged = sql.staged(part.table().name());
    if (part.way() != Way.BY_KEY) {
      long there = Long.parseLong(sql.one("SELECT count(*) FROM " + target));
      long waited =
          part.way() == Way.EMPTIED ? 0 : Long.parseLong(sql.one("SELECT count(*) FROM " + staged));
      if (there != waited) {
        faults.add(Waited.ROWS_NOT.of(there, waited).about(part.table().name()));
      }
      return faults;
    }
    String differs =
        part.changed().stream()
            .map(
                column ->
                    sql.differs(
                        column, "s." + sql.quoted(column.name()), "t." + sql.quoted(column.name())))
            .map(test -> "(" + test + ")")
            .collect(Collectors.joining(" OR "));
    long rows =
        Long.parseLong(
            sql.one(
                "SELECT count(*) FROM "
                    + staged
                    + " s LEFT JOIN "
                    + target
                    + " t ON "
                    + same(part, "s", "t")
                    + " WHERE t."
                    + sql.quoted(key(part))
                    + " IS NULL OR "
                    + differs));
    if (rows > 0) {
      faults.add(Waited.OTHERS.of(rows).about(part.table().name()));
    }
    return faults;
  }
}
