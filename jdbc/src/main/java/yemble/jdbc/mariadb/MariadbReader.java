package yemble.jdbc.mariadb;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Collectors;
import yemble.core.mark.Mark;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.DataType;
import yemble.core.schema.Link;
import yemble.core.schema.Outline;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Origin;
import yemble.jdbc.expression.Conditions;
import yemble.jdbc.rows.KeyedReader;
import yemble.jdbc.rows.RowNumbers;
import yemble.jdbc.ways.LoadDataRows;

/**
 * Reads a MariaDB database within one transaction that saw it at one moment. There is one
 * connection, as the server lends its snapshot to no other: a long result is read in pages, so that
 * something else can be asked between two rows.
 */
public final class MariadbReader extends KeyedReader implements LoadDataRows {
  private final Session session;
  private final String description;
  private final boolean owned;
  private final Conditions conditions;
  private final MariadbCatalog catalog;
  private final Schema schema;

  /**
   * @param owned whether closing the reader closes the session
   * @param allowed functions that conditions may call though they may act
   */
  MariadbReader(Session session, String description, boolean owned, Set<String> allowed) {
    this.conditions = new Conditions(MariadbSql.LEXICON, new MariadbFunctions(session, allowed));
    this.session = session;
    this.description = description;
    this.owned = owned;
    try {
      this.catalog = new MariadbCatalog(session);
      this.schema = new MariadbStructure(session, catalog).schema();
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "the database cannot be read", description);
    }
  }

  /** Reads the tables of a load under way. */
  MariadbReader(Session session, String description, MariadbCatalog catalog) {
    this.session = session;
    this.description = description;
    this.owned = false;
    this.conditions = Conditions.ofTarget(MariadbSql.LEXICON);
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

  /**
   * {@inheritDoc}
   *
   * <p>TINYINT(1) is what the server calls a truth, and a number of one byte.
   */
  @Override
  public Outline outlineByValues() {
    Outline declared = outline();
    List<Outline.TableOutline> tables = new ArrayList<>();
    for (Outline.TableOutline table : declared.tables()) {
      tables.add(table.with(numbers(table), DataType.of(DataType.Base.WHOLE, Short.SIZE)));
    }
    return new Outline(tables, declared.rest());
  }

  /** The columns of a table that are declared as truths, and hold other numbers. */
  private List<String> numbers(Outline.TableOutline table) {
    List<String> truths =
        table.columns().entrySet().stream()
            .filter(column -> column.getValue().type().base() == DataType.Base.BOOLEAN)
            .map(Map.Entry::getKey)
            .sorted()
            .toList();
    List<String> numbers = new ArrayList<>();
    if (!truths.isEmpty()) {
      String asked =
          truths.stream()
              .map(name -> "max(" + Sql.quoted(name) + " NOT IN (0, 1))")
              .collect(Collectors.joining(", "));
      try {
        session.query(
            "SELECT " + asked + " FROM " + Sql.quoted(table.table().name()),
            row -> {
              for (int i = 0; i < truths.size(); i++) {
                if (row.getInt(i + 1) == 1) {
                  numbers.add(truths.get(i));
                }
              }
            });
      } catch (SQLException e) {
        throw MariadbErrors.of(e, "reading failed", table.table().name().toString());
      }
    }
    return numbers;
  }

  @Override
  public boolean holdsNoLabel(Table table, Column column) {
    try {
      return session.one(
              "SELECT 1 FROM "
                  + Sql.quoted(table.name())
                  + " WHERE "
                  + Sql.quoted(column.name())
                  + " = 0 LIMIT 1")
          != null;
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "reading failed", table.name().toString());
    }
  }

  @Override
  public Optional<Mark> mark() {
    try {
      return MarkTable.read(session);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "Yemble's mark cannot be read", description());
    }
  }

  @Override
  public Outline outline() {
    try {
      return new MariadbOutline(session, catalog, schema).outline();
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "the structure cannot be read", description);
    }
  }

  @Override
  public Origin origin() {
    return Identity.origin(session);
  }

  @Override
  public <T> Optional<T> as(Class<T> form) {
    return form == LoadDataRows.class ? Optional.of(form.cast(this)) : Optional.empty();
  }

  @Override
  public Optional<String> form(Table table, Column column) {
    return storage(table.name()).form(column.name()).asBytes();
  }

  @Override
  public boolean undisturbed() {
    long[] statements = new long[1];
    try {
      session.query(
          "SHOW SESSION STATUS WHERE variable_name IN ('Com_insert', 'Com_insert_select',"
              + " 'Com_update', 'Com_update_multi', 'Com_delete', 'Com_delete_multi',"
              + " 'Com_replace', 'Com_replace_select', 'Com_load', 'Com_call_procedure',"
              + " 'Com_truncate', 'Com_create_table', 'Com_alter_table', 'Com_drop_table',"
              + " 'Com_rename_table')",
          row -> statements[0] += row.getLong(2));
      return statements[0] == 0 && "1".equals(session.one("SELECT @@tx_read_only"));
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "reading failed", session.description());
    }
  }

  MariadbCatalog catalog() {
    return catalog;
  }

  @Override
  protected Storage storage(TableName table) {
    return catalog.storage(table);
  }

  @Override
  public boolean leadsToChildren(Link link) {
    return link.childColumns().stream().anyMatch(storage(link.child()).indexed()::contains);
  }

  @Override
  public OptionalDouble rowBytes(Table table) {
    double bytes = storage(table.name()).rowBytes();
    return bytes > 0 ? OptionalDouble.of(bytes) : OptionalDouble.empty();
  }

  @Override
  protected void bound(String sql, List<String> values, RowAction action) throws SQLException {
    session.bound(sql, values, action::accept);
  }

  @Override
  protected Conditions conditions() {
    return conditions;
  }

  @Override
  public OptionalLong refused(
      Table table, List<Column> columns, List<Object[]> rows, String condition) {
    try {
      return condition.isEmpty() || !conditions.passes(condition)
          ? OptionalLong.empty()
          : OptionalLong.of(session.refused(columns, rows, condition));
    } catch (SQLException e) {
      return OptionalLong.empty();
    }
  }

  @Override
  public String quoted(String name) {
    return Sql.quoted(name);
  }

  @Override
  public void check(Table table, String condition) {
    conditions.closed(condition);
    String sql =
        "SELECT EXISTS (SELECT 1 FROM "
            + numbers(table.name()).from("yemble_t", condition)
            + " LIMIT 1)";
    try {
      session.execute("PREPARE yemble_check FROM " + Sql.literal(sql));
    } catch (SQLException e) {
      throw Problem.of(Failure.CONDITION, "the database refuses this condition")
          .because(MariadbErrors.refusal(e))
          .remedy("write it as after WHERE, over the columns of " + table.name() + " alone");
    }
    try {
      session.execute("EXECUTE yemble_check");
    } catch (SQLException e) {
      if (e.getErrorCode() == 1210) {
        throw Problem.of(Failure.CONDITION, "the database refuses this condition")
            .because("it holds a parameter, ?")
            .remedy("write the value itself");
      }
      throw Problem.of(Failure.CONDITION, "the database refuses this condition")
          .because("it fails on the rows, with error " + e.getErrorCode())
          .remedy("write it so that it holds or not for every row of " + table.name());
    }
  }

  @Override
  protected long number(String sql, String where) {
    try {
      String found = session.one(sql);
      return found == null ? 0 : Long.parseLong(found);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "reading failed", where);
    }
  }

  @Override
  protected void query(String sql, TableName table, RowAction action) {
    try {
      session.query(sql, action::accept);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "reading failed", table.toString());
    }
  }

  @Override
  protected void page(String sql, int rows, TableName table, RowAction action) {
    query(sql + " LIMIT " + rows, table, action);
  }

  /**
   * The rows of a set in the order of their numbers.
   *
   * @param raw which columns are read as bytes, see {@link ColumnForm#passes}
   */
  @Override
  public void rows(Table table, RowSet rows, boolean[] raw, RowVisitor visitor) {
    List<Column> columns = table.written();
    ColumnForm[] forms = storage(table.name()).forms(columns);
    Cells cells =
        new Cells() {
          @Override
          public String expression(int column, String name) {
            return raw[column] ? forms[column].raw(name) : forms[column].read(name);
          }

          @Override
          public Object value(int column, ResultSet row, int at) throws SQLException {
            return raw[column] ? row.getBytes(at) : forms[column].value(row, at);
          }
        };
    rows(table, rows, columns, cells, visitor);
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

  /**
   * The parent matches the child, compared as the parent's columns compare, their collation
   * included; columns whose types cannot be compared without loss are compared as texts.
   */
  @Override
  protected String equal(Link link) {
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
  public Map<ColumnName, String> comments() {
    Map<ColumnName, String> comments = new HashMap<>();
    try {
      session.query(
          "SELECT table_name, column_name, column_comment FROM information_schema.columns"
              + " WHERE table_schema = database() AND column_comment <> ''",
          row ->
              comments.put(
                  new ColumnName(TableName.of(row.getString(1)), row.getString(2)),
                  row.getString(3)));
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "the comments cannot be read", session.description());
    }
    return comments;
  }

  @Override
  public void abort() {
    session.abort();
  }

  @Override
  public void close() {
    if (owned) {
      session.close();
    }
  }
}
