package yemble.jdbc.sqlite;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Locale;
import yemble.core.problem.Problem;
import yemble.core.schema.Link;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.Table;
import yemble.core.store.Engine;
import yemble.core.store.Reader;
import yemble.core.store.Remark;
import yemble.jdbc.examination.Remarks;

/** Looks at an SQLite file, changing nothing. */
final class SqliteExamination {
  private final Engine.Address address;
  private final Path file;
  private final Remarks remarks = new Remarks();

  SqliteExamination(Engine.Address address, Path file) {
    this.address = address;
    this.file = file;
  }

  List<Remark> remarks(boolean written) {
    try {
      if (written) {
        target();
      } else {
        source();
      }
    } catch (Problem problem) {
      remarks.unreachable(problem);
    }
    return remarks.all();
  }

  private void source() {
    try (Reader reader = new SqliteEngine().open(address)) {
      remarks.ok("reachable", file + ", " + size(file));
      try (Connection connection = SqliteEngine.readOnly(file);
          Statement statement = connection.createStatement()) {
        remarks
            .all()
            .add(
                Remark.ok(
                    "version",
                    "SQLite "
                        + one(statement, "SELECT sqlite_version()")
                        + ", "
                        + one(statement, "PRAGMA encoding")
                        + ", journal "
                        + one(statement, "PRAGMA journal_mode")));
        readOnly(statement);
      } catch (SQLException e) {
        throw SqliteErrors.of(e, "the database cannot be examined", file.toString());
      }
      schema(reader.schema());
    }
  }

  private void readOnly(Statement statement) throws SQLException {
    if (one(statement, "PRAGMA query_only").equals("1")) {
      remarks.ok(
          "read only", "the file is opened for reading alone, and nothing is made beside it");
    } else {
      remarks.canWrite();
    }
  }

  private void schema(Schema schema) {
    long keyless = schema.tables().stream().filter(t -> t.primaryKey().isEmpty()).count();
    remarks.schema(schema, keyless);
    for (SchemaObject object : schema.objects()) {
      if (object.type() == SchemaObject.Type.VIRTUAL_TABLE) {
        remarks
            .all()
            .add(
                Remark.warning(
                    "schema", "the virtual table " + object.name() + " is not carried over"));
      }
    }
    for (Link key : schema.foreignKeys()) {
      Table parent = schema.table(key.parent());
      boolean unique =
          parent.primaryKey().equals(key.parentColumns())
              || parent.uniques().contains(key.parentColumns());
      if (!unique) {
        remarks
            .all()
            .add(
                Remark.warning(
                    "schema", "the foreign key " + key + " refers to columns that are not unique"));
      }
    }
  }

  private void target() {
    if (!Files.exists(file)) {
      remarks.ok("reachable", file + " is not there yet, and will be made");
    }
    try (SqliteTarget target = new SqliteTarget(file, address.name())) {
      remarks.ok("identity", target.identity());
      remarks.ok("writable", "the file and its folder");
      remarks.content(target);
    }
    if (Files.exists(SqliteLoad.part(file))) {
      remarks
          .all()
          .add(
              Remark.warning(
                  "leftover",
                  SqliteLoad.part(file).getFileName()
                      + " of a run that was stopped or is at work; yemble doctor --mend removes it"));
    }
  }

  private static String one(Statement statement, String sql) throws SQLException {
    try (ResultSet row = statement.executeQuery(sql)) {
      return row.next() ? row.getString(1) : "";
    }
  }

  private static String size(Path file) {
    try {
      return String.format(Locale.ROOT, "%,d kB", (Files.size(file) + 1023) / 1024);
    } catch (IOException e) {
      return "size unknown";
    }
  }
}
