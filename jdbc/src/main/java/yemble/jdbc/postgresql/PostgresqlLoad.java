package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.function.LongConsumer;
import java.util.function.Supplier;
import yemble.core.mark.Mark;
import yemble.core.parcel.PackedRows;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.row.CellChange;
import yemble.core.row.RowSet;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Counting;
import yemble.core.store.Load;
import yemble.core.store.Reader;
import yemble.core.store.RowSource;
import yemble.core.store.Statements;
import yemble.jdbc.rows.CarefulWriter;
import yemble.jdbc.ways.CopyLines;

/**
 * A load in one transaction: structure, rows, keys, proof. Whoever looks at the target sees the old
 * content until the commit, and a process that is killed leaves nothing behind, as the server rolls
 * its transaction back.
 */
class PostgresqlLoad implements Load {
  /** The number of the lock that a load holds: "yemble" in ASCII. */
  private static final long LOCK = 0x79656d626c65L;

  final Login login;
  final Session session;
  private final LoadedTables tables;
  private boolean committed;

  /**
   * @param begun whether the transaction has begun already, see {@link #begin}
   */
  PostgresqlLoad(Login login, Session session, LoadedTables tables, boolean begun) {
    this.login = login;
    this.session = session;
    this.tables = tables;
    try {
      if (!begun) {
        begin(login, session);
      }
      tables.prepare();
    } catch (SQLException e) {
      close();
      throw PostgresqlErrors.of(e, login.name() + " cannot be made ready", tables.doing());
    } catch (RuntimeException e) {
      close();
      throw e;
    }
  }

  /** Begins the transaction of a load. */
  static void begin(Login login, Session session) throws SQLException {
    session.execute("BEGIN");
    lock(login, session);
  }

  /** The same lock, until {@link #release} or the end of the connection. */
  static void hold(Login login, Session session) throws SQLException {
    lock(login, session, "pg_try_advisory_lock");
  }

  /**
   * Looks whether another session is in the database in which one holds the lock: an address may
   * lead elsewhere the next time.
   *
   * @throws Problem of type DATABASE if it is not
   */
  static void heldBy(Session holder, Session another, Login login) throws SQLException {
    String pid = holder.one("SELECT pg_backend_pid()");
    String held =
        another.one(
            "SELECT 1 FROM pg_locks l JOIN pg_database d ON d.oid = l.database"
                + " WHERE d.datname = current_database() AND l.locktype = 'advisory' AND l.granted"
                + " AND l.objsubid = 1 AND l.classid::bigint = "
                + (LOCK >>> 32)
                + " AND l.objid::bigint = "
                + (LOCK & 0xffffffffL)
                + " AND l.pid = "
                + pid
                + " LIMIT 1");
    if (held == null) {
      throw Problem.of(
              Failure.DATABASE_UNREACHABLE, "a second connection does not lead to " + login.name())
          .at(login.place())
          .because("the lock of the first one is not there")
          .remedy("give the address of one server, not of several");
    }
  }

  static void release(Session session) throws SQLException {
    session.one("SELECT pg_advisory_unlock(" + LOCK + ")");
  }

  /** One load of a database at a time; the lock ends with the transaction, or the connection. */
  private static void lock(Login login, Session session) throws SQLException {
    lock(login, session, "pg_try_advisory_xact_lock");
  }

  private static void lock(Login login, Session session, String function) throws SQLException {
    if (session.one("SELECT " + function + "(" + LOCK + ")").equals("f")) {
      String holder =
          session.one(
              "SELECT a.usename || coalesce(' from ' || host(a.client_addr), '') || ', process '"
                  + " || a.pid || ' since ' || to_char(a.xact_start AT TIME ZONE 'UTC',"
                  + " 'YYYY-MM-DD HH24:MI:SS') || ' UTC' FROM pg_locks l JOIN pg_stat_activity a"
                  + " USING (pid) JOIN pg_database d ON d.oid = l.database"
                  + " WHERE d.datname = current_database() AND l.locktype = 'advisory' AND l.granted"
                  + " AND l.objsubid = 1 AND l.classid::bigint = "
                  + (LOCK >>> 32)
                  + " AND l.objid::bigint = "
                  + (LOCK & 0xffffffffL)
                  + " LIMIT 1");
      throw Problem.of(Failure.ANOTHER_RUN, "another run is loading " + login.name())
          .at(login.place())
          .because(holder == null ? "the server does not tell this account who" : holder);
    }
  }

  @Override
  public RowWriter rows(Table table) {
    CopyWriter writer = new CopyWriter(session, tables.copyInto(table), table.name().toString());
    return new CarefulWriter() {
      @Override
      protected void put(Object[] values) {
        writer.block().row(values);
        writer.rowWritten();
      }

      @Override
      protected void complete() {
        writer.complete();
      }

      @Override
      protected void end() {
        writer.close();
      }
    };
  }

  @Override
  public boolean copy(
      RowSource source,
      Table table,
      RowSet rows,
      Supplier<List<CellChange>> changes,
      LongConsumer progress) {
    if (rows.isEmpty()) {
      return true;
    }
    Optional<PackedRows> packed = source.as(PackedRows.class);
    if (packed.isPresent()
        && rows.size() == source.count(table)
        && changes.get().stream().allMatch(CellChange::keeps)) {
      unpack(packed.get(), table, progress);
      return true;
    }
    Optional<CopyLines> lines = source.as(CopyLines.class);
    if (lines.isEmpty()) {
      return false;
    }
    try (CopyWriter writer =
        new CopyWriter(session, tables.copyInto(table), table.name().toString())) {
      new MaskedCopy(lines.get(), table, changes, writer, progress).copy(rows);
      writer.complete();
    }
    return true;
  }

  /** Rows of a parcel of this engine's own: their fields are those of COPY, but for the letter. */
  private void unpack(PackedRows packed, Table table, LongConsumer progress) {
    try (CopyWriter writer =
        new CopyWriter(session, tables.copyInto(table), table.name().toString())) {
      packed.packed(
          table,
          (line, ends) -> {
            writer.block().packed(line, ends);
            writer.rowWritten();
            progress.accept(1);
          });
      writer.complete();
    }
  }

  @Override
  public void finish(Schema schema, Counting source) {
    try {
      tables.complete(source);
    } catch (SQLException e) {
      throw PostgresqlErrors.of(
          e, "the structure of " + login.name() + " cannot be completed", tables.doing());
    }
  }

  @Override
  public Reader reader() {
    return new PostgresqlReader(
        new Snapshot(session), "the new " + login.name(), false, expression -> Optional.empty());
  }

  @Override
  public Statements statements() {
    return session.statements(true);
  }

  @Override
  public List<String> made() {
    try {
      return tables.made();
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  @Override
  public void commit(Mark mark) {
    try {
      MarkTable.write(session, mark);
      session.execute("COMMIT");
      committed = true;
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be completed", login.place());
    }
  }

  @Override
  public void close() {
    if (!committed) {
      try {
        session.execute("ROLLBACK");
      } catch (SQLException ignored) {
        // The server rolls back by itself when the connection goes.
      }
    }
  }
}
