package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Table;

/**
 * The tables of a database with their columns, keys and foreign keys: in five queries, however many
 * they are. A table of the connection's own schema is known by its bare name; a partitioned table
 * is one table; what belongs to an extension is not seen.
 */
final class PostgresqlCatalog {
  /** The schema that Yemble keeps its mark in. */
  static final String OWN_SCHEMA = "yemble";

  /** A condition for schemas {@code n} that hold the user's objects. */
  static final String USER_SCHEMA =
      "n.nspname !~ '^pg_' AND n.nspname NOT IN ('information_schema', '" + OWN_SCHEMA + "')";

  private final Session session;
  private final String home;
  private final Map<Long, Raw> relations = new LinkedHashMap<>();
  private final Map<TableName, Storage> storages = new TreeMap<>();
  private final List<Link> foreignKeys = new ArrayList<>();

  /** A table or partition while its parts are collected. */
  private static final class Raw {
    long oid;
    String schema;
    String name;
    boolean root;
    boolean partitioned;
    double estimate;
    long parent;
    final Map<Integer, Column> columns = new LinkedHashMap<>();
    final Map<String, ColumnType> types = new HashMap<>();
    final Map<String, String> collations = new HashMap<>();
    final Map<String, String> categories = new HashMap<>();
    List<String> primaryKey = List.of();
    final List<List<String>> uniques = new ArrayList<>();
    final Set<String> indexed = new HashSet<>();

    String relation() {
      return Sql.quoted(schema) + "." + Sql.quoted(name);
    }

    List<String> names(String numbers) {
      List<String> names = new ArrayList<>();
      for (String number : numbers.split("[ ,{}]+")) {
        Column column = number.isEmpty() ? null : columns.get(Integer.valueOf(number));
        if (column != null) {
          names.add(column.name());
        } else if (!number.isEmpty()) {
          return List.of();
        }
      }
      return names;
    }
  }

  PostgresqlCatalog(Session session) throws SQLException {
    this.session = session;
    this.home = session.one("SELECT current_schema()");
    if (home == null) {
      throw Problem.of(Failure.DATABASE_MISSING, "no schema of the search path exists")
          .at(session.description())
          .remedy("name one in the url: ?currentSchema=NAME");
    }
    readRelations();
    readColumns();
    readKeys();
    relations.values().stream().filter(raw -> raw.root).forEach(this::keep);
    readForeignKeys();
  }

  /** The same tables, where rows wait for them: those alone that have such a place. */
  private PostgresqlCatalog(PostgresqlCatalog target, Map<TableName, Storage> waiting) {
    this.session = target.session;
    this.home = target.home;
    storages.putAll(waiting);
  }

  /** Looks for tables in other places than where they are. */
  PostgresqlCatalog at(Map<TableName, Storage> places) {
    return new PostgresqlCatalog(this, places);
  }

  /** The connection's own schema: its tables go by their bare names. */
  String home() {
    return home;
  }

  List<Table> tables() {
    return storages.values().stream().map(Storage::table).toList();
  }

  List<Link> foreignKeys() {
    return foreignKeys;
  }

  Storage storage(TableName table) {
    return storages.get(table);
  }

  private void readRelations() throws SQLException {
    session.query(
        "SELECT c.oid, n.nspname, c.relname, c.relkind, c.relispartition, c.reltuples,"
            + " (SELECT i.inhparent FROM pg_inherits i WHERE c.relispartition"
            + " AND i.inhrelid = c.oid)"
            + " FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace"
            + " WHERE c.relkind IN ('r', 'p') AND c.relpersistence <> 't' AND "
            + USER_SCHEMA
            + " AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.classid = 'pg_class'::regclass"
            + " AND d.objid = c.oid AND d.deptype = 'e')"
            + " ORDER BY c.oid",
        row -> {
          Raw raw = new Raw();
          raw.oid = row.getLong(1);
          raw.schema = row.getString(2);
          raw.name = row.getString(3);
          raw.partitioned = row.getString(4).equals("p");
          raw.root = !row.getBoolean(5);
          raw.estimate = row.getDouble(6);
          raw.parent = row.getLong(7);
          relations.put(raw.oid, raw);
        });
  }

