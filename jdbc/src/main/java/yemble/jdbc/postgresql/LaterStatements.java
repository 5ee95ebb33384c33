package yemble.jdbc.postgresql;

import java.sql.SQLException;
import yemble.core.schema.SchemaObject.Type;

/** Reads what tables get once their rows are in: keys, indexes, views, triggers, comments. */
final class LaterStatements {
  private final Session session;
  private final Structure.Sink sink;

  LaterStatements(Session session, Structure.Sink sink) {
    this.session = session;
    this.sink = sink;
  }

  void read() throws SQLException {
    constraints();
    indexes();
    partitionsOfIndexes();
    views();
    statistics();
    rules();
    triggers();
    policies();
    comments();
    grants();
    others();
  }

  /**
   * Runs a query whose columns are: the object's identifier, its name, its table's name, the
   * statement that makes it.
   */
  private void each(String catalog, Type type, String sql) throws SQLException {
    session.query(
        sql,
        row ->
            sink.add(
                new Structure.Part(
                    catalog + row.getString(1),
                    type,
                    row.getString(2),
                    row.getString(3),
                    row.getString(4))));
  }

  private static String own(String catalog, String alias) {
    return PostgresqlCatalog.USER_SCHEMA
        + " AND "
        + TypeStatements.ownObject(catalog, alias + ".oid");
  }

  private void constraints() throws SQLException {
    each(
        "pg_constraint",
        Type.KEY,
        "SELECT k.oid, k.conname, k.conrelid::regclass::text, 'ALTER TABLE ONLY '"
            + " || k.conrelid::regclass || ' ADD CONSTRAINT ' || quote_ident(k.conname) || ' '"
            + " || pg_get_constraintdef(k.oid, true) FROM pg_constraint k"
            + " JOIN pg_class c ON c.oid = k.conrelid"
            + " JOIN pg_namespace n ON n.oid = c.relnamespace"
            + " WHERE k.contype IN ('p', 'u', 'x') AND c.relpersistence <> 't' AND "
            + own("pg_class", "c"));
    each(
        "pg_constraint",
        Type.FOREIGN_KEY,
        "SELECT k.oid, k.conname, k.conrelid::regclass::text, 'ALTER TABLE '"
            + " || CASE WHEN c.relkind = 'p' THEN '' ELSE 'ONLY ' END"
            + " || k.conrelid::regclass || ' ADD CONSTRAINT ' || quote_ident(k.conname) || ' '"
            + " || pg_get_constraintdef(k.oid, true) FROM pg_constraint k"
            + " JOIN pg_class c ON c.oid = k.conrelid"
            + " JOIN pg_namespace n ON n.oid = c.relnamespace"
            + " WHERE k.contype = 'f' AND k.conparentid = 0 AND c.relpersistence <> 't' AND "
            + own("pg_class", "c"));
  }

  private void indexes() throws SQLException {
    each(
        "pg_class",
        Type.INDEX,
        "SELECT c.oid, c.oid::regclass::text, i.indrelid::regclass::text,"
            + " pg_get_indexdef(c.oid, 0, true)"
            + " FROM pg_index i JOIN pg_class c ON c.oid = i.indexrelid"
            + " JOIN pg_class t ON t.oid = i.indrelid"
            + " JOIN pg_namespace n ON n.oid = t.relnamespace"
            + " WHERE t.relkind IN ('r', 'p', 'm') AND t.relpersistence <> 't'"
            + " AND NOT EXISTS (SELECT FROM pg_constraint k WHERE k.conindid = c.oid"
            + " AND k.contype IN ('p', 'u', 'x')) AND "
            + own("pg_class", "t"));
    each(
        "cluster",
        Type.STATISTICS,
        "SELECT i.indexrelid, i.indexrelid::regclass::text, i.indrelid::regclass::text,"
            + " CASE WHEN i.indisreplident THEN format('ALTER TABLE ONLY %s REPLICA IDENTITY"
            + " USING INDEX %I', i.indrelid::regclass, c.relname)"
            + " ELSE format('ALTER TABLE %s CLUSTER ON %I', i.indrelid::regclass, c.relname) END"
            + " FROM pg_index i JOIN pg_class c ON c.oid = i.indexrelid"
            + " JOIN pg_namespace n ON n.oid = c.relnamespace"
            + " WHERE (i.indisclustered OR i.indisreplident) AND "
            + own("pg_class", "c"));
  }

