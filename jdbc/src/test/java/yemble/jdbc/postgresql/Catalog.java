package yemble.jdbc.postgresql;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import yemble.jdbc.TestServer;

/** What a database is made of and holds, told by queries that the program does not use. */
final class Catalog {
  private static final String USERS =
      " n.nspname NOT LIKE 'pg\\_%' AND n.nspname NOT IN ('information_schema', 'yemble') ";
  private static final String RELATION =
      " FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace WHERE" + USERS;

  private static final Map<String, String> QUERIES =
      Map.ofEntries(
          Map.entry(
              "relations",
              "SELECT n.nspname, c.relname, c.relkind, c.relpersistence, c.reloptions,"
                  + " c.relreplident, c.relrowsecurity, c.relispopulated,"
                  + " pg_get_expr(c.relpartbound, c.oid), obj_description(c.oid, 'pg_class'),"
                  + " (SELECT count(*) FROM pg_inherits i WHERE i.inhrelid = c.oid)"
                  + RELATION),
          Map.entry(
              "columns",
              "SELECT table_schema, table_name, column_name, ordinal_position - (SELECT count(*)"
                  + " FROM pg_attribute a WHERE a.attrelid = format('%I.%I', table_schema,"
                  + " table_name)::regclass AND a.attisdropped AND a.attnum < ordinal_position),"
                  + " column_default, is_nullable, data_type, character_maximum_length,"
                  + " numeric_precision, numeric_scale, datetime_precision, interval_type,"
                  + " collation_name, domain_name, udt_schema, udt_name, is_identity,"
                  + " identity_generation, identity_start, identity_increment, is_generated,"
                  + " generation_expression, col_description(format('%I.%I', table_schema,"
                  + " table_name)::regclass, ordinal_position)"
                  + " FROM information_schema.columns WHERE table_schema NOT IN"
                  + " ('pg_catalog', 'information_schema', 'yemble')"),
          Map.entry(
              "column storage",
              "SELECT c.oid::regclass::text, a.attname, a.attstorage, a.attstattarget, a.attislocal,"
                  + " a.attinhcount FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid"
                  + " JOIN pg_namespace n ON n.oid = c.relnamespace"
                  + " WHERE a.attnum > 0 AND NOT a.attisdropped AND c.relkind IN ('r', 'p') AND"
                  + USERS),
          Map.entry(
              "constraints",
              "SELECT k.conrelid::regclass::text, k.conname, k.contype, k.convalidated,"
                  + " k.condeferrable, k.condeferred, k.conislocal, pg_get_constraintdef(k.oid),"
                  + " obj_description(k.oid, 'pg_constraint')"
                  + " FROM pg_constraint k JOIN pg_namespace n ON n.oid = k.connamespace WHERE"
                  // The server gives the parts of a partitioned key names of its own.
                  + " NOT (k.contype = 'f' AND k.conparentid <> 0) AND"
                  + USERS),
          Map.entry(
              "indexes",
              "SELECT pg_get_indexdef(i.indexrelid), i.indisvalid, i.indisclustered,"
                  + " (SELECT inhparent::regclass::text FROM pg_inherits WHERE inhrelid = c.oid)"
                  + " FROM pg_index i JOIN pg_class c ON c.oid = i.indexrelid"
                  + " JOIN pg_namespace n ON n.oid = c.relnamespace WHERE"
                  + USERS),
          Map.entry(
              "sequences",
              "SELECT s.schemaname, s.sequencename, s.data_type, s.start_value, s.min_value,"
                  + " s.max_value, s.increment_by, s.cycle, s.cache_size, s.last_value,"
                  + " (SELECT string_agg(d.refobjid::regclass || ' ' || d.refobjsubid || d.deptype::text,"
                  + " ',') FROM pg_depend d WHERE d.objid ="
                  + " format('%I.%I', s.schemaname, s.sequencename)::regclass"
                  + " AND d.refobjsubid > 0) FROM pg_sequences s"),
          Map.entry(
              "views",
              "SELECT c.oid::regclass::text, pg_get_viewdef(c.oid)"
                  + RELATION
                  + " AND c.relkind IN ('v', 'm')"),
          Map.entry(
              "functions",
              "SELECT p.oid::regprocedure::text, pg_get_functiondef(p.oid),"
                  + " obj_description(p.oid, 'pg_proc') FROM pg_proc p"
                  + " JOIN pg_namespace n ON n.oid = p.pronamespace WHERE p.prokind <> 'a' AND"
                  + USERS),
          Map.entry(
              "triggers",
              "SELECT t.tgrelid::regclass::text, pg_get_triggerdef(t.oid), t.tgenabled,"
                  + " obj_description(t.oid, 'pg_trigger') FROM pg_trigger t WHERE NOT tgisinternal"),
          Map.entry(
              "types",
              "SELECT t.oid::regtype::text, t.typtype, t.typnotnull, t.typdefault,"
                  + " format_type(t.typbasetype, t.typtypmod), t.typcollation::regcollation::text,"
                  + " (SELECT array_agg(e.enumlabel::text ORDER BY e.enumsortorder) FROM pg_enum e"
                  + " WHERE e.enumtypid = t.oid), (SELECT rngsubtype::regtype::text || rngsubdiff"
                  + " FROM pg_range r WHERE r.rngtypid = t.oid), obj_description(t.oid, 'pg_type')"
                  + " FROM pg_type t JOIN pg_namespace n ON n.oid = t.typnamespace WHERE"
                  + USERS),
          Map.entry("rules", "SELECT schemaname, tablename, rulename, definition FROM pg_rules"),
          Map.entry(
              "policies",
              "SELECT schemaname, tablename, policyname, permissive, roles, cmd, qual, with_check"
                  + " FROM pg_policies"),
          Map.entry("statistics", "SELECT pg_get_statisticsobjdef(oid) FROM pg_statistic_ext"),
          Map.entry(
              "collations",
              "SELECT collname, collprovider, collisdeterministic, to_jsonb(c) - 'oid'"
                  + " - 'collnamespace' FROM pg_collation c WHERE oid >= 16384"),
          Map.entry(
              "extensions",
              "SELECT e.extname, n.nspname FROM pg_extension e JOIN pg_namespace n"
                  + " ON n.oid = e.extnamespace"),
          Map.entry(
              "schemas",
              "SELECT n.nspname, obj_description(n.oid, 'pg_namespace') FROM pg_namespace n WHERE"
                  + USERS));

