package yemble.jdbc.postgresql;

import java.security.SecureRandom;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import yemble.core.mark.Mark;
import yemble.core.name.TableName;
import yemble.core.project.Structure;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.Table;
import yemble.core.store.InPlace;
import yemble.core.store.Load;
import yemble.core.store.Merge;
import yemble.core.store.Origin;
import yemble.core.store.Statements;
import yemble.core.store.Target;
import yemble.jdbc.rows.KeptKeys;

/** A PostgreSQL database as it stands before a load. */
final class PostgresqlTarget implements Target {
  private final Login login;
  private final Session session;
  private final Map<String, String> content;
  private final Mark mark;
  private Consumer<Statements> before;

  PostgresqlTarget(Login login) {
    this.login = login;
    this.session = login.connect(false);
    try {
      this.content = content(session);
      this.mark = MarkTable.read(session).orElse(null);
    } catch (SQLException e) {
      session.close();
      throw PostgresqlErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  Session session() {
    return session;
  }

  /**
   * What a database holds, by name, each with what follows DROP to remove it. Names are those that
   * a statement of the connection uses.
   */
  static Map<String, String> content(Session session) throws SQLException {
    Map<String, String> content = new LinkedHashMap<>();
    session.query(
        "SELECT c.oid::regclass::text, CASE c.relkind WHEN 'v' THEN 'VIEW '"
            + " WHEN 'm' THEN 'MATERIALIZED VIEW ' WHEN 'S' THEN 'SEQUENCE '"
            + " WHEN 'f' THEN 'FOREIGN TABLE ' ELSE 'TABLE ' END || c.oid::regclass"
            + " FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace"
            + " WHERE c.relkind IN ('r', 'p', 'v', 'm', 'S', 'f') AND c.relpersistence <> 't'"
            + " AND NOT c.relispartition AND "
            + PostgresqlCatalog.USER_SCHEMA
            + " AND "
            + TypeStatements.ownObject("pg_class", "c.oid")
            + " AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.classid = 'pg_class'::regclass"
            + " AND d.objid = c.oid AND d.deptype IN ('a', 'i') AND c.relkind = 'S')"
            + " ORDER BY c.relkind IN ('v', 'm') DESC, 1",
        row -> content.put(row.getString(1), row.getString(2)));
    session.query(
        "SELECT 'type ' || format_type(t.oid, NULL), 'TYPE ' || format_type(t.oid, NULL)"
            + " FROM pg_type t JOIN pg_namespace n ON n.oid = t.typnamespace"
            + " LEFT JOIN pg_class c ON c.oid = t.typrelid"
            + " WHERE t.typtype IN ('e', 'd', 'c', 'r') AND coalesce(c.relkind, 'c') = 'c' AND "
            + PostgresqlCatalog.USER_SCHEMA
            + " AND "
            + TypeStatements.ownObject("pg_type", "t.oid")
            + " UNION ALL SELECT 'function ' || p.oid::regprocedure, CASE p.prokind"
            + " WHEN 'a' THEN 'AGGREGATE ' ELSE 'ROUTINE ' END || p.oid::regprocedure"
            + " FROM pg_proc p JOIN pg_namespace n ON n.oid = p.pronamespace WHERE "
            + PostgresqlCatalog.USER_SCHEMA
            + " AND "
            + TypeStatements.ownObject("pg_proc", "p.oid")
            + " AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.classid = 'pg_proc'::regclass"
            + " AND d.objid = p.oid AND d.deptype = 'i')"
            + " UNION ALL SELECT 'collation ' || c.oid::regcollation,"
            + " 'COLLATION ' || c.oid::regcollation FROM pg_collation c"
            + " JOIN pg_namespace n ON n.oid = c.collnamespace WHERE "
            + PostgresqlCatalog.USER_SCHEMA
            + " AND "
            + TypeStatements.ownObject("pg_collation", "c.oid")
            + " ORDER BY 1 DESC",
        row -> content.put(row.getString(1), row.getString(2)));
    return content;
  }

  @Override
  public String description() {
    return login.description();
  }

  @Override
  public String identity() {
    return Identity.of(session, login.name()).toString();
  }

  @Override
  public Relation relation(Origin source) {
    if (!source.engine().equals(PostgresqlEngine.NAME)) {
      return Relation.APART;
    }
    Identity here = Identity.of(session, login.name());
    Identity there = Identity.of(source);
    if (source.lock().isEmpty()) {
      return here.isCopyOf(there) ? Relation.TWIN : Relation.APART;
    }
    long number = new SecureRandom().nextLong();
    String[] seen = new String[1];
    source.lock().get().hold(Long.toString(number), () -> seen[0] = seen(number));
    if (seen[0] != null) {
      return seen[0].equals("t") ? Relation.SAME : Relation.APART;
    }
    return here.sharesSystemWith(there) ? Relation.TWIN : Relation.APART;
  }

  /** Whether a lock is held in this database; null if it is held nowhere on this server. */
  private String seen(long number) {
    try {
      return session.one(
          "SELECT bool_or(l.database = d.oid) FROM pg_locks l, pg_database d"
              + " WHERE d.datname = current_database() AND l.locktype = 'advisory'"
              + " AND l.objsubid = 1 AND l.classid::bigint = "
              + (number >>> 32)
              + " AND l.objid::bigint = "
              + (number & 0xffffffffL));
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, "source and target cannot be told apart", login.place());
    }
  }

  @Override
  public List<String> content() {
    return List.copyOf(content.keySet());
  }

  @Override
  public Optional<Mark> mark() {
    return Optional.ofNullable(mark);
  }

  @Override
  public List<String> inTheWay(Schema schema) {
    Set<String> needed = new HashSet<>();
    for (SchemaObject object : schema.objects()) {
      if (object.carried()) {
        needed.add(object.name());
        needed.add(object.type().toString() + " " + object.name());
      }
    }
    return content.keySet().stream().filter(needed::contains).toList();
  }

  @Override
  public List<String> filled(Schema schema) {
    List<String> filled = new ArrayList<>();
    Set<String> elsewhere = new HashSet<>();
    try {
      // The load refuses these; looking into them would ask another server.
      session.query(
          "SELECT DISTINCT pg_partition_root(oid)::regclass::text FROM pg_class"
              + " WHERE relkind = 'f' AND relispartition",
          row -> elsewhere.add(row.getString(1)));
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be read", login.place());
    }
    for (Table table : schema.tables()) {
      String name = present(table);
      if (!name.isEmpty()
          && !elsewhere.contains(name)
          && one("SELECT 1 FROM " + Sql.quoted(table.name()) + " LIMIT 1") != null) {
        filled.add(name);
      }
    }
    return filled;
  }

  /** The name by which the catalog speaks of a table; empty if there is none. */
  private String present(Table table) {
    String name = one("SELECT to_regclass(" + Sql.literal(Sql.quoted(table.name())) + ")");
    return name == null ? "" : name;
  }

  private String one(String sql) {
    try {
      return session.one(sql);
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  @Override
  public List<String> warnings() {
    List<String> warnings = new ArrayList<>();
    try {
      session.query(
          "SELECT 'the publication ' || quote_ident(pubname) || ' passes what is written on'"
              + " FROM pg_publication UNION ALL SELECT count(*) || ' replicas get what is written'"
              + " FROM pg_stat_replication HAVING count(*) > 0",
          row -> warnings.add(row.getString(1)));
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be read", login.place());
    }
    return warnings;
  }

  @Override
  public void before(Consumer<Statements> steps) {
    before = steps;
  }

  @Override
  public boolean stepsAreWithin() {
    return true;
  }

  @Override
  public void alone(Consumer<Statements> steps) {
    steps.accept(session.statements(false));
  }

  /** Runs what comes before a load in the transaction of the load; whether it has begun. */
  private boolean begun() {
    if (before == null) {
      return false;
    }
    try {
      PostgresqlLoad.begin(login, session);
      before.accept(session.statements(true));
      return true;
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be made ready", login.place());
    }
  }

  @Override
  public Load load(Schema schema, Structure structure, boolean grants, List<String> dropped) {
    boolean begun = begun();
    if (structure == Structure.EXISTING) {
      return new PostgresqlLoad(login, session, new FoundTables(session, schema, dropped), begun);
    }
    List<String> drops = dropped.stream().map(content::get).toList();
    return new PostgresqlLoad(
        login, session, new MadeTables(session, schema, grants ? roles() : Set.of(), drops), begun);
  }

  @Override
  public Merge merge(Schema schema) {
    FoundTables found = new FoundTables(session, schema, List.of());
    return new PostgresqlMerge(login, session, found, new WaitingTables(session, schema, found));
  }

  @Override
  public List<Danger> dangers() {
    List<Danger> dangers = new ArrayList<>();
    try {
      for (String query :
          List.of(
              "SELECT 'it is in recovery: it follows another server' WHERE pg_is_in_recovery()",
              "SELECT count(*) || ' standbys or subscribers get what is written'"
                  + " FROM pg_stat_replication HAVING count(*) > 0",
              "SELECT 'the replication slot ' || quote_ident(slot_name) || ' keeps what is written'"
                  + " FROM pg_replication_slots WHERE database IS NULL"
                  + " OR database = current_database()",
              "SELECT 'the publication ' || quote_ident(pubname) || ' passes what is written on'"
                  + " FROM pg_publication",
              "SELECT 'the subscription ' || quote_ident(s.subname) || ' brings rows of others'"
                  + " FROM pg_subscription s JOIN pg_database d ON d.oid = s.subdbid"
                  + " WHERE d.datname = current_database() AND s.subenabled",
              "SELECT 'the extension ' || extname || ' runs jobs that may act on the outside'"
                  + " FROM pg_extension WHERE extname IN ('pg_cron', 'pg_timetable', 'pgagent')",
              "SELECT count(*) || ' large objects are in it, which are not rewritten: remove them'"
                  + " FROM pg_largeobject_metadata HAVING count(*) > 0")) {
        session.query(query, row -> dangers.add(new Danger(row.getString(1), false)));
      }
      session.query(
          "SELECT count(*) || CASE count(*) WHEN 1 THEN ' session' ELSE ' sessions' END"
              + " || ' of ' || coalesce(nullif(application_name, ''), 'an unnamed program')"
              + " || ' (' || usename || ')' FROM pg_stat_activity"
              + " WHERE datname = current_database() AND pid <> pg_backend_pid()"
              + " AND backend_type = 'client backend' GROUP BY application_name, usename",
          row -> dangers.add(new Danger(row.getString(1), true)));
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be read", login.place());
    }
    return dangers;
  }

  @Override
  public InPlace inPlace() {
    return new PostgresqlInPlace(login, session);
  }

  @Override
  public Map<String, Long> memories() {
    Map<String, Long> memories = new TreeMap<>();
    try {
      List<String> names = new ArrayList<>();
      session.query(
          "SELECT c.relname FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace"
              + " WHERE n.nspname = '"
              + PostgresqlCatalog.OWN_SCHEMA
              + "' AND c.relname LIKE 'yemble\\_keys\\_%' ORDER BY 1",
          row -> names.add(row.getString(1)));
      for (String name : names) {
        memories.put(name, Long.parseLong(session.one("SELECT count(*) FROM " + memory(name))));
      }
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be read", login.place());
    }
    return memories;
  }

  private static String memory(String name) {
    return PostgresqlCatalog.OWN_SCHEMA + "." + name;
  }

  @Override
  public void forget(Collection<String> memories) {
    try {
      session.execute(
          "DROP TABLE "
              + memories.stream()
                  .map(PostgresqlTarget::memory)
                  .collect(java.util.stream.Collectors.joining(", ")));
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be written", login.place());
    }
  }

  @Override
  public void forget(String column, String prefix, Map<TableName, Boolean> alone) {
    try {
      session.execute("BEGIN");
      for (Map.Entry<TableName, Boolean> each : alone.entrySet()) {
        session.execute(
            KeptKeys.forgetting(
                Sql.quoted(each.getKey()),
                Sql.quoted(column),
                prefix,
                Sql.literal(prefix),
                each.getValue()));
      }
      session.execute("COMMIT");
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be written", login.place());
    }
  }

  /** The roles that this server knows, and everybody. */
  private Set<String> roles() {
    Set<String> roles = new HashSet<>();
    roles.add("PUBLIC");
    try {
      session.query(
          "SELECT quote_ident(rolname) FROM pg_roles", row -> roles.add(row.getString(1)));
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be read", login.place());
    }
    return roles;
  }

  @Override
  public void close() {
    session.close();
  }
}
