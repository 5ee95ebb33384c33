package yemble.jdbc.mariadb;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.LongConsumer;
import java.util.stream.Collectors;
import yemble.core.mark.Mark;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.Table;
import yemble.core.store.Counting;
import yemble.core.store.InPlace;
import yemble.core.store.Load;
import yemble.core.store.Reader;
import yemble.core.wording.Sentence;
import yemble.jdbc.rows.Lanes;
import yemble.jdbc.rows.Overwriter;
import yemble.jdbc.rows.RewriteScript;

/**
 * Rows of a database that are rewritten where they stand. What they become waits in tables {@code
 * yemble_rewrite_1} and so on; {@code yemble_rewrite} says how far each has come. Triggers cannot
 * be switched off: they are taken off, and what puts them back stands in the database, see {@link
 * Swap}.
 */
final class MariadbInPlace implements InPlace {
  private static final String LEDGER = "yemble_rewrite";
  private static final String KEPT = "yemble_rewrite_";
  private static final String WRITTEN = "yemble_written";
  private static final String NEW_LEDGER = Swap.NEW + "ledger";

  private final Login login;
  private final Session session;
  private final Map<String, Integer> numbers = new LinkedHashMap<>();
  private final Map<String, Integer> writtenNumbers = new LinkedHashMap<>();
  private Staging staged;
  private MariadbCatalog catalog;
  private Overwriter overwriter;
  private boolean locked;

  MariadbInPlace(Login login, Session session) {
    this.login = login;
    this.session = session;
  }

  /** Tables in which rows wait: none of them takes another's place. */
  private static final class Staging extends MariadbLoad {
    Staging(Login login, Session session, Schema structure) {
      super(login, session, structure, List.of(), false, Set.of());
    }

    @Override
    public void finish(Schema made, Counting source) {
      try {
        if (!shadows.isEmpty()) {
          session.execute("ANALYZE TABLE " + Sql.quoted(shadows.values()));
        }
        catalog = new MariadbCatalog(session, shadows);
      } catch (SQLException e) {
        throw MariadbErrors.of(e, "what waits cannot be read", login.place());
      }
    }
  }

  @Override
  public Load stage(Schema schema) {
    Schema structure = structure(schema);
    staged =
        new Staging(
            login,
            session,
            new Schema(
                structure.tables(),
                List.of(),
                structure.objects().stream()
                    .filter(object -> object.type() == SchemaObject.Type.TABLE)
                    .toList(),
                structure.settings()));
    return staged;
  }

  private Schema structure(Schema schema) {
    return new FoundTables(session, schema).schema();
  }

  @Override
  public void keep(Mark mark, List<Part> parts) {
    try {
      catalog = new MariadbCatalog(session);
      new Overwriter(
              new MergeWords(
                  session,
                  table -> catalog.storage(table).relation(),
                  table -> staged.shadows.get(table.name())))
          .check(parts);
      MarkTable.write(session, Swap.NEW_MARK, mark);
      session.execute("DROP TABLE IF EXISTS " + NEW_LEDGER);
      session.execute(
          "CREATE TABLE "
              + NEW_LEDGER
              + " (n INT PRIMARY KEY, name TEXT NOT NULL, upto TEXT NOT NULL, done INT NOT NULL)"
              + " CHARACTER SET utf8mb4");
      List<String> moves = new ArrayList<>();
      int number = 0;
      for (Map.Entry<String, String> shadow : staged.shadows.entrySet()) {
        number++;
        session.execute(
            "INSERT INTO "
                + NEW_LEDGER
                + " VALUES ("
                + number
                + ", "
                + Sql.literal(shadow.getKey())
                + ", '', 0)");
        moves.add(shadow.getValue() + " TO " + KEPT + number);
      }
      moves.add(NEW_LEDGER + " TO " + LEDGER);
      rename(moves);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be made ready", login.place());
    }
  }

