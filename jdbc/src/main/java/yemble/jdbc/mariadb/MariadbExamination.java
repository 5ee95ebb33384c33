package yemble.jdbc.mariadb;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import yemble.core.problem.Problem;
import yemble.core.schema.Schema;
import yemble.core.store.Remark;

/** Looks at a MariaDB database, changing nothing. */
final class MariadbExamination {
  private static final int SHOWN = 5;

  private final Login login;
  private final List<Remark> remarks = new ArrayList<>();

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
      problem(MariadbErrors.of(e, "the database cannot be examined", login.place()));
    } catch (Problem problem) {
      problem(problem);
    }
    return remarks;
  }

  private void problem(Problem problem) {
    remarks.add(
        Remark.problem(
            "reachable",
            problem.what()
                + (problem.why().isEmpty() ? "" : ": " + problem.why())
                + (problem.remedy().isEmpty() ? "" : "; " + problem.remedy())));
  }

  private void server(Session session) throws SQLException {
    session.query(
        "SELECT current_user(), coalesce(sum(data_length + index_length), 0) DIV 1048576,"
            + " version(), @@collation_database, round(unix_timestamp(now(3)) * 1000)"
            + " FROM information_schema.tables WHERE table_schema = database()",
        row -> {
          remarks.add(
              Remark.ok(
                  "reachable",
                  login.place() + " as " + row.getString(1) + ", " + row.getLong(2) + " MB"));
          version(row.getString(3), row.getString(4));
          clock(row.getLong(5));
        });
    remarks.add(
        Remark.ok(
            "replica",
            MariadbTarget.replicates(session)
                ? "yes: it follows another server"
                : "no, as far as this account may know"));
    remarks.add(Remark.ok("identity", MariadbTarget.identity(session)));
  }

  private void version(String version, String collation) {
    if (!version.toLowerCase(java.util.Locale.ROOT).contains("mariadb")) {
      remarks.add(
          Remark.warning(
              "version",
              "MySQL " + version + ": not tested here; it may be read, and is never written to"));
      return;
    }
    String[] parts = version.split("[.-]");
    int number = Integer.parseInt(parts[0]) * 100 + Integer.parseInt(parts[1]);
    String text = "MariaDB " + version.replaceFirst("-.*", "") + ", " + collation;
    remarks.add(
        number < 1006
            ? Remark.problem("version", text + "; at least 10.6 is needed")
            : Remark.ok("version", text));
  }

  private void clock(long milliseconds) {
    long off = Math.abs(milliseconds - System.currentTimeMillis()) / 1000;
    remarks.add(
        off < 60
            ? Remark.ok("clock", "agrees with this machine's")
            : Remark.warning("clock", off + " seconds apart from this machine's"));
  }

  private void source(Session session) throws SQLException {
    readOnly(session);
    MariadbEngine.begin(session);
    MariadbReader reader = new MariadbReader(session, login.description(), false);
    Schema schema = reader.schema();
    List<Storage> tables = reader.catalog().storages();
    List<String> unsafe =
        tables.stream()
            .filter(table -> !table.engine().equalsIgnoreCase("InnoDB"))
            .map(table -> table.table().name() + " (" + table.engine() + ")")
            .toList();
    remarks.add(
        unsafe.isEmpty()
            ? Remark.ok("snapshot", "one moment for all tables; one connection reads them")
            : Remark.warning(
                "snapshot",
                "these tables are not read as they were at one moment: " + named(unsafe)));
    long keyless = tables.stream().filter(table -> table.key().isEmpty()).count();
    remarks.add(
        Remark.ok(
            "schema",
            schema.tables().size()
                + " tables, "
                + schema.tables().stream().mapToInt(t -> t.columns().size()).sum()
                + " columns, "
                + schema.foreignKeys().size()
                + " foreign keys"
                + (keyless > 0
                    ? ", " + keyless + (keyless == 1 ? " table" : " tables") + " without a key"
                    : "")));
    List<String> left =
        schema.objects().stream()
            .filter(object -> !object.carried())
            .map(object -> described(object.type().toString(), object.name()))
            .toList();
    if (!left.isEmpty()) {
      remarks.add(Remark.warning("schema", "not carried over: " + named(left)));
    }
  }

  private static String described(String type, String name) {
    return type.equals("other") ? name : type + " " + name;
  }

  private void readOnly(Session session) {
    try {
      session.execute("CREATE TABLE yemble_new_probe (x integer)");
      remarks.add(
          Remark.problem("read only", "the connection can write: do not go on, and report this"));
    } catch (SQLException refused) {
      remarks.add(
          refused.getErrorCode() == 1792
              ? Remark.ok("read only", "a write was tried and refused by the server")
              : Remark.warning(
                  "read only",
                  "a write was refused, but for another reason (error "
                      + refused.getErrorCode()
                      + ")"));
    }
  }

  private void target(Session session) throws SQLException {
    remarks.add(
        "1".equals(session.one("SELECT @@local_infile"))
            ? Remark.ok("bulk load", "LOAD DATA LOCAL is allowed")
            : Remark.warning(
                "bulk load",
                "the server forbids LOAD DATA LOCAL (local_infile): rows go in by INSERT, slower"));
    try (MariadbTarget target = new MariadbTarget(login)) {
      content(target);
      target.warnings().forEach(warning -> remarks.add(Remark.warning("passed on", warning)));
    }
    if (Swap.isLocked(session)) {
      remarks.add(Remark.warning("at work", "a run is loading it; nothing of it is visible yet"));
    } else if (Swap.left(session) > 0) {
      remarks.add(
          Remark.problem(
              "leftover",
              "a run was cut off and left tables of its own: yemble doctor --mend puts it right"));
    }
  }

  private void content(MariadbTarget target) {
    if (target.content().isEmpty()) {
      remarks.add(Remark.ok("content", "empty"));
    } else if (target.mark().isPresent()) {
      remarks.add(Remark.ok("content", target.mark().get().description()));
    } else {
      remarks.add(
          Remark.warning(
              "content",
              "holds what Yemble did not make ("
                  + named(target.content())
                  + "); a load refuses names it needs"));
    }
  }

  private static String named(List<String> names) {
    int shown = Math.min(SHOWN, names.size());
    String list = String.join(", ", names.subList(0, shown));
    return names.size() > shown ? list + " and " + (names.size() - shown) + " more" : list;
  }
}
