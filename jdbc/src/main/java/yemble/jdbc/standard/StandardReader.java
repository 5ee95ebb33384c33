package yemble.jdbc.standard;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import yemble.core.mark.Mark;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.schema.DataType;
import yemble.core.schema.DataType.Base;
import yemble.core.schema.Link;
import yemble.core.schema.Outline;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Origin;
import yemble.jdbc.expression.BoundQuery;
import yemble.jdbc.expression.Conditions;
import yemble.jdbc.rows.KeyedReader;

/** Reads any database, within one transaction of the strictest isolation that it knows. */
public final class StandardReader extends KeyedReader {
  private static final int FETCHED = 500;
  private static final String AS_TEXT = " AS VARCHAR(4000))";

  private final Connection connection;
  private final String description;
  private final boolean owned;
  private final Conditions conditions;
  private final StandardCatalog catalog;
  private final Schema schema;

  /**
   * @param owned whether closing the reader closes the connection
   */
  StandardReader(
      Connection connection,
      String description,
      boolean owned,
      Map<String, String> shadows,
      Conditions conditions) {
    this.conditions = conditions;
    this.connection = connection;
    this.description = description;
    this.owned = owned;
    try {
      this.catalog = new StandardCatalog(connection, shadows);
    } catch (SQLException e) {
      throw StandardErrors.of(e, "the database cannot be read", description);
    }
    this.schema = new Schema(catalog.tables(), catalog.foreignKeys(), catalog.rest(), Map.of());
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
      return MarkTable.read(connection);
    } catch (SQLException e) {
      throw StandardErrors.of(e, "Yemble's mark cannot be read", description());
    }
  }

  @Override
  public Outline outline() {
    return catalog.outline();
  }

  @Override
  public Origin origin() {
    return origin(
        connection,
        description(),
        schema().tables().stream().map(table -> table.name().name()).toList());
  }

  /** What tells a database from others, as far as every driver knows it. */
  static Origin origin(Connection connection, String place, Collection<String> tables) {
    try {
      return new Origin(
          StandardEngine.NAME,
          Map.of(
              "url", connection.getMetaData().getURL(),
              "schema", String.valueOf(connection.getSchema()),
              "product", connection.getMetaData().getDatabaseProductName(),
              "tables", String.join("\n", tables)),
          Optional.empty());
    } catch (SQLException e) {
      throw StandardErrors.of(e, "source and target cannot be told apart", place);
    }
  }

  Connection connection() {
    return connection;
  }

  StandardCatalog catalog() {
    return catalog;
  }

  @Override
  protected StandardTable storage(TableName table) {
    return catalog.storage(table);
  }

  @Override
  protected void query(String sql, TableName table, RowAction action) {
    page(sql, 0, table, action);
  }

  @Override
  protected void page(String sql, int rows, TableName table, RowAction action) {
    try (Statement statement = connection.createStatement()) {
      statement.setFetchSize(FETCHED);
      if (rows > 0) {
        statement.setMaxRows(rows);
      }
      try (ResultSet found = statement.executeQuery(sql)) {
        while (found.next()) {
          action.accept(found);
        }
      }
    } catch (SQLException e) {
      throw StandardErrors.reading(e, table.toString());
    }
  }

  @Override
  protected long number(String sql, String where) {
    try (Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(sql)) {
      return row.next() ? row.getLong(1) : 0;
    } catch (SQLException e) {
      throw StandardErrors.reading(e, where);
    }
  }

  @Override
  protected void bound(String sql, List<String> values, RowAction action) throws SQLException {
    BoundQuery.run(connection, sql, values, PreparedStatement::setString, action::accept);
  }

  @Override
  protected Conditions conditions() {
    return conditions;
  }

  @Override
  public void check(Table table, String condition) {
    conditions.closed(condition);
    String sql = "SELECT 1 FROM " + numbers(table.name()).from("yemble_t", condition);
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      if (statement.getParameterMetaData().getParameterCount() > 0) {
        throw Problem.of(Failure.CONDITION, "the database refuses this condition")
            .because("it holds a parameter, ?")
            .remedy("write the value itself");
      }
      statement.setMaxRows(1);
      statement.executeQuery().close();
    } catch (SQLException e) {
      throw Problem.of(Failure.CONDITION, "the database refuses this condition")
          .because("it says SQLSTATE " + e.getSQLState() + ", error " + e.getErrorCode())
          .remedy("write it as after WHERE, over the columns of " + table.name() + " alone");
    }
  }

  @Override
  public OptionalLong find(Table table, List<String> key) {
    StandardTable storage = storage(table.name());
    List<String> equal = new ArrayList<>();
    for (int i = 0; i < key.size(); i++) {
      String column = table.primaryKey().get(i);
      DataType type = storage.types().get(column);
      boolean number = type.base() == Base.WHOLE || type.base() == Base.DECIMAL;
      if (number && !key.get(i).matches("[+-]?\\d+(\\.\\d+)?")) {
        return OptionalLong.empty();
      }
      equal.add("yemble_t." + storage.quoted(column) + " = " + storage.literal(column, key.get(i)));
    }
    long[] found = new long[1];
    boolean[] any = new boolean[1];
    query(
        "SELECT "
            + numbers(table.name()).columns("yemble_t")
            + " FROM "
            + numbers(table.name()).from("yemble_t", "")
            + " WHERE "
            + String.join(" AND ", equal),
        table.name(),
        row -> {
          found[0] = numbers(table.name()).number(row, 1);
          any[0] = true;
        });
    return any[0] ? OptionalLong.of(found[0]) : OptionalLong.empty();
  }

  @Override
  protected String equal(Link link) {
    StandardTable child = storage(link.child());
    StandardTable parent = storage(link.parent());
    List<String> parts = new ArrayList<>();
    for (int i = 0; i < link.childColumns().size(); i++) {
      String from = link.childColumns().get(i);
      String to = link.parentColumns().get(i);
      String left = "yemble_p." + parent.quoted(to);
      String right = "yemble_c." + child.quoted(from);
      boolean alike = group(child.types().get(from)) == group(parent.types().get(to));
      parts.add(
          alike ? left + " = " + right : "CAST(" + left + AS_TEXT + " = CAST(" + right + AS_TEXT);
    }
    return String.join(" AND ", parts);
  }

  /** Types of one group compare as they are. */
  private static int group(DataType type) {
    return switch (type.base()) {
      case WHOLE, DECIMAL, FLOAT, DOUBLE -> 0;
      case TEXT, ENUM, SET, ANY -> 1;
      default -> 2 + type.base().ordinal();
    };
  }

  /** Drivers do not tell: it is the greatest number that is in use. */
  @Override
  public Map<TableName, Long> counters() {
    Map<TableName, Long> counters = new LinkedHashMap<>();
    for (Table table : catalog.tables()) {
      StandardTable storage = catalog.storage(table.name());
      for (String column : storage.counted()) {
        long most =
            number(
                "SELECT max(" + storage.quoted(column) + ") FROM " + storage.relation(),
                table.name().toString());
        if (most > 0) {
          counters.put(table.name(), most);
        }
      }
    }
    return counters;
  }

  @Override
  public void abort() {
    try {
      connection.abort(Runnable::run);
    } catch (SQLException e) {
      // It is gone already.
    }
  }

  @Override
  public void close() {
    if (!owned) {
      return;
    }
    try {
      connection.rollback();
      connection.close();
    } catch (SQLException e) {
      throw StandardErrors.of(e, "closing the connection failed", description);
    }
  }
}
