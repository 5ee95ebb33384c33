package yemble.jdbc.mariadb;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import yemble.core.problem.Problem;
import yemble.core.schema.Schema;
import yemble.core.store.Remark;
import yemble.jdbc.examination.Remarks;

/** Looks at a MariaDB database, changing nothing. */
final class MariadbExamination {

  private final Login login;
  private final Remarks remarks = new Remarks();

  MariadbExamination(Login login) {
    this.login = login;
  }

  List<Remark> remarks(boolean written) {
    try (Session session = login.connect(!written)) {
      server(session);
      if (written) {
        target(session);
      } else {
        source(session);
      }
    } catch (SQLException e) {
      remarks.unreachable(MariadbErrors.of(e, "the database cannot be examined", login.place()));
    } catch (Problem problem) {
      remarks.unreachable(problem);
    }
    return remarks.all();
  }

  private void server(Session session) throws SQLException {
    session.query(
        "SELECT current_user(), coalesce(sum(data_length + index_length), 0) DIV 1048576,"
            + " version(), @@collation_database, round(unix_timestamp(now(3)) * 1000)"
            + " FROM information_schema.tables WHERE table_schema = database()",
        row -> {
          remarks
              .all()
              .add(
                  Remark.ok(
                      "reachable",
                      login.place() + " as " + row.getString(1) + ", " + row.getLong(2) + " MB"));
          version(row.getString(3), row.getString(4));
          remarks.clock(row.getLong(5));
        });
    remarks
        .all()
        .add(
            Remark.ok(
                "replica",
                MariadbTarget.replicates(session)
                    ? "yes: it follows another server"
                    : "no, as far as this account may know"));
    remarks.ok("identity", Identity.of(session));
  }

  private void version(String version, String collation) {
    if (!version.toLowerCase(java.util.Locale.ROOT).contains("mariadb")) {
      remarks
          .all()
          .add(
              Remark.warning(
                  "version",
                  "MySQL "
                      + version
                      + ": not tested here; it may be read, and is never written to"));
      return;
    }
    String[] parts = version.split("[.-]");
    int number = Integer.parseInt(parts[0]) * 100 + Integer.parseInt(parts[1]);
    String text = "MariaDB " + version.replaceFirst("-.*", "") + ", " + collation;
    remarks
        .all()
        .add(
            number < 1006
                ? Remark.problem("version", text + "; at least 10.6 is needed")
                : Remark.ok("version", text));
  }

  private void source(Session session) throws SQLException {
    MariadbEngine.begin(session);
    readOnly(session);
    account(session);
    MariadbReader reader = new MariadbReader(session, login.description(), false, Set.of());
    Schema schema = reader.schema();
    List<Storage> tables = reader.catalog().storages();
    List<String> unsafe =
        tables.stream()
            .filter(table -> !table.engine().equalsIgnoreCase("InnoDB"))
            .map(table -> table.table().name() + " (" + table.engine() + ")")
            .toList();
    remarks
        .all()
        .add(
            unsafe.isEmpty()
                ? Remark.ok("snapshot", "one moment for all tables; one connection reads them")
                : Remark.warning(
                    "snapshot",
                    "these tables are not read as they were at one moment: "
                        + Remarks.named(unsafe)));
    long keyless = tables.stream().filter(table -> table.key().isEmpty()).count();
    remarks.schema(schema, keyless);
    remarks.notCarried(schema);
  }

  /** The server is asked what the session may do; nothing is tried. */
  private void readOnly(Session session) throws SQLException {
    if ("1".equals(session.one("SELECT @@tx_read_only"))) {
      remarks.ok("read only", "the server says that this session's transactions cannot write");
    } else {
      remarks.canWrite();
    }
  }

  /** What the account could do in another session: the second wall is an account without rights. */
  private void account(Session session) throws SQLException {
    List<String> rights = new ArrayList<>();
    for (String view : List.of("user_privileges", "schema_privileges", "table_privileges")) {
      session.query(
          "SELECT DISTINCT privilege_type FROM information_schema."
              + view
              + " WHERE grantee = CONCAT('\\'', REPLACE(current_user(), '@', '\\'@\\''), '\\'')"
              + " AND privilege_type IN ('INSERT', 'UPDATE', 'DELETE', 'DROP', 'ALTER', 'CREATE',"
              + " 'SUPER', 'FILE')"
              + (view.equals("user_privileges") ? "" : " AND table_schema = database()"),
          row -> {
            if (!rights.contains(row.getString(1))) {
              rights.add(row.getString(1));
            }
          });
    }
    if (rights.isEmpty()) {
      remarks.ok("account", "has no right to write to a table");
    } else {
      remarks.warning(
          "account",
          "may "
              + Remarks.named(rights)
              + "; better one that cannot: CREATE USER yemble_reader IDENTIFIED BY '…'; GRANT"
              + " SELECT, SHOW VIEW ON "
              + login.database()
              + ".* TO yemble_reader");
    }
  }

  private void target(Session session) throws SQLException {
    remarks
        .all()
        .add(
            "1".equals(session.one("SELECT @@local_infile"))
                ? Remark.ok("bulk load", "LOAD DATA LOCAL is allowed")
                : Remark.warning(
                    "bulk load",
                    "the server forbids LOAD DATA LOCAL (local_infile): rows go in by INSERT, slower"));
    try (MariadbTarget target = new MariadbTarget(login)) {
      remarks.content(target);
      target.warnings().forEach(warning -> remarks.warning("passed on", warning));
    }
    if (Swap.isLocked(session)) {
      remarks
          .all()
          .add(Remark.warning("at work", "a run is loading it; nothing of it is visible yet"));
    } else if (Swap.left(session) > 0) {
      remarks
          .all()
          .add(
              Remark.problem(
                  "leftover",
                  "a run was cut off and left tables of its own: yemble doctor --mend puts it right"));
    }
  }
}
