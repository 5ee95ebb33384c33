package yemble.jdbc.mariadb;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.SchemaObject.Type;
import yemble.jdbc.expression.Qualifiers;

/**
 * Every object of a database with the statement that makes it, as the server itself writes it:
 * without the names of database and definer, so that it makes the same in another database. Foreign
 * keys stand apart from their tables.
 */
final class MariadbStructure {
  /** The setting under which the {@code sql_mode} of a routine or trigger is kept. */
  static final String MODE = "sql_mode of ";

  private static final Pattern FOREIGN_KEY =
      Pattern.compile("(?s)^ *CONSTRAINT `.* FOREIGN KEY \\(.*");
  private static final Pattern SEQUENCE =
      Pattern.compile(
          " DEFAULT \\(?(?:nextval|lastval|setval)\\((?:`(?:[^`]|``)*`|[^`()])*\\)\\)?",
          Pattern.CASE_INSENSITIVE);

  /** The default that takes the next number of a sequence: its database, its name. */
  private static final Pattern NEXT_VALUE =
      Pattern.compile(
          " DEFAULT \\(?nextval\\(`((?:[^`]|``)*)`\\.`((?:[^`]|``)*)`\\)\\)?",
          Pattern.CASE_INSENSITIVE);

  /** The setting that keeps where a sequence stands. */
  static final String POSITION = "position of ";

  private static final Pattern DEFINER =
      Pattern.compile(" DEFINER=(`[^`]*`@`[^`]*`|`[^`]*`|\\S+)", Pattern.CASE_INSENSITIVE);

  private final Session session;
  private final MariadbCatalog catalog;
  private final List<SchemaObject> objects = new ArrayList<>();
  private final Map<String, String> settings = new HashMap<>();
  private final Qualifiers qualifiers;
  private final String database;

  /** What becomes of defaults that move sequences. */
  private final List<SchemaObject> defaults = new ArrayList<>();

  private CreatedTables created;

  MariadbStructure(Session session, MariadbCatalog catalog) throws SQLException {
    this.session = session;
    this.catalog = catalog;
    List<String> databases = new ArrayList<>();
    session.query(
        "SELECT schema_name FROM information_schema.schemata WHERE schema_name NOT IN"
            + " ('information_schema', 'performance_schema', 'sys')",
        row -> databases.add(row.getString(1)));
    this.database = session.one("SELECT database()");
    this.qualifiers = new Qualifiers(MariadbSql.LEXICON, database, databases);
    session.query(
        "SELECT default_character_set_name, default_collation_name"
            + " FROM information_schema.schemata WHERE schema_name = database()",
        row -> {
          settings.put("charset", row.getString(1));
          settings.put("collation", row.getString(2));
        });
  }

  Schema schema() throws SQLException {
    List<SchemaObject> foreignKeys = new ArrayList<>();
    created = new CreatedTables(session);
    for (Storage storage : catalog.storages()) {
      table(storage, foreignKeys);
    }
    objects.addAll(foreignKeys);
    sequences();
    objects.addAll(defaults);
    routines();
    views();
    triggers();
    grants();
    notCarried();
    return new Schema(catalog.tables(), catalog.foreignKeys(), objects, settings);
  }

  private void table(Storage storage, List<SchemaObject> foreignKeys) throws SQLException {
    String name = storage.table().name().name();
    List<String> lines = new ArrayList<>();
    for (String line : lines(created.statement(storage))) {
      if (FOREIGN_KEY.matcher(line).matches()) {
        foreignKeys.add(foreignKey(name, line.strip().replaceFirst(",$", "")));
      } else {
        lines.add(withoutSequence(name, line));
      }
    }
    int last = 0;
    while (last < lines.size() - 1 && !lines.get(last + 1).startsWith(")")) {
      last++;
    }
    lines.set(last, lines.get(last).replaceFirst(",$", ""));
    lines.set(
        last + 1,
        lines
            .get(last + 1)
            .replaceFirst(" AUTO_INCREMENT=\\d+", "")
            .replaceAll(" (DATA|INDEX) DIRECTORY='[^']*'", ""));
    objects.add(new SchemaObject(Type.TABLE, name, "", String.join("\n", lines)));
  }