  @Override
  public void script(Mark mark, List<Part> parts, int batch, Appendable out) {
    try {
      catalog = new MariadbCatalog(session);
      MergeWords words =
          new MergeWords(
              session,
              table -> catalog.storage(table).relation(),
              table -> staged.shadows.get(table.name()));
      new Overwriter(words).check(parts);
      for (Part part : parts) {
        String trigger =
            session.one(
                "SELECT trigger_name FROM information_schema.triggers WHERE event_object_schema"
                    + " = database() AND event_object_table = "
                    + Sql.literal(part.table().name().name()));
        if (trigger != null) {
          throw Problem.of(Failure.RULE_UNFIT, "a script cannot switch triggers off here")
              .at(part.table().name().toString())
              .because("the trigger " + trigger + " would act on each row")
              .remedy("rewrite without --to; or drop it for the time being, and make it again");
        }
      }
      List<Part> moved = new ArrayList<>();
      for (Part part : parts) {
        moved.add(part.way() == Way.BY_KEY ? withMoved(part) : part);
      }
      new RewriteScript(words, new Script(mark), out).write(moved, batch);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "the script cannot be written", login.place());
    }
  }

  /** What {@code mariadb} needs: it stops at the first statement that fails. */
  private final class Script implements RewriteScript.ScriptWords {
    private final Mark mark;
    private final String salt = UUID.randomUUID().toString();

    Script(Mark mark) {
      this.mark = mark;
    }

    @Override
    public List<String> head() throws SQLException {
      return List.of(
          "SET NAMES utf8mb4;",
          "SET SESSION sql_mode = " + Sql.literal(session.one("SELECT @@sql_mode")) + ";",
          "SET SESSION time_zone = " + Sql.literal(session.one("SELECT @@time_zone")) + ";",
          "SET SESSION unique_checks = 1, foreign_key_checks = 0, check_constraint_checks = 0;");
    }

    @Override
    public List<String> begin() {
      return List.of("START TRANSACTION;");
    }

    @Override
    public List<String> commit() {
      return List.of("COMMIT;");
    }

    @Override
    public String check(Part part, String range) throws SQLException {
      MergeWords words = new MergeWords(session, table -> "", table -> "");
      String row =
          part.table().written().stream()
              .map(column -> words.shownLiteral(column, Sql.quoted(column.name())))
              .collect(Collectors.joining(", ',', "));
      String digest =
          "SELECT CONCAT(COUNT(*), ' ', COALESCE(BIT_XOR(CAST(CONV(LEFT(MD5(CONCAT('"
              + salt
              + "', "
              + row
              + ")), 16), 16, 10) AS UNSIGNED)), 0)) FROM "
              + catalog.storage(part.table().name()).relation()
              + (range.isEmpty() ? "" : " WHERE " + range);
      return "DELIMITER //\nBEGIN NOT ATOMIC IF ("
          + digest
          + ") <> '"
          + session.one(digest)
          + "' THEN SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT ="
          + " 'rows have changed since this was written'; END IF; END //\nDELIMITER ;";
    }

    @Override
    public List<String> end() {
      return MarkTable.statements(MarkTable.NAME, mark).stream()
          .map(statement -> statement + ";")
          .toList();
    }
  }

  /** Moves tables, and the new mark into the place of the one that is there, all at once. */
  private void rename(List<String> moves) throws SQLException {
    List<String> all = new ArrayList<>(moves);
    boolean marked = MariadbTarget.isThere(session, MarkTable.NAME);
    if (marked) {
      all.add(0, MarkTable.NAME + " TO " + Swap.NEW + "old_mark");
    }
    all.add(Swap.NEW_MARK + " TO " + MarkTable.NAME);
    session.execute("RENAME TABLE " + String.join(", ", all));
    if (marked) {
      session.execute("DROP TABLE " + Swap.NEW + "old_mark");
    }
  }

  @Override
  public boolean isKept() {
    try {
      return MariadbTarget.isThere(session, LEDGER);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  @Override
  public Set<TableName> kept(List<Part> parts) {
    try {
      find();
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
    return numbers.keySet().stream().map(TableName::of).collect(Collectors.toSet());
  }

  @Override
  public boolean hasWritten() {
    try {
      return MariadbTarget.isThere(session, WRITTEN);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  /** Moves what was written before to where it is cleared. */
  private List<String> movesOfWritten() throws SQLException {
    List<String> moves = new ArrayList<>();
    if (hasWritten()) {
      String away = Swap.NEW + "written";
      List<String> tables = new ArrayList<>(List.of(""));
      session.query("SELECT n FROM " + WRITTEN, row -> tables.add("_" + row.getInt(1)));
      for (String table : tables) {
        if (MariadbTarget.isThere(session, WRITTEN + table)) {
          moves.add(WRITTEN + table + " TO " + away + table);
        }
      }
    }
    return moves;
  }

  @Override
  public long alike(Part part) {
    try {
      return overwriter.alike(part);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  @Override
  public Edited edited(Part part, int most) {
    try {
      find();
      return overwriter(true).edited(part, most);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  /** Finds what waits, and what was written before. */
  private void find() throws SQLException {
    catalog = new MariadbCatalog(session);
    session.query(
        "SELECT name, n FROM " + LEDGER, row -> numbers.put(row.getString(1), row.getInt(2)));
    if (hasWritten()) {
      session.query(
          "SELECT name, n FROM " + WRITTEN,
          row -> writtenNumbers.put(row.getString(1), row.getInt(2)));
    }
  }

  private Overwriter overwriter(boolean back) {
    return overwriter(session, back);
  }

  private Overwriter overwriter(Session in, boolean back) {
    return new Overwriter(
        new MergeWords(
            in,
            table -> catalog.storage(table).relation(),
            table -> KEPT + numbers.get(table.name())),
        back ? table -> WRITTEN + "_" + writtenNumbers.get(table.name()) : null);
  }

  @Override
  public void discard() {
    if (staged != null) {
      staged.close();
      staged = null;
    }
  }

  @Override
  public void put(List<Part> parts, boolean back, int batch, LongConsumer progress) {
    String doing = login.place();
    List<Session> sessions = new ArrayList<>(List.of(session));
    try {
      if (staged == null) {
        Swap.lock(session, login);
        locked = true;
        Swap.mend(session);
      }
      find();
      overwriter = overwriter(back);
      doing = "triggers";
      Swap.takeOffTriggers(
          session,
          structure(
              new Schema(
                  parts.stream().map(Part::table).toList(), List.of(), List.of(), Map.of())));
      doing = login.place();
      while (sessions.size() < Lanes.worth(parts)) {
        Session another = login.connect(false);
        sessions.add(another);
        Swap.lockedBy(session, another, login);
      }
      List<Part> moved = new ArrayList<>();
      for (Part part : parts) {
        moved.add(withMoved(part));
      }
      List<Lanes.Lane> lanes = new ArrayList<>();
      for (Session each : sessions) {
        each.execute(
            "SET SESSION unique_checks = 1, foreign_key_checks = 0, check_constraint_checks = 0");
        Overwriter own = overwriter(each, back);
        lanes.add((part, done) -> put(own, part, each, batch, done));
      }
      Lanes.run(moved, lanes, progress);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be rewritten", doing);
    } finally {
      sessions.subList(1, sessions.size()).forEach(Session::close);
    }
  }

  private void put(Overwriter own, Part part, Session in, int batch, LongConsumer progress) {
    TableName table = part.table().name();
    try {
      own.put(part, new Lines(in, numbers.get(table.name())), batch, progress);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be rewritten", table.toString());
    }
  }

  /** Columns that the server sets whenever a row is updated are set, too: to what they were. */
  private Part withMoved(Part part) throws SQLException {
    Set<String> moved = new HashSet<>();
    session.query(
        "SELECT column_name FROM information_schema.columns WHERE table_schema = database()"
            + " AND table_name = "
            + Sql.literal(part.table().name().name())
            + " AND extra LIKE '%on update%'",
        row -> moved.add(row.getString(1)));
    part.changed().forEach(column -> moved.add(column.name()));
    return new Part(
        part.table(),
        part.way(),
        part.table().written().stream().filter(c -> moved.contains(c.name())).toList(),
        part.unique());
  }

  /** The line of a table in the ledger. */
  private final class Lines implements Overwriter.Ledger {
    private final Session in;
    private final int number;

    Lines(Session in, int number) {
      this.in = in;
      this.number = number;
    }

    @Override
    public boolean isDone() throws SQLException {
      return "1".equals(in.one("SELECT done FROM " + LEDGER + " WHERE n = " + number));
    }

    @Override
    public String upto() throws SQLException {
      return in.one("SELECT upto FROM " + LEDGER + " WHERE n = " + number);
    }

    @Override
    public void begin() throws SQLException {
      in.execute("START TRANSACTION");
    }

    @Override
    public void reached(String last) throws SQLException {
      set("upto = " + Sql.literal(last));
    }

    @Override
    public void done() throws SQLException {
      set("done = 1");
    }

    private void set(String what) throws SQLException {
      in.execute("UPDATE " + LEDGER + " SET " + what + " WHERE n = " + number);
      in.execute("COMMIT");
    }
  }

  @Override
  public List<Sentence> faults(List<Part> parts) {
    try {
      return overwriter.faults(parts);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  @Override
  public Reader rewritten() {
    return new MariadbReader(session, login.name(), catalog);
  }

  @Override
  public void complete(Mark mark, boolean keepsWritten) {
    try {
      if (MariadbTarget.isThere(session, Swap.SWAPPED)) {
        Swap.complete(session);
      }
      MarkTable.write(session, Swap.NEW_MARK, mark);
      // At once with the mark: a resumed undo needs all of it, or nothing.
      List<String> moves = movesOfWritten();
      String there = keepsWritten ? WRITTEN + "_" : Swap.NEW;
      numbers.values().forEach(n -> moves.add(KEPT + n + " TO " + there + n));
      moves.add(LEDGER + " TO " + (keepsWritten ? WRITTEN : NEW_LEDGER));
      rename(moves);
      Swap.clear(session);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be completed", login.place())
          .remedy("run the same command again: it goes on where this stopped");
    }
  }

  @Override
  public List<Trace> clean(List<Part> parts) {
    List<Trace> traces = new ArrayList<>();
    List<String> unclean = new ArrayList<>();
    Set<String> versioned = versioned();
    for (Part part : parts) {
      Table table = part.table();
      String relation = catalog.storage(table.name()).relation();
      try {
        if (versioned.contains(table.name().name())) {
          session.execute("DELETE HISTORY FROM " + relation);
        }
        session.execute("ALTER TABLE " + relation + " FORCE");
        session.execute("ANALYZE TABLE " + relation);
      } catch (SQLException e) {
        unclean.add(table.name().toString());
      }
    }
    traces.add(
        new Trace(
            versioned.isEmpty() ? "free pages" : "free pages and history",
            unclean.isEmpty(),
            unclean.isEmpty()
                ? "every rewritten table was written anew (ALTER TABLE … FORCE)"
                    + (versioned.isEmpty() ? "" : ", its history deleted")
                : "run DELETE HISTORY FROM (where it is versioned) and ALTER TABLE … FORCE on "
                    + String.join(", ", unclean)));
    traces.add(
        new Trace(
            "binary log, redo and undo log",
            false,
            "they have the old rows until they are used again: PURGE BINARY LOGS BEFORE NOW();"
                + " stop the server with innodb_fast_shutdown = 0 and let it make its redo log"
                + " anew"));
    traces.add(
        new Trace(
            "column statistics",
            false,
            "if somebody ran ANALYZE … PERSISTENT, common values are in mysql.column_stats: delete"
                + " what belongs to this database"));
    traces.add(
        new Trace(
            "the disk",
            false,
            "blocks of the old files are free, and may still hold them: fstrim, or overwrite the"
                + " free space"));
    return traces;
  }

  private Set<String> versioned() {
    Set<String> versioned = new HashSet<>();
    try {
      session.query(
          "SELECT table_name FROM information_schema.tables WHERE table_schema = database()"
              + " AND table_type = 'SYSTEM VERSIONED'",
          row -> versioned.add(row.getString(1)));
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
    return versioned;
  }

  @Override
  public void close() {
    try {
      session.execute("ROLLBACK");
      if (locked) {
        Swap.unlock(session);
      }
    } catch (SQLException ignored) {
      // The connection is gone, and the server has rolled back.
    }
    discard();
  }
}
