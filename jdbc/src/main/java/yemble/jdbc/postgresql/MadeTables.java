package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.SchemaObject.Type;
import yemble.core.schema.Table;
import yemble.core.store.Counting;

/**
 * Tables that the load makes as they are in the source: they first, then their rows, then keys,
 * indexes and everything else. Rows come in frozen and, where the server may, without the log.
 */
final class MadeTables implements LoadedTables {
  private final Session session;
  private final Schema schema;
  private final List<String> drops;
  private final List<SchemaObject> before;
  private final List<SchemaObject> after;
  private final List<Outside> outside = new ArrayList<>();
  private Set<String> foreign = Set.of();
  private PostgresqlCatalog catalog;
  private String doing = "";

  /**
   * @param roles those whose grants are carried over
   * @param drops what is removed first: what follows DROP
   */
  MadeTables(Session session, Schema schema, Set<String> roles, List<String> drops) {
    this.session = session;
    this.schema = schema;
    this.drops = drops;
    List<SchemaObject> objects =
        schema.objects().stream()
            .filter(SchemaObject::carried)
            .filter(object -> object.type() != Type.GRANT || roles.contains(object.table()))
            .toList();
    int rows = beforeRows(objects);
    this.before = objects.subList(0, rows);
    this.after = objects.subList(rows, objects.size());
  }

  /** How many of the objects of a structure come before the rows. */
  static int beforeRows(List<SchemaObject> objects) {
    int rows = 0;
    for (int i = 0; i < objects.size(); i++) {
      Type type = objects.get(i).type();
      if (type == Type.TABLE || type == Type.ATTRIBUTE) {
        rows = i + 1;
      }
    }
    return rows;
  }

  @Override
  public void prepare() throws SQLException {
    session.execute("SET LOCAL check_function_bodies = off");
    session.execute("SET LOCAL maintenance_work_mem = '256MB'");
    Set<String> others = rest();
    readOutside();
    for (String drop : drops) {
      doing = drop;
      session.execute("DROP " + drop.replaceFirst("^([A-Z ]+) ", "$1 IF EXISTS ") + " CASCADE");
    }
    foreign = rest();
    others.removeAll(foreign);
    others.removeAll(namesOf(drops));
    outside.forEach(key -> others.remove(key.name()));
    if (!others.isEmpty()) {
      throw Problem.of(
              Failure.TARGET_FOREIGN,
              "what would be replaced is needed by what Yemble did not make")
          .at(session.description())
          .because("these would go with it: " + String.join(", ", others))
          .remedy("drop them yourself, then run the same command again");
    }
    String home = session.one("SELECT current_schema()");
    session.execute("SET LOCAL search_path = " + Sql.quoted(home));
    make(before);
    catalog = new PostgresqlCatalog(session);
  }

  /**
   * A foreign key of a table that stays, to one that is replaced.
   *
   * @param name with its table
   * @param added what makes it anew
   * @param lost counts its rows that refer to nothing
   */
  private record Outside(String name, String parent, String added, String lost) {}

  /** Foreign keys that go with what is replaced, and come back. */
  private void readOutside() throws SQLException {
    String gone =
        "ARRAY(SELECT to_regclass(n)::oid FROM unnest(ARRAY["
            + namesOf(drops).stream().map(Sql::literal).collect(Collectors.joining(", "))
            + "]::text[]) n WHERE to_regclass(n) IS NOT NULL)";
    session.query(
        "SELECT k.conrelid::regclass || '.' || k.conname, k.confrelid::regclass::text,"
            + " format('ALTER TABLE %s ADD CONSTRAINT %I %s', k.conrelid::regclass, k.conname,"
            + " pg_get_constraintdef(k.oid, true)),"
            + " format('SELECT count(*) FROM %s c WHERE %s AND NOT EXISTS (SELECT FROM %s p"
            + " WHERE %s)', k.conrelid::regclass, (SELECT string_agg(format('c.%I IS NOT NULL',"
            + " a.attname), ' AND ') FROM pg_attribute a WHERE a.attrelid = k.conrelid"
            + " AND a.attnum = ANY (k.conkey)), k.confrelid::regclass,"
            + " (SELECT string_agg(format('p.%I = c.%I', b.attname, a.attname), ' AND ')"
            + " FROM unnest(k.conkey, k.confkey) u(f, t)"
            + " JOIN pg_attribute a ON a.attrelid = k.conrelid AND a.attnum = u.f"
            + " JOIN pg_attribute b ON b.attrelid = k.confrelid AND b.attnum = u.t))"
            + " FROM pg_constraint k WHERE k.contype = 'f' AND k.conparentid = 0"
            + " AND k.confrelid = ANY (@) AND k.conrelid <> ALL (@) ORDER BY k.oid"
                .replace("@", gone),
        row ->
            outside.add(
                new Outside(
                    row.getString(1), row.getString(2), row.getString(3), row.getString(4))));
  }

