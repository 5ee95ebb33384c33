package yemble.jdbc.mariadb;

import java.io.InputStream;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import yemble.core.schema.Column;
import yemble.core.store.Statements;
import yemble.core.store.TokenTables;
import yemble.jdbc.rows.JdbcTokens;
import yemble.jdbc.rows.MadeRows;
import yemble.jdbc.rows.ServerSession;
import yemble.jdbc.rows.UserStatements;

/**
 * One connection to a server. How values are written and read, and what the server lets pass, is
 * set here, whatever the server or the account have as their own. Belongs to one thread.
 *
 * <p>Results are streamed. Where something else is asked while one is being read, the driver takes
 * the rest of it into memory first: so long ones are read in pages.
 */
final class Session extends ServerSession {
  private static final int STREAMED_ROWS = 500;

  /** The server's own words: dates that no calendar has and zero dates are values like others. */
  static final String FORM =
      "SET SESSION sql_mode = 'STRICT_ALL_TABLES,NO_AUTO_VALUE_ON_ZERO,ALLOW_INVALID_DATES,"
          + "NO_ENGINE_SUBSTITUTION', time_zone = '+00:00', net_write_timeout = 86400,"
          + " net_read_timeout = 86400, wait_timeout = 604800, lock_wait_timeout = 10,"
          + " innodb_lock_wait_timeout = 10, group_concat_max_len = 1000000,"
          + " sql_quote_show_create = 1";

  /** Settings that not every server knows. */
  private static final List<String> BETTER =
      List.of(
          "SET SESSION in_predicate_conversion_threshold = 0",
          "SET SESSION join_cache_level = 4, join_buffer_size = 16777216",
          "SET SESSION optimizer_max_sel_arg_weight = 1000000",
          "SET SESSION max_statement_time = 0",
          "SET SESSION information_schema_stats_expiry = 0");

  private static final JdbcTokens.Words TOKENS =
      new JdbcTokens.Words(
          "VARCHAR(250) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin",
          "BLOB",
          " ENGINE=InnoDB",
          " ENGINE=Aria TRANSACTIONAL=0",
          "START TRANSACTION",
          " LOCK IN SHARE MODE",
          " FOR UPDATE",
          "INSERT IGNORE INTO TOKENS (token, original, seen) SELECT token, original, DAY"
              + " FROM WAITING ORDER BY token",
          "UPDATE TOKENS t JOIN WAITING w ON w.token = t.token SET t.seen = DAY"
              + " WHERE t.seen < DAY",
          "SELECT table_name FROM information_schema.tables WHERE table_schema = database()",
          500);

  Session(Connection connection, String description) {
    super(connection, description, STREAMED_ROWS);
  }

  /** The tables of a token store. */
  TokenTables tokens(String store) {
    return new JdbcTokens(connection, TOKENS, store, description(), MariadbErrors::of);
  }

  /** Sets the form of values; a session for reading can do nothing else afterwards. */
  void prepare(boolean forReading) throws SQLException {
    execute("SET NAMES utf8mb4");
    execute(FORM);
    for (String setting : BETTER) {
      try {
        execute(setting);
      } catch (SQLException unknown) {
        // An older server, or another branch of the family: it does without.
      }
    }
    if (forReading) {
      execute("SET SESSION TRANSACTION ISOLATION LEVEL REPEATABLE READ, READ ONLY");
    }
  }

  /** How many made-up rows a condition does not hold for, see {@link MadeRows}. */
  long refused(List<Column> columns, List<Object[]> rows, String condition) throws SQLException {
    return MadeRows.refused(
        connection, columns, rows, condition, Sql::quoted, column -> "?", false);
  }

  /** Whether the server is of the other branch of the family, MySQL. */
  boolean isMysql() throws SQLException {
    return !one("SELECT version()").toLowerCase(java.util.Locale.ROOT).contains("mariadb");
  }

  /**
   * Runs statements of the user's, each step in a transaction of its own: what changes structure
   * commits by itself, and a load has none.
   */
  Statements statements() throws SQLException {
    String database = one("SELECT database()");
    return new UserStatements(MariadbSql.MANNER, connection, this::bind, MariadbErrors::of, false) {
      @Override
      public void restore() {
        try {
          execute("USE " + Sql.quoted(database));
          prepare(false);
          execute("SET SESSION foreign_key_checks = DEFAULT, unique_checks = DEFAULT");
        } catch (SQLException e) {
          throw MariadbErrors.of(e, "the session cannot be put back", description());
        }
      }
    };
  }

  /** What the server remarked on a statement. */
  record Warning(int code, String message) {}

  /**
   * Runs LOAD DATA LOCAL on what a stream holds.
   *
   * @return the server's warnings: each is a row or a value that is not there as it should be
   */
  List<Warning> load(String sql, InputStream rows) throws SQLException {
    List<Warning> warnings = new ArrayList<>();
    try (Statement statement = connection.createStatement()) {
      statement.unwrap(org.mariadb.jdbc.Statement.class).setLocalInfileInputStream(rows);
      statement.execute(sql);
    }
    if (!"0".equals(one("SELECT @@warning_count"))) {
      query(
          "SHOW WARNINGS LIMIT 20",
          row -> {
            // 1287 and the like only say that a word is out of fashion.
            if (!row.getString(1).equals("Note") || row.getInt(2) == 1265) {
              warnings.add(new Warning(row.getInt(2), row.getString(3)));
            }
          });
    }
    return warnings;
  }
}
