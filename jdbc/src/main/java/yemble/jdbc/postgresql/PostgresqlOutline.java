package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
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
import yemble.core.schema.Table;

/** A PostgreSQL database's structure in words that every engine knows, in four queries. */
final class PostgresqlOutline {
  private static final Pattern LIMITS = Pattern.compile("\\((\\d+)(?:,(-?\\d+))?\\)");

  private final Session session;
  private final PostgresqlCatalog catalog;
  private final Schema schema;
  private final Map<Long, TableName> tables = new HashMap<>();
  private final Map<TableName, Map<String, ColumnOutline>> columns = new HashMap<>();
  private final Map<TableName, List<String>> checks = new HashMap<>();
  private final Map<TableName, List<Outline.Index>> indexes = new HashMap<>();
  private final Map<Link, String> actions = new HashMap<>();
  private final Set<String> rest = new TreeSet<>();

  PostgresqlOutline(Session session, PostgresqlCatalog catalog, Schema schema) {
    this.session = session;
    this.catalog = catalog;
    this.schema = schema;
    for (Table table : catalog.tables()) {
      tables.put(catalog.storage(table.name()).oid(), table.name());
    }
  }

  Outline outline() throws SQLException {
    readColumns();
    readChecks();
    readIndexes();
    readActions();
    List<TableOutline> outlines = new ArrayList<>();
    for (Table table : catalog.tables()) {
      TableName name = table.name();
      outlines.add(
          new TableOutline(
              table,
              columns.getOrDefault(name, Map.of()),
              indexes.getOrDefault(name, List.of()),
              checks.getOrDefault(name, List.of()),
              schema.foreignKeys().stream()
                  .filter(link -> link.child().equals(name))
                  .map(link -> new Outline.Reference(link, actions.getOrDefault(link, "")))
                  .toList()));
    }
    List<SchemaObject> left = new ArrayList<>();
    for (SchemaObject object : schema.objects()) {
      boolean lost =
          switch (object.type()) {
            case FUNCTION, VIEW, MATERIALIZED_VIEW, RULE, TRIGGER, POLICY, FOREIGN_TABLE, OTHER ->
                true;
            default -> false;
          };
      if (lost) {
        left.add(new SchemaObject(object.type(), object.name(), object.table(), ""));
      }
    }
    rest.forEach(index -> left.add(new SchemaObject(Type.INDEX, index, "", "")));
    return new Outline(outlines, left);
  }

  private void readColumns() throws SQLException {
    session.query(
        "WITH RECURSIVE base(oid, base, typmod) AS ("
            + "SELECT oid, oid, -1 FROM pg_type WHERE typtype <> 'd'"
            + " UNION ALL SELECT t.oid, b.base, CASE WHEN b.typmod >= 0 THEN b.typmod"
            + " ELSE t.typtypmod END FROM pg_type t JOIN base b ON t.typbasetype = b.oid"
            + " WHERE t.typtype = 'd'), chain(oid, at) AS (SELECT oid, oid FROM pg_type"
            + " WHERE typtype = 'd' UNION ALL SELECT c.oid, t.typbasetype FROM chain c"
            + " JOIN pg_type t ON t.oid = c.at WHERE t.typtype = 'd')"
            + " SELECT a.attrelid, a.attname, t.typname, t.typtype,"
            + " format_type(b.base, greatest(a.atttypmod, b.typmod)),"
            + " coalesce(pg_get_expr(d.adbin, d.adrelid), ''), a.attidentity <> '',"
            + " co.collisdeterministic = false,"
            + " (SELECT string_agg(e.enumlabel, E'\\x01' ORDER BY e.enumsortorder)"
            + " FROM pg_enum e WHERE e.enumtypid = t.oid),"
            + " (SELECT string_agg(pg_get_expr(k.conbin, 0), E'\\x01' ORDER BY k.conname)"
            + " FROM pg_constraint k JOIN chain h ON h.at = k.contypid"
            + " WHERE k.contype = 'c' AND h.oid = a.atttypid)"
            + " FROM pg_attribute a JOIN base b ON b.oid = a.atttypid"
            + " JOIN pg_type t ON t.oid = b.base"
            + " LEFT JOIN pg_attrdef d ON d.adrelid = a.attrelid AND d.adnum = a.attnum"
            + " AND a.attgenerated = ''"
            + " LEFT JOIN pg_collation co ON co.oid = a.attcollation"
            + " WHERE a.attnum > 0 AND NOT a.attisdropped",
        row -> {
          TableName table = tables.get(row.getLong(1));
          if (table != null) {
            String standard = row.getString(6);
            boolean counted = row.getBoolean(7) || standard.startsWith("nextval(");
            DataType type =
                type(row.getString(3), row.getString(4), row.getString(5), row.getString(9));
            boolean caseless = row.getString(3).equals("citext") || row.getBoolean(8);
            columns
                .computeIfAbsent(table, t -> new HashMap<>())
                .put(
                    row.getString(2),
                    new ColumnOutline(
                        type,
                        caseless,
                        counted ? "" : standard,
                        counted,
                        row.getString(10) == null
                            ? List.of()
                            : List.of(row.getString(10).split("\u0001"))));
          }
        });
  }

