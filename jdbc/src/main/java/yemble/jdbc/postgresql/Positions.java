package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import yemble.core.name.TableName;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Counting;
import yemble.core.store.SequencePosition;

/** Asks where sequences stand, and puts others there. */
final class Positions {
  private static final int AT_ONCE = 500;
  private static final int PUT_AT_ONCE = 100;
  private static final Pattern WHOLE =
      Pattern.compile("(small|big)?int(eger)?\\b", Pattern.CASE_INSENSITIVE);

  private Positions() {}

  /** Every sequence of the user's schemas. */
  static List<SequencePosition> of(Session session, String home) throws SQLException {
    List<SequencePosition> bare = new ArrayList<>();
    List<SequencePosition> counters = new ArrayList<>();
    session.query(
        "SELECT c.oid::regclass::text, coalesce(tn.nspname, ''), coalesce(t.relname, ''),"
            + " coalesce(a.attname, ''), s.seqincrement, s.seqstart,"
            + " CASE WHEN c.relkind = 'S' THEN has_sequence_privilege(c.oid, 'SELECT') END"
            + " FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace"
            + " JOIN pg_sequence s ON s.seqrelid = c.oid"
            + " LEFT JOIN pg_depend d ON d.classid = 'pg_class'::regclass AND d.objid = c.oid"
            + " AND d.refclassid = 'pg_class'::regclass AND d.deptype IN ('a', 'i')"
            + " AND d.refobjsubid > 0"
            + " LEFT JOIN pg_class t ON t.oid = d.refobjid"
            + " LEFT JOIN pg_namespace tn ON tn.oid = t.relnamespace"
            + " LEFT JOIN pg_attribute a ON a.attrelid = t.oid AND a.attnum = d.refobjsubid"
            + " WHERE c.relpersistence <> 't' AND "
            + PostgresqlCatalog.USER_SCHEMA
            + " AND NOT EXISTS (SELECT FROM pg_depend e WHERE e.classid = 'pg_class'::regclass"
            + " AND e.objid = c.oid AND e.deptype = 'e')"
            + " ORDER BY 1",
        row -> {
          String schema = row.getString(2);
          // One that may not be read stands at its start: what it feeds puts it behind its keys.
          (row.getBoolean(7) ? bare : counters)
              .add(
                  new SequencePosition(
                      row.getString(1),
                      schema.equals(home) ? "" : schema,
                      row.getString(3),
                      row.getString(4),
                      row.getLong(5),
                      row.getLong(6),
                      false));
        });
    for (int start = 0; start < bare.size(); start += AT_ONCE) {
      positions(session, bare.subList(start, Math.min(bare.size(), start + AT_ONCE)), counters);
    }
    return counters;
  }

  /**
   * What puts the sequences of loaded tables in their places, once the rows are in: lists of
   * expressions, to be selected.
   */
  static List<String> continued(Schema schema, Counting source) {
    List<String> settings =
        source
            .sequences()
            .map(all -> all.stream().map(position -> continued(schema, position)).toList())
            .orElseGet(() -> counters(schema, source));
    List<String> lists = new ArrayList<>();
    for (int start = 0; start < settings.size(); start += PUT_AT_ONCE) {
      lists.add(
          String.join(
              ", ", settings.subList(start, Math.min(settings.size(), start + PUT_AT_ONCE))));
    }
    return lists;
  }

  /** The next keys come after those of a source of another engine, and after those in use. */
  private static List<String> counters(Schema schema, Counting source) {
    List<String> settings = new ArrayList<>();
    for (Table table : schema.tables()) {
      if (table.primaryKey().size() == 1 && isWhole(table, table.primaryKey().get(0))) {
        String column = table.primaryKey().get(0);
        String most =
            "greatest("
                + source.counters().getOrDefault(table.name(), 0L)
                + ", (SELECT max("
                + Sql.quoted(column)
                + ") FROM "
                + Sql.quoted(table.name())
                + "), %d)";
        settings.add(
            "setval(pg_get_serial_sequence("
                + Sql.literal(Sql.quoted(table.name()))
                + ", "
                + Sql.literal(column)
                + ")::regclass, "
                + most.replace("%d", "1")
                + ", "
                + most.replace("%d", "0")
                + " > 0)");
      }
    }
    return settings;
  }

  private static boolean isWhole(Table table, String column) {
    return WHOLE.matcher(table.column(column).orElseThrow().type()).lookingAt();
  }

  /** A sequence stands where it does in the source, but never below the keys that are in use. */
  private static String continued(Schema schema, SequencePosition counter) {
    String position = Long.toString(counter.position());
    String called = Boolean.toString(counter.called());
    Table table =
        counter.table().isEmpty()
            ? null
            : schema.table(new TableName(counter.tableSchema(), counter.table()));
    if (table != null && counter.increment() > 0) {
      String most =
          "(SELECT max("
              + Sql.quoted(counter.column())
              + ")::bigint FROM "
              + Sql.quoted(table.name())
              + ")";
      called = "(" + called + " OR coalesce(" + most + " >= " + position + ", false))";
      position = "greatest(" + position + ", " + most + ")";
    }
    return "setval(" + Sql.literal(counter.name()) + ", " + position + ", " + called + ")";
  }

  private static void positions(
      Session session, List<SequencePosition> some, List<SequencePosition> into)
      throws SQLException {
    List<String> parts = new ArrayList<>();
    for (int i = 0; i < some.size(); i++) {
      parts.add("SELECT " + i + ", last_value, is_called FROM " + some.get(i).name());
    }
    session.query(
        String.join(" UNION ALL ", parts) + " ORDER BY 1",
        row -> {
          SequencePosition counter = some.get(row.getInt(1));
          into.add(
              new SequencePosition(
                  counter.name(),
                  counter.tableSchema(),
                  counter.table(),
                  counter.column(),
                  counter.increment(),
                  row.getLong(2),
                  row.getBoolean(3)));
        });
  }
}
