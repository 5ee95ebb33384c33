package yemble.jdbc.mariadb;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.name.TableName;
import yemble.core.schema.DataType;
import yemble.core.schema.DataType.Base;
import yemble.core.schema.Link;
import yemble.core.schema.Outline;
import yemble.core.schema.Outline.ColumnOutline;
import yemble.core.schema.Outline.TableOutline;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.SchemaObject.Type;

/** A MariaDB database's structure in words that every engine knows, in four queries. */
final class MariadbOutline {
  private static final Pattern LIMITS = Pattern.compile("\\((\\d+)(?:,(\\d+))?\\)");
  private static final Pattern LABEL = Pattern.compile("'((?:[^']|'')*)'");

  private final Session session;
  private final MariadbCatalog catalog;
  private final Schema schema;
  private final Map<String, Map<String, ColumnOutline>> columns = new HashMap<>();
  private final Map<String, List<String>> checks = new HashMap<>();
  private final Map<String, Map<String, List<String>>> indexes = new HashMap<>();
  private final Map<String, String> actions = new HashMap<>();
  private final List<SchemaObject> rest = new ArrayList<>();

  MariadbOutline(Session session, MariadbCatalog catalog, Schema schema) {
    this.session = session;
    this.catalog = catalog;
    this.schema = schema;
  }

  Outline outline() throws SQLException {
    readColumns();
    readChecks();
    readIndexes();
    readActions();
    List<TableOutline> outlines = new ArrayList<>();
    for (Storage storage : catalog.storages()) {
      TableName name = storage.table().name();
      List<Outline.Index> found = new ArrayList<>();
      indexes
          .getOrDefault(name.name(), Map.of())
          .forEach(
              (index, of) -> {
                if (of.contains("")) {
                  rest.add(new SchemaObject(Type.INDEX, index + " of " + name, "", ""));
                } else {
                  found.add(new Outline.Index(index, of));
                }
              });
      outlines.add(
          new TableOutline(
              storage.table(),
              columns.getOrDefault(name.name(), Map.of()),
              found,
              checks.getOrDefault(name.name(), List.of()),
              schema.foreignKeys().stream()
                  .filter(link -> link.child().equals(name))
                  .map(link -> new Outline.Reference(link, actions(link)))
                  .toList()));
    }
    for (SchemaObject object : schema.objects()) {
      boolean carried =
          object.type() == Type.TABLE
              || object.type() == Type.FOREIGN_KEY
              || object.type() == Type.GRANT;
      if (!carried) {
        rest.add(new SchemaObject(object.type(), object.name(), object.table(), ""));
      }
    }
    return new Outline(outlines, rest);
  }

  private String actions(Link link) {
    return actions.getOrDefault(
        link.child().name() + "\u0000" + String.join("\u0000", link.childColumns()), "");
  }

  private void readColumns() throws SQLException {
    session.query(
        "SELECT table_name, column_name, data_type, column_type, collation_name, column_default,"
            + " extra, EXISTS (SELECT 1 FROM information_schema.check_constraints k"
            + " WHERE k.constraint_schema = database() AND k.table_name = c.table_name"
            + " AND k.constraint_name = c.column_name AND k.check_clause LIKE 'json_valid%')"
            + " FROM information_schema.columns c WHERE "
            + MariadbCatalog.USERS,
        row -> {
          String collation = row.getString(5) == null ? "" : row.getString(5);
          boolean caseless = collation.contains("_ci");
          boolean counted = row.getString(7).toUpperCase(Locale.ROOT).contains("AUTO_INCREMENT");
          String given = row.getString(6);
          String standard = given == null || given.equals("NULL") ? "" : given;
          columns
              .computeIfAbsent(row.getString(1), t -> new HashMap<>())
              .put(
                  row.getString(2),
                  new ColumnOutline(
                      row.getBoolean(8)
                          ? DataType.of(Base.JSON)
                          : type(row.getString(3), row.getString(4)),
                      caseless,
                      standard,
                      counted));
        });
  }

