package yemble.jdbc.mariadb;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.name.TableName;
import yemble.core.problem.Problem;
import yemble.core.schema.Column;
import yemble.jdbc.rows.MergeDialect;
import yemble.jdbc.rows.ServerSession;

/** What this engine calls what a merge needs. */
final class MergeWords implements MergeDialect {
  private static final Pattern TEXTS =
      Pattern.compile("(?i)(char|varchar|.*text|.*blob|.*binary|enum|set|json|inet|uuid).*");

  private static final Pattern BYTES = Pattern.compile("(?i)(.*blob|.*binary|bit).*");

  private static final Pattern SIZED = Pattern.compile("(?i)(?:var)?(?:char|binary)\\((\\d+)\\).*");

  /** As much of a text as any index takes. */
  private static final int INDEXED_CHARACTERS = 191;

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
    return name;
  }

  @Override
  public boolean remembers(String name) throws SQLException {
    return MariadbTarget.isThere(session, name);
  }

  @Override
  public String temporary(String name, String query) {
    return "CREATE TEMPORARY TABLE " + name + " AS " + query;
  }

  @Override
  public List<String> indexed(String name, char letter, List<Column> key) {
    List<String> columns = new ArrayList<>();
    for (int i = 1; i <= key.size(); i++) {
      Matcher sized = SIZED.matcher(key.get(i - 1).type());
      boolean text = TEXTS.matcher(key.get(i - 1).type()).matches();
      boolean whole =
          !text || sized.matches() && Integer.parseInt(sized.group(1)) <= INDEXED_CHARACTERS;
      columns.add(letter + "_" + i + (whole ? "" : "(" + INDEXED_CHARACTERS + ")"));
    }
    return List.of("ALTER TABLE " + name + " ADD INDEX (" + String.join(", ", columns) + ")");
  }

  @Override
  public String removed(String name) {
    return "DROP TEMPORARY TABLE IF EXISTS " + name;
  }

  /** Of tables of a session the server knows too little to find a good order by itself. */
  @Override
  public String inOrder() {
    return " STRAIGHT_JOIN ";
  }

  @Override
  public String differs(Column column, String one, String other) {
    return TEXTS.matcher(column.type()).matches()
        ? "NOT (CAST(" + one + " AS BINARY) <=> CAST(" + other + " AS BINARY))"
        : "NOT (" + one + " <=> " + other + ")";
  }

  @Override
  public String update(String table, List<String> set, String query, String on) {
    return "UPDATE "
        + table
        + " t JOIN ("
        + query
        + ") x ON "
        + on
        + " SET "
        + String.join(", ", set.stream().map(column -> "t." + column + " = x." + column).toList());
  }

  @Override
  public String literal(String text) {
    return Sql.literal(text);
  }

  @Override
  public String shown(Column column, String value) {
    return BYTES.matcher(column.type()).matches() ? "HEX(" + value + ")" : value;
  }

  @Override
  public String literal(Column column, String shown) {
    return BYTES.matcher(column.type()).matches()
        ? "x'" + shown + "'"
        : TEXTS.matcher(column.type()).matches() || !shown.matches("-?\\d+(\\.\\d+)?")
            ? literal(shown)
            : shown;
  }

  @Override
  public String concatenated(String one, String other) {
    return "CONCAT(" + one + ", " + other + ")";
  }

  @Override
  public String shownLiteral(Column column, String value) {
    return BYTES.matcher(column.type()).matches()
        ? "IF(" + value + " IS NULL, 'NULL', CONCAT('x''', HEX(" + value + "), ''''))"
        : "QUOTE(" + value + ")";
  }

  @Override
  public String text(Column column, String value) {
    return BYTES.matcher(column.type()).matches()
        ? "HEX(" + value + ")"
        : "CONVERT(" + value + " USING utf8mb4) COLLATE utf8mb4_bin";
  }

  /** With an index: without one the server would look through the table once a row. */
  @Override
  public List<String> helper(String table, String column) {
    return List.of(
        "ALTER TABLE "
            + table
            + " ADD COLUMN "
            + column
            + " varchar(255) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin, ADD INDEX ("
            + column
            + ")");
  }

  @Override
  public String joined(String one, String number, String other) {
    return "CONCAT(" + literal(one) + ", " + number + ", " + literal(other) + ")";
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
    return MariadbErrors.of(e, what, where);
  }
}
