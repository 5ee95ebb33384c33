package yemble.jdbc.sqlite;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
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

/** Looks at an SQLite file, changing nothing. */
final class SqliteExamination {
  private final Engine.Address address;
  private final Path file;
  private final List<Remark> remarks = new ArrayList<>();

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
      remarks.add(
          Remark.problem(
              "reachable",
              problem.what()
                  + (problem.why().isEmpty() ? "" : ": " + problem.why())
                  + (problem.remedy().isEmpty() ? "" : "; " + problem.remedy())));
    }
    return remarks;
  }

  private void source() {
    try (Reader reader = new SqliteEngine().open(address)) {
      remarks.add(Remark.ok("reachable", file + ", " + size(file)));
      try (Connection connection = SqliteEngine.readOnly(file);
          Statement statement = connection.createStatement()) {
        remarks.add(
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

  private void readOnly(Statement statement) {
    try {
      statement.execute("CREATE TABLE yemble_probe (x)");
      remarks.add(
          Remark.problem("read only", "the connection can write: do not go on, and report this"));
    } catch (SQLException refused) {
      remarks.add(Remark.ok("read only", "a write was tried and refused by SQLite"));
    }
  }

  private void schema(Schema schema) {
    long keyless = schema.tables().stream().filter(t -> t.primaryKey().isEmpty()).count();
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
    for (SchemaObject object : schema.objects()) {
      if (object.type() == SchemaObject.Type.VIRTUAL_TABLE) {
        remarks.add(
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
        remarks.add(
            Remark.warning(
                "schema", "the foreign key " + key + " refers to columns that are not unique"));
      }
    }
  }

  private void target() {
    if (!Files.exists(file)) {
      remarks.add(Remark.ok("reachable", file + " is not there yet, and will be made"));
    }
    try (SqliteTarget target = new SqliteTarget(file, address.name())) {
      remarks.add(Remark.ok("identity", target.identity()));
      remarks.add(Remark.ok("writable", "the file and its folder"));
      if (target.content().isEmpty()) {
        remarks.add(Remark.ok("content", "empty"));
      } else if (target.mark().isPresent()) {
        remarks.add(Remark.ok("content", target.mark().get().description()));
      } else {
        remarks.add(
            Remark.warning(
                "content",
                target.content().size()
                    + " tables that Yemble did not make; a load refuses names it needs"));
      }
    }
    if (Files.exists(SqliteLoad.part(file))) {
      remarks.add(
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
