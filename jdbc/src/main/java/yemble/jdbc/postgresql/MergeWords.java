package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import yemble.core.name.TableName;
import yemble.core.problem.Problem;
import yemble.core.schema.Column;
import yemble.jdbc.rows.MergeDialect;
import yemble.jdbc.rows.ServerSession;

/** What this engine calls what a merge needs. */
final class MergeWords implements MergeDialect {
  /** Types whose equal values are the very same. */
  private static final Set<String> EXACT =
      Set.of(
          "smallint",
          "integer",
          "bigint",
          "boolean",
          "date",
          "uuid",
          "timestamp without time zone",
          "timestamp with time zone");

  private final Session session;
  private final Function<TableName, String> target;
  private final Function<TableName, String> staged;

  /**
   * @param target how statements name a table
   * @param staged the same for the rows that wait for it
   */
  MergeWords(
      Session session, Function<TableName, String> target, Function<TableName, String> staged) {
    this.session = session;
    this.target = target;
    this.staged = staged;
  }

  @Override
  public String quoted(String name) {
    return Sql.quoted(name);
  }

  @Override
  public String target(TableName table) {
    return target.apply(table);
  }

  @Override
  public String staged(TableName table) {
    return staged.apply(table);
  }

  @Override
  public String memory(String name) {
    return PostgresqlCatalog.OWN_SCHEMA + "." + name;
  }

  @Override
  public boolean remembers(String name) throws SQLException {
    return session.one("SELECT to_regclass('" + memory(name) + "')") != null;
  }

  @Override
  public String temporary(String name, String query) {
    return "CREATE TEMP TABLE " + name + " ON COMMIT DROP AS " + query;
  }

  @Override
  public String removed(String name) {
    return "DROP TABLE IF EXISTS pg_temp." + name;
  }

  @Override
  public String analyzed(String name) {
    return "ANALYZE pg_temp." + name;
  }

  @Override
  public String differs(Column column, String one, String other) {
    return EXACT.contains(column.type())
        ? one + " IS DISTINCT FROM " + other
        : "(" + one + ")::text COLLATE \"C\" IS DISTINCT FROM (" + other + ")::text COLLATE \"C\"";
  }

  @Override
  public String inserting() {
    return "OVERRIDING SYSTEM VALUE ";
  }

  @Override
  public String update(String table, List<String> set, String query, String on) {
    return "UPDATE "
        + table
        + " AS t SET "
        + String.join(", ", set.stream().map(column -> column + " = x." + column).toList())
        + " FROM ("
        + query
        + ") x WHERE "
        + on;
  }

  /** In quotes whatever it is: the column says how it is read. */
  @Override
  public String literal(Column column, String shown) {
    return literal(shown);
  }

  @Override
  public String shownLiteral(Column column, String value) {
    return "quote_nullable((" + value + ")::text)";
  }

  @Override
  public String text(Column column, String value) {
    return "(" + value + ")::text COLLATE \"C\"";
  }

  @Override
  public String literal(String text) {
    return Sql.literal(text);
  }

  @Override
  public void execute(String sql) throws SQLException {
    session.execute(sql);
  }

  @Override
  public String one(String sql) throws SQLException {
    return session.one(sql);
  }

  @Override
  public void query(String sql, ServerSession.RowAction action) throws SQLException {
    session.query(sql, action);
  }

  @Override
  public Problem problem(SQLException e, String what, String where) {
    return PostgresqlErrors.of(e, what, where);
  }
}
