package yemble.jdbc.standard;

import java.sql.Connection;
import java.sql.DatabaseMetaData;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.SQLFeatureNotSupportedException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import yemble.core.name.TableName;
import yemble.core.schema.Column;
import yemble.core.schema.DataType;
import yemble.core.schema.DataType.Base;
import yemble.core.schema.Link;
import yemble.core.schema.Outline;
import yemble.core.schema.Outline.ColumnOutline;
import yemble.core.schema.Outline.TableOutline;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.SchemaObject.Type;
import yemble.core.schema.Table;

/** The tables of the connection's own schema, by the driver's metadata: some queries a table. */
final class StandardCatalog {
  /** What Yemble makes for itself in a target begins like this, in whatever case. */
  static final String OWN = "yemble_";

  private final Map<TableName, StandardTable> tables = new TreeMap<>();
  private final Map<TableName, List<Outline.Index>> indexes = new HashMap<>();
  private final Map<Link, String> actions = new LinkedHashMap<>();
  private final Map<Link, String> keyNames = new HashMap<>();
  private final List<SchemaObject> rest = new ArrayList<>();
  private final DatabaseMetaData metadata;
  private final String catalog;
  private final String schema;
  private final String quote;

  /** Whether the driver tells of foreign keys. */
  private boolean keysTold = true;

  /** Asked of the first table; null before. */
  private Spelling spelling;

  /** A table's columns while they come in. */
  private static final class Draft {
    final List<Column> columns = new ArrayList<>();
    final Map<String, DataType> types = new HashMap<>();
    final List<String> counted = new ArrayList<>();
    final Map<String, String> standards = new HashMap<>();
  }

  /**
   * @param shadows names of tables of a load under way by those they will have; empty for the
   *     user's own tables
   */
  StandardCatalog(Connection connection, Map<String, String> shadows) throws SQLException {
    this.metadata = connection.getMetaData();
    this.catalog = connection.getCatalog();
    this.schema = connection.getSchema();
    String found = metadata.getIdentifierQuoteString();
    this.quote = found == null ? " " : found;
    Map<String, String> logical = new HashMap<>();
    shadows.forEach((name, shadow) -> logical.put(shadow.toLowerCase(Locale.ROOT), name));
    Map<String, String> names = new TreeMap<>();
    try (ResultSet rows =
        metadata.getTables(catalog, schema, "%", new String[] {"TABLE", "BASE TABLE", "VIEW"})) {
      while (rows.next()) {
        String name = rows.getString("TABLE_NAME");
        boolean own = name.toLowerCase(Locale.ROOT).startsWith(OWN);
        String shadow = logical.get(name.toLowerCase(Locale.ROOT));
        if (rows.getString("TABLE_TYPE").equals("VIEW")) {
          rest.add(new SchemaObject(Type.VIEW, name, "", ""));
        } else if (shadows.isEmpty() ? !own : shadow != null) {
          names.put(name, shadows.isEmpty() ? name : shadow);
        }
      }
    }
    Map<String, Draft> drafts = columns();
    for (Map.Entry<String, String> name : names.entrySet()) {
      tables.put(
          TableName.of(name.getValue()),
          table(name.getKey(), name.getValue(), drafts.getOrDefault(name.getKey(), new Draft())));
    }
    if (shadows.isEmpty()) {
      try {
        for (TableName table : List.copyOf(tables.keySet())) {
          foreignKeys(table);
        }
      } catch (SQLFeatureNotSupportedException untold) {
        rest.add(
            new SchemaObject(Type.OTHER, "foreign keys: the driver does not tell of them", "", ""));
        keysTold = false;
      }
    }
  }

  private Map<String, Draft> columns() throws SQLException {
    Map<String, Draft> drafts = new HashMap<>();
    try (ResultSet rows = metadata.getColumns(catalog, schema, "%", "%")) {
      while (rows.next()) {
        Draft draft = drafts.computeIfAbsent(rows.getString("TABLE_NAME"), t -> new Draft());
        String name = rows.getString("COLUMN_NAME");
        String typeName = rows.getString("TYPE_NAME");
        int size = rows.getInt("COLUMN_SIZE");
        int scale = rows.getInt("DECIMAL_DIGITS");
        DataType type = StandardTable.type(rows.getInt("DATA_TYPE"), size, scale);
        if (typeName.equalsIgnoreCase("UUID") || typeName.equalsIgnoreCase("JSON")) {
          type = DataType.of(Base.valueOf(typeName.toUpperCase(Locale.ROOT)));
        }
        String standard = rows.getString("COLUMN_DEF");
        boolean counted = "YES".equals(rows.getString("IS_AUTOINCREMENT"));
        boolean generated = "YES".equals(rows.getString("IS_GENERATEDCOLUMN")) && !counted;
        boolean nullable = rows.getInt("NULLABLE") != DatabaseMetaData.columnNoNulls;
        String written =
            type.base() == Base.TEXT && type.length() > 0
                ? typeName + "(" + size + ")"
                : type.base() == Base.DECIMAL && type.length() > 0
                    ? typeName + "(" + size + "," + scale + ")"
                    : typeName;
        draft.columns.add(new Column(name, written, nullable, generated));
        draft.types.put(name, type);
        if (counted) {
          draft.counted.add(name);
        } else if (standard != null && !generated) {
          draft.standards.put(name, standard);
        }
      }
    }
    return drafts;
  }