  /**
   * The lines of what SHOW CREATE TABLE says: cut where a line feed stands outside of names and
   * texts, which may hold some themselves.
   */
  static List<String> lines(String created) {
    List<String> lines = new ArrayList<>();
    char within = 0;
    int from = 0;
    for (int i = 0; i < created.length(); i++) {
      char c = created.charAt(i);
      if (within == '\'' && c == '\\') {
        i++;
      } else if (within != 0) {
        within = c == within ? 0 : within;
      } else if (c == '`' || c == '\'') {
        within = c;
      } else if (c == '\n') {
        lines.add(created.substring(from, i));
        from = i + 1;
      }
    }
    lines.add(created.substring(from));
    return lines;
  }

  /**
   * A column without a default that moves a sequence: the server writes it with the database's
   * name, and an insert into the copy would move the source's. It gets the copy's own sequence once
   * that is there.
   */
  private String withoutSequence(String table, String line) {
    Matcher sequence = SEQUENCE.matcher(line);
    if (!sequence.find()) {
      return line;
    }
    String column = column(line);
    String what = "the default of " + table + "." + column;
    Matcher next = NEXT_VALUE.matcher(sequence.group());
    boolean own = next.matches() && next.group(1).replace("``", "`").equals(database);
    defaults.add(
        own
            ? new SchemaObject(
                Type.ATTRIBUTE,
                what,
                table,
                "ALTER TABLE "
                    + Sql.quoted(table)
                    + " ALTER COLUMN "
                    + Sql.quoted(column.replace("``", "`"))
                    + " SET DEFAULT (NEXT VALUE FOR "
                    + Sql.quoted(next.group(2).replace("``", "`"))
                    + ")")
            : new SchemaObject(Type.OTHER, what, "", ""));
    return sequence.replaceAll("");
  }

  private static String column(String line) {
    return line.strip().replaceFirst("(?s)^`((?:[^`]|``)*)`.*", "$1");
  }

  private SchemaObject foreignKey(String table, String clause) {
    String name = clause.substring(clause.indexOf('`') + 1, clause.indexOf("` FOREIGN KEY"));
    boolean elsewhere = clause.matches("(?s).* REFERENCES `(?:[^`]|``)*`\\.`.*");
    return new SchemaObject(
        Type.FOREIGN_KEY,
        name,
        table,
        elsewhere ? "" : "ALTER TABLE " + Sql.quoted(table) + " ADD " + clause);
  }

  /**
   * Sequences, with where they stand: what the server has handed out to sessions counts as used.
   */
  private void sequences() throws SQLException {
    List<String> names = new ArrayList<>();
    session.query(
        "SELECT table_name FROM information_schema.tables WHERE table_schema = database()"
            + " AND table_type = 'SEQUENCE' ORDER BY table_name",
        row -> names.add(row.getString(1)));
    for (String name : names) {
      String[] made = {""};
      try {
        session.query(
            "SHOW CREATE SEQUENCE " + Sql.quoted(name), row -> made[0] = row.getString(2));
        settings.put(
            POSITION + name, session.one("SELECT next_not_cached_value FROM " + Sql.quoted(name)));
      } catch (SQLException hidden) {
        made[0] = ""; // It is named as not carried.
      }
      objects.add(new SchemaObject(Type.SEQUENCE, name, "", made[0]));
    }
  }

  private record Named(String kind, String name) {}

  private void routines() throws SQLException {
    List<Named> routines = new ArrayList<>();
    session.query(
        "SELECT routine_type, routine_name FROM information_schema.routines"
            + " WHERE routine_schema = database() ORDER BY routine_type, routine_name",
        row -> routines.add(new Named(row.getString(1), row.getString(2))));
    for (Named routine : routines) {
      String kind = routine.kind().toLowerCase(Locale.ROOT);
      session.query(
          "SHOW CREATE " + routine.kind() + " " + Sql.quoted(routine.name()),
          row -> {
            String name = kind + " " + routine.name();
            settings.put(MODE + name, row.getString(2));
            String body = row.getString(3);
            objects.add(
                new SchemaObject(
                    Type.FUNCTION, name, "", body == null ? "" : unqualified(undefined(body))));
          });
    }
  }

