package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import yemble.core.schema.SchemaObject.Type;

/** Reads the tables with their columns and checks, and what they get before rows come in. */
final class TableStatements {
  private final Session session;
  private final Structure.Sink sink;
  private final Map<Long, Shape> shapes = new LinkedHashMap<>();

  /** A table while its parts are collected. */
  private static final class Shape {
    String name;
    String head;
    String tail;
    long partitionOf;
    String bound;
    final List<String> columns = new ArrayList<>();
    final List<String> inherited = new ArrayList<>();
    final List<String> order = new ArrayList<>();
    final List<String> checks = new ArrayList<>();
    final List<String> ownChecks = new ArrayList<>();
    final List<String> ownDefaults = new ArrayList<>();
  }

  TableStatements(Session session, Structure.Sink sink) {
    this.session = session;
    this.sink = sink;
  }

  void read() throws SQLException {
    tables();
    columns();
    checks();
    for (Map.Entry<Long, Shape> entry : shapes.entrySet()) {
      emit(entry.getKey(), entry.getValue());
    }
    owners();
    attributes();
    foreignTables();
  }

  private static String userTables(String kinds) {
    return " c.relkind IN ("
        + kinds
        + ") AND c.relpersistence <> 't' AND "
        + PostgresqlCatalog.USER_SCHEMA
        + " AND "
        + TypeStatements.ownObject("pg_class", "c.oid");
  }

  private void tables() throws SQLException {
    session.query(
        "SELECT c.oid, c.oid::regclass::text, c.relpersistence = 'u',"
            + " CASE WHEN c.relkind = 'p' THEN ' PARTITION BY ' || pg_get_partkeydef(c.oid)"
            + " ELSE '' END, coalesce(' WITH (' || array_to_string(c.reloptions, ', ') || ')', ''),"
            + " c.relispartition, pg_get_expr(c.relpartbound, c.oid),"
            + " (SELECT string_agg(i.inhparent::regclass::text, ', ' ORDER BY i.inhseqno)"
            + " FROM pg_inherits i WHERE i.inhrelid = c.oid),"
            + " (SELECT i.inhparent FROM pg_inherits i WHERE i.inhrelid = c.oid LIMIT 1)"
            + " FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace WHERE"
            + userTables("'r', 'p'")
            + " ORDER BY c.oid",
        row -> {
          Shape shape = new Shape();
          shape.name = row.getString(2);
          shape.head = "CREATE " + (row.getBoolean(3) ? "UNLOGGED " : "") + "TABLE " + shape.name;
          shape.tail = row.getString(4) + row.getString(5);
          if (row.getBoolean(6)) {
            shape.partitionOf = row.getLong(9);
            shape.bound = row.getString(7);
          } else if (row.getString(8) != null) {
            shape.tail = " INHERITS (" + row.getString(8) + ")" + shape.tail;
          }
          shapes.put(row.getLong(1), shape);
        });
  }

  private void columns() throws SQLException {
    session.query(
        "SELECT a.attrelid, quote_ident(a.attname), format_type(a.atttypid, a.atttypmod),"
            + " CASE WHEN a.attcollation <> 0 AND a.attcollation <> t.typcollation"
            + " THEN ' COLLATE ' || a.attcollation::regcollation::text ELSE '' END,"
            + " a.attgenerated, a.attidentity, pg_get_expr(d.adbin, d.adrelid),"
            // From PostgreSQL 18 on it is a constraint with a name: see the checks.
            + " a.attnotnull AND NOT EXISTS (SELECT FROM pg_constraint k WHERE k.contype = 'n'"
            + " AND k.conrelid = a.attrelid AND k.conkey = ARRAY[a.attnum]),"
            + " a.attislocal, (SELECT format('(SEQUENCE NAME %s %s)', q.oid::regclass, "
            + TypeStatements.options("s")
                .replace("AS %s START", "START")
                .replace("format_type(s.seqtypid, NULL), ", "")
            + ") FROM pg_depend y JOIN pg_class q ON q.oid = y.objid"
            + " JOIN pg_sequence s ON s.seqrelid = q.oid"
            + " WHERE y.classid = 'pg_class'::regclass AND y.refclassid = 'pg_class'::regclass"
            + " AND y.refobjid = a.attrelid AND y.refobjsubid = a.attnum AND y.deptype = 'i')"
            + " FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid"
            + " JOIN pg_namespace n ON n.oid = c.relnamespace"
            + " JOIN pg_type t ON t.oid = a.atttypid"
            + " LEFT JOIN pg_attrdef d ON d.adrelid = a.attrelid AND d.adnum = a.attnum"
            + " WHERE a.attnum > 0 AND NOT a.attisdropped AND"
            + userTables("'r', 'p'")
            + " ORDER BY a.attrelid, a.attnum",
        row -> {
          Shape shape = shapes.get(row.getLong(1));
          String name = row.getString(2);
          String expression = row.getString(7);
          String generated = row.getString(5);
          String identity = row.getString(6);
          StringBuilder column = new StringBuilder(name);
          column.append(' ').append(row.getString(3)).append(row.getString(4));
          if (!generated.isEmpty()) {
            column.append(" GENERATED ALWAYS AS (").append(expression).append(')');
            column.append(generated.equals("v") ? " VIRTUAL" : " STORED");
          } else if (!identity.isEmpty() && row.getString(10) != null) {
            column.append(" GENERATED ").append(identity.equals("a") ? "ALWAYS" : "BY DEFAULT");
            column.append(" AS IDENTITY ").append(row.getString(10));
          } else if (expression != null) {
            column.append(" DEFAULT ").append(expression);
            shape.ownDefaults.add(name + " SET DEFAULT " + expression);
          }
          if (row.getBoolean(8)) {
            column.append(" NOT NULL");
          }
          shape.order.add(name);
          (row.getBoolean(9) ? shape.columns : shape.inherited).add(column.toString());
        });
  }

