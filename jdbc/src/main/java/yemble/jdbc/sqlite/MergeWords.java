package yemble.jdbc.sqlite;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import yemble.core.name.TableName;
import yemble.core.problem.Problem;
import yemble.core.schema.Column;
import yemble.jdbc.rows.MergeDialect;
import yemble.jdbc.rows.ServerSession;

/** What this engine calls what a merge needs. */
final class MergeWords implements MergeDialect {
  private final Connection connection;
  private final String waiting;

  /**
   * @param waiting the name under which the file is attached whose rows wait
   */
  MergeWords(Connection connection, String waiting) {
    this.connection = connection;
    this.waiting = waiting;
  }

  @Override
  public String quoted(String quoted) {
    return Sql.quoted(quoted);
  }

  @Override
  public String target(TableName table) {
    return "main." + Sql.quoted(table.name());
  }

  @Override
  public String staged(TableName table) {
    return waiting + "." + Sql.quoted(table.name());
  }

  @Override
  public String memory(String memory) {
    return "main." + memory;
  }

  @Override
  public boolean remembers(String memory) throws SQLException {
    return one("SELECT 1 FROM main.sqlite_master WHERE type = 'table' AND name = '" + memory + "'")
        != null;
  }

  @Override
  public String temporary(String table, String query) {
    return "CREATE TEMP TABLE " + table + " AS " + query;
  }

  /** With the types of the keys: else SQLite would not use an index to compare them. */
  @Override
  public List<String> keyTable(String table, List<String> columns, List<Column> key, String query) {
    List<String> typed = new ArrayList<>();
    for (String column : columns) {
      String type =
          column.matches("[on]_\\d+")
              ? Sql.affinity(key.get(Integer.parseInt(column.substring(2)) - 1).type())
              : "TEXT";
      typed.add(column + " " + type);
    }
    return List.of(
        "CREATE TEMP TABLE " + table + " (" + String.join(", ", typed) + ")",
        "INSERT INTO " + table + " " + query);
  }

  /** Tables of a session do not take over how a text compares: so there is an index each way. */
  @Override
  public List<String> indexed(String table, char letter, List<Column> key) {
    List<String> indexes = new ArrayList<>();
    boolean text = false;
    for (String collation : List.of("BINARY", "NOCASE", "RTRIM")) {
      List<String> columns = new ArrayList<>();
      for (int i = 0; i < key.size(); i++) {
        columns.add(letter + "_" + (i + 1) + " COLLATE " + collation);
        text |= Sql.affinity(key.get(i).type()).equals("TEXT");
      }
      if (text || indexes.isEmpty()) {
        indexes.add(
            "CREATE INDEX temp."
                + table
                + "_"
                + letter
                + "_"
                + collation
                + " ON "
                + table
                + " ("
                + String.join(", ", columns)
                + ")");
      }
    }
    return indexes;
  }

  @Override
  public String removed(String table) {
    return "DROP TABLE IF EXISTS temp." + table;
  }

  @Override
  public String sameKey(String one, String other) {
    return one + " IS " + other;
  }

  @Override
  public String differs(Column column, String one, String other) {
    return one + " IS NOT " + other + " COLLATE BINARY";
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

  @Override
  public String shownLiteral(Column column, String value) {
    return "quote(" + value + ")";
  }

  @Override
  public String text(Column column, String value) {
    return "CASE typeof("
        + value
        + ") WHEN 'blob' THEN hex("
        + value
        + ") ELSE CAST("
        + value
        + " AS TEXT) END";
  }

  @Override
  public String literal(String text) {
    return "'" + text.replace("'", "''") + "'";
  }

  @Override
  public void execute(String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  @Override
  public String one(String sql) throws SQLException {
    String[] found = new String[1];
    query(sql, row -> found[0] = row.getString(1));
    return found[0];
  }

  @Override
  public void query(String sql, ServerSession.RowAction action) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      while (rows.next()) {
        action.accept(rows);
      }
    }
  }

  @Override
  public Problem problem(SQLException e, String what, String where) {
    return SqliteErrors.of(e, what, where);
  }
}
