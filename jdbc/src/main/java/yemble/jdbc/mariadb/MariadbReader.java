package yemble.jdbc.mariadb;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Random;
import java.util.function.LongConsumer;
import yemble.core.name.TableName;
import yemble.core.problem.Problem;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Outline;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.store.RowSet;
import yemble.core.store.ScannedSample;

/**
 * Reads a MariaDB database within one transaction that saw it at one moment. There is one
 * connection, as the server lends its snapshot to no other: a long result is read in pages, so that
 * something else can be asked between two rows.
 */
public final class MariadbReader implements Reader {
  private static final int PAGE = 20_000;
  private static final int SCANNED_SAMPLE = 200_000;

  private final Session session;
  private final String description;
  private final boolean owned;
  private final MariadbCatalog catalog;
  private final Schema schema;
  private final Map<TableName, RowNumbers> numbers = new HashMap<>();
  private final Map<TableName, Long> counts = new HashMap<>();

  /**
   * @param owned whether closing the reader closes the session
   */
  MariadbReader(Session session, String description, boolean owned) {
    this.session = session;
    this.description = description;
    this.owned = owned;
    try {
      this.catalog = new MariadbCatalog(session);
      this.schema = new Structure(session, catalog).schema();
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "the database cannot be read", description);
    }
  }

  /** Reads the tables of a load under way. */
  MariadbReader(Session session, String description, MariadbCatalog catalog) {
    this.session = session;
    this.description = description;
    this.owned = false;
    this.catalog = catalog;
    this.schema = new Schema(catalog.tables(), catalog.foreignKeys(), List.of(), Map.of());
  }

  @Override
  public String description() {
    return description;
  }

  @Override
  public Schema schema() {
    return schema;
  }

  @Override
  public Outline outline() {
    try {
      return new MariadbOutline(session, catalog, schema).outline();
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "the structure cannot be read", description);
    }
  }

  Session session() {
    return session;
  }

  MariadbCatalog catalog() {
    return catalog;
  }

  private Storage storage(TableName table) {
    return catalog.storage(table);
  }

  RowNumbers numbers(TableName table) {
    return numbers.computeIfAbsent(table, name -> new RowNumbers(storage(name)));
  }

  @Override
  public void check(Table table, String condition) {
    String sql =
        "SELECT EXISTS (SELECT 1 FROM "
            + numbers(table.name()).from("yemble_t", condition)
            + " LIMIT 1)";
    try {
      session.execute("PREPARE yemble_check FROM " + Sql.literal(sql));
    } catch (SQLException e) {
      throw Problem.usage("the database refuses this condition")
          .because(MariadbErrors.refusal(e))
          .remedy("write it as after WHERE, over the columns of " + table.name() + " alone");
    }
    try {
      session.execute("EXECUTE yemble_check");
    } catch (SQLException e) {
      if (e.getErrorCode() == 1210) {
        throw Problem.usage("the database refuses this condition")
            .because("it holds a parameter, ?")
            .remedy("write the value itself");
      }
      throw Problem.usage("the database refuses this condition")
          .because("it fails on the rows, with error " + e.getErrorCode())
          .remedy("write it so that it holds or not for every row of " + table.name());
    }
  }

  @Override
  public long count(Table table) {
    return counts.computeIfAbsent(
        table.name(),
        name -> number("SELECT count(*) FROM " + storage(name).relation(), name.toString()));
  }

  private long number(String sql, String where) {
    try {
      String found = session.one(sql);
      return found == null ? 0 : Long.parseLong(found);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "reading failed", where);
    }
  }

  /** About how many rows a table has: a count where the server does not know. */
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
  public RowSet all(Table table) {
    return RowSet.all(
        count(table),
        () -> {
          RowSet all = new RowSet();
          rows(table, "", List.of(), (row, values) -> all.add(row));
          return all;
        });
  }

  /** What is asked of rows of {@code alias}: what tells the number, then some columns. */
  private String selected(TableName table, String alias, List<Column> columns, boolean[] raw) {
    StringBuilder selected = new StringBuilder(numbers(table).columns(alias));
    for (int i = 0; i < columns.size(); i++) {
      String column = alias + "." + Sql.quoted(columns.get(i).name());
      ColumnForm form = storage(table).form(columns.get(i).name());
      selected.append(", ").append(raw[i] ? form.raw(column) : form.read(column));
    }
    return selected.toString();
  }

  private String selected(TableName table, String alias, List<Column> columns) {
    return selected(table, alias, columns, new boolean[columns.size()]);
  }

  private void query(String sql, TableName table, Session.RowAction action) {
    try {
      session.query(sql, action);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "reading failed", table.toString());
    }
  }

  /** Reads rows of one table as objects. */
  private final class Objects implements Session.RowAction {
    private final RowNumbers known;
    private final ColumnForm[] forms;
    private final boolean[] raw;
    private final Object[] values;
    private final RowVisitor visitor;
    private final int skip;

    Objects(Table table, List<Column> columns, boolean[] raw, RowVisitor visitor) {
      this.known = numbers(table.name());
      this.forms = storage(table.name()).forms(columns);
      this.raw = raw;
      this.values = new Object[forms.length];
      this.visitor = visitor;
      this.skip = known.width() + 1;
    }

    @Override
    public void accept(ResultSet row) throws SQLException {
      for (int i = 0; i < values.length; i++) {
        values[i] = raw[i] ? row.getBytes(skip + i) : forms[i].value(row, skip + i);
      }
      visitor.row(known.number(row, 1), values);
    }
  }

  @Override
  public void rows(Table table, String condition, List<Column> columns, RowVisitor visitor) {
    scan(table, condition, columns, new boolean[columns.size()], visitor);
  }

  private void scan(
      Table table, String condition, List<Column> columns, boolean[] raw, RowVisitor visitor) {
    RowNumbers known = numbers(table.name());
    Objects objects = new Objects(table, columns, raw, visitor);
    String select =
        "SELECT "
            + selected(table.name(), "yemble_t", columns, raw)
            + " FROM "
            + known.from("yemble_t", condition);
    if (!known.isKeyed()) {
      query(select, table.name(), objects);
      return;
    }
    String[] after = {""};
    int[] read = new int[1];
    do {
      read[0] = 0;
      String page = select + after[0] + " ORDER BY " + known.order("yemble_t") + " LIMIT " + PAGE;
      query(
          page,
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
  public void rows(Table table, RowSet rows, List<Column> columns, RowVisitor visitor) {
    rows(table, rows, columns, new boolean[columns.size()], visitor);
  }

  /**
   * The rows of a set in the order of their numbers.
   *
   * @param raw which columns, texts all of them, are read as the bytes that lie there
   */
  void rows(Table table, RowSet rows, List<Column> columns, boolean[] raw, RowVisitor visitor) {
    if (scans(table, rows)) {
      scan(
          table,
          "",
          columns,
          raw,
          (row, values) -> {
            if (rows.contains(row)) {
              visitor.row(row, values);
            }
          });
      return;
    }
    RowNumbers known = numbers(table.name());
    Objects objects = new Objects(table, columns, raw, visitor);
    String select =
        "SELECT "
            + selected(table.name(), "yemble_t", columns, raw)
            + " FROM "
            + known.from("yemble_t", "")
            + " WHERE ";
    rows.forEachBatch(
        known.batch(),
        (batch, length) ->
            query(select + known.in("yemble_t", batch, length), table.name(), objects));
  }

  @Override
  public OptionalLong find(Table table, List<String> key) {
    List<String> equal = new ArrayList<>();
    for (int i = 0; i < key.size(); i++) {
      String name = table.primaryKey().get(i);
      ColumnForm form = storage(table.name()).form(name);
      boolean binary = form.sort() == ColumnForm.Sort.BINARY;
      if (form.sort() == ColumnForm.Sort.WHOLE && !key.get(i).matches("[+-]?\\d+")) {
        return OptionalLong.empty();
      }
      equal.add(
          "yemble_t."
              + Sql.quoted(name)
              + " = "
              + (binary ? "UNHEX(" + Sql.literal(key.get(i)) + ")" : Sql.literal(key.get(i))));
    }
    RowNumbers known = numbers(table.name());
    long[] found = new long[1];
    boolean[] any = new boolean[1];
    query(
        "SELECT "
            + known.columns("yemble_t")
            + " FROM "
            + known.from("yemble_t", "")
            + " WHERE "
            + String.join(" AND ", equal),
        table.name(),
        row -> {
          found[0] = known.number(row, 1);
          any[0] = true;
        });
    return any[0] ? OptionalLong.of(found[0]) : OptionalLong.empty();
  }

  @Override
  public void sample(Table table, List<Column> columns, int most, RowVisitor visitor) {
    Storage storage = storage(table.name());
    if (!storage.numbered() || estimate(table) < SCANNED_SAMPLE) {
      ScannedSample.of(this, table, columns, most, visitor);
      return;
    }
    String key = Sql.quoted(storage.key().get(0));
    String from = ") FROM " + storage.relation();
    long least = number("SELECT min(" + key + from, table.name().toString());
    long greatest = number("SELECT max(" + key + from, table.name().toString());
    Random random = new Random(greatest);
    RowSet rows = new RowSet();
    for (int tries = 0; tries < 10 && rows.size() < most; tries++) {
      RowSet drawn = new RowSet();
      for (int i = 0; i < most; i++) {
        drawn.add(least + (long) (random.nextDouble() * (greatest - least + 1.0)));
      }
      rows(
          table,
          drawn,
          List.of(),
          (row, values) -> {
            if (rows.size() < most) {
              rows.add(row);
            }
          });
    }
    if (rows.size() < most) {
      ScannedSample.of(this, table, columns, most, visitor);
    } else {
      rows(table, rows, columns, visitor);
    }
  }

  @Override
  public void parents(Link link, RowSet children, ParentVisitor visitor) {
    RowNumbers child = numbers(link.child());
    RowNumbers parent = numbers(link.parent());
    boolean scan = scans(schema.table(link.child()), children);
    Session.RowAction action =
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
            + child.from("yemble_c", link.condition())
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
  public void children(
      Link link, RowSet parents, String condition, List<Column> columns, ChildVisitor visitor) {
    RowNumbers child = numbers(link.child());
    RowNumbers parent = numbers(link.parent());
    boolean scan = scans(schema.table(link.parent()), parents);
    ColumnForm[] forms = storage(link.child()).forms(columns);
    Object[] values = new Object[forms.length];
    int skip = parent.width() + child.width() + 1;
    Session.RowAction action =
        row -> {
          long number = parent.number(row, 1);
          if (scan && !parents.contains(number)) {
            return;
          }
          for (int i = 0; i < values.length; i++) {
            values[i] = forms[i].value(row, skip + i);
          }
          visitor.child(number, child.number(row, parent.width() + 1), values);
        };
    String both =
        link.condition().isEmpty() || condition.isEmpty()
            ? link.condition() + condition
            : "(" + link.condition() + "\n) AND (\n" + condition + "\n)";
    String select =
        "SELECT "
            + parent.columns("yemble_p")
            + ", "
            + selected(link.child(), "yemble_c", columns)
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
  public void broken(Link link, LongConsumer visitor) {
    RowNumbers child = numbers(link.child());
    query(
        "SELECT "
            + child.columns("yemble_c")
            + " FROM "
            + child.from("yemble_c", link.condition())
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
  private static String exists(Link link) {
    return String.join(
        " AND ",
        link.childColumns().stream()
            .map(column -> "yemble_c." + Sql.quoted(column) + " IS NOT NULL")
            .toList());
  }

  /**
   * The parent matches the child, compared as the parent's columns compare, their collation
   * included; columns whose types cannot be compared without loss are compared as texts.
   */
  private String equal(Link link) {
    List<String> parts = new ArrayList<>();
    for (int i = 0; i < link.childColumns().size(); i++) {
      ColumnForm from = storage(link.child()).form(link.childColumns().get(i));
      ColumnForm to = storage(link.parent()).form(link.parentColumns().get(i));
      String child = "yemble_c." + Sql.quoted(link.childColumns().get(i));
      String parent = "yemble_p." + Sql.quoted(link.parentColumns().get(i));
      if (!from.comparesWith(to)) {
        parts.add(text(parent) + " = " + text(child));
      } else if (to.sort() == ColumnForm.Sort.TEXT && !to.collation().equals(from.collation())) {
        parts.add(
            parent
                + " = CONVERT("
                + child
                + " USING "
                + to.charset()
                + ") COLLATE "
                + to.collation());
      } else {
        parts.add(parent + " = " + child);
      }
    }
    return String.join(" AND ", parts);
  }

  private static String text(String column) {
    return "CAST(" + column + " AS CHAR CHARACTER SET utf8mb4) COLLATE utf8mb4_bin";
  }

  @Override
  public long duplicates(Table table, List<String> columns) {
    String condition =
        String.join(" AND ", columns.stream().map(c -> Sql.quoted(c) + " IS NOT NULL").toList());
    return number(
        "SELECT count(*) FROM (SELECT 1 FROM "
            + storage(table.name()).relation()
            + " WHERE "
            + condition
            + " GROUP BY "
            + Sql.quoted(columns)
            + " HAVING count(*) > 1) yemble_d",
        table.name().toString());
  }

  @Override
  public Map<TableName, Long> counters() {
    Map<TableName, Long> counters = new LinkedHashMap<>();
    for (Storage storage : catalog.storages()) {
      if (storage.next() > 1) {
        counters.put(storage.table().name(), storage.next() - 1);
      }
    }
    return counters;
  }

  @Override
  public void close() {
    if (owned) {
      session.close();
    }
  }
}
