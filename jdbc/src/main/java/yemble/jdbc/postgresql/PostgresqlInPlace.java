package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.LongConsumer;
import java.util.stream.Collectors;
import yemble.core.mark.Mark;
import yemble.core.name.TableName;
import yemble.core.schema.Schema;
import yemble.core.store.InPlace;
import yemble.core.store.Load;
import yemble.core.store.Reader;
import yemble.core.wording.Sentence;
import yemble.jdbc.rows.Lanes;
import yemble.jdbc.rows.Overwriter;
import yemble.jdbc.rows.RewriteScript;

/**
 * Rows of a database that are rewritten where they stand. What they become waits in tables of the
 * schema {@code yemble}; {@code yemble.rewrite} says how far each has come. Where the role may
 * switch triggers and foreign keys off for its session, batches are committed one by one, several
 * tables at a time; else all is one transaction, in which they are taken off and put back.
 */
final class PostgresqlInPlace implements InPlace {
  private static final String LEDGER = PostgresqlCatalog.OWN_SCHEMA + ".rewrite";
  private static final String WRITTEN = PostgresqlCatalog.OWN_SCHEMA + ".written";

  private final Login login;
  private final Session session;
  private final Map<String, Integer> numbers = new HashMap<>();
  private final Map<String, Integer> writtenNumbers = new HashMap<>();
  private FoundTables found;
  private WaitingTables waiting;
  private PostgresqlLoad staged;
  private Overwriter overwriter;
  private boolean atOnce;
  private boolean switched;

  PostgresqlInPlace(Login login, Session session) {
    this.login = login;
    this.session = session;
  }

  @Override
  public Load stage(Schema schema) {
    found = new FoundTables(session, schema, List.of());
    waiting = WaitingTables.lasting(session, schema, found);
    staged =
        new PostgresqlLoad(login, session, waiting, false) {
          @Override
          public Reader reader() {
            return new PostgresqlReader(
                session, "what waits for " + login.name(), waiting.catalog());
          }
        };
    return staged;
  }

  @Override
  public void keep(Mark mark, List<Part> parts) {
    try {
      new Overwriter(new MergeWords(session, this::relation, waiting::relation)).check(parts);
      MarkTable.write(session, mark);
      session.execute("DROP TABLE IF EXISTS " + LEDGER);
      session.execute(
          "CREATE TABLE "
              + LEDGER
              + " (n integer PRIMARY KEY, relation text NOT NULL, upto text NOT NULL,"
              + " done boolean NOT NULL)");
      for (Part part : parts) {
        session.execute(
            "INSERT INTO "
                + LEDGER
                + " VALUES ("
                + waiting.number(part.table().name())
                + ", "
                + Sql.literal(relation(part.table().name()))
                + ", '', false)");
      }
      session.execute("COMMIT");
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be made ready", login.place());
    }
  }

  private String relation(TableName table) {
    return found.catalog().storage(table).relation();
  }

