package yemble.jdbc.rows;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.LongConsumer;
import yemble.core.name.TableName;
import yemble.core.project.Condition;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Table;
import yemble.core.store.RandomSample;
import yemble.core.store.Reader;
import yemble.jdbc.expression.BoundQuery;
import yemble.jdbc.expression.Conditions;

/**
 * Reads a database by the keys of its rows, in the SQL that most engines share. There is one
 * connection: a long result is read in pages, so that something else can be asked between two rows.
 */
public abstract class KeyedReader implements Reader {
  private static final int PAGE = 20_000;
  private static final int SCANNED_SAMPLE = 200_000;

  private final Map<TableName, RowNumbers> numbers = new HashMap<>();
  private final Map<TableName, Long> counts = new HashMap<>();

  /** What a row of a result is to somebody. */
  protected interface RowAction {
    void accept(ResultSet row) throws SQLException;
  }

  /** How columns are asked for and read. */
  protected interface Cells {
    String expression(int column, String name);

    Object value(int column, ResultSet row, int at) throws SQLException;
  }

  protected abstract KeyedTable storage(TableName table);

  /** Runs a query; {@code table} is what a message speaks of. */
  protected abstract void query(String sql, TableName table, RowAction action);

  /** The first value of the first row as a number; 0 for NULL. */
  protected abstract long number(String sql, String where);

  /** The same for the first rows of a query. */
  protected abstract void page(String sql, int rows, TableName table, RowAction action);

  /** The parent {@code yemble_p} matches the child {@code yemble_c}. */
  protected abstract String equal(Link link);

  /** Runs a query whose values are bound. */
  protected abstract void bound(String sql, List<String> values, RowAction action)
      throws SQLException;

  @Override
  public final RowSet matching(Table table, Condition condition) {
    RowNumbers known = numbers(table.name());
    RowSet rows = new RowSet();
    RowAction numbers =
        objects(table, 0, cells(table.name(), List.of()), (row, values) -> rows.add(row));
    String sql =
        "SELECT "
            + selected(table.name(), "yemble_t", List.of(), cells(table.name(), List.of()))
            + " FROM "
            + known.from("yemble_t", conditions().marked(condition, false));
    try {
      bound(sql, condition.bound(), numbers);
      return rows;
    } catch (SQLException e) {
      throw BoundQuery.refused(table, e);
    }
  }

  /** What has looked at the conditions that this reader was given. */
  protected abstract Conditions conditions();

  /** A condition for a query, which has been checked. */
  private String checked(TableName table, String condition) {
    return conditions().checked(schema().table(table), condition, this::check);
  }

  protected final RowNumbers numbers(TableName table) {
    return numbers.computeIfAbsent(table, name -> new RowNumbers(storage(name)));
  }

  private String quoted(TableName table, String column) {
    return storage(table).quoted(column);
  }

  @Override
  public final long count(Table table) {
    return counts.computeIfAbsent(
        table.name(),
        name -> number("SELECT count(*) FROM " + storage(name).relation(), name.toString()));
  }

  /** About how many rows a table has: a count where nobody knows. */
  private double estimate(Table table) {
    double estimate = storage(table.name()).estimate();
    return estimate > 0 ? estimate : count(table);
  }

  /** Whether reading all of a table and dropping some is better than asking for rows. */
  private boolean scans(Table table, RowSet rows) {
    RowNumbers known = numbers(table.name());
    return !known.isKeyed() || (rows.size() > known.batch() && rows.size() > estimate(table) / 4);
  }

  @Override
  public final RowSet all(Table table) {
    return RowSet.all(
        count(table),
        () -> {
          RowSet all = new RowSet();
          rows(table, "", List.of(), (row, values) -> all.add(row));
          return all;
        });
  }

  /** Columns as their table knows them. */
  private Cells cells(TableName table, List<Column> columns) {
    KeyedTable storage = storage(table);
    return new Cells() {
      @Override
      public String expression(int column, String name) {
        return storage.read(columns.get(column).name(), name);
      }

      @Override
      public Object value(int column, ResultSet row, int at) throws SQLException {
        return storage.value(columns.get(column).name(), row, at);
      }
    };
  }

