package yemble.jdbc.postgresql;

import java.sql.ResultSet;
import java.sql.SQLException;
import yemble.core.schema.SchemaObject.Type;

/** Reads what tables are made of: schemas, extensions, collations, types, functions, sequences. */
final class TypeStatements {
  private final Session session;
  private final Structure.Sink sink;
  private final String home;

  TypeStatements(Session session, Structure.Sink sink, String home) {
    this.session = session;
    this.sink = sink;
    this.home = home;
  }

  /** A condition for objects that no extension brings, given their class and identifier. */
  static String ownObject(String catalog, String oid) {
    return "NOT EXISTS (SELECT FROM pg_depend x WHERE x.classid = '"
        + catalog
        + "'::regclass AND x.objid = "
        + oid
        + " AND x.deptype = 'e')";
  }

  void read() throws SQLException {
    schemas();
    extensions();
    collations();
    enums();
    domains();
    composites();
    ranges();
    functions();
    sequences();
  }

  private void add(String catalog, ResultSet row, Type type, String definition)
      throws SQLException {
    sink.add(
        new Structure.Part(catalog + row.getString(1), type, row.getString(2), "", definition));
  }

  private void schemas() throws SQLException {
    session.query(
        "SELECT n.oid, quote_ident(n.nspname) FROM pg_namespace n WHERE "
            + PostgresqlCatalog.USER_SCHEMA
            + " AND n.nspname <> "
            + Sql.literal(home)
            + " AND "
            + ownObject("pg_namespace", "n.oid"),
        row ->
            add(
                "pg_namespace",
                row,
                Type.SCHEMA,
                "CREATE SCHEMA IF NOT EXISTS " + row.getString(2)));
  }

  private void extensions() throws SQLException {
    session.query(
        "SELECT e.oid, quote_ident(e.extname), quote_ident(n.nspname), n.nspname = "
            + Sql.literal(home)
            + " OR n.nspname ~ '^pg_' FROM pg_extension e JOIN pg_namespace n"
            + " ON n.oid = e.extnamespace WHERE e.extname <> 'plpgsql'",
        row ->
            add(
                "pg_extension",
                row,
                Type.EXTENSION,
                "CREATE EXTENSION IF NOT EXISTS "
                    + row.getString(2)
                    + (row.getBoolean(4) ? "" : " SCHEMA " + row.getString(3))));
  }

  private void collations() throws SQLException {
    session.query(
        "SELECT c.oid, CASE WHEN n.nspname = current_schema() THEN ''"
            + " ELSE quote_ident(n.nspname) || '.' END || quote_ident(c.collname),"
            + " CASE c.collprovider WHEN 'i' THEN 'icu' WHEN 'b' THEN 'builtin' ELSE 'libc' END,"
            + " coalesce(to_jsonb(c) ->> 'colllocale', to_jsonb(c) ->> 'colliculocale',"
            + " c.collcollate), c.collcollate, c.collctype, c.collisdeterministic"
            + " FROM pg_collation c JOIN pg_namespace n ON n.oid = c.collnamespace WHERE "
            + PostgresqlCatalog.USER_SCHEMA
            + " AND "
            + ownObject("pg_collation", "c.oid"),
        row -> {
          boolean libc = row.getString(3).equals("libc");
          add(
              "pg_collation",
              row,
              Type.COLLATION,
              "CREATE COLLATION "
                  + row.getString(2)
                  + " (provider = "
                  + row.getString(3)
                  + (libc
                      ? ", lc_collate = "
                          + Sql.literal(row.getString(5))
                          + ", lc_ctype = "
                          + Sql.literal(row.getString(6))
                      : ", locale = " + Sql.literal(row.getString(4)))
                  + (row.getBoolean(7) ? "" : ", deterministic = false")
                  + ")");
        });
  }

  private static String types(String kind) {
    return " FROM pg_type t JOIN pg_namespace n ON n.oid = t.typnamespace WHERE t.typtype = '"
        + kind
        + "' AND "
        + PostgresqlCatalog.USER_SCHEMA
        + " AND "
        + ownObject("pg_type", "t.oid");
  }

  private void enums() throws SQLException {
    session.query(
        "SELECT t.oid, format_type(t.oid, NULL), (SELECT string_agg(quote_literal(e.enumlabel),"
            + " ', ' ORDER BY e.enumsortorder) FROM pg_enum e WHERE e.enumtypid = t.oid)"
            + types("e"),
        row ->
            add(
                "pg_type",
                row,
                Type.TYPE,
                "CREATE TYPE "
                    + row.getString(2)
                    + " AS ENUM ("
                    + (row.getString(3) == null ? "" : row.getString(3))
                    + ")"));
  }

  private void domains() throws SQLException {
    session.query(
        "SELECT t.oid, format_type(t.oid, NULL), format_type(t.typbasetype, t.typtypmod),"
            + " (SELECT t.typcollation::regcollation::text FROM pg_type b"
            + " WHERE b.oid = t.typbasetype AND b.typcollation <> t.typcollation),"
            + " t.typdefault, t.typnotnull AND NOT EXISTS (SELECT FROM pg_constraint k"
            + " WHERE k.contypid = t.oid AND k.contype = 'n'), (SELECT string_agg(' CONSTRAINT '"
            + " || quote_ident(k.conname) || ' ' || pg_get_constraintdef(k.oid), ''"
            + " ORDER BY k.conname) FROM pg_constraint k WHERE k.contypid = t.oid"
            + " AND k.contype IN ('c', 'n'))"
            + types("d"),
        row ->
            add(
                "pg_type",
                row,
                Type.TYPE,
                "CREATE DOMAIN "
                    + row.getString(2)
                    + " AS "
                    + row.getString(3)
                    + (row.getString(4) == null ? "" : " COLLATE " + row.getString(4))
                    + (row.getString(5) == null ? "" : " DEFAULT " + row.getString(5))
                    + (row.getBoolean(6) ? " NOT NULL" : "")
                    + (row.getString(7) == null ? "" : row.getString(7))));
  }