  private void checks() throws SQLException {
    session.query(
        "SELECT k.oid, k.conrelid, 'CONSTRAINT ' || quote_ident(k.conname) || ' '"
            + " || pg_get_constraintdef(k.oid), k.conislocal, k.convalidated AND NOT ("
            // One that calls a function of the user's may read other tables: once all are filled.
            + " k.conislocal AND k.coninhcount = 0 AND NOT c.relispartition"
            + " AND EXISTS (SELECT FROM pg_depend d WHERE d.classid = 'pg_constraint'::regclass"
            + " AND d.objid = k.oid AND d.refclassid = 'pg_proc'::regclass)"
            + " AND NOT EXISTS (SELECT FROM pg_inherits i WHERE i.inhparent = c.oid)), k.conname"
            + " FROM pg_constraint k JOIN pg_class c ON c.oid = k.conrelid"
            + " JOIN pg_namespace n ON n.oid = c.relnamespace WHERE k.contype IN ('c', 'n') AND"
            + userTables("'r', 'p'")
            + " ORDER BY k.conrelid, k.conname",
        row -> {
          Shape shape = shapes.get(row.getLong(2));
          if (!row.getBoolean(5)) {
            sink.add(
                new Structure.Part(
                    "pg_constraint" + row.getString(1),
                    Type.KEY,
                    row.getString(6),
                    shape.name,
                    "ALTER TABLE ONLY " + shape.name + " ADD " + row.getString(3)));
          } else {
            shape.checks.add(row.getString(3));
            if (row.getBoolean(4)) {
              shape.ownChecks.add(row.getString(3));
            }
          }
        });
  }

  private void emit(long oid, Shape shape) {
    Shape parent = shapes.get(shape.partitionOf);
    String id = "pg_class" + oid;
    if (shape.bound != null && parent != null && parent.order.equals(shape.order)) {
      String own = shape.ownChecks.isEmpty() ? "" : " (" + String.join(", ", shape.ownChecks) + ")";
      table(
          id,
          shape,
          shape.head + " PARTITION OF " + parent.name + own + " " + shape.bound + shape.tail);
      for (String own1 : shape.ownDefaults) {
        if (!parent.ownDefaults.contains(own1)) {
          attribute(id, shape, "ALTER TABLE ONLY " + shape.name + " ALTER COLUMN " + own1, own1);
        }
      }
      return;
    }
    List<String> body = new ArrayList<>(shape.columns);
    if (shape.bound != null) {
      body = new ArrayList<>(inOrder(shape));
    }
    body.addAll(shape.bound != null ? shape.checks : shape.ownChecks);
    table(id, shape, shape.head + " (" + String.join(", ", body) + ")" + shape.tail);
    if (shape.bound != null && parent != null) {
      String attach =
          "ALTER TABLE ONLY " + parent.name + " ATTACH PARTITION " + shape.name + " " + shape.bound;
      Structure.Part part = attribute(id, shape, attach, "attach");
      part.needs.add("pg_class" + shape.partitionOf);
    }
  }

