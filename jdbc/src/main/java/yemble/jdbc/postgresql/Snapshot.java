package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;

/**
 * Sessions that all see one moment of a database. There is one to begin with; while rows are read
 * from it, a question asked in between goes to another one, which shares the first one's exported
 * snapshot. For one thread.
 */
final class Snapshot implements AutoCloseable {
  private static final String BEGIN = "BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY";

  private final Login login;
  private final String exported;
  private final List<Session> sessions = new ArrayList<>();

  /** What a database holds now. */
  Snapshot(Login login) {
    this.login = login;
    Session first = login.connect(true);
    sessions.add(first);
    try {
      first.execute(BEGIN);
      this.exported = first.one("SELECT pg_export_snapshot()");
    } catch (SQLException e) {
      close();
      throw PostgresqlErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  /** What a session sees within its own transaction; it is not closed with this snapshot. */
  Snapshot(Session session) {
    this.login = null;
    this.exported = "";
    sessions.add(session);
  }

  /** The session that was there first. */
  Session first() {
    return sessions.get(0);
  }

  /** A session that can be asked something. */
  Session free() {
    for (Session session : sessions) {
      if (!session.isBusy()) {
        return session;
      }
    }
    if (login == null) {
      throw new IllegalStateException("rows of a load are being read");
    }
    Session further = login.connect(true);
    sessions.add(further);
    try {
      further.execute(BEGIN);
      further.execute("SET TRANSACTION SNAPSHOT " + Sql.literal(exported));
      return further;
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  /** Whether no session of this snapshot has been given what a writing transaction needs. */
  boolean wroteNothing() {
    try {
      for (Session session : sessions) {
        if (session.one("SELECT pg_current_xact_id_if_assigned()") != null) {
          return false;
        }
      }
      return true;
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, "reading failed", first().description());
    }
  }

  /** Cuts all connections, whatever they wait for; may be called from another thread. */
  void abort() {
    List.copyOf(sessions).forEach(Session::abort);
  }

  @Override
  public void close() {
    if (login != null) {
      sessions.forEach(Session::close);
    }
  }
}
