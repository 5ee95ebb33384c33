package yemble.jdbc.postgresql;

import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalLong;
import java.util.Random;
import java.util.function.LongConsumer;
import yemble.core.mark.Mark;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Condition;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Outline;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Origin;
import yemble.core.store.RandomSample;
import yemble.core.store.Reader;
import yemble.core.store.SequencePosition;
import yemble.jdbc.expression.BoundQuery;
import yemble.jdbc.expression.Conditions;
import yemble.jdbc.expression.Functions;
import yemble.jdbc.ways.CopyLines;

/**
 * Reads a PostgreSQL database at one moment. Rows come as the text of COPY.
 *
 * <p>Rows are asked for in batches, by where they lie; where most of a table is wanted, one scan
 * reads it and drops the rest.
 */
final class PostgresqlReader implements Reader, CopyLines {
  private static final int BATCH = 30_000;

  /** For a question that scans a table each time it is asked. */
  private static final int LARGE_BATCH = 200_000;

  private static final int SCANNED_SAMPLE = 200_000;
  private final Snapshot snapshot;
  private final String description;
  private final Conditions conditions;
  private final PostgresqlCatalog catalog;
  private final Schema schema;
  private final int blockSize;
  private final Map<TableName, RowNumbers> numbers = new HashMap<>();
  private final Map<TableName, Long> counts = new HashMap<>();

