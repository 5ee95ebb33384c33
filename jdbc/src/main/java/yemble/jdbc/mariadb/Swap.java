package yemble.jdbc.mariadb;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.mark.Mark;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.SchemaObject.Type;

/**
 * Puts the tables of a load in the place of the old ones.
 *
 * <p>MariaDB's statements on structure commit by themselves. So what is to be done after the swap
 * (foreign keys, whose names the old tables hold until they are gone; views, routines, triggers) is
 * first written down in the table {@code yemble_load}. One RENAME TABLE then moves everything at
 * once, that table too: where it is called {@code yemble_swapped} the swap has happened, and its
 * statements are run, each of them so that it may be run twice. What ends in between is completed
 * by the next load or by {@code doctor --mend}.
 */
final class Swap {
  /** What the names of tables under way begin with. */
  static final String NEW = "yemble_new_";

  private static final String OLD = "yemble_old_";
  private static final String PLANNED = "yemble_load";
  static final String SWAPPED = "yemble_swapped";
  static final String NEW_MARK = NEW + "mark";

  private final Session session;
  private final Schema structure;
  private final Map<String, String> shadows;
  private final List<String> dropped;
  private final boolean makes;
  private final Set<String> grantees;
  private final List<Outside> outside = new ArrayList<>();
  private final Map<String, String> old = new LinkedHashMap<>();

  /** A foreign key of a table that stays, to one that is replaced. */
  private record Outside(
      String schema, String table, String name, String parent, List<String> from, List<String> to) {
    String relation() {
      return Sql.quoted(schema) + "." + Sql.quoted(table);
    }
  }

  /**
   * @param shadows the new tables' names by those they get
   * @param dropped what is replaced
   * @param makes whether views, routines and the like are made, too
   * @param grantees accounts whose grants are carried over
   */
  Swap(
      Session session,
      Schema structure,
      Map<String, String> shadows,
      List<String> dropped,
      boolean makes,
      Set<String> grantees)
      throws SQLException {
    this.session = session;
    this.structure = structure;
    this.shadows = shadows;
    this.dropped = dropped;
    this.makes = makes;
    this.grantees = grantees;
    replaced();
    readOutside();
  }

  /** Makes sure that nobody else loads the database. */
  static void lock(Session session, Login login) throws SQLException {
    if (!"1".equals(session.one("SELECT GET_LOCK(" + lockName() + ", 0)"))) {
      throw Problem.of(Failure.ANOTHER_RUN, "another run is loading " + login.name())
          .at(login.place())
          .because(holder(session));
    }
  }

  /**
   * Looks whether another session is in the database in which one holds the lock: an address may
   * lead elsewhere the next time.
   *
   * @throws Problem of type DATABASE if it is not
   */
  static void lockedBy(Session holder, Session another, Login login) throws SQLException {
    String id = holder.one("SELECT CONNECTION_ID()");
    if (!id.equals(another.one("SELECT IS_USED_LOCK(" + lockName() + ")"))) {
      throw Problem.of(
              Failure.DATABASE_UNREACHABLE, "a second connection does not lead to " + login.name())
          .at(login.place())
          .because("the lock of the first one is not there")
          .remedy("give the address of one server, not of several");
    }
  }

  /** Who loads the database, as far as the account may see it. */
  private static String holder(Session session) throws SQLException {
    String holder =
        session.one(
            "SELECT CONCAT(user, ' from ', host, ', connection ', id, ' since ',"
                + " UTC_TIMESTAMP() - INTERVAL time SECOND, ' UTC or before')"
                + " FROM information_schema.processlist WHERE id = IS_USED_LOCK("
                + lockName()
                + ")");
    return holder == null ? "the server does not tell this account who" : holder;
  }

  static void unlock(Session session) throws SQLException {
    session.one("SELECT RELEASE_LOCK(" + lockName() + ")");
  }

  private static String lockName() {
    return "CONCAT('yemble load ', LEFT(SHA1(database()), 40))";
  }