  private void partitionsOfIndexes() throws SQLException {
    session.query(
        "SELECT h.inhrelid, h.inhparent, format('ALTER INDEX %s ATTACH PARTITION %s',"
            + " h.inhparent::regclass, h.inhrelid::regclass), i.indrelid::regclass::text"
            + " FROM pg_inherits h JOIN pg_class c ON c.oid = h.inhrelid"
            + " JOIN pg_index i ON i.indexrelid = c.oid"
            + " JOIN pg_namespace n ON n.oid = c.relnamespace"
            + " WHERE c.relkind IN ('i', 'I') AND "
            + own("pg_class", "c"),
        row -> {
          Structure.Part part =
              new Structure.Part(
                  "attach" + row.getString(1),
                  Type.INDEX,
                  "attach" + row.getString(1),
                  row.getString(4),
                  row.getString(3));
          part.needs.add("pg_class" + row.getString(1));
          part.needs.add("pg_class" + row.getString(2));
          sink.add(part);
        });
  }

  private void views() throws SQLException {
    String rest =
        " || c.oid::regclass || coalesce(' WITH (' || array_to_string(c.reloptions, ', ') || ')',"
            + " '') || ' AS ' || rtrim(pg_get_viewdef(c.oid), ';')";
    String from =
        " FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace"
            + " WHERE c.relpersistence <> 't' AND "
            + own("pg_class", "c");
    each(
        "pg_class",
        Type.VIEW,
        "SELECT c.oid, c.oid::regclass::text, c.oid::regclass::text, 'CREATE VIEW '"
            + rest
            + from
            + " AND c.relkind = 'v'");
    each(
        "pg_class",
        Type.MATERIALIZED_VIEW,
        "SELECT c.oid, c.oid::regclass::text, c.oid::regclass::text,"
            + " 'CREATE MATERIALIZED VIEW '"
            + rest
            + " || CASE WHEN c.relispopulated THEN '' ELSE ' WITH NO DATA' END"
            + from
            + " AND c.relkind = 'm'");
  }

  private void statistics() throws SQLException {
    each(
        "pg_statistic_ext",
        Type.STATISTICS,
        "SELECT s.oid, s.stxname, s.stxrelid::regclass::text,"
            + " CASE WHEN n.nspname = current_schema() THEN replace(pg_get_statisticsobjdef(s.oid),"
            + " 'CREATE STATISTICS ' || quote_ident(n.nspname) || '.', 'CREATE STATISTICS ')"
            + " ELSE pg_get_statisticsobjdef(s.oid) END FROM pg_statistic_ext s"
            + " JOIN pg_namespace n ON n.oid = s.stxnamespace WHERE "
            + own("pg_statistic_ext", "s"));
  }

  private void rules() throws SQLException {
    each(
        "pg_rewrite",
        Type.RULE,
        "SELECT r.oid, r.rulename, r.ev_class::regclass::text, pg_get_ruledef(r.oid, true)"
            + " FROM pg_rewrite r JOIN pg_class c ON c.oid = r.ev_class"
            + " JOIN pg_namespace n ON n.oid = c.relnamespace"
            + " WHERE r.rulename <> '_RETURN' AND "
            + own("pg_class", "c"));
  }

  private void triggers() throws SQLException {
    each(
        "pg_trigger",
        Type.TRIGGER,
        "SELECT t.oid, t.tgname, t.tgrelid::regclass::text, pg_get_triggerdef(t.oid, true)"
            + " || CASE WHEN t.tgenabled = 'O' THEN '' ELSE format('; ALTER TABLE %s %s TRIGGER"
            + " %I', t.tgrelid::regclass, CASE t.tgenabled WHEN 'D' THEN 'DISABLE'"
            + " WHEN 'R' THEN 'ENABLE REPLICA' ELSE 'ENABLE ALWAYS' END, t.tgname) END"
            + " FROM pg_trigger t JOIN pg_class c ON c.oid = t.tgrelid"
            + " JOIN pg_namespace n ON n.oid = c.relnamespace"
            + " WHERE NOT t.tgisinternal AND t.tgparentid = 0 AND "
            + own("pg_class", "c"));
  }