  /**
   * @param structure whether the statements that make the schema are read, too
   * @param functions what looks at the functions of conditions
   */
  PostgresqlReader(Snapshot snapshot, String description, boolean structure, Functions functions) {
    this.snapshot = snapshot;
    this.conditions = new Conditions(PostgresqlSql.LEXICON, functions);
    this.description = description;
    try {
      Session session = snapshot.first();
      this.catalog = new PostgresqlCatalog(session);
      this.blockSize = Integer.parseInt(session.one("SELECT current_setting('block_size')"));
      this.schema =
          new Schema(
              catalog.tables(),
              catalog.foreignKeys(),
              structure ? new Structure(session, catalog.home()).objects() : List.of(),
              Map.of());
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, "the catalog cannot be read", description);
    }
  }

  /** Reads what a load of the session has in other places than the tables are. */
  PostgresqlReader(Session session, String description, PostgresqlCatalog catalog) {
    this.snapshot = new Snapshot(session);
    this.conditions = Conditions.ofTarget(PostgresqlSql.LEXICON);
    this.description = description;
    this.catalog = catalog;
    this.schema = new Schema(catalog.tables(), List.of(), List.of(), Map.of());
    try {
      this.blockSize = Integer.parseInt(session.one("SELECT current_setting('block_size')"));
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, "the catalog cannot be read", description);
    }
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
  public Optional<Mark> mark() {
    try {
      return MarkTable.read(snapshot.free());
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, "Yemble's mark cannot be read", snapshot.first().description());
    }
  }

  @Override
  public Outline outline() {
    try {
      return new PostgresqlOutline(snapshot.free(), catalog, schema).outline();
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, "the structure cannot be read", description);
    }
  }

  @Override
  public Origin origin() {
    return Identity.of(snapshot.first(), description).origin(snapshot.first());
  }

  @Override
  public boolean undisturbed() {
    return snapshot.wroteNothing();
  }

  @Override
  public <T> Optional<T> as(Class<T> form) {
    return form == CopyLines.class ? Optional.of(form.cast(this)) : Optional.empty();
  }

  @Override
  public Optional<List<SequencePosition>> sequences() {
    try {
      return Optional.of(Positions.of(snapshot.free(), catalog.home()));
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, "reading failed", description);
    }
  }

  @Override
  public List<Field> fields(Table table) {
    return List.of(catalog.storage(table.name()).types(table.written()));
  }

  @Override
  public void lines(Table table, RowSet rows, boolean numbered, LineVisitor visitor) {
    List<Column> columns = table.written();
    boolean whole =
        !numbered
            && mayBeAll(table, rows)
            && rows.size() == count(table)
            && !catalog.storage(table.name()).partitioned()
            && !columns.isEmpty();
    if (whole) {
      lines(table, columns, visitor);
    } else {
      lines(table, rows, columns, visitor);
    }
  }

  RowNumbers numbers(TableName table) {
    return numbers.computeIfAbsent(table, t -> new RowNumbers(catalog.storage(t), blockSize));
  }

  @Override
  public OptionalLong refused(
      Table table, List<Column> columns, List<Object[]> rows, String condition) {
    if (!condition.isEmpty() && !conditions.passes(condition)) {
      return OptionalLong.empty();
    }
    String marked = condition.isEmpty() ? "" : conditions.closed(condition).doubledMarks();
    try {
      return OptionalLong.of(snapshot.free().refused(columns, rows, marked));
    } catch (SQLException e) {
      String state = e.getSQLState() == null ? "" : e.getSQLState();
      boolean ofValue = state.startsWith("22") || state.startsWith("23");
      if (!ofValue && !(condition.isEmpty() && state.equals("42601"))) {
        return OptionalLong.empty();
      }
    }
    if (rows.size() == 1) {
      return OptionalLong.of(1);
    }
    int half = rows.size() / 2;
    OptionalLong first = refused(table, columns, rows.subList(0, half), condition);
    if (first.isEmpty()) {
      return first;
    }
    OptionalLong second = refused(table, columns, rows.subList(half, rows.size()), condition);
    return second.isEmpty() ? second : OptionalLong.of(first.getAsLong() + second.getAsLong());
  }

  @Override
  public void check(Table table, String condition) {
    Session session = snapshot.free();
    String marked = conditions.closed(condition).doubledMarks();
    String sql = "SELECT 1 FROM " + numbers(table.name()).from("yemble_t", List.of(marked));
    try {
      session.attempt(() -> session.parse(sql));
    } catch (SQLException e) {
      throw Problem.of(Failure.CONDITION, "the database refuses this condition")
          .because(PostgresqlErrors.refusal(e))
          .remedy("write it as after WHERE, over the columns of " + table.name() + " alone");
    }
  }

  @Override
  public RowSet matching(Table table, Condition condition) {
    RowNumbers known = numbers(table.name());
    String sql =
        "SELECT "
            + known.columns("yemble_t")
            + " FROM "
            + known.from("yemble_t", List.of(conditions.marked(condition, true)));
    RowSet rows = new RowSet();
    int[] ends = new int[known.width()];
    Session session = snapshot.free();
    try {
      session.attempt(
          () ->
              session.bound(
                  sql,
                  condition.bound(),
                  row -> {
                    String leaf = ends.length == 1 ? "" : row.getString(1) + "\t";
                    String ctid = row.getString(ends.length);
                    byte[] line = (leaf + ctid + "\n").getBytes(StandardCharsets.US_ASCII);
                    CopyText.split(line, ends);
                    rows.add(known.number(line, ends, 0));
                  }));
      return rows;
    } catch (SQLException e) {
      throw BoundQuery.refused(table, e);
    }
  }

  /** A condition for a query, which has been checked. */
  private String checked(TableName table, String condition) {
    return conditions.checked(schema.table(table), condition, this::check);
  }

  @Override
  public long count(Table table) {
    return counts.computeIfAbsent(
        table.name(),
        name ->
            number(
                "SELECT count(*) FROM " + numbers(name).from("yemble_t", List.of()),
                name.toString()));
  }

  @Override
  public OptionalDouble rowBytes(Table table) {
    long rows = count(table);
    if (rows == 0) {
      return OptionalDouble.empty();
    }
    long bytes =
        number(
            "SELECT sum(pg_relation_size(c.oid) + coalesce(pg_relation_size(nullif(c.reltoastrelid,"
                + " 0)), 0))::bigint FROM pg_partition_tree("
                + catalog.storage(table.name()).oid()
                + ") t JOIN pg_class c ON c.oid = t.relid",
            table.name().toString());
    return bytes > 0 ? OptionalDouble.of((double) bytes / rows) : OptionalDouble.empty();
  }

  private long number(String sql, String where) {
    try {
      String number = snapshot.free().one(sql);
      return number == null ? 0 : Long.parseLong(number);
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, "reading failed", where);
    }
  }

  /** About how many rows a table has, without reading it where the server knows. */
  private double estimate(Table table) {
    double estimate = catalog.storage(table.name()).estimate();
    return estimate > 0 ? estimate : count(table);
  }

  /** Whether reading all of a table and dropping some is better than asking for rows. */
  private boolean scans(Table table, RowSet rows) {
    return rows.size() > BATCH && rows.size() > estimate(table) / 4;
  }

  /** Whether a set may be all rows of a table, as far as can be told without counting. */
  private boolean mayBeAll(Table table, RowSet rows) {
    return counts.containsKey(table.name()) || rows.size() * 2 > estimate(table);
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

  /** What is selected of rows of {@code alias}: what tells the number, then some columns. */
  private static String selected(RowNumbers numbers, String alias, List<Column> columns) {
    StringBuilder selected = new StringBuilder(numbers.columns(alias));
    for (Column column : columns) {
      selected.append(", ").append(alias).append('.').append(Sql.quoted(column.name()));
    }
    return selected.toString();
  }

  /** The rows of a set, in the order of their numbers, as bytes. */
  private void lines(Table table, RowSet rows, List<Column> columns, LineVisitor visitor) {
    RowNumbers known = numbers(table.name());
    String select = "SELECT " + selected(known, "yemble_t", columns) + " FROM ";
    if (scans(table, rows)) {
      lines(
          select + known.from("yemble_t", List.of()),
          table,
          columns.size(),
          (row, line, ends, skip) -> {
            if (rows.contains(row)) {
              visitor.line(row, line, ends, skip);
            }
          });
      return;
    }
    known.batches(
        "yemble_t",
        rows,
        BATCH,
        List.of(),
        from -> lines(select + from, table, columns.size(), visitor));
  }

  /** All rows of a table that is not partitioned, as bytes; rows have no number here. */
  private void lines(Table table, List<Column> columns, LineVisitor visitor) {
    int[] ends = new int[Math.max(1, columns.size())];
    try {
      snapshot
          .free()
          .copyOut(
              "COPY " + catalog.storage(table.name()).relation() + Sql.list(columns) + " TO STDOUT",
              line -> {
                CopyText.split(line, ends);
                visitor.line(0, line, ends, 0);
              });
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, "reading failed", table.name().toString());
    }
  }

  private void lines(String query, Table table, int columns, LineVisitor visitor) {
    RowNumbers known = numbers(table.name());
    int skip = known.width();
    int[] ends = new int[skip + columns];
    copy(
        query,
        table.name(),
        line -> {
          CopyText.split(line, ends);
          visitor.line(known.number(line, ends, 0), line, ends, skip);
        });
  }

  private void copy(String query, TableName table, Session.LineAction action) {
    try {
      snapshot.free().copyOut("COPY (" + query + ") TO STDOUT", action);
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, "reading failed", table.toString());
    }
  }

  /** Turns lines into rows of objects. */
  private LineVisitor objects(Table table, List<Column> columns, RowVisitor visitor) {
    ColumnType[] types = catalog.storage(table.name()).types(columns);
    Object[] values = new Object[types.length];
    return (row, line, ends, skip) -> {
      decode(types, line, ends, skip, values);
      visitor.row(row, values);
    };
  }

  private static void decode(
      ColumnType[] types, byte[] line, int[] ends, int skip, Object[] values) {
    for (int i = 0; i < types.length; i++) {
      values[i] = types[i].value(line, ends[skip + i - 1] + 1, ends[skip + i]);
    }
  }

  @Override
  public void rows(Table table, String condition, List<Column> columns, RowVisitor visitor) {
    RowNumbers known = numbers(table.name());
    lines(
        "SELECT "
            + selected(known, "yemble_t", columns)
            + " FROM "
            + known.from("yemble_t", List.of(checked(table.name(), condition))),
        table,
        columns.size(),
        objects(table, columns, visitor));
  }

  @Override
  public void rows(Table table, RowSet rows, List<Column> columns, RowVisitor visitor) {
    lines(table, rows, columns, objects(table, columns, visitor));
  }

  /** A type without its limits: a cast to these cuts or rounds, and would find another row. */
  private static String whole(String type) {
    return type.startsWith("character(")
        ? "bpchar"
        : type.startsWith("bit(") ? type : type.replaceFirst("\\(\\d+(,\\s*-?\\d+)?\\)", "");
  }

  @Override
  public OptionalLong find(Table table, List<String> key) {
    RowNumbers known = numbers(table.name());
    List<String> equal = new ArrayList<>();
    for (int i = 0; i < key.size(); i++) {
      Column column = table.column(table.primaryKey().get(i)).orElseThrow();
      equal.add(
          Sql.quoted(column.name())
              + " = CAST("
              + Sql.literal(key.get(i))
              + " AS "
              + whole(column.type())
              + ")");
    }
    long[] found = {-1};
    int[] ends = new int[known.width()];
    Session session = snapshot.free();
    try {
      session.attempt(
          () ->
              session.copyOut(
                  "COPY (SELECT "
                      + known.columns("yemble_t")
                      + " FROM "
                      + known.from("yemble_t", equal)
                      + ") TO STDOUT",
                  line -> {
                    CopyText.split(line, ends);
                    found[0] = known.number(line, ends, 0);
                  }));
    } catch (SQLException e) {
      if (!PostgresqlErrors.isData(e)) {
        throw PostgresqlErrors.of(e, "reading failed", table.name().toString());
      }
    }
    return found[0] < 0 ? OptionalLong.empty() : OptionalLong.of(found[0]);
  }

  @Override
  public void sample(Table table, List<Column> columns, int most, RowVisitor visitor) {
    double estimate = estimate(table);
    if (estimate < SCANNED_SAMPLE || catalog.storage(table.name()).partitioned()) {
      RandomSample.scanned(this, table, columns, most, visitor);
      return;
    }
    RowNumbers known = numbers(table.name());
    long blocks =
        number(
            "SELECT pg_relation_size("
                + catalog.storage(table.name()).oid()
                + "::regclass) / "
                + blockSize,
            table.name().toString());
    int places = (int) Math.min(known.places() - 1, Math.ceil(estimate / blocks * 1.2));
    Random random = new Random(blocks);
    RowSet rows =
        RandomSample.drawn(
            this,
            table,
            most,
            20,
            random,
            () -> known.number((long) (random.nextDouble() * blocks), 1 + random.nextInt(places)));
    rows(table, rows, columns, visitor);
  }

  @Override
  public void parents(Link link, RowSet children, ParentVisitor visitor) {
    Table table = schema.table(link.child());
    RowNumbers child = numbers(link.child());
    RowNumbers parent = numbers(link.parent());
    boolean scan = scans(table, children);
    int[] ends = new int[child.width() + parent.width()];
    Session.LineAction action =
        line -> {
          CopyText.split(line, ends);
          long number = child.number(line, ends, 0);
          int last = ends.length - 1;
          if (scan && !children.contains(number)) {
            return;
          }
          if (CopyText.isNull(line, ends[last - 1] + 1, ends[last])) {
            visitor.nothing(number);
          } else {
            visitor.parent(number, parent.number(line, ends, child.width()));
          }
        };
    String select =
        "SELECT " + child.columns("yemble_c") + ", " + parent.columns("yemble_p") + " FROM ";
    String rest = " LEFT JOIN " + parent.from("yemble_p", List.of()) + " ON " + equal(link);
    List<String> exists = exists(link);
    if (scan) {
      copy(select + child.from("yemble_c", exists) + rest, link.child(), action);
    } else {
      int batch = indexed(link.parent(), link.parentColumns()) ? BATCH : LARGE_BATCH;
      child.batches(
          "yemble_c",
          children,
          batch,
          exists,
          from -> copy(select + from + rest, link.child(), action));
    }
  }

  @Override
  public boolean leadsToChildren(Link link) {
    return indexed(link.child(), link.childColumns());
  }

  @Override
  public void children(
      Link link, RowSet parents, String condition, List<Column> columns, ChildVisitor visitor) {
    RowNumbers child = numbers(link.child());
    RowNumbers parent = numbers(link.parent());
    boolean leads = leadsToChildren(link);
    // Without an index each batch would read the whole child table.
    boolean scan =
        scans(schema.table(link.parent()), parents) || (!leads && parents.size() > LARGE_BATCH);
    ColumnType[] types = catalog.storage(link.child()).types(columns);
    Object[] values = new Object[types.length];
    int skip = parent.width() + child.width();
    int[] ends = new int[skip + types.length];
    Session.LineAction action =
        line -> {
          CopyText.split(line, ends);
          long number = parent.number(line, ends, 0);
          if (scan && !parents.contains(number)) {
            return;
          }
          decode(types, line, ends, skip, values);
          visitor.child(number, child.number(line, ends, parent.width()), values);
        };
    List<String> conditions = new ArrayList<>(exists(link));
    conditions.add(checked(link.child(), condition));
    String select =
        "SELECT "
            + parent.columns("yemble_p")
            + ", "
            + selected(child, "yemble_c", columns)
            + " FROM ";
    String rest = " JOIN " + child.from("yemble_c", conditions) + " ON " + equal(link);
    if (scan) {
      copy(select + parent.from("yemble_p", List.of()) + rest, link.child(), action);
    } else {
      parent.batches(
          "yemble_p",
          parents,
          leads ? BATCH : LARGE_BATCH,
          List.of(),
          from -> copy(select + from + rest, link.child(), action));
    }
  }

  private boolean indexed(TableName table, List<String> columns) {
    return columns.stream().anyMatch(catalog.storage(table).indexed()::contains);
  }

  @Override
  public void broken(Link link, LongConsumer visitor) {
    RowNumbers child = numbers(link.child());
    int[] ends = new int[child.width()];
    copy(
        "SELECT "
            + child.columns("yemble_c")
            + " FROM "
            + child.from("yemble_c", exists(link))
            + " WHERE NOT EXISTS (SELECT FROM "
            + numbers(link.parent()).from("yemble_p", List.of())
            + " WHERE "
            + equal(link)
            + ")",
        link.child(),
        line -> {
          CopyText.split(line, ends);
          visitor.accept(child.number(line, ends, 0));
        });
  }

  /** The conditions under which the link exists for a child: no column NULL, and its own. */
  private List<String> exists(Link link) {
    List<String> conditions = new ArrayList<>();
    for (String column : link.childColumns()) {
      conditions.add(Sql.quoted(column) + " IS NOT NULL");
    }
    conditions.add(checked(link.child(), link.condition()));
    return conditions;
  }

  /**
   * The parent matches the child, compared as the parent's columns compare, their collation
   * included; columns whose types cannot be compared are compared as texts.
   */
  private String equal(Link link) {
    Storage child = catalog.storage(link.child());
    Storage parent = catalog.storage(link.parent());
    List<String> parts = new ArrayList<>();
    for (int i = 0; i < link.childColumns().size(); i++) {
      String from = link.childColumns().get(i);
      String to = link.parentColumns().get(i);
      boolean alike = child.categories().get(from).equals(parent.categories().get(to));
      String collation = parent.collations().get(to);
      boolean collate =
          alike && collation != null && !collation.equals(child.collations().get(from));
      String cast = alike ? "" : "::text";
      parts.add(
          "yemble_p."
              + Sql.quoted(to)
              + cast
              + " = yemble_c."
              + Sql.quoted(from)
              + cast
              + (collate ? " COLLATE " + collation : ""));
    }
    return String.join(" AND ", parts);
  }

  @Override
  public long duplicates(Table table, List<String> columns) {
    String condition =
        String.join(" AND ", columns.stream().map(c -> Sql.quoted(c) + " IS NOT NULL").toList());
    return number(
        "SELECT count(*) FROM (SELECT 1 FROM "
            + numbers(table.name()).from("yemble_t", List.of(condition))
            + " GROUP BY "
            + Sql.quoted(columns)
            + " HAVING count(*) > 1) yemble_d",
        table.name().toString());
  }

  @Override
  public Map<TableName, Long> counters() {
    Map<TableName, Long> counters = new LinkedHashMap<>();
    for (SequencePosition counter : sequences().orElseThrow()) {
      if (!counter.table().isEmpty() && counter.called()) {
        TableName table = new TableName(counter.tableSchema(), counter.table());
        if (schema.table(table) != null) {
          counters.put(table, counter.position());
        }
      }
    }
    return counters;
  }

  @Override
  public long rowsAbout(Table table) {
    return (long) estimate(table);
  }

  @Override
  public Map<ColumnName, String> comments() {
    Map<ColumnName, String> comments = new HashMap<>();
    try {
      snapshot
          .free()
          .query(
              "SELECT n.nspname, c.relname, a.attname, d.description FROM pg_description d"
                  + " JOIN pg_class c ON c.oid = d.objoid JOIN pg_namespace n ON n.oid = c.relnamespace"
                  + " JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum = d.objsubid"
                  + " WHERE d.classoid = 'pg_class'::regclass AND d.objsubid > 0",
              row -> {
                String schema = row.getString(1).equals(catalog.home()) ? "" : row.getString(1);
                comments.put(
                    new ColumnName(new TableName(schema, row.getString(2)), row.getString(3)),
                    row.getString(4));
              });
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, "the comments cannot be read", snapshot.first().description());
    }
    return comments;
  }

  @Override
  public void abort() {
    snapshot.abort();
  }

  @Override
  public void close() {
    snapshot.close();
  }
}
