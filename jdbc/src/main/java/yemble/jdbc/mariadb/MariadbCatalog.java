package yemble.jdbc.mariadb;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import yemble.core.name.TableName;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Table;

/**
 * The tables of the connection's database with their columns, keys and foreign keys: in four
 * queries, however many they are. What is Yemble's own is not seen, nor are tables whose rows lie
 * elsewhere.
 */
final class MariadbCatalog {
  /** What Yemble makes for itself in a target begins like this. */
  static final String OWN = "yemble_";

  /** Storage engines whose rows lie in this very database. */
  static final Set<String> OWN_ENGINES =
      Set.of("INNODB", "ARIA", "MYISAM", "MEMORY", "ROCKSDB", "TOKUDB", "ARCHIVE", "CSV");

  /** A condition for tables of the user's. */
  static final String USERS =
      "table_schema = database() AND table_name NOT LIKE 'yemble\\_new\\_%'"
          + " AND table_name NOT LIKE 'yemble\\_old\\_%'"
          + " AND table_name NOT LIKE 'yemble\\_keys\\_%'"
          + " AND table_name NOT LIKE 'yemble\\_rewrite\\_%'"
          + " AND table_name NOT LIKE 'yemble\\_written\\_%'"
          + " AND table_name NOT IN ('yemble_mark', 'yemble_load', 'yemble_swapped',"
          + " 'yemble_rewrite', 'yemble_written')";

  private final Map<TableName, Storage> storages = new TreeMap<>();
  private final List<Link> foreignKeys = new ArrayList<>();
  private final Map<String, Draft> drafts = new LinkedHashMap<>();
  private final Map<String, String> logical = new HashMap<>();

  /** A table while its parts come in. */
  private static final class Draft {
    String name;
    String physical;
    String engine;
    double estimate;
    double rowBytes;
    long next;
    String counter = "";
    final List<Column> columns = new ArrayList<>();
    final Map<String, ColumnForm> forms = new HashMap<>();
    final Map<String, Index> indexes = new LinkedHashMap<>();

    Storage storage() {
      List<String> primary =
          indexes.containsKey("PRIMARY") ? indexes.get("PRIMARY").columns : List.of();
      List<List<String>> uniques = new ArrayList<>();
      Set<String> indexed = new HashSet<>();
      List<String> key = List.of();
      List<String> others = new ArrayList<>();
      for (Map.Entry<String, Index> entry : indexes.entrySet()) {
        Index index = entry.getValue();
        indexed.add(index.columns.get(0));
        boolean isPrimary = entry.getKey().equals("PRIMARY");
        if (!isPrimary) {
          others.add(entry.getKey());
        }
        if (index.unique && index.whole) {
          if (!isPrimary) {
            uniques.add(List.copyOf(index.columns));
          }
          if ((key.isEmpty() || isPrimary) && tellsApart(index)) {
            key = List.copyOf(index.columns);
          }
        }
      }
      Table table = new Table(TableName.of(name), columns, primary, uniques, "");
      return new Storage(
          table,
          Sql.quoted(physical),
          engine,
          estimate,
          rowBytes,
          key,
          counter,
          next,
          forms,
          indexed,
          others);
    }

    /** Whether each row has its own values, and can be asked for by them. */
    private boolean tellsApart(Index index) {
      return index.columns.stream()
          .allMatch(
              column ->
                  switch (forms.get(column).sort()) {
                    case FLOAT, SHORT_FLOAT, GEOMETRY -> false;
                    default ->
                        columns.stream().anyMatch(c -> c.name().equals(column) && !c.nullable());
                  });
    }
  }

  /** An index while its columns come in. */
  private static final class Index {
    boolean unique;
    boolean whole = true;
    final List<String> columns = new ArrayList<>();
  }

  /** The tables of the database that a session is in. */
  MariadbCatalog(Session session) throws SQLException {
    this(session, Map.of());
  }

  /**
   * The tables of a load under way.
   *
   * @param shadows their names there by the names they will have; empty for the user's own tables
   */
  MariadbCatalog(Session session, Map<String, String> shadows) throws SQLException {
    shadows.forEach((name, shadow) -> logical.put(shadow, name));
    String condition = shadows.isEmpty() ? USERS : "table_schema = database()";
    readTables(session, condition);
    readColumns(session, condition);
    readIndexes(session, condition);
    for (Draft draft : drafts.values()) {
      storages.put(TableName.of(draft.name), draft.storage());
    }
    readForeignKeys(session);
  }

