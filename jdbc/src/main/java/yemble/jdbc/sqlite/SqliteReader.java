package yemble.jdbc.sqlite;

import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Random;
import java.util.function.LongConsumer;
import yemble.core.mark.Comparison;
import yemble.core.mark.Mark;
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
import yemble.jdbc.expression.BoundQuery;
import yemble.jdbc.expression.Conditions;
import yemble.jdbc.rows.MadeRows;
import yemble.jdbc.ways.AttachableFile;

/**
 * Reads an SQLite database inside the read transaction of one connection. A row's number is its
 * rowid, or, in a table WITHOUT ROWID, an entry of a dictionary of keys.
 *
 * <p>Rows are asked for in batches, found through the key; where most of a table is wanted, or no
 * index leads to the children, one scan reads it and drops the rest.
 */
public final class SqliteReader implements Reader {
  private static final int SCANNED_SAMPLE = 200_000;

  /** What the driver puts in the place of bytes that are no UTF-8. */
  private static final char REPLACED = '\uFFFD';

  /** What stands before a condition of the user's in a query. */
  private static final String CONDITION = "(\n";

  private final Connection connection;
  private final boolean owned;
  private final String file;
  private final Opening opening;
  private boolean witnessed;
  private final String description;
  private final SqliteCatalog catalog;
  private final Conditions conditions;
  private final Map<TableName, RowKey> keys = new HashMap<>();
  private final Map<TableName, Long> counts = new HashMap<>();

  /**
   * @param owned whether closing the reader closes the connection
   */
  public SqliteReader(Connection connection, String description, boolean owned) {
    this(connection, description, owned, "", null);
  }

  /**
   * @param file empty for a database that is not one file
   * @param opening how it was opened; null for a load under way
   */
  SqliteReader(
      Connection connection, String description, boolean owned, String file, Opening opening) {
    this.file = file;
    this.opening = opening;
    this.connection = connection;
    this.owned = owned;
    this.description = description;
    this.conditions =
        opening == null
            ? Conditions.ofTarget(SqliteSql.LEXICON)
            : new Conditions(SqliteSql.LEXICON, new SqliteFunctions(connection));
    try {
      this.catalog = new SqliteCatalog(connection);
    } catch (SQLException e) {
      throw SqliteErrors.of(e, "the database cannot be read", description);
    }
  }

  @Override
  public String description() {
    return description;
  }

  @Override
  public Schema schema() {
    return catalog.schema();
  }

  @Override
  public Optional<Mark> mark() {
    try {
      return MarkTable.read(connection);
    } catch (SQLException e) {
      throw SqliteErrors.of(e, "Yemble's mark cannot be read", description);
    }
  }

  @Override
  public Outline outline() {
    try {
      return new SqliteOutline(connection, catalog.schema()).outline();
    } catch (SQLException e) {
      throw SqliteErrors.of(e, "the structure cannot be read", description);
    }
  }

  @Override
  public Outline outlineByValues() {
    try {
      return new SqliteOutline(connection, catalog.schema()).byValues();
    } catch (SQLException e) {
      throw SqliteErrors.of(e, "the structure cannot be read", description);
    }
  }

  @Override
  public Origin origin() {
    return new Origin(SqliteEngine.NAME, Map.of(SqliteTarget.FILE, file), Optional.empty());
  }

  /** Whoever asks whether the file is what it was learns it from this answer, not from closing. */
  @Override
  public boolean undisturbed() {
    witnessed = true;
    return opening == null || opening.undisturbed();
  }

  @Override
  public <T> Optional<T> as(Class<T> form) {
    return opening == null || form != AttachableFile.class
        ? Optional.empty()
        : Optional.of(form.cast(new OpenedFile()));
  }

  /** The file as another connection attaches it. */
  private final class OpenedFile implements AttachableFile {
    @Override
    public boolean isStill() throws SQLException {
      return opening.isStill();
    }

    @Override
    public void attach(Statement statement, String name) throws SQLException {
      opening.attach(statement, name);
    }

    @Override
    public Keys keys(TableName table) {
      return key(table);
    }
  }

  RowKey key(TableName table) {
    return keys.computeIfAbsent(
        table, t -> new RowKey(catalog.schema().table(t), catalog.storage(t)));
  }