  @Override
  public void script(Mark mark, List<Part> parts, int batch, Appendable out) {
    try {
      MergeWords words = new MergeWords(session, this::relation, waiting::relation);
      new Overwriter(words).check(parts);
      new RewriteScript(words, new Script(mark), out).write(parts, batch);
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, "the script cannot be written", login.place());
    }
  }

  /** What {@code psql} needs. */
  private final class Script implements RewriteScript.ScriptWords {
    private final Mark mark;
    private final String salt = UUID.randomUUID().toString();

    Script(Mark mark) {
      this.mark = mark;
    }

    /** The texts that rows have depend on these settings, and so do the digests. */
    @Override
    public List<String> head() throws SQLException {
      List<String> head = new ArrayList<>(List.of("\\set ON_ERROR_STOP on"));
      session.query(
          "SELECT format('SET %s = %L;', name, setting) FROM pg_settings WHERE name IN"
              + " ('DateStyle', 'IntervalStyle', 'TimeZone', 'extra_float_digits', 'bytea_output',"
              + " 'lc_monetary', 'search_path', 'xmloption') ORDER BY name",
          row -> head.add(row.getString(1)));
      head.add("SET client_encoding = 'UTF8';");
      head.add("SET standard_conforming_strings = on;");
      head.add("-- Triggers and foreign keys must not act; this needs the right to do so.");
      head.add("SET session_replication_role = replica;");
      return head;
    }

    @Override
    public List<String> begin() {
      return List.of("BEGIN;");
    }

    @Override
    public List<String> commit() {
      return List.of("COMMIT;");
    }

    @Override
    public String check(Part part, String range) throws SQLException {
      String row = "md5('" + salt + "' || t::text)";
      String digest =
          "SELECT coalesce(md5(string_agg("
              + row
              + ", '' ORDER BY "
              + row
              + ")), '') FROM "
              + relation(part.table().name())
              + " t"
              + (range.isEmpty() ? "" : " WHERE " + range);
      return "DO $yemble$BEGIN IF ("
          + digest
          + ") <> '"
          + session.one(digest)
          + "' THEN RAISE EXCEPTION 'rows have changed since this was written'; END IF;"
          + " END$yemble$;";
    }

    @Override
    public List<String> end() throws SQLException {
      List<String> end = new ArrayList<>();
      session.query(
          "SELECT format('%I.%I', n.nspname, c.relname) FROM pg_class c JOIN pg_namespace n ON n.oid ="
              + " c.relnamespace WHERE c.relkind = 'm' AND c.relispopulated AND "
              + PostgresqlCatalog.USER_SCHEMA
              + " ORDER BY c.oid",
          row -> end.add("REFRESH MATERIALIZED VIEW " + row.getString(1) + ";"));
      end.add("BEGIN;");
      MarkTable.statements(mark).forEach(statement -> end.add(statement + ";"));
      end.add("COMMIT;");
      end.add("-- Statistics and dead rows still hold originals.");
      end.add("VACUUM (FULL, ANALYZE);");
      return end;
    }
  }

  @Override
  public boolean isKept() {
    try {
      return session.one("SELECT to_regclass('" + LEDGER + "')") != null;
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  @Override
  public Set<TableName> kept(List<Part> parts) {
    try {
      find(parts);
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be read", login.place());
    }
    return parts.stream()
        .map(part -> part.table().name())
        .filter(table -> numbers.containsKey(relation(table)))
        .collect(Collectors.toSet());
  }

  @Override
  public boolean hasWritten() {
    try {
      return session.one("SELECT to_regclass('" + WRITTEN + "')") != null;
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  private void dropWritten() throws SQLException {
    if (!hasWritten()) {
      return;
    }
    List<String> drops = new ArrayList<>(List.of(WRITTEN));
    session.query("SELECT n FROM " + WRITTEN, row -> drops.add(WRITTEN + "_" + row.getInt(1)));
    session.execute("DROP TABLE IF EXISTS " + String.join(", ", drops));
  }

  @Override
  public long alike(Part part) {
    try {
      return overwriter.alike(part);
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  @Override
  public Edited edited(Part part, int most) {
    try {
      find(List.of(part));
      return overwriter(true).edited(part, most);
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  /** Finds what waits, and what was written before. */
  private void find(List<Part> parts) throws SQLException {
    if (found == null) {
      found =
          new FoundTables(
              session,
              new Schema(parts.stream().map(Part::table).toList(), List.of(), List.of(), Map.of()),
              List.of());
    }
    if (numbers.isEmpty()) {
      session.query(
          "SELECT relation, n FROM " + LEDGER, row -> numbers.put(row.getString(1), row.getInt(2)));
    }
    if (writtenNumbers.isEmpty() && hasWritten()) {
      session.query(
          "SELECT relation, n FROM " + WRITTEN,
          row -> writtenNumbers.put(row.getString(1), row.getInt(2)));
    }
  }

  private Overwriter overwriter(boolean back) {
    return overwriter(session, back);
  }

  private Overwriter overwriter(Session in, boolean back) {
    return new Overwriter(
        new MergeWords(
            in, this::relation, table -> WaitingTables.lasting(numbers.get(relation(table)))),
        back ? table -> WRITTEN + "_" + writtenNumbers.get(relation(table)) : null);
  }

  @Override
  public void discard() {
    if (staged != null) {
      staged.close();
    }
  }

  @Override
  public void put(List<Part> parts, boolean back, int batch, LongConsumer progress) {
    String doing = login.place();
    List<Session> sessions = new ArrayList<>(List.of(session));
    try {
      find(parts);
      overwriter = overwriter(back);
      PostgresqlLoad.hold(login, session);
      atOnce = !switchedOff();
      if (atOnce) {
        session.execute("BEGIN");
        doing = "foreign keys and triggers";
        found.prepare();
      } else {
        while (sessions.size() < Lanes.worth(parts)) {
          sessions.add(another());
        }
      }
      List<Lanes.Lane> lanes = new ArrayList<>();
      for (Session each : sessions) {
        Overwriter own = overwriter(each, back);
        lanes.add((part, done) -> put(own, part, each, batch, done));
      }
      Lanes.run(parts, lanes, progress);
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be rewritten", doing);
    } finally {
      sessions.subList(1, sessions.size()).forEach(Session::close);
    }
  }

  private void put(Overwriter own, Part part, Session in, int batch, LongConsumer progress) {
    try {
      own.put(part, new Lines(in, numbers.get(relation(part.table().name()))), batch, progress);
    } catch (SQLException e) {
      throw PostgresqlErrors.of(
          e, login.name() + " cannot be rewritten", part.table().name().toString());
    }
  }

  /** One more session; in the same database, as the lock that the first one holds tells. */
  private Session another() throws SQLException {
    Session another = login.connect(false);
    try {
      PostgresqlLoad.heldBy(session, another, login);
      another.execute("SET session_replication_role = replica");
      return another;
    } catch (SQLException | RuntimeException e) {
      another.close();
      throw e;
    }
  }

  /** Whether nothing but what is asked for happens to rows that this session writes. */
  private boolean switchedOff() throws SQLException {
    String always =
        session.one(
            "SELECT 1 FROM pg_trigger t WHERE NOT t.tgisinternal AND t.tgenabled IN ('A', 'R')"
                + " UNION ALL SELECT 1 FROM pg_rewrite WHERE ev_enabled IN ('A', 'R') LIMIT 1");
    if (always != null) {
      return false;
    }
    try {
      session.execute("SET session_replication_role = replica");
      switched = true;
      return true;
    } catch (SQLException notAllowed) {
      return false;
    }
  }

  private void switchOn() throws SQLException {
    if (switched) {
      session.execute("SET session_replication_role = DEFAULT");
      switched = false;
    }
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
      return "t".equals(in.one("SELECT done FROM " + LEDGER + " WHERE n = " + number));
    }

    @Override
    public String upto() throws SQLException {
      return in.one("SELECT upto FROM " + LEDGER + " WHERE n = " + number);
    }

    @Override
    public void begin() throws SQLException {
      PostgresqlInPlace.this.begin(in);
    }

    @Override
    public void reached(String last) throws SQLException {
      set("upto = " + Sql.literal(last));
    }

    @Override
    public void done() throws SQLException {
      set("done = true");
    }

    private void set(String what) throws SQLException {
      in.execute("UPDATE " + LEDGER + " SET " + what + " WHERE n = " + number);
      if (!atOnce) {
        in.execute("COMMIT");
      }
    }
  }

  private void begin(Session in) throws SQLException {
    if (!atOnce) {
      in.execute("BEGIN");
    }
  }

  @Override
  public List<Sentence> faults(List<Part> parts) {
    try {
      return overwriter.faults(parts);
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  @Override
  public Reader rewritten() {
    return new PostgresqlReader(session, login.name(), found.catalog());
  }

  @Override
  public void complete(Mark mark, boolean keepsWritten) {
    try {
      begin(session);
      found.restore();
      MarkTable.write(session, mark);
      dropWritten();
      if (keepsWritten) {
        for (int number : numbers.values()) {
          session.execute(
              "ALTER TABLE " + WaitingTables.lasting(number) + " RENAME TO written_" + number);
        }
        session.execute("ALTER TABLE " + LEDGER + " RENAME TO written");
      } else {
        List<String> drops = new ArrayList<>(List.of(LEDGER));
        numbers.values().forEach(number -> drops.add(WaitingTables.lasting(number)));
        session.execute("DROP TABLE IF EXISTS " + String.join(", ", drops));
      }
      session.execute("COMMIT");
      switchOn();
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be completed", found.doing());
    }
  }

  @Override
  public List<Trace> clean(List<Part> parts) {
    List<Trace> traces = new ArrayList<>();
    List<String> unclean = new ArrayList<>();
    for (Part part : parts) {
      if (!isWrittenAnew(relation(part.table().name()))) {
        unclean.add(part.table().name().toString());
      }
    }
    traces.add(
        new Trace(
            "dead rows",
            unclean.isEmpty(),
            unclean.isEmpty()
                ? "every rewritten table was written anew (VACUUM FULL)"
                : "as its owner run VACUUM FULL on " + String.join(", ", unclean)));
    traces.add(
        emptied("planner statistics", "pg_catalog.pg_statistic, which remembers common values"));
    traces.add(
        new Trace(
            "write-ahead log",
            false,
            "it has the old rows until its files are used again: CHECKPOINT; SELECT"
                + " pg_switch_wal(); and empty the archive, if there is one"));
    traces.add(
        new Trace(
            "the disk",
            false,
            "blocks of the old files are free, and may still hold them: fstrim, or overwrite the"
                + " free space"));
    return traces;
  }

  private Trace emptied(String place, String table) {
    boolean anew =
        isWrittenAnew("pg_catalog.pg_statistic")
            && isWrittenAnew("pg_catalog.pg_statistic_ext_data");
    return anew
        ? new Trace(place, true, "made again, and written anew")
        : new Trace(
            place,
            false,
            "made again; the old ones go with VACUUM FULL on "
                + table
                + ", by a superuser or the database's owner");
  }

  /** To who may not do it the server gives a warning alone: the file tells. */
  private boolean isWrittenAnew(String relation) {
    String file = "SELECT pg_relation_filenode(" + Sql.literal(relation) + ")";
    try {
      String before = session.one(file);
      session.execute("VACUUM (FULL, ANALYZE) " + relation);
      return before == null || !before.equals(session.one(file));
    } catch (SQLException e) {
      return false;
    }
  }

  @Override
  public void close() {
    discard();
    try {
      session.execute("ROLLBACK");
      switchOn();
      PostgresqlLoad.release(session);
    } catch (SQLException ignored) {
      // The connection is gone, and the server has rolled back.
    }
  }
}