  private boolean isWanted(String physical) {
    return logical.isEmpty() || logical.containsKey(physical);
  }

  private void readTables(Session session, String condition) throws SQLException {
    session.query(
        "SELECT table_name, engine, coalesce(table_rows, 0), auto_increment,"
            + " CASE WHEN table_rows > 0 THEN avg_row_length ELSE 0 END"
            + " FROM information_schema.tables WHERE table_type IN ('BASE TABLE',"
            + " 'SYSTEM VERSIONED') AND "
            + condition
            + " ORDER BY table_name",
        row -> {
          String physical = row.getString(1);
          String engine = row.getString(2) == null ? "" : row.getString(2);
          if (isWanted(physical)
              && OWN_ENGINES.contains(engine.toUpperCase(java.util.Locale.ROOT))) {
            Draft draft = new Draft();
            draft.physical = physical;
            draft.name = logical.getOrDefault(physical, physical);
            draft.engine = engine;
            draft.estimate = row.getDouble(3);
            draft.rowBytes = row.getDouble(5);
            draft.next = row.getString(4) == null ? 0 : Long.parseUnsignedLong(row.getString(4));
            drafts.put(physical, draft);
          }
        });
  }

  private void readColumns(Session session, String condition) throws SQLException {
    session.query(
        "SELECT table_name, column_name, column_type, data_type, is_nullable,"
            + " character_set_name, collation_name, extra FROM information_schema.columns WHERE "
            + condition
            + " ORDER BY table_name, ordinal_position",
        row -> {
          Draft draft = drafts.get(row.getString(1));
          if (draft != null) {
            String name = row.getString(2);
            String extra = row.getString(8).toUpperCase(java.util.Locale.ROOT);
            boolean generated = extra.matches(".*\\b(VIRTUAL|STORED|PERSISTENT)\\b.*");
            draft.columns.add(
                new Column(name, row.getString(3), row.getString(5).equals("YES"), generated));
            draft.forms.put(
                name, ColumnForm.of(row.getString(4), row.getString(6), row.getString(7)));
            if (extra.contains("AUTO_INCREMENT")) {
              draft.counter = name;
            }
          }
        });
  }

  private void readIndexes(Session session, String condition) throws SQLException {
    session.query(
        "SELECT table_name, index_name, non_unique, column_name, sub_part"
            + " FROM information_schema.statistics WHERE "
            + condition
            + " ORDER BY table_name, index_name <> 'PRIMARY', index_name, seq_in_index",
        row -> {
          Draft draft = drafts.get(row.getString(1));
          if (draft != null) {
            Index index = draft.indexes.computeIfAbsent(row.getString(2), name -> new Index());
            index.unique = row.getInt(3) == 0;
            String column = row.getString(4);
            index.columns.add(column == null ? "" : column);
            index.whole &= column != null && row.getString(5) == null;
          }
        });
  }

  private void readForeignKeys(Session session) throws SQLException {
    Map<String, List<String[]>> keys = new LinkedHashMap<>();
    session.query(
        "SELECT table_name, constraint_name, column_name, referenced_table_name,"
            + " referenced_column_name FROM information_schema.key_column_usage"
            + " WHERE referenced_table_name IS NOT NULL AND table_schema = database()"
            + " AND referenced_table_schema = database()"
            + " ORDER BY table_name, constraint_name, ordinal_position",
        row ->
            keys.computeIfAbsent(
                    row.getString(1) + "\u0000" + row.getString(2), k -> new ArrayList<>())
                .add(
                    new String[] {
                      row.getString(1), row.getString(3), row.getString(4), row.getString(5)
                    }));
    for (List<String[]> parts : keys.values()) {
      Draft child = drafts.get(parts.get(0)[0]);
      Draft parent = drafts.get(parts.get(0)[2]);
      if (child != null && parent != null) {
        foreignKeys.add(
            new Link(
                TableName.of(child.name),
                parts.stream().map(part -> part[1]).toList(),
                TableName.of(parent.name),
                parts.stream().map(part -> part[3]).toList(),
                true,
                ""));
      }
    }
  }

  List<Table> tables() {
    return storages.values().stream().map(Storage::table).toList();
  }

  List<Storage> storages() {
    return List.copyOf(storages.values());
  }

  List<Link> foreignKeys() {
    return foreignKeys;
  }

  Storage storage(TableName table) {
    return storages.get(table);
  }
}
