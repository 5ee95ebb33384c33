package yemble.jdbc.sqlite;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import yemble.core.name.TableName;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.Table;

/** Reads SQLite's catalog in a few queries, whatever the number of tables. */
final class SqliteCatalog {
  /** Yemble's own table in a target; never part of a schema. */
  static final String MARK_TABLE = "yemble_mark";

  /**
   * What this engine must know of a table beyond the schema.
   *
   * @param rowid the name by which the row's number can be asked for, or an empty string in a table
   *     WITHOUT ROWID
   * @param aliased whether a column of the table is that number
   * @param known whether rows can be told apart: neither by a number nor by a key if not
   */
  record Storage(String rowid, boolean aliased, boolean known) {}

  private static final String TABLES =
      """
      SELECT l.name, l.type, l.wr, coalesce(m.sql, '')
      FROM pragma_table_list l LEFT JOIN sqlite_master m ON m.name = l.name AND m.type = 'table'
      WHERE l.schema = 'main' AND l.type IN ('table', 'virtual') AND l.name NOT LIKE 'sqlite\\_%'
        ESCAPE '\\' AND l.name <> 'yemble_mark' AND l.name NOT LIKE 'yemble\\_keys\\_%' ESCAPE '\\'
      ORDER BY l.name""";
  private static final String COLUMNS =
      """
      SELECT l.name, c.name, c.type, c."notnull", c.pk, c.hidden
      FROM pragma_table_list l JOIN pragma_table_xinfo(l.name) c
      WHERE l.schema = 'main' AND l.type = 'table' ORDER BY l.name, c.cid""";
  private static final String FOREIGN_KEYS =
      """
      SELECT l.name, f.id, f."table", f."from", f."to"
      FROM pragma_table_list l JOIN pragma_foreign_key_list(l.name) f
      WHERE l.schema = 'main' AND l.type = 'table' ORDER BY l.name, f.id, f.seq""";
  private static final String UNIQUE_KEYS =
      """
      SELECT l.name, i.name, x.name
      FROM pragma_table_list l JOIN pragma_index_list(l.name) i JOIN pragma_index_info(i.name) x
      WHERE l.schema = 'main' AND l.type = 'table' AND i."unique" AND NOT i.partial
        AND i.origin <> 'pk' ORDER BY l.name, i.name, x.seqno""";
  private static final String INDEXED =
      """
      SELECT l.name, i.name, lower(x.name) || ' ' || x.coll
      FROM pragma_table_list l JOIN pragma_index_list(l.name) i JOIN pragma_index_xinfo(i.name) x
      WHERE l.schema = 'main' AND l.type = 'table' AND NOT i.partial AND x.key
      ORDER BY l.name, i.name, x.seqno""";
  private static final String OBJECTS =
      """
      SELECT type, name, tbl_name, sql FROM sqlite_master
      WHERE type IN ('index', 'view', 'trigger') AND sql IS NOT NULL
        AND tbl_name <> 'yemble_mark' ORDER BY rowid""";

  private final Connection connection;
  private final Map<String, Storage> storage = new HashMap<>();
  private final Map<String, List<List<String>>> indexes = new HashMap<>();
  private final Schema schema;

  SqliteCatalog(Connection connection) throws SQLException {
    this.connection = connection;
    this.schema = read();
  }

  Schema schema() {
    return schema;
  }

  Storage storage(TableName table) {
    return storage.get(table.name());
  }

  /**
   * Whether an index leads from parents to their children: one of the child that begins with the
   * link's columns, and compares them as the parent's own columns compare, for else SQLite cannot
   * use it.
   */
  boolean leadsToChildren(Link link) {
    Table child = schema.table(link.child());
    Table parent = schema.table(link.parent());
    Set<String> wanted = new HashSet<>();
    for (int i = 0; i < link.childColumns().size(); i++) {
      String name = link.childColumns().get(i).toLowerCase(Locale.ROOT);
      Column column = parent.column(link.parentColumns().get(i)).orElseThrow();
      String collation =
          Sql.affinity(column.type()).equals("TEXT") ? collation(parent, column) : "";
      wanted.add(name + " " + collation);
    }
    for (List<String> index : indexes.getOrDefault(child.name().name(), List.of())) {
      if (index.size() >= wanted.size() && wanted.equals(leading(index, wanted))) {
        return true;
      }
    }
    return storage(child.name()).aliased()
        && lower(link.childColumns()).equals(lower(child.primaryKey()));
  }

