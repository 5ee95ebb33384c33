package yemble.bench;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import yemble.demo.DemoProject;

/**
 * SQLite: a whole masked copy, and a subset, of Orlisay Ferries by the built program under a fixed
 * heap, against {@code ATTACH} and {@code INSERT … SELECT} of the same rows into the same
 * structure.
 *
 * <p>Arguments: the scale (default 10), the heap (default 256m), the folder to work in.
 */
public final class SqliteBench {
  private static final String WHOLE =
      "  whole:\n    from: live\n    into: dev\n    load: replace\n";

  private final Path folder;
  private final Yemble yemble;

  private SqliteBench(Path folder, String heap) {
    this.folder = folder;
    this.yemble = new Yemble(folder, heap);
  }

  public static void main(String[] args) throws Exception {
    int scale = args.length > 0 ? Integer.parseInt(args[0]) : 10;
    String heap = args.length > 1 ? args[1] : "256m";
    Path folder = args.length > 2 ? Path.of(args[2]) : Files.createTempDirectory("yemble-bench");
    new SqliteBench(folder, heap).run(scale);
  }

  private void run(int scale) throws IOException, SQLException, InterruptedException {
    long start = System.nanoTime();
    DemoProject.write(folder, scale);
    Path key = folder.resolve("yemble.key");
    Files.writeString(key, DemoProject.key().reveal() + "\n");
    Files.setPosixFilePermissions(key, PosixFilePermissions.fromString("rw-------"));
    Path project = folder.resolve("yemble.yaml");
    Files.writeString(project, Files.readString(project) + WHOLE);
    System.out.printf(
        Locale.ROOT,
        "scale %d: %,d rows, %,d MB, made in %.1f s; yemble runs under -Xmx%s%n",
        scale,
        rows(folder.resolve("live.db")),
        Files.size(folder.resolve("live.db")) / 1_000_000,
        Yemble.since(start),
        yemble.heap());
    yemble.run("survey");
    yemble.run("register", "accept");
    yemble.run("register", "mask", "booking.reference", "luggage.tag", "loyalty_member.member_no");
    yemble.run("register", "keep", "--open", "--reason", "bench");
    measure("whole");
    measure("small");
  }

  private void measure(String job) throws IOException, SQLException, InterruptedException {
    JsonNode result = yemble.run("run", job, "--yes");
    double selecting = Yemble.seconds(result, "selecting");
    double loading = Yemble.seconds(result, "loading");
    double verifying = Yemble.seconds(result, "verifying");
    double plain = plainCopy();
    System.out.printf(
        Locale.ROOT,
        "%-6s %,10d rows: select %.1f s, load %.1f s, verify %.1f s; INSERT … SELECT of the same rows"
            + " %.1f s; (select + load) / plain = %.2f%n",
        job,
        result.get("rows").asLong(),
        selecting,
        loading,
        verifying,
        plain,
        (selecting + loading) / plain);
  }

  /** The same rows, unmasked, by the database alone, into the same structure; in seconds. */
  private double plainCopy() throws SQLException, IOException {
    Path copy = folder.resolve("plain.db");
    Files.deleteIfExists(copy);
    List<String> tables = new ArrayList<>();
    List<String> later = new ArrayList<>();
    List<String[]> copies = new ArrayList<>();
    try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + copy);
        Statement statement = connection.createStatement()) {
      statement.execute("PRAGMA journal_mode = OFF");
      statement.execute("PRAGMA synchronous = OFF");
      statement.execute("PRAGMA cache_size = -65536");
      statement.execute("ATTACH 'file:" + folder.resolve("live.db") + "?mode=ro' AS live");
      statement.execute("ATTACH 'file:" + folder.resolve("dev.db") + "?mode=ro' AS dev");
      describe(statement, tables, later, copies);
      keys(statement, copies);
      long start = System.nanoTime();
      statement.execute("BEGIN");
      for (String sql : tables) {
        statement.execute(sql);
      }
      for (String[] one : copies) {
        statement.execute(one[1]);
      }
      for (String sql : later) {
        statement.execute(sql);
      }
      statement.execute("COMMIT");
      return Yemble.since(start);
    } finally {
      Files.deleteIfExists(copy);
    }
  }

  private static void describe(
      Statement statement, List<String> tables, List<String> later, List<String[]> copies)
      throws SQLException {
    try (ResultSet rows =
        statement.executeQuery(
            "SELECT type, name, sql FROM live.sqlite_master WHERE sql IS NOT NULL"
                + " AND name NOT LIKE 'sqlite%' ORDER BY rowid")) {
      while (rows.next()) {
        if (rows.getString(1).equals("table")) {
          tables.add(rows.getString(3));
          copies.add(new String[] {rows.getString(2), ""});
        } else if (rows.getString(1).equals("index")) {
          later.add(rows.getString(3));
        }
      }
    }
  }

  /**
   * Which rows to copy, prepared before the clock starts: all, or those of the subset, whose keys
   * or row numbers are laid into a temporary table. A table whose key is masked is found by row
   * number, which a load keeps.
   */
  private static void keys(Statement statement, List<String[]> copies) throws SQLException {
    for (String[] one : copies) {
      String name = one[0];
      boolean whole = count(statement, "live." + name) == count(statement, "dev." + name);
      boolean withoutRowid =
          number(
                  statement,
                  "SELECT wr FROM pragma_table_list WHERE schema = 'live' AND name = '"
                      + name
                      + "'")
              == 1;
      if (whole) {
        one[1] = "INSERT INTO main." + name + " SELECT * FROM live." + name;
      } else if (withoutRowid) {
        one[1] = "INSERT INTO main." + name + " SELECT * FROM dev." + name;
      } else {
        statement.execute("CREATE TEMP TABLE k_" + name + " AS SELECT rowid AS n FROM dev." + name);
        one[1] =
            "INSERT INTO main."
                + name
                + " SELECT s.* FROM temp.k_"
                + name
                + " k CROSS JOIN live."
                + name
                + " s ON s.rowid = k.n";
      }
    }
  }

  private static long count(Statement statement, String table) throws SQLException {
    return number(statement, "SELECT count(*) FROM " + table);
  }

  private static long number(Statement statement, String sql) throws SQLException {
    try (ResultSet row = statement.executeQuery(sql)) {
      return row.next() ? row.getLong(1) : 0;
    }
  }

  private static long rows(Path file) throws SQLException {
    long rows = 0;
    try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file);
        Statement statement = connection.createStatement()) {
      List<String> tables = new ArrayList<>();
      try (ResultSet names =
          statement.executeQuery(
              "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%'")) {
        while (names.next()) {
          tables.add(names.getString(1));
        }
      }
      for (String table : tables) {
        rows += count(statement, table);
      }
    }
    return rows;
  }
}