  private static DataType type(String name, String sort, String written, String labels) {
    if (sort.equals("e")) {
      return new DataType(
          Base.ENUM, 0, -1, false, labels == null ? List.of() : List.of(labels.split("\u0001")));
    }
    Matcher limits = LIMITS.matcher(written);
    int length = limits.find() ? Integer.parseInt(limits.group(1)) : 0;
    int scale = length == 0 || limits.group(2) == null ? 0 : Integer.parseInt(limits.group(2));
    return switch (name) {
      case "bool" -> DataType.of(Base.BOOLEAN);
      case "int2" -> DataType.of(Base.WHOLE, 16);
      case "int4" -> DataType.of(Base.WHOLE, 32);
      case "int8" -> DataType.of(Base.WHOLE, 64);
      case "numeric" ->
          length == 0 || scale < 0 ? DataType.decimal(0, -1) : DataType.decimal(length, scale);
      case "float4" -> DataType.of(Base.FLOAT);
      case "float8" -> DataType.of(Base.DOUBLE);
      case "varchar", "bpchar" -> DataType.of(Base.TEXT, length);
      case "text", "citext", "name" -> DataType.of(Base.TEXT);
      case "bytea" -> DataType.of(Base.BINARY);
      case "date" -> DataType.of(Base.DATE);
      case "time" -> DataType.of(Base.TIME);
      case "timestamp" -> DataType.of(Base.MOMENT);
      case "timestamptz" -> DataType.of(Base.INSTANT);
      case "uuid" -> DataType.of(Base.UUID);
      case "json", "jsonb" -> DataType.of(Base.JSON);
      default -> DataType.of(Base.OTHER);
    };
  }

  private void readChecks() throws SQLException {
    session.query(
        "SELECT conrelid, pg_get_expr(conbin, conrelid) FROM pg_constraint"
            + " WHERE contype = 'c' AND conrelid <> 0 ORDER BY conrelid, conname",
        row -> {
          TableName table = tables.get(row.getLong(1));
          if (table != null) {
            checks.computeIfAbsent(table, t -> new ArrayList<>()).add(row.getString(2));
          }
        });
  }

  private void readIndexes() throws SQLException {
    session.query(
        "SELECT i.indrelid, c.relname, am.amname = 'btree' AND i.indpred IS NULL"
            + " AND i.indexprs IS NULL, i.indisunique, (SELECT string_agg(a.attname, E'\\x01'"
            + " ORDER BY k.n) FROM unnest(i.indkey[0:i.indnkeyatts - 1]) WITH ORDINALITY k(num, n)"
            + " JOIN pg_attribute a ON a.attrelid = i.indrelid AND a.attnum = k.num)"
            + " FROM pg_index i JOIN pg_class c ON c.oid = i.indexrelid"
            + " JOIN pg_am am ON am.oid = c.relam ORDER BY c.relname",
        row -> {
          TableName table = tables.get(row.getLong(1));
          if (table == null || (row.getBoolean(3) && row.getBoolean(4))) {
            return;
          }
          if (row.getBoolean(3)) {
            indexes
                .computeIfAbsent(table, t -> new ArrayList<>())
                .add(
                    new Outline.Index(row.getString(2), List.of(row.getString(5).split("\u0001"))));
          } else {
            rest.add(
                row.getString(2)
                    + " of "
                    + table
                    + (row.getBoolean(4) ? ": equal values are let in there" : ""));
          }
        });
  }

  private void readActions() throws SQLException {
    session.query(
        "SELECT conrelid, confrelid, conkey::text, confkey::text, confdeltype, confupdtype"
            + " FROM pg_constraint WHERE contype = 'f' AND conparentid = 0",
        row -> {
          String written =
              action(" ON DELETE ", row.getString(5)) + action(" ON UPDATE ", row.getString(6));
          Link link =
              catalog.link(row.getLong(1), row.getLong(2), row.getString(3), row.getString(4));
          if (link != null && !written.isEmpty()) {
            actions.put(link, written.strip());
          }
        });
  }

  private static String action(String when, String letter) {
    return switch (letter) {
      case "c" -> when + "CASCADE";
      case "n" -> when + "SET NULL";
      case "r" -> when + "RESTRICT";
      default -> "";
    };
  }
}
