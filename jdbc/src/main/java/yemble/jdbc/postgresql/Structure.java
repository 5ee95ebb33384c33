package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.PriorityQueue;
import java.util.Set;
import java.util.regex.Pattern;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.SchemaObject.Type;

/**
 * Everything a database is made of, each with the statement that makes it, in an order in which
 * they can be run: by the catalog's own record of what depends on what, and, where that leaves a
 * choice, by type. Names of the connection's own schema stand without it, so that the statements
 * make the same things in whatever schema they are run in.
 */
final class Structure {
  /** What goes with something that is not carried over, as it cannot be made without it. */
  private static final Set<Type> GOES_ALONG =
      EnumSet.of(
          Type.VIEW,
          Type.MATERIALIZED_VIEW,
          Type.FUNCTION,
          Type.RULE,
          Type.TRIGGER,
          Type.POLICY,
          Type.ATTRIBUTE,
          Type.COMMENT,
          Type.GRANT);

  /** What could act again once it is made in a target. */
  private static final Set<Type> ACTING =
      EnumSet.of(
          Type.FUNCTION,
          Type.VIEW,
          Type.MATERIALIZED_VIEW,
          Type.RULE,
          Type.TRIGGER,
          Type.POLICY,
          Type.ATTRIBUTE);

  /** Words that open a connection: a copy that is worked with must not lead back to its source. */
  private static final Pattern CONNECTS =
      Pattern.compile(
          "(?i)\\bdblink(_\\w+)?\\s*\\(|\\bdbname\\s*=|postgres(ql)?://|\\bhostaddr\\s*="
              + "|\\bpostgres_fdw\\w*|\\bprogram\\s+'");

  private final Session session;
  private final Map<String, Part> parts = new LinkedHashMap<>();
  private final Map<String, String> belongs = new HashMap<>();

  /** An object under the catalog's name for it: its class and its identifier. */
  static final class Part {
    final String id;
    final Type type;
    final String name;
    final String table;
    String definition;
    final Set<String> needs = new HashSet<>();
    private int waits;
    private boolean done;

    Part(String id, Type type, String name, String table, String definition) {
      this.id = id;
      this.type = type;
      this.name = name;
      this.table = table;
      this.definition = definition == null ? "" : definition;
    }
  }

  /**
   * Reads the structure of what a session sees.
   *
   * @param home the schema whose names stand bare
   */
  Structure(Session session, String home) throws SQLException {
    this.session = session;
    String path = session.one("SELECT current_setting('search_path')");
    session.execute("SET search_path = " + Sql.quoted(home));
    try {
      new TypeStatements(session, this::add, home).read();
      new TableStatements(session, this::add).read();
      new LaterStatements(session, this::add).read();
      readBelongings();
      readDependencies();
    } finally {
      session.execute("SELECT set_config('search_path', " + Sql.literal(path) + ", false)");
    }
  }

  /** Takes what has been read. */
  interface Sink {
    void add(Part part);
  }

  private void add(Part part) {
    parts.put(part.id, part);
  }

  /** What a piece of the catalog belongs to: a default to its table, an array to its element. */
  private void readBelongings() throws SQLException {
    session.query(
        "SELECT 'pg_attrdef', oid, 'pg_class', adrelid FROM pg_attrdef"
            + " UNION ALL SELECT 'pg_rewrite', oid, 'pg_class', ev_class FROM pg_rewrite"
            + " WHERE rulename = '_RETURN'"
            + " UNION ALL SELECT 'pg_type', t.oid, 'pg_class', t.typrelid FROM pg_type t"
            + " JOIN pg_class c ON c.oid = t.typrelid WHERE c.relkind <> 'c'"
            + " UNION ALL SELECT 'pg_class', t.typrelid, 'pg_type', t.oid FROM pg_type t"
            + " JOIN pg_class c ON c.oid = t.typrelid WHERE c.relkind = 'c'"
            + " UNION ALL SELECT 'pg_type', oid, 'pg_type', typelem FROM pg_type"
            + " WHERE typcategory = 'A' AND typelem <> 0"
            + " UNION ALL SELECT 'pg_type', (to_jsonb(r) ->> 'rngmultitypid')::oid, 'pg_type',"
            + " rngtypid FROM pg_range r WHERE to_jsonb(r) ->> 'rngmultitypid' IS NOT NULL"
            + " UNION ALL SELECT 'pg_constraint', oid, 'pg_class', conrelid FROM pg_constraint"
            + " WHERE contype IN ('c', 'n') AND conrelid <> 0 AND convalidated"
            + " UNION ALL SELECT 'pg_constraint', oid, 'pg_type', contypid FROM pg_constraint"
            + " WHERE contypid <> 0"
            + " UNION ALL SELECT 'pg_class', conindid, 'pg_constraint', oid FROM pg_constraint"
            + " WHERE contype IN ('p', 'u', 'x') AND conindid <> 0"
            + " UNION ALL SELECT 'pg_class', objid, 'pg_class', refobjid FROM pg_depend"
            + " WHERE classid = 'pg_class'::regclass AND refclassid = 'pg_class'::regclass"
            + " AND deptype = 'i' AND refobjsubid > 0",
        row ->
            belongs.put(row.getString(1) + row.getString(2), row.getString(3) + row.getString(4)));
  }