  private Catalog() {}

  /** Every piece of a database's structure, by what it is, each list sorted. */
  static Map<String, List<String>> of(String url) throws SQLException {
    Map<String, List<String>> pieces = new TreeMap<>();
    try (Connection connection = TestServer.connect(url);
        Statement statement = connection.createStatement()) {
      for (Map.Entry<String, String> query : QUERIES.entrySet()) {
        pieces.put(query.getKey(), rows(statement, query.getValue()));
      }
    }
    return pieces;
  }

  /** Every row of every table as text, sorted. */
  static Map<String, List<String>> content(String url) throws SQLException {
    Map<String, List<String>> content = new TreeMap<>();
    try (Connection connection = TestServer.connect(url);
        Statement statement = connection.createStatement()) {
      statement.execute("SET extra_float_digits = 3");
      for (String table :
          rows(
              statement,
              "SELECT format('%I.%I', n.nspname, c.relname)"
                  + RELATION
                  + " AND c.relkind IN ('r', 'm') AND c.relispopulated")) {
        String name = table.substring(1, table.length() - 1);
        content.put(name, rows(statement, "SELECT t::text FROM ONLY " + name + " t"));
      }
    }
    return content;
  }

  private static List<String> rows(Statement statement, String sql) throws SQLException {
    List<String> rows = new ArrayList<>();
    try (ResultSet result = statement.executeQuery(sql)) {
      String[] values = new String[result.getMetaData().getColumnCount()];
      while (result.next()) {
        for (int i = 0; i < values.length; i++) {
          values[i] = result.getString(i + 1);
        }
        rows.add(Arrays.toString(values));
      }
    }
    rows.sort(null);
    return rows;
  }
}