  @Override
  public boolean enforcesTypes() {
    return false;
  }

  @Override
  public OptionalLong refused(
      Table table, List<Column> columns, List<Object[]> rows, String condition) {
    try {
      return condition.isEmpty() || !conditions.passes(condition)
          ? OptionalLong.empty()
          : OptionalLong.of(
              MadeRows.refused(
                  connection, columns, rows, condition, Sql::quoted, column -> "?", false));
    } catch (SQLException e) {
      return OptionalLong.empty();
    }
  }

  @Override
  public void check(Table table, String condition) {
    conditions.closed(condition);
    String from = "SELECT 1 FROM " + Sql.quoted(table.name()) + " WHERE (\n" + condition + "\n)";
    try {
      prepare("SELECT EXISTS (" + from + ")");
      checkEnd(from);
    } catch (SQLException e) {
      throw Problem.of(Failure.CONDITION, "the database refuses this condition")
          .because(SqliteErrors.refusal(e))
          .remedy("write it as after WHERE, over the columns of " + table.name() + " alone");
    }
  }

  @Override
  public RowSet matching(Table table, Condition condition) {
    RowKey key = key(table.name());
    String marked = conditions.marked(condition, false);
    String holds = CONDITION + marked + "\n)";
    String sql =
        key.isKnown()
            ? "SELECT "
                + key.columns(key.tableName())
                + " FROM "
                + key.tableName()
                + " WHERE "
                + holds
            : "SELECT " + holds + " FROM " + Sql.quoted(table.name()) + " NOT INDEXED";
    RowSet rows = new RowSet();
    long[] place = new long[1];
    try {
      BoundQuery.run(
          connection,
          sql,
          condition.bound(),
          SqliteReader::bind,
          row -> {
            place[0]++;
            if (key.isKnown()) {
              rows.add(key.number(row, 1));
            } else if (row.getDouble(1) != 0) {
              rows.add(place[0]);
            }
          });
      return rows;
    } catch (SQLException e) {
      throw BoundQuery.refused(table, e);
    }
  }

  /** A whole number as such, everything else as text: a column's affinity makes of it what fits. */
  private static void bind(PreparedStatement statement, int at, String value) throws SQLException {
    if (value.matches("0|-?[1-9][0-9]{0,17}")) {
      statement.setLong(at, Long.parseLong(value));
    } else {
      statement.setString(at, value);
    }
  }