  private static List<String> inOrder(Shape shape) {
    List<String> ordered = new ArrayList<>();
    List<String> all = new ArrayList<>(shape.columns);
    all.addAll(shape.inherited);
    for (String name : shape.order) {
      all.stream().filter(c -> c.startsWith(name + " ")).findFirst().ifPresent(ordered::add);
    }
    return ordered;
  }

  private void table(String id, Shape shape, String definition) {
    sink.add(new Structure.Part(id, Type.TABLE, shape.name, shape.name, definition));
  }

  private Structure.Part attribute(String table, Shape shape, String definition, String what) {
    Structure.Part part =
        new Structure.Part(table + " " + what, Type.ATTRIBUTE, shape.name, shape.name, definition);
    part.needs.add(table);
    sink.add(part);
    return part;
  }

  /** Sequences that go with a column when it goes. */
  private void owners() throws SQLException {
    session.query(
        "SELECT d.objid, d.refobjid, d.objid::regclass::text, quote_ident(a.attname)"
            + " FROM pg_depend d JOIN pg_sequence s ON s.seqrelid = d.objid"
            + " JOIN pg_attribute a ON a.attrelid = d.refobjid AND a.attnum = d.refobjsubid"
            + " WHERE d.classid = 'pg_class'::regclass AND d.refclassid = 'pg_class'::regclass"
            + " AND d.deptype = 'a'",
        row -> {
          Shape shape = shapes.get(row.getLong(2));
          if (shape != null) {
            attribute(
                    "pg_class" + row.getString(2),
                    shape,
                    "ALTER SEQUENCE "
                        + row.getString(3)
                        + " OWNED BY "
                        + shape.name
                        + "."
                        + row.getString(4),
                    row.getString(3))
                .needs
                .add("pg_class" + row.getString(1));
          }
        });
  }

  /** How columns are stored, where that is not the type's own way; who may see rows. */
  private void attributes() throws SQLException {
    session.query(
        "SELECT c.oid, 'ALTER TABLE ONLY ' || c.oid::regclass || ' ALTER COLUMN '"
            + " || quote_ident(a.attname) || ' ' || o.what FROM pg_attribute a"
            + " JOIN pg_class c ON c.oid = a.attrelid"
            + " JOIN pg_namespace n ON n.oid = c.relnamespace"
            + " JOIN pg_type t ON t.oid = a.atttypid"
            + " CROSS JOIN LATERAL (VALUES (CASE WHEN a.attstorage <> t.typstorage"
            + " THEN 'SET STORAGE ' || CASE a.attstorage WHEN 'p' THEN 'PLAIN'"
            + " WHEN 'e' THEN 'EXTERNAL' WHEN 'm' THEN 'MAIN' ELSE 'EXTENDED' END END),"
            + " (CASE WHEN a.attstattarget >= 0 THEN 'SET STATISTICS ' || a.attstattarget END),"
            + " (CASE to_jsonb(a) ->> 'attcompression' WHEN 'p' THEN 'SET COMPRESSION pglz'"
            + " WHEN 'l' THEN 'SET COMPRESSION lz4' END),"
            + " ('SET (' || array_to_string(a.attoptions, ', ') || ')')) o (what)"
            + " WHERE o.what IS NOT NULL AND a.attnum > 0 AND NOT a.attisdropped AND"
            + userTables("'r', 'p'")
            + " UNION ALL SELECT c.oid, 'ALTER TABLE ONLY ' || c.oid::regclass || o.what"
            + " FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace"
            + " CROSS JOIN LATERAL (VALUES"
            + " (CASE WHEN c.relreplident = 'f' THEN ' REPLICA IDENTITY FULL'"
            + " WHEN c.relreplident = 'n' THEN ' REPLICA IDENTITY NOTHING' END)) o (what)"
            + " WHERE o.what IS NOT NULL AND"
            + userTables("'r', 'p'"),
        row -> {
          Shape shape = shapes.get(row.getLong(1));
          if (shape != null) {
            attribute("pg_class" + row.getString(1), shape, row.getString(2), row.getString(2));
          }
        });
  }

  private void foreignTables() throws SQLException {
    session.query(
        "SELECT c.oid, c.oid::regclass::text FROM pg_class c"
            + " JOIN pg_namespace n ON n.oid = c.relnamespace WHERE"
            + userTables("'f'"),
        row ->
            sink.add(
                new Structure.Part(
                    "pg_class" + row.getString(1), Type.FOREIGN_TABLE, row.getString(2), "", "")));
  }
}
