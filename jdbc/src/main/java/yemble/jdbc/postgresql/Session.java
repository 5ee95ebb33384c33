package yemble.jdbc.postgresql;

import java.lang.ref.Reference;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import java.util.stream.Collectors;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyIn;
import org.postgresql.copy.CopyOut;
import org.postgresql.core.BaseConnection;
import org.postgresql.core.TransactionState;
import yemble.core.schema.Column;
import yemble.core.store.Statements;
import yemble.core.store.TokenTables;
import yemble.jdbc.rows.JdbcTokens;
import yemble.jdbc.rows.MadeRows;
import yemble.jdbc.rows.ServerSession;
import yemble.jdbc.rows.UserStatements;

/**
 * One connection to a server. Values are written and read in one fixed form, whatever the server,
 * the role or this machine have as their own: so the texts of equal values are equal on any two
 * servers. Belongs to one thread.
 */
final class Session extends ServerSession {
  static final List<String> FORM =
      List.of(
          "DateStyle = 'ISO, YMD'",
          "IntervalStyle = 'postgres'",
          "TimeZone = 'UTC'",
          "extra_float_digits = 3",
          "bytea_output = 'hex'",
          "lc_monetary = 'C'",
          "standard_conforming_strings = on",
          "client_min_messages = 'error'",
          "statement_timeout = 0",
          "idle_in_transaction_session_timeout = 0",
          "lock_timeout = '10s'",
          "row_security = off",
          "synchronize_seqscans = off",
          "jit = off",
          "random_page_cost = 1.1",
          "xmloption = 'content'");

  private static final JdbcTokens.Words TOKENS =
      new JdbcTokens.Words(
          "text COLLATE \"C\"",
          "bytea",
          "",
          "",
          "BEGIN",
          " FOR SHARE",
          " FOR UPDATE",
          "INSERT INTO TOKENS (token, original, seen) SELECT token, original, DAY FROM WAITING"
              + " WHERE true ORDER BY token ON CONFLICT DO NOTHING",
          "UPDATE TOKENS SET seen = DAY WHERE seen < DAY"
              + " AND token IN (SELECT token FROM WAITING)",
          "SELECT relname FROM pg_class c JOIN pg_namespace n ON n.oid = relnamespace"
              + " WHERE relkind IN ('r', 'p', 'v', 'm', 'f') AND nspname = current_schema()",
          500);

  private boolean busy;

  Session(Connection connection, String description) {
    super(connection, description, 0);
  }

  /** Sets the form of values; a session for reading can do nothing else afterwards. */
  void prepare(boolean forReading) throws SQLException {
    StringBuilder sql = new StringBuilder();
    for (String setting : FORM) {
      sql.append("SET ").append(setting).append(";");
    }
    if (forReading) {
      sql.append("SET default_transaction_read_only = on;");
      sql.append("SET SESSION CHARACTERISTICS AS TRANSACTION READ ONLY;");
    }
    execute(sql.toString());
    catalogFirst();
  }

  /** What the server itself knows is found before anything that somebody called alike. */
  private void catalogFirst() throws SQLException {
    String path = one("SELECT pg_catalog.current_setting('search_path')");
    if (path.contains("pg_catalog")) {
      String rest =
          Arrays.stream(path.split(","))
              .map(String::strip)
              .filter(name -> !name.matches("\"?pg_catalog\"?"))
              .collect(Collectors.joining(", "));
      execute("SET search_path = " + (rest.isEmpty() ? "''" : rest));
    }
  }

  /** Whether rows are being read from it, so that it can be asked nothing else. */
  boolean isBusy() {
    return busy;
  }