  /** Policies for everybody; those for roles are not carried, as roles are the server's. */
  private void policies() throws SQLException {
    each(
        "pg_policy",
        Type.POLICY,
        "SELECT p.oid, p.polname, p.polrelid::regclass::text, CASE WHEN p.polroles = '{0}'"
            + " THEN format('CREATE POLICY %I ON %s AS %s FOR %s', p.polname, p.polrelid::regclass,"
            + " CASE WHEN p.polpermissive THEN 'PERMISSIVE' ELSE 'RESTRICTIVE' END,"
            + " CASE p.polcmd WHEN 'r' THEN 'SELECT' WHEN 'a' THEN 'INSERT' WHEN 'w' THEN 'UPDATE'"
            + " WHEN 'd' THEN 'DELETE' ELSE 'ALL' END)"
            + " || coalesce(' USING (' || pg_get_expr(p.polqual, p.polrelid) || ')', '')"
            + " || coalesce(' WITH CHECK (' || pg_get_expr(p.polwithcheck, p.polrelid) || ')', '')"
            + " END FROM pg_policy p JOIN pg_class c ON c.oid = p.polrelid"
            + " JOIN pg_namespace n ON n.oid = c.relnamespace WHERE "
            + own("pg_class", "c"));
    each(
        "rowsecurity",
        Type.POLICY,
        "SELECT c.oid, c.relname, c.oid::regclass::text, format('ALTER TABLE %s ENABLE ROW LEVEL"
            + " SECURITY', c.oid::regclass) || CASE WHEN c.relforcerowsecurity THEN"
            + " format('; ALTER TABLE %s FORCE ROW LEVEL SECURITY', c.oid::regclass) ELSE '' END"
            + " FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace"
            + " WHERE c.relrowsecurity AND "
            + own("pg_class", "c"));
  }

  private void comments() throws SQLException {
    comment(
        "pg_class",
        "CASE WHEN d.objsubid > 0 THEN 'COLUMN ' || o.oid::regclass || '.'"
            + " || quote_ident((SELECT a.attname FROM pg_attribute a WHERE a.attrelid = o.oid"
            + " AND a.attnum = d.objsubid)) ELSE CASE o.relkind WHEN 'v' THEN 'VIEW'"
            + " WHEN 'm' THEN 'MATERIALIZED VIEW' WHEN 'S' THEN 'SEQUENCE' WHEN 'i' THEN 'INDEX'"
            + " WHEN 'I' THEN 'INDEX' WHEN 'c' THEN 'TYPE' WHEN 'f' THEN 'FOREIGN TABLE'"
            + " ELSE 'TABLE' END || ' ' || o.oid::regclass END",
        "o.relnamespace");
    comment(
        "pg_type",
        "CASE WHEN o.typtype = 'd' THEN 'DOMAIN ' ELSE 'TYPE ' END || format_type(o.oid, NULL)",
        "o.typnamespace");
    comment(
        "pg_proc",
        "CASE o.prokind WHEN 'p' THEN 'PROCEDURE ' WHEN 'a' THEN 'AGGREGATE ' ELSE 'FUNCTION ' END"
            + " || o.oid::regprocedure",
        "o.pronamespace");
    comment(
        "pg_constraint",
        "'CONSTRAINT ' || quote_ident(o.conname) || ' ON ' || CASE WHEN o.contypid <> 0"
            + " THEN 'DOMAIN ' || format_type(o.contypid, NULL) ELSE o.conrelid::regclass::text END",
        "o.connamespace");
    comment(
        "pg_trigger",
        "'TRIGGER ' || quote_ident(o.tgname) || ' ON ' || o.tgrelid::regclass",
        "(SELECT c.relnamespace FROM pg_class c WHERE c.oid = o.tgrelid)");
    comment("pg_namespace", "'SCHEMA ' || quote_ident(o.nspname)", "o.oid");
  }

  private void comment(String catalog, String object, String namespace) throws SQLException {
    session.query(
        "SELECT o.oid, d.objsubid, "
            + object
            + ", ' IS ' || quote_literal(d.description) FROM pg_description d JOIN "
            + catalog
            + " o ON o.oid = d.objoid JOIN pg_namespace n ON n.oid = "
            + namespace
            + " WHERE d.classoid = '"
            + catalog
            + "'::regclass AND "
            + own(catalog, "o")
            + (catalog.equals("pg_namespace") ? " AND n.nspname <> current_schema()" : ""),
        row -> {
          Structure.Part part =
              new Structure.Part(
                  "comment " + catalog + row.getString(1) + " " + row.getString(2),
                  Type.COMMENT,
                  row.getString(3),
                  "",
                  "COMMENT ON " + row.getString(3) + row.getString(4));
          part.needs.add(catalog + row.getString(1));
          sink.add(part);
        });
  }