  private void composites() throws SQLException {
    session.query(
        "SELECT t.oid, format_type(t.oid, NULL), (SELECT string_agg(quote_ident(a.attname) || ' '"
            + " || format_type(a.atttypid, a.atttypmod) || CASE WHEN a.attcollation <> 0"
            + " AND a.attcollation <> (SELECT b.typcollation FROM pg_type b"
            + " WHERE b.oid = a.atttypid) THEN ' COLLATE ' || a.attcollation::regcollation::text"
            + " ELSE '' END, ', ' ORDER BY a.attnum) FROM pg_attribute a"
            + " WHERE a.attrelid = t.typrelid AND a.attnum > 0 AND NOT a.attisdropped)"
            + types("c")
            + " AND EXISTS (SELECT FROM pg_class c WHERE c.oid = t.typrelid AND c.relkind = 'c')",
        row ->
            add(
                "pg_type",
                row,
                Type.TYPE,
                "CREATE TYPE "
                    + row.getString(2)
                    + " AS ("
                    + (row.getString(3) == null ? "" : row.getString(3))
                    + ")"));
  }

  private void ranges() throws SQLException {
    session.query(
        "SELECT t.oid, format_type(t.oid, NULL), format_type(r.rngsubtype, NULL),"
            + " CASE WHEN o.opcdefault THEN '' ELSE ', subtype_opclass = ' || quote_ident(o.opcname)"
            + " END, CASE WHEN r.rngcollation = 0 OR r.rngcollation = s.typcollation THEN ''"
            + " ELSE ', collation = ' || r.rngcollation::regcollation::text END,"
            + " CASE WHEN r.rngsubdiff = 0 THEN '' ELSE ', subtype_diff = '"
            + " || r.rngsubdiff::regproc::text END,"
            + " CASE WHEN to_jsonb(r) ->> 'rngmultitypid' IS NULL THEN ''"
            + " ELSE ', multirange_type_name = '"
            + " || format_type((to_jsonb(r) ->> 'rngmultitypid')::oid, NULL) END"
            + types("r")
                .replace(
                    " FROM pg_type t",
                    " FROM pg_range r JOIN pg_type t ON t.oid = r.rngtypid"
                        + " JOIN pg_opclass o ON o.oid = r.rngsubopc"
                        + " JOIN pg_type s ON s.oid = r.rngsubtype"),
        row ->
            add(
                "pg_type",
                row,
                Type.TYPE,
                "CREATE TYPE "
                    + row.getString(2)
                    + " AS RANGE (subtype = "
                    + row.getString(3)
                    + row.getString(4)
                    + row.getString(5)
                    + row.getString(6)
                    + row.getString(7)
                    + ")"));
  }

  private void functions() throws SQLException {
    session.query(
        "SELECT p.oid, p.oid::regprocedure::text, quote_ident(n.nspname),"
            + " n.nspname = current_schema(),"
            + " CASE WHEN p.prokind <> 'a' AND l.lanname NOT IN ('c', 'internal')"
            + " THEN pg_get_functiondef(p.oid) END, p.prokind"
            + " FROM pg_proc p JOIN pg_namespace n ON n.oid = p.pronamespace"
            + " JOIN pg_language l ON l.oid = p.prolang WHERE "
            + PostgresqlCatalog.USER_SCHEMA
            + " AND "
            + ownObject("pg_proc", "p.oid")
            // What a range type brings itself.
            + " AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.classid = 'pg_proc'::regclass"
            + " AND d.objid = p.oid AND d.deptype = 'i')",
        row -> {
          String definition = row.getString(5);
          if (definition != null && row.getBoolean(4)) {
            // The catalog always writes this one name with its schema.
            definition =
                definition.replaceFirst(
                    "^(CREATE OR REPLACE (?:FUNCTION|PROCEDURE) )"
                        + java.util.regex.Pattern.quote(row.getString(3) + "."),
                    "$1");
          }
          add("pg_proc", row, Type.FUNCTION, definition);
        });
  }

  private void sequences() throws SQLException {
    session.query(
        "SELECT c.oid, c.oid::regclass::text, "
            + options("s")
            + " FROM pg_sequence s JOIN pg_class c ON c.oid = s.seqrelid"
            + " JOIN pg_namespace n ON n.oid = c.relnamespace"
            + " WHERE c.relpersistence <> 't' AND "
            + PostgresqlCatalog.USER_SCHEMA
            + " AND "
            + ownObject("pg_class", "c.oid")
            + " AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.classid = 'pg_class'::regclass"
            + " AND d.objid = c.oid AND d.deptype = 'i')",
        row ->
            add(
                "pg_class",
                row,
                Type.SEQUENCE,
                "CREATE SEQUENCE " + row.getString(2) + " " + row.getString(3)));
  }

  /** An expression for the options of a sequence {@code alias} of pg_sequence. */
  static String options(String alias) {
    return "format('AS %s START WITH %s INCREMENT BY %s MINVALUE %s MAXVALUE %s CACHE %s%s',"
        + " format_type(@.seqtypid, NULL), @.seqstart, @.seqincrement, @.seqmin, @.seqmax,"
            .replace("@", alias)
        + " @.seqcache, CASE WHEN @.seqcycle THEN ' CYCLE' ELSE '' END)".replace("@", alias);
  }
}