  int serverVersion() {
    try {
      return Integer.parseInt(one("SHOW server_version_num"));
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, "the server's version cannot be read", description());
    }
  }

  /** Runs a query with parameters, all of them texts. */
  void query(String sql, List<String> parameters, RowAction action) throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      for (int i = 0; i < parameters.size(); i++) {
        statement.setString(i + 1, parameters.get(i));
      }
      try (ResultSet rows = statement.executeQuery()) {
        while (rows.next()) {
          action.accept(rows);
        }
      }
    }
  }

  /**
   * Has one statement parsed and not run. The server takes it by the extended protocol, which knows
   * no second statement in a message, and the driver does not split it, see {@link Login}.
   *
   * @param sql with the question marks of operators twice
   */
  void parse(String sql) throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      statement.getMetaData();
    }
  }

  /** Something that is undone if it fails, so that the transaction goes on. */
  interface Attempt {
    void run() throws SQLException;
  }

  /** Tries something; what it has done is undone if it fails. */
  void attempt(Attempt attempt) throws SQLException {
    if (connection.unwrap(BaseConnection.class).getTransactionState() == TransactionState.IDLE) {
      attempt.run(); // Each statement is undone by itself.
      return;
    }
    execute("SAVEPOINT yemble_attempt");
    try {
      attempt.run();
    } catch (SQLException e) {
      execute("ROLLBACK TO SAVEPOINT yemble_attempt");
      throw e;
    }
    execute("RELEASE SAVEPOINT yemble_attempt");
  }

  /** How many made-up rows a condition does not hold for, see {@link MadeRows}. */
  long refused(List<Column> columns, List<Object[]> rows, String condition) throws SQLException {
    long[] refused = new long[1];
    attempt(
        () ->
            refused[0] =
                MadeRows.refused(
                    connection,
                    columns,
                    rows,
                    condition,
                    Sql::quoted,
                    column -> "CAST(? AS " + column.type() + ")",
                    true));
    return refused[0];
  }

  @Override
  protected void bind(PreparedStatement statement, int at, String value) throws SQLException {
    statement.setObject(at, value, Types.OTHER);
  }

  /**
   * Runs statements of the user's.
   *
   * @param within whether in the transaction of a load
   */
  Statements statements(boolean within) {
    return new UserStatements(
        PostgresqlSql.MANNER, connection, this::bind, PostgresqlErrors::of, within) {
      @Override
      public void restore() {
        try {
          execute("RESET SESSION AUTHORIZATION");
          execute("RESET ROLE");
          execute("RESET ALL");
          prepare(false);
        } catch (SQLException e) {
          throw PostgresqlErrors.of(e, "the session cannot be put back", description());
        }
      }
    };
  }

  /** Sees a row of COPY's text: its bytes with the line feed at their end. */
  interface LineAction {
    void line(byte[] line) throws SQLException;
  }

  /** Reads all rows of {@code COPY … TO STDOUT}. */
  void copyOut(String sql, LineAction action) throws SQLException {
    busy = true;
    try {
      CopyOut copy = connection.unwrap(PGConnection.class).getCopyAPI().copyOut(sql);
      try {
        byte[] line = copy.readFromCopy();
        while (line != null) {
          action.line(line);
          line = copy.readFromCopy();
        }
      } finally {
        if (copy.isActive()) {
          copy.cancelCopy();
        }
      }
    } finally {
      busy = false;
      // The driver closes a connection that nothing refers to any more, a copy under way included.
      Reference.reachabilityFence(connection);
    }
  }

  /** The tables of a token store. */
  TokenTables tokens(String store) {
    return new JdbcTokens(
        connection, TOKENS, store, description(), PostgresqlErrors::of, this::copyTokens);
  }

  /** As the text of COPY, which is several times as fast as inserts. */
  private void copyTokens(String table, List<TokenTables.Entry> entries) throws SQLException {
    StringBuilder lines = new StringBuilder(entries.size() * 128);
    for (TokenTables.Entry entry : entries) {
      lines
          .append(
              entry
                  .token()
                  .replace("\\", "\\\\")
                  .replace("\t", "\\t")
                  .replace("\n", "\\n")
                  .replace("\r", "\\r"))
          .append("\t\\\\x")
          .append(HexFormat.of().formatHex(entry.original()))
          .append('\n');
    }
    byte[] bytes = lines.toString().getBytes(StandardCharsets.UTF_8);
    CopyIn copy = copyIn("COPY " + table + " (token, original) FROM STDIN");
    try {
      copy.writeToCopy(bytes, 0, bytes.length);
      copy.endCopy();
    } finally {
      if (copy.isActive()) {
        copy.cancelCopy();
      }
    }
  }

  CopyIn copyIn(String sql) throws SQLException {
    return connection.unwrap(PGConnection.class).getCopyAPI().copyIn(sql);
  }
}
