package yemble.jdbc.standard;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import yemble.core.mark.Mark;

/**
 * What is to be done to put a load in place, written down in the table {@code yemble_load} before
 * it begins, and struck out as it goes. In an interrupted load the first step left may have been
 * done already; then it fails, and is passed over.
 */
final class Steps {
  /** What the names of tables under way begin with. */
  static final String NEW = "yemble_new_";

  private static final String STEPS = "yemble_load";
  private static final String BEGUN = "yemble_swapped";

  /** How databases rename a table, the standard being silent. */
  private static final List<String> RENAMES =
      List.of("ALTER TABLE %s RENAME TO %s", "RENAME TABLE %s TO %s", "RENAME %s TO %s");

  private Steps() {}

  static void run(Connection connection, String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  /** The database's way to rename a table; found by trying it on one of Yemble's own. */
  static String rename(Connection connection) throws SQLException {
    String probe = NEW + "probe";
    run(connection, "CREATE TABLE " + probe + " (x INTEGER)");
    SQLException refused = null;
    for (String rename : RENAMES) {
      try {
        run(connection, String.format(java.util.Locale.ROOT, rename, probe, NEW + "renamed"));
        run(connection, "DROP TABLE " + NEW + "renamed");
        return rename;
      } catch (SQLException e) {
        refused = e;
      }
    }
    throw refused;
  }

  /** Writes down what is to be done, the mark being the last of it. */
  static void prepare(Connection connection, List<String> steps, Mark mark) throws SQLException {
    run(connection, "CREATE TABLE " + STEPS + " (n INTEGER PRIMARY KEY, content VARCHAR(30000))");
    MarkTable.write(connection, NEW + "mark", mark);
    List<String> all = new java.util.ArrayList<>(steps);
    if (StandardTarget.isThere(connection, MarkTable.NAME)) {
      all.add("DROP TABLE " + MarkTable.NAME);
    }
    all.add(String.format(java.util.Locale.ROOT, rename(connection), NEW + "mark", MarkTable.NAME));
    try (PreparedStatement insert =
        connection.prepareStatement("INSERT INTO " + STEPS + " VALUES (?, ?)")) {
      for (int i = 0; i < all.size(); i++) {
        insert.setInt(1, i + 1);
        insert.setString(2, all.get(i));
        insert.executeUpdate();
      }
    }
  }

  /** From here on the load is carried through, whatever happens. */
  static void begin(Connection connection) throws SQLException {
    run(connection, "CREATE TABLE " + BEGUN + " (x INTEGER)");
  }

  /** Carries a load through that was cut off; how many steps were left. */
  static int mend(Connection connection) throws SQLException {
    return carryThrough(connection, true);
  }

  /**
   * Carries a load through that has begun; how many steps were left.
   *
   * @param resumed whether the first step left may have been done already
   */
  static int carryThrough(Connection connection, boolean resumed) throws SQLException {
    if (!StandardTarget.isThere(connection, BEGUN)) {
      return 0;
    }
    Map<Integer, String> steps = new LinkedHashMap<>();
    if (StandardTarget.isThere(connection, STEPS)) {
      try (Statement statement = connection.createStatement();
          ResultSet rows =
              statement.executeQuery("SELECT n, content FROM " + STEPS + " ORDER BY n")) {
        while (rows.next()) {
          steps.put(rows.getInt(1), rows.getString(2));
        }
      }
    }
    boolean mayBeDone = resumed;
    for (Map.Entry<Integer, String> step : steps.entrySet()) {
      try {
        run(connection, step.getValue());
      } catch (SQLException e) {
        if (!mayBeDone) {
          throw e;
        }
      }
      mayBeDone = false;
      run(connection, "DELETE FROM " + STEPS + " WHERE n = " + step.getKey());
    }
    if (StandardTarget.isThere(connection, STEPS)) {
      run(connection, "DROP TABLE " + STEPS);
    }
    run(connection, "DROP TABLE " + BEGUN);
    return steps.size();
  }

  /** Removes the tables of a load that has not begun; their number. */
  static int clear(Connection connection) throws SQLException {
    int cleared = 0;
    for (String own : StandardTarget.own(connection)) {
      if (own.startsWith(NEW) || own.equals(STEPS)) {
        run(connection, "DROP TABLE " + own);
        cleared++;
      }
    }
    return cleared;
  }

  /** How many tables of a load under way, or of a broken one, are there. */
  static long left(Connection connection) throws SQLException {
    return StandardTarget.own(connection).stream()
        .filter(own -> !own.equals(MarkTable.NAME))
        .count();
  }
}