  /** Puts foreign keys of tables that stay back, where their rows still find what they refer to. */
  private void putBackOutside() throws SQLException {
    for (Outside key : outside) {
      doing = key.name();
      boolean there = session.one("SELECT to_regclass(" + Sql.literal(key.parent()) + ")") != null;
      String lost = there ? session.one(key.lost()) : "";
      if (!"0".equals(lost)) {
        throw Problem.of(
                Failure.TARGET_FOREIGN,
                "a table that Yemble did not make refers to what would be replaced")
            .at(key.name())
            .because(
                there
                    ? lost + " of its rows would refer to nothing in " + key.parent()
                    : key.parent() + " would be gone")
            .remedy("drop the foreign key or these rows, then run the same command again");
      }
      session.execute(key.added());
    }
  }

  private static Set<String> namesOf(List<String> drops) {
    Set<String> names = new TreeSet<>();
    drops.forEach(drop -> names.add(drop.replaceFirst("^[A-Z ]+ ", "")));
    return names;
  }

  /** What the target holds, constraints of tables included, by name. */
  private Set<String> rest() throws SQLException {
    Set<String> rest = new TreeSet<>();
    Map<String, String> content = PostgresqlTarget.content(session);
    Set<String> dropped = namesOf(drops);
    content.forEach(
        (name, drop) -> {
          if (!drops.contains(drop)) {
            rest.add(name);
          }
        });
    session.query(
        "SELECT k.conname, k.conrelid::regclass::text FROM pg_constraint k"
            + " JOIN pg_namespace n ON n.oid = k.connamespace WHERE k.conrelid <> 0 AND "
            + PostgresqlCatalog.USER_SCHEMA,
        row -> {
          if (content.containsKey(row.getString(2)) && !dropped.contains(row.getString(2))) {
            rest.add(row.getString(2) + "." + row.getString(1));
          }
        });
    return rest;
  }

  private void make(List<SchemaObject> objects) throws SQLException {
    for (SchemaObject object : objects) {
      doing = object.type() + " " + object.name();
      session.execute(object.definition());
    }
  }

  @Override
  public String copyInto(Table table) {
    Storage storage = catalog.storage(table.name());
    return "COPY "
        + storage.relation()
        + Sql.list(table.written())
        + " FROM STDIN"
        + (storage.partitioned() ? "" : " WITH (FREEZE)");
  }

  @Override
  public void complete(Counting source) throws SQLException {
    make(after);
    putBackOutside();
    doing = "sequences";
    for (String settings : Positions.continued(schema, source)) {
      session.execute("SELECT " + settings);
    }
    if (source.sequences().isEmpty()) {
      validate();
    }
    for (Table table : schema.tables()) {
      doing = "statistics of " + table.name();
      session.execute("ANALYZE " + Sql.quoted(table.name()));
    }
  }

  /** Foreign keys hold for rows that are there, too, unless some of these refer to nothing. */
  private void validate() throws SQLException {
    for (SchemaObject object : after) {
      if (object.type() == Type.FOREIGN_KEY) {
        doing = "foreign key " + object.name();
        try {
          session.attempt(() -> session.execute(validation(object)));
        } catch (SQLException e) {
          if (!"23503".equals(e.getSQLState())) {
            throw e;
          }
        }
      }
    }
  }

  /** What makes a foreign key, said of one that is there: names may hold any words of it. */
  static String validation(SchemaObject key) {
    String name = " CONSTRAINT " + Sql.quoted(key.name()) + " ";
    int at = key.definition().indexOf(" ADD" + name);
    return key.definition().substring(0, at) + " VALIDATE" + name.stripTrailing();
  }

  @Override
  public List<String> made() throws SQLException {
    List<String> made = new ArrayList<>(PostgresqlTarget.content(session).keySet());
    made.removeAll(foreign);
    return made;
  }

  @Override
  public String doing() {
    return doing;
  }
}