  /** What is asked of rows of {@code alias}: what tells the number, then some columns. */
  private String selected(TableName table, String alias, List<Column> columns, Cells cells) {
    StringBuilder selected = new StringBuilder(numbers(table).columns(alias));
    for (int i = 0; i < columns.size(); i++) {
      String column = alias + "." + quoted(table, columns.get(i).name());
      selected.append(", ").append(cells.expression(i, column));
    }
    return selected.toString();
  }

  /** Shows rows of one table as objects. */
  private RowAction objects(Table table, int columns, Cells cells, RowVisitor visitor) {
    RowNumbers known = numbers(table.name());
    Object[] values = new Object[columns];
    int skip = known.width() + 1;
    return row -> {
      for (int i = 0; i < values.length; i++) {
        values[i] = cells.value(i, row, skip + i);
      }
      visitor.row(known.number(row, 1), values);
    };
  }

  @Override
  public final void rows(Table table, String condition, List<Column> columns, RowVisitor visitor) {
    scan(table, condition, columns, cells(table.name(), columns), visitor);
  }

  private void scan(
      Table table, String condition, List<Column> columns, Cells cells, RowVisitor visitor) {
    RowNumbers known = numbers(table.name());
    RowAction objects = objects(table, columns.size(), cells, visitor);
    String select =
        "SELECT "
            + selected(table.name(), "yemble_t", columns, cells)
            + " FROM "
            + known.from("yemble_t", checked(table.name(), condition));
    if (!known.isKeyed()) {
      query(select, table.name(), objects);
      return;
    }
    String[] after = {""};
    int[] read = new int[1];
    do {
      read[0] = 0;
      page(
          select + after[0] + " ORDER BY " + known.order("yemble_t"),
          PAGE,
          table.name(),
          row -> {
            if (++read[0] == PAGE) {
              after[0] = " WHERE " + known.after("yemble_t", row);
            }
            objects.accept(row);
          });
    } while (read[0] == PAGE);
  }

  @Override
  public final void rows(Table table, RowSet rows, List<Column> columns, RowVisitor visitor) {
    rows(table, rows, columns, cells(table.name(), columns), visitor);
  }

  /** The rows of a set in the order of their numbers, each column asked for in a way of its own. */
  protected final void rows(
      Table table, RowSet rows, List<Column> columns, Cells cells, RowVisitor visitor) {
    if (scans(table, rows)) {
      scan(table, "", columns, cells, visitor.within(rows));
      return;
    }
    RowNumbers known = numbers(table.name());
    RowAction objects = objects(table, columns.size(), cells, visitor);
    String select =
        "SELECT "
            + selected(table.name(), "yemble_t", columns, cells)
            + " FROM "
            + known.from("yemble_t", "")
            + " WHERE ";
    rows.forEachBatch(
        known.batch(),
        (batch, length) ->
            query(select + known.in("yemble_t", batch, length), table.name(), objects));
  }

  @Override
  public final long rowsAbout(Table table) {
    return (long) estimate(table);
  }

  @Override
  public final void sample(Table table, List<Column> columns, int most, RowVisitor visitor) {
    KeyedTable storage = storage(table.name());
    if (!storage.numbered() || estimate(table) < SCANNED_SAMPLE) {
      RandomSample.scanned(this, table, columns, most, visitor);
      return;
    }
    String key = storage.quoted(storage.key().get(0));
    String from = ") FROM " + storage.relation();
    long least = number("SELECT min(" + key + from, table.name().toString());
    long greatest = number("SELECT max(" + key + from, table.name().toString());
    Random random = new Random(greatest);
    RowSet rows =
        RandomSample.drawn(
            this,
            table,
            most,
            10,
            random,
            () -> least + (long) (random.nextDouble() * (greatest - least + 1.0)));
    if (rows.size() < most) {
      RandomSample.scanned(this, table, columns, most, visitor);
    } else {
      rows(table, rows, columns, visitor);
    }
  }