  private void grants() throws SQLException {
    String role =
        "CASE WHEN a.grantee = 0 THEN 'PUBLIC' ELSE quote_ident(pg_get_userbyid(a.grantee)) END";
    String tail =
        " || ' TO ' || "
            + role
            + " || CASE WHEN a.is_grantable THEN ' WITH GRANT OPTION' ELSE '' END";
    String rest = " a JOIN pg_namespace n ON n.oid = ";
    grant(
        "pg_class",
        "SELECT o.oid, "
            + role
            + ", 'GRANT ' || a.privilege_type || ' ON ' || CASE o.relkind WHEN 'S' THEN 'SEQUENCE '"
            + " ELSE 'TABLE ' END || o.oid::regclass"
            + tail
            + " FROM pg_class o CROSS JOIN LATERAL aclexplode(o.relacl)"
            + rest
            + "o.relnamespace WHERE a.grantee <> o.relowner AND o.relkind <> 'f' AND "
            + own("pg_class", "o"));
    grant(
        "pg_class",
        "SELECT o.oid, "
            + role
            + ", format('GRANT %s (%I) ON TABLE %s', a.privilege_type, t.attname, o.oid::regclass)"
            + tail
            + " FROM pg_class o JOIN pg_attribute t ON t.attrelid = o.oid AND NOT t.attisdropped"
            + " CROSS JOIN LATERAL aclexplode(t.attacl)"
            + rest
            + "o.relnamespace WHERE a.grantee <> o.relowner AND "
            + own("pg_class", "o"));
    grant(
        "pg_proc",
        "SELECT o.oid, "
            + role
            + ", 'GRANT EXECUTE ON ROUTINE ' || o.oid::regprocedure"
            + tail
            + " FROM pg_proc o CROSS JOIN LATERAL aclexplode(o.proacl)"
            + rest
            + "o.pronamespace WHERE a.grantee <> o.proowner AND "
            + own("pg_proc", "o"));
    grant(
        "pg_namespace",
        "SELECT o.oid, "
            + role
            + ", 'GRANT ' || a.privilege_type || ' ON SCHEMA ' || quote_ident(o.nspname)"
            + tail
            + " FROM pg_namespace o CROSS JOIN LATERAL aclexplode(o.nspacl)"
            + rest
            + "o.oid WHERE a.grantee <> o.nspowner AND n.nspname <> current_schema() AND "
            + own("pg_namespace", "o"));
  }

  private void grant(String catalog, String sql) throws SQLException {
    session.query(
        sql,
        row -> {
          Structure.Part part =
              new Structure.Part(
                  "grant " + row.getString(3),
                  Type.GRANT,
                  row.getString(3),
                  row.getString(2),
                  row.getString(3));
          part.needs.add(catalog + row.getString(1));
          sink.add(part);
        });
  }

  /** What else somebody has put into the database, and that stays there. */
  private void others() throws SQLException {
    for (String catalog :
        new String[] {
          "pg_operator",
          "pg_cast",
          "pg_ts_config",
          "pg_ts_dict",
          "pg_event_trigger",
          "pg_publication",
          "pg_foreign_server",
          "pg_opclass"
        }) {
      session.query(
          "SELECT o.oid, i.type || ' ' || i.identity FROM "
              + catalog
              + " o CROSS JOIN LATERAL pg_identify_object('"
              + catalog
              + "'::regclass, o.oid, 0) i WHERE o.oid >= 16384"
              // What comes by itself with something else, like a range's cast to its multirange.
              + " AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.classid = '"
              + catalog
              + "'::regclass AND d.objid = o.oid AND d.deptype = 'i') AND "
              + TypeStatements.ownObject(catalog, "o.oid"),
          row ->
              sink.add(
                  new Structure.Part(
                      catalog + row.getString(1), Type.OTHER, row.getString(2), "", "")));
    }
    session.query(
        "SELECT count(*) FROM pg_largeobject_metadata",
        row -> {
          if (row.getLong(1) > 0) {
            sink.add(
                new Structure.Part(
                    "large", Type.OTHER, row.getString(1) + " large objects", "", ""));
          }
        });
  }
}
