package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import yemble.core.problem.Problem;
import yemble.core.store.Remark;
import yemble.jdbc.examination.Remarks;

/** Looks at a PostgreSQL database, changing nothing. */
final class PostgresqlExamination {
  private static final int OLDEST = 130_000;
  private static final int NEWEST = 190_000;

  private final Login login;
  private final Remarks remarks = new Remarks();

  PostgresqlExamination(Login login) {
    this.login = login;
  }

  List<Remark> remarks(boolean written) {
    try (Session session = login.connect(!written)) {
      session.execute("BEGIN ISOLATION LEVEL REPEATABLE READ" + (written ? "" : " READ ONLY"));
      server(session);
      if (written) {
        target(session);
      } else {
        source(session);
      }
    } catch (SQLException e) {
      remarks.unreachable(PostgresqlErrors.of(e, "the database cannot be examined", login.place()));
    } catch (Problem problem) {
      remarks.unreachable(problem);
    }
    return remarks.all();
  }

  private void server(Session session) throws SQLException {
    session.query(
        "SELECT current_user, pg_size_pretty(pg_database_size(current_database())),"
            + " current_setting('server_version'), pg_encoding_to_char(d.encoding), d.datcollate,"
            + " pg_is_in_recovery(), round(extract(epoch FROM clock_timestamp()) * 1000)::bigint,"
            + " current_schema(), current_setting('is_superuser')"
            + " FROM pg_database d WHERE d.datname = current_database()",
        row -> {
          remarks
              .all()
              .add(
                  Remark.ok(
                      "reachable",
                      login.place()
                          + " as "
                          + row.getString(1)
                          + (row.getString(9).equals("on") ? " (superuser)" : "")
                          + ", "
                          + row.getString(2)));
          version(session, row.getString(3) + ", " + row.getString(4) + ", " + row.getString(5));
          if (row.getString(4).equals("SQL_ASCII")) {
            remarks
                .all()
                .add(
                    Remark.warning(
                        "encoding",
                        "SQL_ASCII says nothing of the bytes; they are carried as they are"));
          }
          remarks.clock(row.getLong(7));
          remarks
              .all()
              .add(
                  row.getString(8) == null
                      ? Remark.problem(
                          "schema",
                          "no schema of the search path exists; name one: ?currentSchema=NAME")
                      : Remark.ok(
                          "bare names", "tables of schema " + row.getString(8) + " go without it"));
          remarks
              .all()
              .add(
                  Remark.ok(
                      "replica",
                      row.getBoolean(6)
                          ? "yes: it follows another server"
                          : "no: a server of its own"));
        });
    remarks.ok("identity", Identity.of(session, login.name()).toString());
  }

  private void version(Session session, String text) {
    int version = session.serverVersion();
    remarks
        .all()
        .add(
            version < OLDEST
                ? Remark.problem("version", "PostgreSQL " + text + "; at least 13 is needed")
                : version >= NEWEST
                    ? Remark.warning("version", "PostgreSQL " + text + "; tried up to 18")
                    : Remark.ok("version", "PostgreSQL " + text));
  }

  private void source(Session session) throws SQLException {
    readOnly(session);
    account(session);
    rights(session);
    Snapshot snapshot = new Snapshot(session);
    PostgresqlReader reader =
        new PostgresqlReader(
            snapshot, login.description(), true, new PostgresqlFunctions(snapshot::free, Set.of()));
    long keyless = reader.schema().tables().stream().filter(t -> t.primaryKey().isEmpty()).count();
    remarks.schema(reader.schema(), keyless);
    remarks.notCarried(reader.schema());
  }

  /** The server is asked what the session may do; nothing is tried. */
  private void readOnly(Session session) throws SQLException {
    if ("on".equals(session.one("SHOW transaction_read_only"))) {
      remarks.ok("read only", "the server says that this session's transactions cannot write");
    } else {
      remarks.canWrite();
    }
  }