  private void views() throws SQLException {
    List<String> views = new ArrayList<>();
    session.query(
        "SELECT table_name FROM information_schema.views WHERE table_schema = database()"
            + " ORDER BY table_name",
        row -> views.add(row.getString(1)));
    for (String view : views) {
      try {
        session.query(
            "SHOW CREATE VIEW " + Sql.quoted(view),
            row ->
                objects.add(
                    new SchemaObject(
                        Type.VIEW, view, "", unqualified(undefined(row.getString(2))))));
      } catch (SQLException hidden) {
        objects.add(new SchemaObject(Type.VIEW, view, "", ""));
      }
    }
  }

  private void triggers() throws SQLException {
    List<Named> triggers = new ArrayList<>();
    session.query(
        "SELECT event_object_table, trigger_name FROM information_schema.triggers"
            + " WHERE trigger_schema = database() ORDER BY event_object_table, action_timing,"
            + " event_manipulation, action_order",
        row -> triggers.add(new Named(row.getString(1), row.getString(2))));
    for (Named trigger : triggers) {
      session.query(
          "SHOW CREATE TRIGGER " + Sql.quoted(trigger.name()),
          row -> {
            settings.put(MODE + "trigger " + trigger.name(), row.getString(2));
            objects.add(
                new SchemaObject(
                    Type.TRIGGER,
                    trigger.name(),
                    trigger.kind(),
                    unqualified(undefined(row.getString(3)))));
          });
    }
  }

  /** Who may do what with the database, a table or a column, as far as the account may see it. */
  private void grants() throws SQLException {
    session.query(
        "SELECT grantee, privilege_type, is_grantable, '', '' FROM information_schema.schema_privileges"
            + " WHERE replace(table_schema, '\\\\', '') = database()"
            + " UNION ALL SELECT grantee, privilege_type, is_grantable, table_name, ''"
            + " FROM information_schema.table_privileges WHERE table_schema = database()"
            + " UNION ALL SELECT grantee, privilege_type, is_grantable, table_name, column_name"
            + " FROM information_schema.column_privileges WHERE table_schema = database()"
            + " ORDER BY 1, 4, 5, 2",
        row -> {
          String who = row.getString(1);
          String right = row.getString(2);
          String table = row.getString(4);
          String column = row.getString(5);
          if (!right.equals("USAGE")) {
            objects.add(
                new SchemaObject(
                    Type.GRANT,
                    right + " on " + (table.isEmpty() ? "everything" : table) + " for " + who,
                    who,
                    "GRANT "
                        + right
                        + (column.isEmpty() ? "" : " (" + Sql.quoted(column) + ")")
                        + " ON "
                        + (table.isEmpty() ? "*" : Sql.quoted(table))
                        + " TO "
                        + who
                        + (row.getString(3).equals("YES") ? " WITH GRANT OPTION" : "")));
          }
        });
  }

  private void notCarried() throws SQLException {
    Set<String> here = new TreeSet<>();
    catalog.storages().forEach(storage -> here.add(storage.table().name().name()));
    session.query(
        "SELECT table_name, table_type, coalesce(engine, '') FROM information_schema.tables WHERE "
            + MariadbCatalog.USERS
            + " AND table_type <> 'VIEW' ORDER BY table_name",
        row -> {
          String name = row.getString(1);
          if (row.getString(2).equals("SEQUENCE")) {
            return; // See sequences().
          }
          if (!here.contains(name)) {
            objects.add(new SchemaObject(Type.FOREIGN_TABLE, name, "", ""));
          } else if (row.getString(2).equals("SYSTEM VERSIONED")) {
            objects.add(new SchemaObject(Type.OTHER, "the history of " + name, "", ""));
          }
        });
    session.query(
        "SELECT event_name FROM information_schema.events WHERE event_schema = database()"
            + " ORDER BY event_name",
        row -> objects.add(new SchemaObject(Type.OTHER, "event " + row.getString(1), "", "")));
  }

  /** A statement without the name of who made the object. */
  private static String undefined(String statement) {
    return DEFINER.matcher(statement).replaceFirst("");
  }

  /**
   * A statement without the database's name before other names; empty if it leads to another
   * database, or back to this one by a way that cannot be rewritten.
   */
  private String unqualified(String statement) {
    return qualifiers.without(statement).orElse("");
  }
}