  private StandardTable table(String physical, String name, Draft draft) throws SQLException {
    Map<Integer, String> primary = new TreeMap<>();
    try (ResultSet rows = metadata.getPrimaryKeys(catalog, schema, physical)) {
      while (rows.next()) {
        primary.put(rows.getInt("KEY_SEQ"), rows.getString("COLUMN_NAME"));
      }
    }
    List<String> key = List.copyOf(primary.values());
    Map<String, List<String>> unique = new LinkedHashMap<>();
    Map<String, List<String>> other = new LinkedHashMap<>();
    try (ResultSet rows = metadata.getIndexInfo(catalog, schema, physical, false, true)) {
      while (rows.next()) {
        String index = rows.getString("INDEX_NAME");
        if (index != null && rows.getShort("TYPE") != DatabaseMetaData.tableIndexStatistic) {
          String column = rows.getString("COLUMN_NAME");
          (rows.getBoolean("NON_UNIQUE") ? other : unique)
              .computeIfAbsent(index, i -> new ArrayList<>())
              .add(column == null ? "" : column);
        }
      }
    }
    List<List<String>> uniques =
        unique.values().stream()
            .filter(columns -> !columns.equals(key) && draft.types.keySet().containsAll(columns))
            .distinct()
            .toList();
    List<Outline.Index> plain = new ArrayList<>();
    other.forEach(
        (index, columns) -> {
          if (draft.types.keySet().containsAll(columns)) {
            plain.add(new Outline.Index(index, columns));
          }
        });
    Table table = new Table(TableName.of(name), draft.columns, key, uniques, "");
    indexes.put(table.name(), plain);
    StandardTable bare =
        new StandardTable(
            table,
            List.of(),
            draft.types,
            draft.counted,
            draft.standards,
            "",
            quote,
            Spelling.STANDARD);
    if (spelling == null && !draft.columns.isEmpty()) {
      String column = bare.quoted(draft.columns.get(0).name());
      spelling = Spelling.of(metadata.getConnection(), bare.quoted(physical), column);
    }
    return new StandardTable(
        table,
        tellsApart(table, draft),
        draft.types,
        draft.counted,
        draft.standards,
        bare.quoted(physical),
        quote,
        spelling == null ? Spelling.STANDARD : spelling);
  }

  private static List<String> tellsApart(Table table, Draft draft) {
    List<List<String>> candidates = new ArrayList<>();
    candidates.add(table.primaryKey());
    candidates.addAll(table.uniques());
    for (List<String> key : candidates) {
      boolean fits =
          !key.isEmpty()
              && key.stream()
                  .allMatch(
                      name ->
                          !table.column(name).orElseThrow().nullable()
                              && switch (draft.types.get(name).base()) {
                                case FLOAT, DOUBLE, JSON, OTHER -> false;
                                default -> true;
                              });
      if (fits) {
        return key;
      }
    }
    return List.of();
  }

  private void foreignKeys(TableName child) throws SQLException {
    Map<String, List<String[]>> keys = new LinkedHashMap<>();
    try (ResultSet rows = metadata.getImportedKeys(catalog, schema, child.name())) {
      while (rows.next()) {
        String name = rows.getString("FK_NAME");
        String parent = rows.getString("PKTABLE_NAME");
        keys.computeIfAbsent(name == null ? parent : name, k -> new ArrayList<>())
            .add(
                new String[] {
                  parent,
                  rows.getString("FKCOLUMN_NAME"),
                  rows.getString("PKCOLUMN_NAME"),
                  action(" ON DELETE ", rows.getShort("DELETE_RULE"))
                      + action(" ON UPDATE ", rows.getShort("UPDATE_RULE"))
                });
      }
    }
    keys.forEach(
        (name, parts) -> {
          TableName parent = TableName.of(parts.get(0)[0]);
          if (tables.containsKey(parent)) {
            Link link =
                new Link(
                    child,
                    parts.stream().map(part -> part[1]).toList(),
                    parent,
                    parts.stream().map(part -> part[2]).toList(),
                    true,
                    "");
            actions.put(link, parts.get(0)[3].strip());
            keyNames.put(link, name);
          }
        });
  }

  private static String action(String when, short rule) {
    return switch (rule) {
      case DatabaseMetaData.importedKeyCascade -> when + "CASCADE";
      case DatabaseMetaData.importedKeySetNull -> when + "SET NULL";
      default -> "";
    };
  }

  List<Table> tables() {
    return tables.values().stream().map(StandardTable::table).toList();
  }

  List<Link> foreignKeys() {
    return List.copyOf(actions.keySet());
  }

  /** The names of a table's foreign keys. */
  List<String> keysOf(TableName table) {
    return actions.keySet().stream()
        .filter(link -> link.child().equals(table))
        .map(keyNames::get)
        .toList();
  }

  StandardTable storage(TableName table) {
    return tables.get(table);
  }

  /** Whether the driver tells of foreign keys. */
  boolean tellsKeys() {
    return keysTold;
  }

  /** What is not a table. */
  List<SchemaObject> rest() {
    return rest;
  }

  Outline outline() {
    List<TableOutline> outlines = new ArrayList<>();
    for (StandardTable table : tables.values()) {
      Map<String, ColumnOutline> columns = new HashMap<>();
      for (Column column : table.table().columns()) {
        String name = column.name();
        columns.put(
            name,
            new ColumnOutline(
                table.types().get(name),
                column.type().toUpperCase(Locale.ROOT).contains("IGNORECASE"),
                table.standards().getOrDefault(name, ""),
                table.counted().contains(name)));
      }
      outlines.add(
          new TableOutline(
              table.table(),
              columns,
              indexes.get(table.table().name()),
              List.of(),
              actions.entrySet().stream()
                  .filter(key -> key.getKey().child().equals(table.table().name()))
                  .map(key -> new Outline.Reference(key.getKey(), key.getValue()))
                  .toList()));
    }
    List<SchemaObject> left = new ArrayList<>(rest);
    left.add(
        new SchemaObject(
            Type.OTHER, "checks, routines and triggers: drivers do not tell of them", "", ""));
    return new Outline(outlines, left);
  }
}