  /** The columns an index begins with, without collation where none is asked for. */
  private static Set<String> leading(List<String> index, Set<String> wanted) {
    Set<String> leading = new HashSet<>();
    for (String column : index.subList(0, wanted.size())) {
      String bare = column.substring(0, column.lastIndexOf(' ') + 1);
      leading.add(wanted.contains(bare) ? bare : column);
    }
    return leading;
  }

  /** How a column compares, as the index of its key knows it; {@code ?} where there is none. */
  private String collation(Table table, Column column) {
    String prefix = column.name().toLowerCase(Locale.ROOT) + " ";
    for (List<String> index : indexes.getOrDefault(table.name().name(), List.of())) {
      for (String indexed : index) {
        if (indexed.startsWith(prefix)) {
          return indexed.substring(prefix.length());
        }
      }
    }
    return "?";
  }

  private static Set<String> lower(List<String> names) {
    Set<String> lower = new HashSet<>();
    names.forEach(name -> lower.add(name.toLowerCase(Locale.ROOT)));
    return lower;
  }

  private Schema read() throws SQLException {
    Map<String, TableDraft> drafts = new LinkedHashMap<>();
    List<SchemaObject> objects = new ArrayList<>();
    each(
        TABLES,
        row -> {
          String name = row.getString(1);
          if (row.getString(2).equals("virtual")) {
            objects.add(new SchemaObject(SchemaObject.Type.VIRTUAL_TABLE, name, "", ""));
          } else {
            drafts.put(name, new TableDraft(name, row.getInt(3) == 1, row.getString(4)));
          }
        });
    each(
        COLUMNS,
        row -> {
          TableDraft draft = drafts.get(row.getString(1));
          if (draft != null) {
            draft.add(
                row.getString(2),
                row.getString(3),
                row.getInt(4) == 1,
                row.getInt(5),
                row.getInt(6));
          }
        });
    readIndexes(drafts);
    List<Table> tables = new ArrayList<>();
    for (TableDraft draft : drafts.values()) {
      storage.put(draft.name, draft.storage());
      tables.add(draft.table());
    }
    each(
        OBJECTS,
        row ->
            objects.add(
                new SchemaObject(
                    SchemaObject.Type.valueOf(row.getString(1).toUpperCase(Locale.ROOT)),
                    row.getString(2),
                    row.getString(3),
                    row.getString(4))));
    return new Schema(tables, foreignKeys(drafts), objects, settings());
  }

  private void readIndexes(Map<String, TableDraft> drafts) throws SQLException {
    Map<String, Map<String, List<String>>> unique = grouped(UNIQUE_KEYS);
    for (TableDraft draft : drafts.values()) {
      for (List<String> columns : unique.getOrDefault(draft.name, Map.of()).values()) {
        if (!columns.contains(null)) {
          draft.uniques.add(columns);
        }
      }
    }
    grouped(INDEXED)
        .forEach(
            (table, found) ->
                indexes.put(
                    table, found.values().stream().filter(i -> !i.contains(null)).toList()));
  }

  /** Table, index and column names as table → index → columns. */
  private Map<String, Map<String, List<String>>> grouped(String query) throws SQLException {
    Map<String, Map<String, List<String>>> grouped = new HashMap<>();
    each(
        query,
        row ->
            grouped
                .computeIfAbsent(row.getString(1), t -> new TreeMap<>())
                .computeIfAbsent(row.getString(2), i -> new ArrayList<>())
                .add(row.getString(3)));
    return grouped;
  }