  private void readColumns() throws SQLException {
    session.query(
        "WITH RECURSIVE base(oid, base, required) AS ("
            + "SELECT oid, oid, false FROM pg_type WHERE typtype <> 'd'"
            + " UNION ALL SELECT t.oid, b.base, b.required OR t.typnotnull FROM pg_type t"
            + " JOIN base b ON t.typbasetype = b.oid WHERE t.typtype = 'd')"
            + " SELECT a.attrelid, a.attnum, a.attname, format_type(a.atttypid, a.atttypmod),"
            + " a.attnotnull OR b.required, a.attgenerated <> '', t.typname, t.typcategory,"
            + " CASE WHEN a.attcollation <> 0 THEN quote_ident(cn.nspname) || '.'"
            + " || quote_ident(co.collname) END"
            + " FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid"
            + " JOIN pg_namespace n ON n.oid = c.relnamespace"
            + " JOIN base b ON b.oid = a.atttypid JOIN pg_type t ON t.oid = b.base"
            + " LEFT JOIN pg_collation co ON co.oid = a.attcollation"
            + " LEFT JOIN pg_namespace cn ON cn.oid = co.collnamespace"
            + " WHERE a.attnum > 0 AND NOT a.attisdropped AND c.relkind IN ('r', 'p') AND "
            + USER_SCHEMA
            + " ORDER BY a.attrelid, a.attnum",
        row -> {
          Raw raw = relations.get(row.getLong(1));
          if (raw != null) {
            String name = row.getString(3);
            raw.columns.put(
                row.getInt(2),
                new Column(name, row.getString(4), !row.getBoolean(5), row.getBoolean(6)));
            raw.types.put(name, ColumnType.of(row.getString(7)));
            raw.categories.put(name, row.getString(8));
            if (row.getString(9) != null) {
              raw.collations.put(name, row.getString(9));
            }
          }
        });
  }

  private void readKeys() throws SQLException {
    session.query(
        "SELECT i.indrelid, i.indisprimary, i.indisunique, i.indnkeyatts, i.indkey::text"
            + " FROM pg_index i JOIN pg_class c ON c.oid = i.indrelid"
            + " JOIN pg_namespace n ON n.oid = c.relnamespace"
            + " WHERE i.indisvalid AND i.indpred IS NULL AND "
            + USER_SCHEMA
            + " ORDER BY i.indrelid, i.indexrelid",
        row -> {
          Raw raw = relations.get(row.getLong(1));
          if (raw == null) {
            return;
          }
          List<String> numbers = List.of(row.getString(5).split(" "));
          List<String> names = raw.names(String.join(" ", numbers.subList(0, row.getInt(4))));
          if (names.isEmpty()) {
            return;
          }
          raw.indexed.add(names.get(0));
          if (row.getBoolean(2)) {
            raw.primaryKey = names;
          } else if (row.getBoolean(3)) {
            raw.uniques.add(names);
          }
        });
  }

  private TableName name(Raw raw) {
    return new TableName(raw.schema.equals(home) ? "" : raw.schema, raw.name);
  }

  private void keep(Raw raw) {
    TableName name = name(raw);
    List<Raw> leaves =
        raw.partitioned
            ? relations.values().stream()
                .filter(r -> !r.partitioned && root(r) == raw)
                .sorted(Comparator.comparingLong(r -> r.oid))
                .toList()
            : List.of();
    double estimate =
        raw.partitioned ? leaves.stream().mapToDouble(l -> l.estimate).sum() : raw.estimate;
    Table table =
        new Table(name, List.copyOf(raw.columns.values()), raw.primaryKey, raw.uniques, "");
    storages.put(
        name,
        new Storage(
            raw.oid,
            table,
            raw.relation(),
            leaves.stream().map(l -> new Storage.Leaf(l.oid, l.relation())).toList(),
            estimate,
            raw.types,
            raw.collations,
            raw.categories,
            raw.indexed));
  }

  private Raw root(Raw raw) {
    Raw at = raw;
    while (at != null && at.parent != 0) {
      at = relations.get(at.parent);
    }
    return at;
  }

  /** The link of a foreign key by the catalog's numbers; null if one end is not seen. */
  Link link(long childOid, long parentOid, String from, String to) {
    Raw child = relations.get(childOid);
    Raw parent = relations.get(parentOid);
    return child == null || parent == null || !child.root || !parent.root
        ? null
        : new Link(name(child), child.names(from), name(parent), parent.names(to), true, "");
  }

  private void readForeignKeys() throws SQLException {
    session.query(
        "SELECT k.conrelid, k.confrelid, k.conkey::text, k.confkey::text"
            + " FROM pg_constraint k JOIN pg_namespace n ON n.oid = k.connamespace"
            + " WHERE k.contype = 'f' AND k.conparentid = 0 AND "
            + USER_SCHEMA
            + " ORDER BY k.conrelid, k.conname",
        row -> {
          Link link = link(row.getLong(1), row.getLong(2), row.getString(3), row.getString(4));
          if (link != null && !foreignKeys.contains(link)) {
            foreignKeys.add(link);
          }
        });
  }
}