  private Part part(String id) {
    String at = id;
    for (int steps = 0; steps < 8; steps++) {
      Part part = parts.get(at);
      if (part != null) {
        return part;
      }
      at = belongs.get(at);
      if (at == null) {
        return null;
      }
    }
    return null;
  }

  private void readDependencies() throws SQLException {
    session.query(
        "SELECT d.classid::regclass::text, d.objid, d.refclassid::regclass::text, d.refobjid"
            + " FROM pg_depend d WHERE d.refobjid >= 16384 AND d.deptype IN ('n', 'a', 'i', 'P', 'S')"
            // A sequence comes before the table that it belongs to, whose default needs it.
            + " AND NOT (d.deptype = 'a' AND d.classid = 'pg_class'::regclass"
            + " AND d.refclassid = 'pg_class'::regclass"
            + " AND EXISTS (SELECT FROM pg_sequence s WHERE s.seqrelid = d.objid))",
        row -> {
          Part part = part(row.getString(1) + row.getString(2));
          Part needed = part(row.getString(3) + row.getString(4));
          if (part != null && needed != null && part != needed) {
            part.needs.add(needed.id);
          }
        });
  }

  /** All objects in an order in which they can be made; what cannot be made comes last. */
  List<SchemaObject> objects() {
    Map<String, List<Part>> needing = new HashMap<>();
    PriorityQueue<Part> ready =
        new PriorityQueue<>(
            Comparator.<Part, Type>comparing(part -> part.type).thenComparing(part -> part.name));
    for (Part part : parts.values()) {
      part.needs.removeIf(id -> part(id) == null);
      part.waits = part.needs.size();
      part.needs.forEach(
          id -> needing.computeIfAbsent(part(id).id, k -> new ArrayList<>()).add(part));
      if (part.waits == 0) {
        ready.add(part);
      }
    }
    List<Part> ordered = new ArrayList<>();
    Set<Part> waiting = new java.util.LinkedHashSet<>(parts.values());
    while (!waiting.isEmpty()) {
      Part part = ready.isEmpty() ? leastOf(waiting) : ready.poll();
      if (part.done) {
        continue;
      }
      part.done = true;
      waiting.remove(part);
      ordered.add(part);
      for (Part other : needing.getOrDefault(part.id, List.of())) {
        if (--other.waits == 0) {
          ready.add(other);
        }
      }
    }
    leaveOut(ordered);
    return ordered.stream()
        .map(p -> new SchemaObject(p.type, p.name, p.table, p.definition))
        .toList();
  }

  /** Things that need each other in a circle begin with the one that is usually first. */
  private static Part leastOf(Set<Part> waiting) {
    return waiting.stream().min(Comparator.comparing(part -> part.type)).orElseThrow();
  }

  private void leaveOut(List<Part> ordered) {
    for (Part part : ordered) {
      if (ACTING.contains(part.type) && CONNECTS.matcher(part.definition).find()) {
        part.definition = "";
      }
      boolean without =
          part.needs.stream().map(this::part).anyMatch(needed -> needed.definition.isEmpty());
      if (without && GOES_ALONG.contains(part.type)) {
        part.definition = "";
      }
    }
  }
}