  /** What is in the way of the new names, or belongs to what is replaced. */
  private void replaced() throws SQLException {
    Set<String> gone = new HashSet<>(dropped);
    gone.addAll(shadows.keySet());
    List<String> present = new ArrayList<>();
    session.query(
        "SELECT table_name FROM information_schema.tables WHERE "
            + MariadbCatalog.USERS
            + " ORDER BY table_name",
        row -> present.add(row.getString(1)));
    for (String name : present) {
      if (gone.contains(name)) {
        old.put(name, OLD + (old.size() + 1));
      }
    }
  }

  private void readOutside() throws SQLException {
    Map<String, Outside> found = new LinkedHashMap<>();
    session.query(
        "SELECT table_schema, table_name, constraint_name, column_name, referenced_table_name,"
            + " referenced_column_name, table_schema = database()"
            + " FROM information_schema.key_column_usage"
            + " WHERE referenced_table_schema = database()"
            + " ORDER BY table_schema, table_name, constraint_name, ordinal_position",
        row -> {
          boolean here = row.getBoolean(7);
          String table = row.getString(2);
          boolean stays =
              !here || !(old.containsKey(table) || table.startsWith(NEW) || table.startsWith(OLD));
          if (stays && old.containsKey(row.getString(5))) {
            Outside key =
                found.computeIfAbsent(
                    row.getString(1) + "\u0000" + table + "\u0000" + row.getString(3),
                    k -> outside(row));
            key.from().add(row.getString(4));
            key.to().add(row.getString(6));
          }
        });
    outside.addAll(found.values());
  }