  /** What the account could do in another session: the second wall is an account without rights. */
  private void account(Session session) throws SQLException {
    session.query(
        "SELECT current_setting('is_superuser') = 'on', (SELECT count(*) FROM pg_class c"
            + " JOIN pg_namespace n ON n.oid = c.relnamespace WHERE c.relkind IN ('r', 'p') AND "
            + PostgresqlCatalog.USER_SCHEMA
            + " AND has_table_privilege(c.oid, 'INSERT, UPDATE, DELETE, TRUNCATE'))",
        row -> {
          boolean superuser = row.getBoolean(1);
          if (superuser || row.getLong(2) > 0) {
            remarks.warning(
                "account",
                (superuser ? "a superuser" : "may write to " + row.getLong(2) + " tables")
                    + "; better one that cannot: CREATE ROLE yemble_reader LOGIN; GRANT"
                    + " pg_read_all_data TO yemble_reader");
          } else {
            remarks.ok("account", "has no right to write to a table");
          }
        });
  }

  private void rights(Session session) throws SQLException {
    List<String> closed = new ArrayList<>();
    List<String> hidden = new ArrayList<>();
    session.query(
        "SELECT c.oid::regclass::text, has_table_privilege(c.oid, 'SELECT')"
            + " AND has_schema_privilege(n.oid, 'USAGE'), row_security_active(c.oid)"
            + " OR (c.relrowsecurity AND NOT pg_has_role(c.relowner, 'USAGE') AND NOT"
            + " (SELECT rolbypassrls OR rolsuper FROM pg_roles WHERE rolname = current_user))"
            + " FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace"
            + " WHERE c.relkind IN ('r', 'p') AND NOT c.relispartition AND "
            + PostgresqlCatalog.USER_SCHEMA
            + " ORDER BY 1",
        row -> {
          if (!row.getBoolean(2)) {
            closed.add(row.getString(1));
          } else if (row.getBoolean(3)) {
            hidden.add(row.getString(1));
          }
        });
    remarks
        .all()
        .add(
            closed.isEmpty()
                ? Remark.ok("rights", "every table may be read")
                : Remark.problem("rights", "no SELECT on " + Remarks.named(closed) + ": grant it"));
    if (!hidden.isEmpty()) {
      remarks
          .all()
          .add(
              Remark.problem(
                  "rights",
                  "row level security would hide rows of "
                      + Remarks.named(hidden)
                      + ": give the account BYPASSRLS; with row_security = off a read fails, and never"
                      + " leaves rows out"));
    }
  }

  private void target(Session session) throws SQLException {
    session.query(
        "SELECT has_database_privilege(current_database(), 'CREATE'),"
            + " has_schema_privilege(current_schema(), 'CREATE')",
        row -> {
          remarks
              .all()
              .add(
                  row.getBoolean(1)
                      ? Remark.ok("writable", "schemas may be made")
                      : Remark.problem(
                          "writable",
                          "no right to make schemas, where Yemble keeps its mark: GRANT CREATE ON"
                              + " DATABASE"));
          if (!row.getBoolean(2)) {
            remarks
                .all()
                .add(
                    Remark.problem(
                        "writable",
                        "no right to make tables in its schema: GRANT CREATE ON SCHEMA"));
          }
        });
    List<String> others = new ArrayList<>();
    session.query(
        "SELECT c.oid::regclass::text FROM pg_class c"
            + " JOIN pg_namespace n ON n.oid = c.relnamespace WHERE c.relkind IN ('r', 'p')"
            + " AND NOT pg_has_role(c.relowner, 'USAGE') AND "
            + PostgresqlCatalog.USER_SCHEMA
            + " ORDER BY 1",
        row -> others.add(row.getString(1)));
    if (!others.isEmpty()) {
      remarks
          .all()
          .add(
              Remark.warning(
                  "rights",
                  "owned by others, so keys cannot be taken off and the tables not replaced: "
                      + Remarks.named(others)));
    }
    try (PostgresqlTarget target = new PostgresqlTarget(login)) {
      remarks.content(target);
      target.warnings().forEach(warning -> remarks.warning("passed on", warning));
    }
    session.query(
        "SELECT count(*) FROM pg_stat_activity WHERE datname = current_database()"
            + " AND application_name = 'Yemble' AND state LIKE 'idle in transaction%'"
            + " AND pid <> pg_backend_pid()",
        row -> {
          if (row.getLong(1) > 0) {
            remarks
                .all()
                .add(
                    Remark.warning(
                        "at work",
                        "a run is loading it, or was cut off and the server has not noticed yet;"
                            + " nothing of it is visible before its commit"));
          }
        });
  }
}
