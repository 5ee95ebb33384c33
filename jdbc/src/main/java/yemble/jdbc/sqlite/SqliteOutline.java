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
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.schema.Column;
import yemble.core.schema.DataType;
import yemble.core.schema.DataType.Base;
import yemble.core.schema.Link;
import yemble.core.schema.Outline;
import yemble.core.schema.Outline.ColumnOutline;
import yemble.core.schema.Outline.TableOutline;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.SchemaObject.Type;
import yemble.core.schema.Table;

/** An SQLite file's structure in words that every engine knows. */
final class SqliteOutline {
  private static final Pattern LIMITS = Pattern.compile("\\((\\d+)(?:\\s*,\\s*(\\d+))?\\)");
  private static final Pattern CHECK = Pattern.compile("(?i)\\bCHECK\\s*\\(");

  private final Connection connection;
  private final Schema schema;
  private final Map<String, Map<String, String>> standards = new HashMap<>();
  private final Map<String, Map<String, List<String>>> indexes = new HashMap<>();
  private final Map<String, String> actions = new HashMap<>();

  /** Unique indexes over more than columns, which another engine does not get. */
  private final Set<String> loose = new HashSet<>();

  SqliteOutline(Connection connection, Schema schema) {
    this.connection = connection;
    this.schema = schema;
  }

  Outline outline() throws SQLException {
    each(
        "SELECT l.name, c.name, c.dflt_value FROM pragma_table_list l"
            + " JOIN pragma_table_xinfo(l.name) c WHERE l.schema = 'main' AND l.type = 'table'"
            + " AND c.dflt_value IS NOT NULL",
        row ->
            standards
                .computeIfAbsent(row.getString(1), t -> new HashMap<>())
                .put(row.getString(2), row.getString(3)));
    List<SchemaObject> rest = new ArrayList<>();
    each(
        "SELECT l.name, i.name, x.name, i.partial, i.\"unique\" FROM pragma_table_list l"
            + " JOIN pragma_index_list(l.name) i JOIN pragma_index_info(i.name) x"
            + " WHERE l.schema = 'main' AND l.type = 'table' AND i.origin = 'c'"
            + " ORDER BY l.name, i.name, x.seqno",
        row -> {
          boolean plain = row.getString(3) != null && row.getInt(4) == 0;
          if (!plain && row.getInt(5) == 1) {
            loose.add(row.getString(2));
          }
          if (!plain || row.getInt(5) == 0) {
            indexes
                .computeIfAbsent(row.getString(1), t -> new LinkedHashMap<>())
                .computeIfAbsent(row.getString(2), i -> new ArrayList<>())
                .add(plain ? row.getString(3) : "");
          }
        });
    readActions();
    List<TableOutline> tables = new ArrayList<>();
    for (Table table : schema.tables()) {
      tables.add(table(table, rest));
    }
    for (SchemaObject object : schema.objects()) {
      if (object.type() != Type.INDEX) {
        rest.add(new SchemaObject(object.type(), object.name(), object.table(), ""));
      }
    }
    return new Outline(tables, rest);
  }

  /** The same, in which columns that are declared for bytes but hold texts alone are texts. */
  Outline byValues() throws SQLException {
    Outline declared = outline();
    List<TableOutline> tables = new ArrayList<>();
    for (TableOutline table : declared.tables()) {
      List<String> texts = new ArrayList<>();
      for (Column column : table.table().written()) {
        if (table.columns().get(column.name()).type().base() == Base.BINARY) {
          String name = Sql.quoted(column.name());
          String some = "EXISTS (SELECT 1 FROM " + Sql.quoted(table.table().name().name());
          String type = " WHERE typeof(" + name + ")";
          each(
              "SELECT NOT "
                  + some
                  + type
                  + " NOT IN ('text', 'null')) AND "
                  + some
                  + type
                  + " = 'text')",
              row -> {
                if (row.getBoolean(1)) {
                  texts.add(column.name());
                }
              });
        }
      }
      tables.add(table.with(texts, DataType.of(Base.TEXT)));
    }
    return new Outline(tables, declared.rest());
  }

  private TableOutline table(Table table, List<SchemaObject> rest) {
    String name = table.name().name();
    Map<String, ColumnOutline> columns = new HashMap<>();
    for (Column column : table.columns()) {
      columns.put(column.name(), column(table, column));
    }
    List<Outline.Index> found = new ArrayList<>();
    indexes
        .getOrDefault(name, Map.of())
        .forEach(
            (index, of) -> {
              if (of.contains("")) {
                String lost = loose.contains(index) ? ": equal values are let in there" : "";
                rest.add(
                    new SchemaObject(Type.INDEX, index + " of " + table.name() + lost, "", ""));
              } else {
                found.add(new Outline.Index(index, of));
              }
            });
    return new TableOutline(
        table,
        columns,
        found,
        checks(table.handle()),
        schema.foreignKeys().stream()
            .filter(link -> link.child().equals(table.name()))
            .map(link -> new Outline.Reference(link, actions(link)))
            .toList());
  }