  private static Outside outside(java.sql.ResultSet row) {
    try {
      return new Outside(
          row.getString(1),
          row.getString(2),
          row.getString(3),
          row.getString(5),
          new ArrayList<>(),
          new ArrayList<>());
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  /** Writes down what is to be done, and makes the mark ready. */
  void prepare(Mark mark) throws SQLException {
    session.execute("DROP TABLE IF EXISTS " + PLANNED);
    MarkTable.write(session, NEW_MARK, mark);
    write(session, PLANNED, steps());
  }

  private static void write(Session session, String table, List<Step> steps) throws SQLException {
    session.execute(
        "CREATE TABLE "
            + table
            + " (n INT PRIMARY KEY, mode TEXT NOT NULL, undoing LONGTEXT NOT NULL,"
            + " statement LONGTEXT NOT NULL)"
            + " CHARACTER SET utf8mb4");
    int number = 0;
    for (Step step : steps) {
      session.execute(
          "INSERT INTO "
              + table
              + " VALUES ("
              + ++number
              + ", "
              + Sql.literal(step.mode())
              + ", "
              + Sql.literal(step.undoing())
              + ", "
              + Sql.literal(step.statement())
              + ")");
    }
  }

  /**
   * Takes triggers off; {@link #complete} puts them back, or, if this ends before, the next load or
   * {@code doctor --mend} does. They are put back once before, so that an account that may not do
   * that finds out while they are there.
   *
   * @param structure of their tables
   * @return whether there were any
   */
  static boolean takeOffTriggers(Session session, Schema structure) throws SQLException {
    List<SchemaObject> triggers =
        structure.objects().stream()
            .filter(object -> object.type() == Type.TRIGGER && object.carried())
            .toList();
    List<Step> steps =
        Step.others(new Schema(structure.tables(), List.of(), triggers, structure.settings()));
    if (steps.isEmpty()) {
      return false;
    }
    String mode = session.one("SELECT @@sql_mode");
    for (Step step : steps) {
      run(session, step, mode);
    }
    write(session, PLANNED, steps);
    session.execute("RENAME TABLE " + PLANNED + " TO " + SWAPPED);
    for (SchemaObject trigger : triggers) {
      session.execute("DROP TRIGGER " + Sql.quoted(trigger.name()));
    }
    return true;
  }

  private List<Step> steps() throws SQLException {
    List<Step> steps = new ArrayList<>();
    for (Outside key : outside) {
      steps.add(
          new Step(
              "ALTER TABLE "
                  + key.relation()
                  + " DROP FOREIGN KEY IF EXISTS "
                  + Sql.quoted(key.name())));
    }
    // Views first: a table's name is no view's.
    for (String name : old.values()) {
      steps.add(new Step("DROP VIEW IF EXISTS " + name));
    }
    if (!old.isEmpty()) {
      steps.add(new Step("DROP TABLE IF EXISTS " + String.join(", ", old.values())));
    }
    steps.addAll(Step.keys(structure));
    for (Outside key : outside) {
      steps.add(remade(key));
    }
    if (makes) {
      for (String name : dropped) {
        if (name.startsWith("function ") || name.startsWith("procedure ")) {
          int space = name.indexOf(' ');
          steps.add(
              new Step(
                  "DROP "
                      + name.substring(0, space)
                      + " IF EXISTS "
                      + Sql.quoted(name.substring(space + 1))));
        }
      }
    }
    steps.addAll(Step.others(structure));
    for (SchemaObject object : structure.objects()) {
      if (object.type() == Type.GRANT && grantees.contains(object.table())) {
        steps.add(new Step(object.definition()));
      }
    }
    return steps;
  }

  /** The foreign key from outside as it was, from the table's own statement. */
  private Step remade(Outside key) throws SQLException {
    String[] clause = new String[1];
    session.query(
        "SHOW CREATE TABLE " + key.relation(),
        row -> {
          for (String line : yemble.jdbc.mariadb.MariadbStructure.lines(row.getString(2))) {
            if (line.strip().startsWith("CONSTRAINT " + Sql.quoted(key.name()) + " FOREIGN KEY")) {
              clause[0] = line.strip().replaceFirst(",$", "");
            }
          }
        });
    return Step.again("ALTER TABLE " + key.relation() + " ADD " + clause[0], key.name());
  }

  /**
   * Looks whether the rows of tables that stay find what they refer to in the new ones.
   *
   * @throws Problem of type REFUSED if not
   */
  void checkOutside() throws SQLException {
    for (Outside key : outside) {
      String shadow = shadows.get(key.parent());
      List<String> parts = new ArrayList<>();
      for (int i = 0; i < key.from().size(); i++) {
        parts.add("p." + Sql.quoted(key.to().get(i)) + " = c." + Sql.quoted(key.from().get(i)));
      }
      List<String> present =
          key.from().stream().map(column -> "c." + Sql.quoted(column) + " IS NOT NULL").toList();
      String lost =
          session.one(
              "SELECT count(*) FROM "
                  + key.relation()
                  + " c WHERE "
                  + String.join(" AND ", present)
                  + (shadow == null
                      ? ""
                      : " AND NOT EXISTS (SELECT 1 FROM "
                          + shadow
                          + " p WHERE "
                          + String.join(" AND ", parts)
                          + ")"));
      if (shadow == null || !"0".equals(lost)) {
        throw Problem.of(
                Failure.TARGET_FOREIGN,
                "a table that Yemble did not make refers to what would be replaced")
            .at(key.table() + " (" + key.name() + ")")
            .because(
                shadow == null
                    ? key.parent() + " would be gone"
                    : lost + " of its rows would refer to nothing in " + key.parent())
            .remedy("drop the foreign key or these rows, then run the same command again");
      }
    }
  }

  /** Moves everything at once. */
  void swap() throws SQLException {
    List<String> moves = new ArrayList<>();
    old.forEach((name, away) -> moves.add(Sql.quoted(name) + " TO " + away));
    if (MariadbTarget.isThere(session, MarkTable.NAME)) {
      moves.add(MarkTable.NAME + " TO " + OLD + "mark");
    }
    shadows.forEach((name, shadow) -> moves.add(shadow + " TO " + Sql.quoted(name)));
    moves.add(NEW_MARK + " TO " + MarkTable.NAME);
    moves.add(PLANNED + " TO " + SWAPPED);
    session.execute("RENAME TABLE " + String.join(", ", moves));
  }

  /** Runs what is to be done after a swap; how many statements that were. */
  static int complete(Session session) throws SQLException {
    session.execute("SET SESSION foreign_key_checks = 0");
    String mode = session.one("SELECT @@sql_mode");
    int run = 0;
    SQLException failure;
    int before;
    do {
      before = run;
      failure = null;
      Map<Integer, Step> steps = new LinkedHashMap<>();
      session.query(
          "SELECT n, mode, undoing, statement FROM " + SWAPPED + " ORDER BY n",
          row ->
              steps.put(
                  row.getInt(1), new Step(row.getString(2), row.getString(3), row.getString(4))));
      for (Map.Entry<Integer, Step> step : steps.entrySet()) {
        try {
          run(session, step.getValue(), mode);
          session.execute("DELETE FROM " + SWAPPED + " WHERE n = " + step.getKey());
          run++;
        } catch (SQLException e) {
          // A view may need one that comes later: as long as something works, go round again.
          failure = e;
        }
      }
    } while (failure != null && run > before);
    if (failure != null) {
      throw failure;
    }
    session.execute("DROP TABLE IF EXISTS " + OLD + "mark");
    session.execute("DROP TABLE " + SWAPPED);
    return run;
  }

  private static void run(Session session, Step step, String mode) throws SQLException {
    if (!step.undoing().isEmpty()) {
      session.execute(step.undoing());
    }
    if (step.mode().isEmpty()) {
      session.execute(step.statement());
      return;
    }
    session.execute("SET SESSION sql_mode = " + Sql.literal(step.mode()));
    try {
      session.execute(step.statement());
    } finally {
      session.execute("SET SESSION sql_mode = " + Sql.literal(mode));
    }
  }

  /** Removes the tables of a load that was not swapped in; their number. */
  static int clear(Session session) throws SQLException {
    List<String> left = new ArrayList<>();
    session.query(
        "SELECT table_name FROM information_schema.tables WHERE table_schema = database()"
            + " AND (table_name LIKE 'yemble\\_new\\_%' OR table_name = '"
            + PLANNED
            + "')",
        row -> left.add(row.getString(1)));
    left.addAll(emptyMemories(session));
    if (!left.isEmpty()) {
      session.execute("DROP TABLE IF EXISTS " + Sql.quoted(left));
    }
    return left.size();
  }

  /** Tables for old and new keys that hold none: a load that made them was cut off. */
  private static List<String> emptyMemories(Session session) throws SQLException {
    List<String> empty = new ArrayList<>();
    for (String name : memories(session)) {
      if (session.one("SELECT 1 FROM " + Sql.quoted(name) + " LIMIT 1") == null) {
        empty.add(name);
      }
    }
    return empty;
  }

  /** The tables in which loads keep old and new keys. */
  static List<String> memories(Session session) throws SQLException {
    List<String> memories = new ArrayList<>();
    session.query(
        "SELECT table_name FROM information_schema.tables WHERE table_schema = database()"
            + " AND table_name LIKE 'yemble\\_keys\\_%' ORDER BY table_name",
        row -> memories.add(row.getString(1)));
    return memories;
  }

  /** Completes or clears what a broken run has left; what was done, a line each. */
  static List<String> mend(Session session) throws SQLException {
    List<String> done = new ArrayList<>();
    if (MariadbTarget.isThere(session, SWAPPED)) {
      done.add("completed a load that was cut off after the swap: " + complete(session) + " steps");
    }
    int cleared = clear(session);
    if (cleared > 0) {
      done.add("removed " + cleared + " tables of a load that was cut off");
    }
    return done;
  }

  /** The same for a session that does not hold the lock yet. */
  static List<String> mend(Session session, Login login) throws SQLException {
    if (left(session) == 0) {
      return List.of();
    }
    lock(session, login);
    try {
      return mend(session);
    } finally {
      unlock(session);
    }
  }

  /** How many tables of a run under way, or of a broken one, are there. */
  static int left(Session session) throws SQLException {
    return emptyMemories(session).size()
        + Integer.parseInt(
            session.one(
                "SELECT count(*) FROM information_schema.tables WHERE table_schema = database()"
                    + " AND (table_name LIKE 'yemble\\_new\\_%' OR table_name IN ('"
                    + PLANNED
                    + "', '"
                    + SWAPPED
                    + "'))"));
  }

  /** Whether a run is at work on the database. */
  static boolean isLocked(Session session) throws SQLException {
    return session.one("SELECT IS_USED_LOCK(" + lockName() + ")") != null;
  }
}
