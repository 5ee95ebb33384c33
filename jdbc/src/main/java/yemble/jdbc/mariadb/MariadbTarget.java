package yemble.jdbc.mariadb;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import yemble.core.mark.Mark;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
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

/** A MariaDB database as it stands before a load. */
final class MariadbTarget implements Target {
  private final Login login;
  private final Session session;
  private final Map<String, String> content = new LinkedHashMap<>();
  private final Mark mark;
  private Consumer<Statements> before;

  /** Whether names that differ in case alone are the same. */
  private final boolean caseless;

  MariadbTarget(Login login) {
    this.login = login;
    this.session = login.connect(false);
    try {
      this.caseless = !"0".equals(session.one("SELECT @@lower_case_table_names"));
      readContent();
      this.mark = MarkTable.read(session).orElse(null);
    } catch (SQLException e) {
      session.close();
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  private void readContent() throws SQLException {
    session.query(
        "SELECT table_name, table_type FROM information_schema.tables WHERE "
            + MariadbCatalog.USERS
            + " ORDER BY table_type = 'VIEW' DESC, table_name",
        row -> content.put(row.getString(1), row.getString(2)));
    session.query(
        "SELECT routine_type, routine_name FROM information_schema.routines"
            + " WHERE routine_schema = database() ORDER BY routine_type, routine_name",
        row ->
            content.put(
                row.getString(1).toLowerCase(Locale.ROOT) + " " + row.getString(2),
                row.getString(1)));
  }

  /** Whether the database has a table. */
  static boolean isThere(Session session, String table) throws SQLException {
    return session.one(
            "SELECT 1 FROM information_schema.tables WHERE table_schema = database()"
                + " AND table_name = "
                + Sql.literal(table))
        != null;
  }

  Session session() {
    return session;
  }

  @Override
  public String description() {
    return login.description();
  }

  @Override
  public String identity() {
    try {
      return Identity.of(session);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  @Override
  public Relation relation(Origin source) {
    if (!source.engine().equals(MariadbEngine.NAME)) {
      return Relation.APART;
    }
    try {
      if (Identity.isOnOneServer(session, source)) {
        return Identity.isDatabase(session, source) ? Relation.SAME : Relation.APART;
      }
      // Where an account may not see it, what is anything but a load of Yemble's may be a copy.
      boolean beganTogether =
          Identity.beganTogether(session, source).orElse(!content.isEmpty() && mark == null);
      return replicates(session) || beganTogether ? Relation.TWIN : Relation.APART;
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "source and target cannot be told apart", login.place());
    }
  }

  /** Whether a server follows another one, as far as the account may know. */
  static boolean replicates(Session session) {
    boolean[] any = new boolean[1];
    try {
      session.query("SHOW SLAVE STATUS", row -> any[0] = true);
    } catch (SQLException unknown) {
      return false;
    }
    return any[0];
  }

  @Override
  public List<String> content() {
    return List.copyOf(content.keySet());
  }

  @Override
  public Optional<Mark> mark() {
    return Optional.ofNullable(mark);
  }

  private String folded(String name) {
    return caseless ? name.toLowerCase(Locale.ROOT) : name;
  }

  @Override
  public List<String> inTheWay(Schema schema) {
    Set<String> needed = new HashSet<>();
    schema.tables().forEach(table -> needed.add(folded(table.name().name())));
    schema.objects().stream()
        .filter(SchemaObject::carried)
        .filter(object -> object.type() == SchemaObject.Type.VIEW || isRoutine(object))
        .forEach(object -> needed.add(folded(object.name())));
    return content.keySet().stream().filter(name -> needed.contains(folded(name))).toList();
  }

  private static boolean isRoutine(SchemaObject object) {
    return object.type() == SchemaObject.Type.FUNCTION;
  }

  @Override
  public List<String> filled(Schema schema) {
    Map<String, String> present = new HashMap<>();
    content.forEach(
        (name, type) -> {
          if (type.equals("BASE TABLE")) {
            present.put(folded(name), name);
          }
        });
    List<String> filled = new ArrayList<>();
    try {
      for (Table table : schema.tables()) {
        String name = present.get(folded(table.name().name()));
        if (name != null
            && isOurs(name)
            && session.one("SELECT 1 FROM " + Sql.quoted(name) + " LIMIT 1") != null) {
          filled.add(name);
        }
      }
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
    return filled;
  }

  /** Whether a table's rows lie in this database; looking into others would ask another server. */
  private boolean isOurs(String table) throws SQLException {
    String engine =
        session.one(
            "SELECT upper(engine) FROM information_schema.tables"
                + " WHERE table_schema = database() AND table_name = "
                + Sql.literal(table));
    return engine != null && MariadbCatalog.OWN_ENGINES.contains(engine);
  }

  @Override
  public List<String> warnings() {
    List<String> warnings = new ArrayList<>();
    try {
      session.query(
          "SELECT count(*) FROM information_schema.processlist WHERE command LIKE 'Binlog Dump%'",
          row -> {
            if (row.getLong(1) > 0) {
              warnings.add(row.getLong(1) + " replicas get what is written");
            }
          });
      if (replicates(session)) {
        warnings.add("it follows another server, which may write to it at any time");
      }
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
    return warnings;
  }

  @Override
  public void before(Consumer<Statements> steps) {
    before = steps;
  }

  @Override
  public void alone(Consumer<Statements> steps) {
    notMysql();
    try {
      steps.accept(session.statements());
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be made ready", login.place());
    }
  }

  @Override
  public Load load(Schema schema, Structure structure, boolean grants, List<String> dropped) {
    notMysql();
    if (before != null) {
      alone(before);
    }
    if (structure == Structure.EXISTING) {
      return new MariadbLoad(
          login, session, new FoundTables(session, schema).schema(), dropped, false, Set.of());
    }
    return new MariadbLoad(login, session, schema, dropped, true, grants ? accounts() : Set.of());
  }

  private void notMysql() {
    try {
      if (session.isMysql()) {
        throw Problem.of(Failure.TARGET_SERVER, "this version of Yemble does not write to MySQL")
            .at(login.description())
            .because("its load is made for MariaDB, and was never tried on MySQL")
            .remedy("load into MariaDB, PostgreSQL or SQLite");
      }
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  @Override
  public Merge merge(Schema schema) {
    notMysql();
    return new MariadbMerge(login, session, new FoundTables(session, schema).schema(), schema);
  }

  @Override
  public List<Danger> dangers() {
    List<Danger> dangers = new ArrayList<>();
    try {
      if (replicates(session)) {
        dangers.add(new Danger("it follows another server, which may write to it", false));
      }
      session.query(
          "SELECT count(*) FROM information_schema.processlist WHERE command LIKE 'Binlog Dump%'",
          row -> {
            if (row.getLong(1) > 0) {
              dangers.add(new Danger(row.getLong(1) + " replicas get what is written", false));
            }
          });
      session.query(
          "SELECT variable_value FROM information_schema.global_status"
              + " WHERE variable_name = 'wsrep_cluster_size' AND variable_value > 0",
          row -> dangers.add(new Danger("it is a member of a cluster", false)));
      if ("ON".equalsIgnoreCase(session.one("SELECT @@event_scheduler"))) {
        session.query(
            "SELECT event_schema, event_name FROM information_schema.events"
                + " WHERE status = 'ENABLED'",
            row ->
                dangers.add(
                    new Danger(
                        "the scheduler is on, and runs the event "
                            + row.getString(1)
                            + "."
                            + row.getString(2),
                        false)));
      }
      session.query(
          "SELECT user, count(*) FROM information_schema.processlist WHERE db = database()"
              + " AND id <> CONNECTION_ID() GROUP BY user",
          row ->
              dangers.add(
                  new Danger(
                      row.getLong(2)
                          + (row.getLong(2) == 1 ? " session of " : " sessions of ")
                          + row.getString(1),
                      true)));
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
    return dangers;
  }

  @Override
  public Set<TableName> histories() {
    Set<TableName> histories = new HashSet<>();
    try {
      session.query(
          "SELECT table_name FROM information_schema.tables WHERE table_schema = database()"
              + " AND table_type = 'SYSTEM VERSIONED'",
          row -> histories.add(TableName.of(row.getString(1))));
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
    return histories;
  }

  @Override
  public InPlace inPlace() {
    notMysql();
    return new MariadbInPlace(login, session);
  }

  @Override
  public Map<String, Long> memories() {
    Map<String, Long> memories = new TreeMap<>();
    try {
      for (String name : Swap.memories(session)) {
        memories.put(name, Long.parseLong(session.one("SELECT count(*) FROM " + Sql.quoted(name))));
      }
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
    return memories;
  }

  @Override
  public void forget(Collection<String> memories) {
    try {
      session.execute("DROP TABLE " + Sql.quoted(memories));
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be written", login.place());
    }
  }

  @Override
  public void forget(String column, String prefix, Map<TableName, Boolean> alone) {
    try {
      for (Map.Entry<TableName, Boolean> each : alone.entrySet()) {
        session.execute(
            KeptKeys.forgetting(
                Sql.quoted(each.getKey().name()),
                Sql.quoted(column),
                prefix,
                Sql.literal(prefix),
                each.getValue()));
      }
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be written", login.place());
    }
  }

  /** The accounts of the server, as far as this one may see them. */
  private Set<String> accounts() {
    Set<String> accounts = new HashSet<>();
    try {
      session.query(
          "SELECT DISTINCT grantee FROM information_schema.user_privileges",
          row -> accounts.add(row.getString(1)));
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
    return accounts;
  }

  @Override
  public void close() {
    session.close();
  }
}