  private List<Link> foreignKeys(Map<String, TableDraft> drafts) throws SQLException {
    Map<String, List<String[]>> keys = new LinkedHashMap<>();
    each(
        FOREIGN_KEYS,
        row ->
            keys.computeIfAbsent(
                    row.getString(1) + "\u0000" + row.getInt(2), k -> new ArrayList<>())
                .add(
                    new String[] {
                      row.getString(1), row.getString(3), row.getString(4), row.getString(5)
                    }));
    List<Link> links = new ArrayList<>();
    for (List<String[]> parts : keys.values()) {
      TableDraft child = drafts.get(parts.get(0)[0]);
      TableDraft parent = draft(drafts, parts.get(0)[1]);
      if (child == null || parent == null) {
        continue;
      }
      List<String> from = new ArrayList<>();
      List<String> to = new ArrayList<>();
      for (int i = 0; i < parts.size(); i++) {
        from.add(child.spelled(parts.get(i)[2]));
        String target = parts.get(i)[3];
        to.add(target == null ? parent.key().get(i) : parent.spelled(target));
      }
      links.add(new Link(child.tableName(), from, parent.tableName(), to, true, ""));
    }
    return links;
  }

  private static TableDraft draft(Map<String, TableDraft> drafts, String name) {
    return drafts.values().stream()
        .filter(draft -> draft.name.equalsIgnoreCase(name))
        .findFirst()
        .orElse(null);
  }

  private Map<String, String> settings() throws SQLException {
    Map<String, String> settings = new HashMap<>();
    for (String pragma :
        List.of("page_size", "encoding", "auto_vacuum", "user_version", "application_id")) {
      each("PRAGMA " + pragma, row -> settings.put(pragma, row.getString(1)));
    }
    each(
        "SELECT 1 FROM sqlite_master WHERE name = 'sqlite_stat1'",
        row -> settings.put("analyzed", "1"));
    return settings;
  }

  private void each(String query, RowAction action) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(query)) {
      while (rows.next()) {
        action.accept(rows);
      }
    }
  }

  private interface RowAction {
    void accept(ResultSet row) throws SQLException;
  }

  /** A table while its parts come in. */
  private static final class TableDraft {
    final String name;
    final boolean withoutRowid;
    final String definition;
    final List<Column> columns = new ArrayList<>();
    final Map<Integer, String> key = new TreeMap<>();
    final List<List<String>> uniques = new ArrayList<>();

    TableDraft(String name, boolean withoutRowid, String definition) {
      this.name = name;
      this.withoutRowid = withoutRowid;
      this.definition = definition;
    }

    void add(String column, String type, boolean notNull, int keyPosition, int hidden) {
      boolean nullable = !notNull && !(keyPosition > 0 && withoutRowid);
      columns.add(new Column(column, type, nullable, hidden == 2 || hidden == 3));
      if (keyPosition > 0) {
        key.put(keyPosition, column);
      }
    }

    List<String> key() {
      return List.copyOf(key.values());
    }

    String spelled(String column) {
      return columns.stream()
          .map(Column::name)
          .filter(column::equalsIgnoreCase)
          .findFirst()
          .orElse(column);
    }

    TableName tableName() {
      return TableName.of(name);
    }

    boolean aliased() {
      return key.size() == 1
          && !withoutRowid
          && columns.stream()
              .anyMatch(c -> c.name().equals(key.get(1)) && c.type().equalsIgnoreCase("INTEGER"));
    }

    Storage storage() {
      if (withoutRowid) {
        return new Storage("", false, true);
      }
      for (String candidate : List.of("rowid", "_rowid_", "oid")) {
        if (columns.stream().noneMatch(c -> c.name().equalsIgnoreCase(candidate))) {
          return new Storage(candidate, aliased(), true);
        }
      }
      return aliased()
          ? new Storage(Sql.quoted(key.get(1)), true, true)
          : new Storage("", false, isKeyed());
    }

    /** Whether the primary key holds a value in every row, which SQLite does not ask for. */
    private boolean isKeyed() {
      return !key.isEmpty()
          && columns.stream().noneMatch(c -> key.containsValue(c.name()) && c.nullable());
    }

    Table table() {
      List<Column> exact =
          columns.stream()
              .map(
                  c ->
                      aliased() && c.name().equals(key.get(1))
                          ? new Column(c.name(), c.type(), false, c.generated())
                          : c)
              .toList();
      return new Table(tableName(), exact, key(), uniques, definition);
    }
  }
}