  private static DataType type(String name, String written) {
    Matcher limits = LIMITS.matcher(written);
    int length = limits.find() ? Integer.parseInt(limits.group(1)) : 0;
    int scale = length == 0 || limits.group(2) == null ? 0 : Integer.parseInt(limits.group(2));
    boolean unsigned = written.contains("unsigned");
    return switch (name.toLowerCase(Locale.ROOT)) {
      case "tinyint" -> written.startsWith("tinyint(1)") ? truth() : whole(8, unsigned);
      case "smallint" -> whole(16, unsigned);
      case "mediumint" -> whole(24, unsigned);
      case "int" -> whole(32, unsigned);
      case "bigint" -> whole(64, unsigned);
      case "year" -> whole(16, false);
      case "bit" -> whole(length, true);
      case "decimal" -> DataType.decimal(length, scale);
      case "float" -> DataType.of(Base.FLOAT);
      case "double" -> DataType.of(Base.DOUBLE);
      case "char", "varchar" -> DataType.of(Base.TEXT, length);
      case "tinytext", "text", "mediumtext", "longtext" -> DataType.of(Base.TEXT);
      case "date" -> DataType.of(Base.DATE);
      case "time" -> DataType.of(Base.TIME);
      case "datetime" -> DataType.of(Base.MOMENT);
      case "timestamp" -> DataType.of(Base.INSTANT);
      case "uuid" -> DataType.of(Base.UUID);
      case "json" -> DataType.of(Base.JSON);
      case "enum" -> new DataType(Base.ENUM, 0, -1, false, labels(written));
      case "set" -> new DataType(Base.SET, 0, -1, false, labels(written));
      case "inet4", "inet6" -> DataType.of(Base.OTHER);
      default -> DataType.of(Base.BINARY);
    };
  }

  /** What BOOLEAN is short for; other numbers than 0 and 1 are found when they come. */
  private static DataType truth() {
    return DataType.of(Base.BOOLEAN);
  }

  private static DataType whole(int bits, boolean unsigned) {
    return new DataType(Base.WHOLE, bits, -1, unsigned, List.of());
  }

  private static List<String> labels(String written) {
    List<String> labels = new ArrayList<>();
    Matcher label = LABEL.matcher(written);
    while (label.find()) {
      labels.add(label.group(1).replace("''", "'"));
    }
    return labels;
  }

  private void readChecks() throws SQLException {
    session.query(
        "SELECT table_name, check_clause FROM information_schema.check_constraints"
            + " WHERE constraint_schema = database() AND check_clause NOT LIKE 'json_valid%'"
            + " ORDER BY table_name, constraint_name",
        row ->
            checks
                .computeIfAbsent(row.getString(1), t -> new ArrayList<>())
                .add(row.getString(2).replace("\\'", "''")));
  }

  private void readIndexes() throws SQLException {
    session.query(
        "SELECT table_name, index_name, column_name, sub_part, index_type"
            + " FROM information_schema.statistics WHERE non_unique = 1 AND "
            + MariadbCatalog.USERS
            + " ORDER BY table_name, index_name, seq_in_index",
        row -> {
          boolean plain =
              row.getString(3) != null
                  && row.getString(4) == null
                  && row.getString(5).equals("BTREE");
          indexes
              .computeIfAbsent(row.getString(1), t -> new LinkedHashMap<>())
              .computeIfAbsent(row.getString(2), i -> new ArrayList<>())
              .add(plain ? row.getString(3) : "");
        });
  }

  private void readActions() throws SQLException {
    session.query(
        "SELECT r.table_name, r.delete_rule, r.update_rule,"
            + " GROUP_CONCAT(k.column_name ORDER BY k.ordinal_position SEPARATOR '\\0')"
            + " FROM information_schema.referential_constraints r"
            + " JOIN information_schema.key_column_usage k"
            + " ON k.constraint_schema = r.constraint_schema"
            + " AND k.constraint_name = r.constraint_name AND k.table_name = r.table_name"
            + " WHERE r.constraint_schema = database() GROUP BY r.table_name, r.constraint_name,"
            + " r.delete_rule, r.update_rule",
        row -> {
          String written =
              action(" ON DELETE ", row.getString(2)) + action(" ON UPDATE ", row.getString(3));
          actions.put(row.getString(1) + "\u0000" + row.getString(4), written.strip());
        });
  }

  private static String action(String when, String rule) {
    return rule.equals("CASCADE") || rule.equals("SET NULL") ? when + rule : "";
  }
}