  private void prepare(String sql) throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      if (statement.getParameterMetaData().getParameterCount() > 0) {
        throw new SQLException("it holds a parameter");
      }
    }
  }

  /**
   * Of several statements the driver prepares the first and drops the rest. So what stands behind a
   * condition must be seen by SQLite: a function there that does not exist.
   */
  private void checkEnd(String from) throws SQLException {
    try {
      prepare("SELECT EXISTS (" + from + " AND yemble_is_seen())");
    } catch (SQLException e) {
      if (SqliteErrors.refusal(e).contains("yemble_is_seen")) {
        return;
      }
      throw e;
    }
    throw new SQLException("something in it ends the statement");
  }

  private String checked(TableName table, String condition) {
    return conditions.checked(schema().table(table), condition, this::check);
  }

  @Override
  public long count(Table table) {
    return counts.computeIfAbsent(
        table.name(), name -> number("SELECT count(*) FROM " + Sql.quoted(name), name.toString()));
  }

  @Override
  public RowSet all(Table table) {
    RowKey key = key(table.name());
    RowSet all = new RowSet();
    long count = count(table);
    if (!key.isTuples() && key.isKnown() && count > 0) {
      String from = " FROM " + key.tableName();
      long least = number("SELECT min(" + key.order() + ")" + from, table.name().toString());
      long greatest = number("SELECT max(" + key.order() + ")" + from, table.name().toString());
      if (least >= 0 && greatest - least + 1 == count) {
        all.addRange(least, greatest);
        return all;
      }
    }
    rows(table, "", List.of(), (row, values) -> all.add(row));
    return all;
  }

  private long number(String sql, String where) {
    try (Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(sql)) {
      return row.next() ? row.getLong(1) : 0;
    } catch (SQLException e) {
      throw SqliteErrors.of(e, "reading failed", where);
    }
  }

  @Override
  public void rows(Table table, String condition, List<Column> columns, RowVisitor visitor) {
    RowKey key = key(table.name());
    if (!key.isKnown()) {
      scan(table, condition, columns, visitor);
      return;
    }
    String sql =
        "SELECT "
            + selected(key, "yemble_t", columns)
            + " FROM "
            + Sql.quoted(table.name())
            + " yemble_t"
            + existing(key, "yemble_t", condition, " WHERE ")
            + " ORDER BY "
            + key.order();
    Object[] values = new Object[columns.size()];
    query(
        sql,
        table.name(),
        statement -> {},
        row -> {
          read(row, key.width(), values);
          visitor.row(key.number(row, 1), values);
        });
  }

  /**
   * Reads a table whose rows can be told apart by their order alone: that of their hidden numbers,
   * as long as no index is used. Each has the number of its place.
   */
  private void scan(Table table, String condition, List<Column> columns, RowVisitor visitor) {
    StringBuilder sql = new StringBuilder("SELECT ");
    sql.append(condition.isEmpty() ? "1" : CONDITION + checked(table.name(), condition) + "\n)");
    for (Column column : columns) {
      sql.append(", ").append(Sql.quoted(column.name()));
    }
    sql.append(" FROM ").append(Sql.quoted(table.name())).append(" NOT INDEXED");
    Object[] values = new Object[columns.size()];
    long[] number = new long[1];
    query(
        sql.toString(),
        table.name(),
        statement -> {},
        row -> {
          number[0]++;
          if (row.getDouble(1) != 0) {
            read(row, 1, values);
            visitor.row(number[0], values);
          }
        });
  }

  private static String selected(RowKey key, String alias, List<Column> columns) {
    StringBuilder selected = new StringBuilder(key.columns(alias));
    for (Column column : columns) {
      selected.append(", ").append(alias).append('.').append(Sql.quoted(column.name()));
    }
    return selected.toString();
  }

  /**
   * A condition of the user's on the row of {@code alias}. It is evaluated in a scope where the
   * table stands alone, so that its column names mean what the user meant.
   */
  private String existing(RowKey key, String alias, String condition, String lead) {
    if (condition.isEmpty()) {
      return "";
    }
    String name = key.tableName();
    checked(key.table(), condition);
    return lead
        + "EXISTS (SELECT 1 FROM "
        + name
        + " WHERE "
        + key.same(name, alias)
        + " AND "
        + CONDITION
        + condition
        + "\n))";
  }

  /** A text; or its bytes, where they are none in UTF-8: no other value may become the same. */
  private static Object text(String text, byte[] bytes) {
    return bytes == null || Arrays.equals(bytes, text.getBytes(StandardCharsets.UTF_8))
        ? text
        : bytes;
  }

  private static void read(ResultSet row, int skip, Object[] values) throws SQLException {
    for (int i = 0; i < values.length; i++) {
      Object value = row.getObject(skip + i + 1);
      if (value instanceof Integer number) {
        values[i] = number.longValue();
      } else if (value instanceof String text && text.indexOf(REPLACED) >= 0) {
        values[i] = text(text, row.getBytes(skip + i + 1));
      } else {
        values[i] = value;
      }
    }
  }

  @Override
  public void rows(Table table, RowSet rows, List<Column> columns, RowVisitor visitor) {
    if (rows.size() > count(table) / 4 || !key(table.name()).isKnown()) {
      rows(table, "", columns, visitor.within(rows));
      return;
    }
    RowKey key = key(table.name());
    Object[] values = new Object[columns.size()];
    batches(
        key,
        rows,
        length ->
            "SELECT "
                + selected(key, "yemble_t", columns)
                + " FROM "
                + key.from("yemble_t", length),
        row -> {
          read(row, key.width(), values);
          visitor.row(key.number(row, 1), values);
        });
  }

  @Override
  public OptionalLong find(Table table, List<String> key) {
    List<String> equal = new ArrayList<>();
    for (String column : table.primaryKey()) {
      equal.add("yemble_t." + Sql.quoted(column) + " = ?");
    }
    RowKey rowKey = key(table.name());
    long[] found = new long[1];
    boolean[] any = new boolean[1];
    query(
        "SELECT "
            + rowKey.columns("yemble_t")
            + " FROM "
            + rowKey.tableName()
            + " yemble_t WHERE "
            + String.join(" AND ", equal),
        table.name(),
        statement -> {
          for (int i = 0; i < key.size(); i++) {
            statement.setString(i + 1, key.get(i));
          }
        },
        row -> {
          found[0] = rowKey.number(row, 1);
          any[0] = true;
        });
    return any[0] ? OptionalLong.of(found[0]) : OptionalLong.empty();
  }

  @Override
  public void sample(Table table, List<Column> columns, int most, RowVisitor visitor) {
    RowKey key = key(table.name());
    long count = count(table);
    if (count <= most || key.isTuples() || count < SCANNED_SAMPLE) {
      RandomSample.scanned(this, table, columns, most, visitor);
      return;
    }
    long least = number("SELECT min(" + key.order() + ") FROM " + key.tableName(), "");
    long greatest = number("SELECT max(" + key.order() + ") FROM " + key.tableName(), "");
    Random random = new Random(count);
    RowSet rows =
        RandomSample.drawn(
            this,
            table,
            most,
            20,
            random,
            () -> least + (long) (random.nextDouble() * (greatest - least + 1)));
    rows(table, rows, columns, visitor);
  }

  @Override
  public void parents(Link link, RowSet children, ParentVisitor visitor) {
    RowKey child = key(link.child());
    RowKey parent = key(link.parent());
    boolean scan = children.size() > count(schema().table(link.child())) / 4;
    RowAction action =
        row -> {
          long number = child.number(row, 1);
          if (scan && !children.contains(number)) {
            return;
          }
          row.getObject(child.width() + 1);
          if (row.wasNull()) {
            visitor.nothing(number);
          } else {
            visitor.parent(number, parent.number(row, child.width() + 1));
          }
        };
    String select =
        "SELECT " + child.columns("yemble_c") + ", " + parent.columns("yemble_p") + " FROM ";
    String rest =
        " LEFT JOIN "
            + parent.tableName()
            + " yemble_p ON "
            + equal(link)
            + " WHERE "
            + exists(link, child);
    if (scan) {
      query(select + child.tableName() + " yemble_c" + rest, link.child(), statement -> {}, action);
    } else {
      batches(child, children, length -> select + child.from("yemble_c", length) + rest, action);
    }
  }

  @Override
  public boolean leadsToChildren(Link link) {
    return catalog.leadsToChildren(link);
  }

  @Override
  public void children(
      Link link, RowSet parents, String condition, List<Column> columns, ChildVisitor visitor) {
    RowKey child = key(link.child());
    RowKey parent = key(link.parent());
    boolean scan =
        !catalog.leadsToChildren(link) || parents.size() > count(schema().table(link.parent())) / 4;
    Object[] values = new Object[columns.size()];
    RowAction action =
        row -> {
          long number = parent.number(row, 1);
          if (scan && !parents.contains(number)) {
            return;
          }
          read(row, parent.width() + child.width(), values);
          visitor.child(number, child.number(row, parent.width() + 1), values);
        };
    String select =
        "SELECT "
            + parent.columns("yemble_p")
            + ", "
            + selected(child, "yemble_c", columns)
            + " FROM ";
    String rest =
        " ON "
            + equal(link)
            + " WHERE "
            + exists(link, child)
            + existing(child, "yemble_c", condition, " AND ");
    if (scan) {
      query(
          select
              + child.tableName()
              + " yemble_c CROSS JOIN "
              + parent.tableName()
              + " yemble_p"
              + rest,
          link.child(),
          statement -> {},
          action);
    } else {
      batches(
          parent,
          parents,
          length ->
              select
                  + parent.from("yemble_p", length)
                  + " CROSS JOIN "
                  + child.tableName()
                  + " yemble_c"
                  + rest,
          action);
    }
  }

  @Override
  public void broken(Link link, LongConsumer visitor) {
    RowKey child = key(link.child());
    query(
        "SELECT "
            + child.columns("yemble_c")
            + " FROM "
            + child.tableName()
            + " yemble_c WHERE "
            + exists(link, child)
            + " AND NOT EXISTS (SELECT 1 FROM "
            + key(link.parent()).tableName()
            + " yemble_p WHERE "
            + equal(link)
            + ")",
        link.child(),
        statement -> {},
        row -> visitor.accept(child.number(row, 1)));
  }

  /** The link exists for child {@code c}: no column is NULL, and its condition holds. */
  private String exists(Link link, RowKey child) {
    List<String> parts = new ArrayList<>();
    for (String column : link.childColumns()) {
      parts.add("yemble_c." + Sql.quoted(column) + " IS NOT NULL");
    }
    return String.join(" AND ", parts) + existing(child, "yemble_c", link.condition(), " AND ");
  }

  /**
   * Parent {@code p} matches child {@code c}, compared as the parent's columns compare: their
   * collation counts because they stand left; their affinity because, where the two differ, the
   * unary plus takes the child's away.
   */
  private String equal(Link link) {
    Table child = schema().table(link.child());
    Table parent = schema().table(link.parent());
    List<String> parts = new ArrayList<>();
    for (int i = 0; i < link.childColumns().size(); i++) {
      Column from = child.column(link.childColumns().get(i)).orElseThrow();
      Column to = parent.column(link.parentColumns().get(i)).orElseThrow();
      boolean alike = Sql.affinity(from.type()).equals(Sql.affinity(to.type()));
      parts.add(
          "yemble_p."
              + Sql.quoted(to.name())
              + " = "
              + (alike ? "" : "+")
              + "yemble_c."
              + Sql.quoted(from.name()));
    }
    return String.join(" AND ", parts);
  }

  @Override
  public long duplicates(Table table, List<String> columns) {
    List<String> quoted = columns.stream().map(Sql::quoted).toList();
    return number(
        "SELECT count(*) FROM (SELECT 1 FROM "
            + Sql.quoted(table.name())
            + " WHERE "
            + String.join(" IS NOT NULL AND ", quoted)
            + " IS NOT NULL GROUP BY "
            + String.join(", ", quoted)
            + " HAVING count(*) > 1)",
        table.name().toString());
  }

  @Override
  public Map<TableName, Long> counters() {
    Map<TableName, Long> counters = new LinkedHashMap<>();
    boolean any =
        number("SELECT count(*) FROM sqlite_master WHERE name = 'sqlite_sequence'", description)
            > 0;
    if (any) {
      TableName sequence = TableName.of("sqlite_sequence");
      query(
          "SELECT name, seq FROM sqlite_sequence ORDER BY name",
          sequence,
          statement -> {},
          row -> {
            TableName table = TableName.of(row.getString(1));
            if (schema().table(table) != null) {
              counters.put(table, row.getLong(2));
            }
          });
    }
    return counters;
  }

  private void batches(RowKey key, RowSet rows, BatchSql sql, RowAction action) {
    rows.forEachBatch(
        key.batch(),
        (batch, length) ->
            query(
                sql.of(length),
                key.table(),
                statement -> key.bind(statement, batch, length),
                action));
  }

  private void query(String sql, TableName table, Binding binding, RowAction action) {
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      binding.bind(statement);
      try (ResultSet rows = statement.executeQuery()) {
        while (rows.next()) {
          action.accept(rows);
        }
      }
    } catch (SQLException e) {
      throw SqliteErrors.isEvaluation(e) && sql.contains(CONDITION)
          ? SqliteErrors.ofCondition(e, table.toString())
          : SqliteErrors.of(e, "reading failed", table.toString());
    }
  }

  @Override
  public long breaking(Table table, String check) {
    try {
      return SqliteLoad.broken(connection, table, check);
    } catch (SQLException e) {
      throw SqliteErrors.of(e, "reading failed", table.name().toString());
    }
  }

  @Override
  public Comparison comparison() {
    return new StoredForm();
  }

  @Override
  public void close() {
    if (!owned) {
      return;
    }
    try {
      connection.close();
    } catch (SQLException e) {
      throw SqliteErrors.of(e, "closing failed", description);
    }
    if (opening != null && !witnessed && !opening.undisturbed()) {
      throw Problem.of(Failure.SOURCE_CHANGED, "the database was written to while it was read")
          .at(description)
          .because("nobody had it open before, so it was read without locks that others see")
          .remedy("run the same command again: now it is read under locks");
    }
  }

  private interface BatchSql {
    String of(int length);
  }

  private interface Binding {
    void bind(PreparedStatement statement) throws SQLException;
  }

  private interface RowAction {
    void accept(ResultSet row) throws SQLException;
  }
}