  private ColumnOutline column(Table table, Column column) {
    // The number of the row itself, which the database gives where a row names none.
    boolean counted =
        table.primaryKey().equals(List.of(column.name()))
            && column.type().equalsIgnoreCase("INTEGER")
            && !table.handle().toUpperCase(Locale.ROOT).contains("WITHOUT ROWID");
    boolean caseless =
        Pattern.compile(
                "(?is)[\\s(,\"`\\[]"
                    + Pattern.quote(column.name())
                    + "[\"`\\]]?\\s[^,]*\\bCOLLATE\\s+\"?NOCASE\\b")
            .matcher(table.handle())
            .find();
    return new ColumnOutline(
        type(column.type()),
        caseless,
        standards.getOrDefault(table.name().name(), Map.of()).getOrDefault(column.name(), ""),
        counted);
  }

  /** By the words that people use, and where there are none of them by the affinity. */
  private static DataType type(String declared) {
    String type = declared.toUpperCase(Locale.ROOT);
    Matcher limits = LIMITS.matcher(type);
    int length = limits.find() ? Integer.parseInt(limits.group(1)) : 0;
    int scale = length == 0 || limits.group(2) == null ? 0 : Integer.parseInt(limits.group(2));
    if (type.startsWith("BOOL")) {
      return DataType.of(Base.BOOLEAN);
    }
    if (type.startsWith("DATETIME") || type.startsWith("TIMESTAMP")) {
      return DataType.of(Base.MOMENT);
    }
    if (type.equals("DATE") || type.equals("TIME")) {
      return DataType.of(Base.valueOf(type));
    }
    if (type.startsWith("JSON") || type.equals("UUID")) {
      return DataType.of(Base.valueOf(type.substring(0, 4)));
    }
    return switch (Sql.affinity(declared)) {
      case "INTEGER" -> DataType.of(Base.WHOLE, 64);
      case "TEXT" -> DataType.of(Base.TEXT, length);
      case "REAL" -> DataType.of(Base.DOUBLE);
      case "BLOB" -> DataType.of(type.isEmpty() ? Base.ANY : Base.BINARY);
      default ->
          type.startsWith("NUM") || type.startsWith("DEC")
              ? length == 0 ? DataType.decimal(0, -1) : DataType.decimal(length, scale)
              : DataType.of(Base.ANY);
    };
  }

  /** The conditions in a table's statement: what stands in the parentheses after CHECK. */
  private static List<String> checks(String statement) {
    List<String> checks = new ArrayList<>();
    Matcher check = CHECK.matcher(statement);
    while (check.find()) {
      int end = closing(statement, check.end());
      if (end > 0) {
        checks.add(statement.substring(check.end(), end));
      }
    }
    return checks;
  }

  private static int closing(String text, int from) {
    int depth = 1;
    for (int at = from; at < text.length(); at++) {
      char c = text.charAt(at);
      if (c == '\'' || c == '"') {
        at = text.indexOf(c, at + 1);
        if (at < 0) {
          return -1;
        }
      } else if (c == '(') {
        depth++;
      } else if (c == ')' && --depth == 0) {
        return at;
      }
    }
    return -1;
  }

  private void readActions() throws SQLException {
    Map<String, List<String>> from = new LinkedHashMap<>();
    Map<String, String> written = new HashMap<>();
    each(
        "SELECT l.name, f.id, f.\"from\", f.on_delete, f.on_update FROM pragma_table_list l"
            + " JOIN pragma_foreign_key_list(l.name) f WHERE l.schema = 'main'"
            + " AND l.type = 'table' ORDER BY l.name, f.id, f.seq",
        row -> {
          String key = row.getString(1) + "\u0000" + row.getInt(2);
          from.computeIfAbsent(key, k -> new ArrayList<>())
              .add(row.getString(3).toLowerCase(Locale.ROOT));
          written.put(
              key,
              action(" ON DELETE ", row.getString(4)) + action(" ON UPDATE ", row.getString(5)));
        });
    from.forEach(
        (key, columns) ->
            actions.put(
                key.substring(0, key.indexOf('\u0000')) + columns, written.get(key).strip()));
  }

  private static String action(String when, String rule) {
    return rule.equals("CASCADE") || rule.equals("SET NULL") ? when + rule : "";
  }

  private String actions(Link link) {
    return actions.getOrDefault(
        link.child().name()
            + link.childColumns().stream().map(c -> c.toLowerCase(Locale.ROOT)).toList(),
        "");
  }

  private interface RowAction {
    void accept(ResultSet row) throws SQLException;
  }

  private void each(String query, RowAction action) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(query)) {
      while (rows.next()) {
        action.accept(rows);
      }
    }
  }
}