  @Override
  public final void parents(Link link, RowSet children, ParentVisitor visitor) {
    RowNumbers child = numbers(link.child());
    RowNumbers parent = numbers(link.parent());
    boolean scan = scans(schema().table(link.child()), children);
    RowAction action =
        row -> {
          long number = child.number(row, 1);
          if (scan && !children.contains(number)) {
            return;
          }
          if (row.getString(child.width() + 1) == null) {
            visitor.nothing(number);
          } else {
            visitor.parent(number, parent.number(row, child.width() + 1));
          }
        };
    String select =
        "SELECT "
            + child.columns("yemble_c")
            + ", "
            + parent.columns("yemble_p")
            + " FROM "
            + child.from("yemble_c", checked(link.child(), link.condition()))
            + " LEFT JOIN "
            + parent.from("yemble_p", "")
            + " ON "
            + equal(link)
            + " WHERE "
            + exists(link);
    if (scan) {
      query(select, link.child(), action);
    } else {
      children.forEachBatch(
          child.batch(),
          (batch, length) ->
              query(select + " AND " + child.in("yemble_c", batch, length), link.child(), action));
    }
  }

  @Override
  public final void children(
      Link link, RowSet parents, String condition, List<Column> columns, ChildVisitor visitor) {
    RowNumbers child = numbers(link.child());
    RowNumbers parent = numbers(link.parent());
    // Without an index each batch would read the whole child table.
    boolean scan =
        scans(schema().table(link.parent()), parents)
            || (!leadsToChildren(link) && parents.size() > parent.batch());
    Cells cells = cells(link.child(), columns);
    Object[] values = new Object[columns.size()];
    int skip = parent.width() + child.width() + 1;
    RowAction action =
        row -> {
          long number = parent.number(row, 1);
          if (scan && !parents.contains(number)) {
            return;
          }
          for (int i = 0; i < values.length; i++) {
            values[i] = cells.value(i, row, skip + i);
          }
          visitor.child(number, child.number(row, parent.width() + 1), values);
        };
    String exists = checked(link.child(), link.condition());
    String narrowed = checked(link.child(), condition);
    String both =
        exists.isEmpty() || narrowed.isEmpty()
            ? exists + narrowed
            : "(" + exists + "\n) AND (\n" + narrowed + "\n)";
    String select =
        "SELECT "
            + parent.columns("yemble_p")
            + ", "
            + selected(link.child(), "yemble_c", columns, cells)
            + " FROM "
            + parent.from("yemble_p", "")
            + " JOIN "
            + child.from("yemble_c", both)
            + " ON "
            + equal(link)
            + " WHERE "
            + exists(link);
    if (scan) {
      query(select, link.child(), action);
    } else {
      parents.forEachBatch(
          parent.batch(),
          (batch, length) ->
              query(select + " AND " + parent.in("yemble_p", batch, length), link.child(), action));
    }
  }

  @Override
  public final void broken(Link link, LongConsumer visitor) {
    RowNumbers child = numbers(link.child());
    query(
        "SELECT "
            + child.columns("yemble_c")
            + " FROM "
            + child.from("yemble_c", checked(link.child(), link.condition()))
            + " WHERE "
            + exists(link)
            + " AND NOT EXISTS (SELECT 1 FROM "
            + storage(link.parent()).relation()
            + " yemble_p WHERE "
            + equal(link)
            + ")",
        link.child(),
        row -> visitor.accept(child.number(row, 1)));
  }

  /** The link exists for a child: no column is NULL. */
  private String exists(Link link) {
    return String.join(
        " AND ",
        link.childColumns().stream()
            .map(column -> "yemble_c." + quoted(link.child(), column) + " IS NOT NULL")
            .toList());
  }

  @Override
  public final long duplicates(Table table, List<String> columns) {
    List<String> quoted = columns.stream().map(c -> quoted(table.name(), c)).toList();
    return number(
        "SELECT count(*) FROM (SELECT 1 AS yemble_one FROM "
            + storage(table.name()).relation()
            + " WHERE "
            + String.join(" IS NOT NULL AND ", quoted)
            + " IS NOT NULL GROUP BY "
            + String.join(", ", quoted)
            + " HAVING count(*) > 1) yemble_d",
        table.name().toString());
  }
}
