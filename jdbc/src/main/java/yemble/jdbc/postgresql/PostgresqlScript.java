package yemble.jdbc.postgresql;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import yemble.core.mark.Mark;
import yemble.core.name.TableName;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.SchemaObject.Type;
import yemble.core.schema.Table;
import yemble.core.store.Counting;
import yemble.jdbc.rows.CarefulWriter;
import yemble.jdbc.rows.ScriptText;

/** A script for {@code psql}: one transaction, rows by COPY. */
final class PostgresqlScript extends ScriptText {
  private static final int BLOCK = 1 << 16;
  private static final String QUOTE = "$yemble$";

  private final Schema schema;
  private final List<SchemaObject> after;

  PostgresqlScript(Path folder, Schema schema, Head head) {
    super(folder);
    this.schema = schema;
    List<SchemaObject> objects =
        schema.objects().stream()
            .filter(SchemaObject::carried)
            .filter(object -> object.type() != Type.GRANT)
            .toList();
    int rows = MadeTables.beforeRows(objects);
    this.after = objects.subList(rows, objects.size());
    comment(head.title());
    comment("Load it with PostgreSQL's own client: " + command(".") + "; all or nothing.");
    lines("\\set ON_ERROR_STOP on", "\\set QUIET on", "\\encoding UTF8", "BEGIN;");
    guard(head, objects);
    for (String setting : Session.FORM) {
      statement("SET LOCAL " + setting);
    }
    statement("SET LOCAL check_function_bodies = off");
    statement("SET LOCAL maintenance_work_mem = '256MB'");
    blank();
    objects.subList(0, rows).forEach(object -> statement(object.definition()));
  }

  @Override
  public String command(String folder) {
    return "psql -d DATABASE -f " + folder + "/" + FILE;
  }

  /** Stops in the source, in a copy of it, and where something has a name that is needed. */
  private void guard(Head head, List<SchemaObject> objects) {
    blank();
    comment("Where this stops: the source and its copies, and where something is in the way.");
    lines("DO " + QUOTE, "DECLARE", "  home text := current_schema();", "  found text;", "BEGIN");
    stop("home IS NULL", "this database has no schema to make tables in");
    Identity source = Identity.of(head.origin());
    if (head.origin().engine().equals(PostgresqlEngine.NAME)) {
      stop(
          "(SELECT oid::text FROM pg_database WHERE datname = current_database()) = "
              + Sql.literal(source.database())
              + "\n    AND "
              + Sql.literal(source.system())
              + " IN ('', CASE WHEN has_function_privilege('pg_control_system()', 'EXECUTE')"
              + "\n      THEN (SELECT system_identifier::text FROM pg_control_system())"
              + " ELSE "
              + Sql.literal(source.system())
              + " END)",
          "this is " + head.from() + ", which the rows come from, or a copy of it");
    }
    lines("  PERFORM set_config('search_path', quote_ident(home), true);");
    lines("  SELECT string_agg(name, ', ') INTO found FROM (VALUES");
    lines("    " + String.join(",\n    ", needed(objects)));
    lines("  ) AS needed (name, present) WHERE present IS NOT NULL;");
    lines(
        "  IF found IS NOT NULL THEN",
        "    RAISE EXCEPTION 'stopped: this database " + HERE + "'",
        "      USING DETAIL = 'In the way: ' || found;",
        "  END IF;",
        "END " + QUOTE + ";",
        "");
  }

  private void stop(String condition, String message) {
    lines(
        "  IF " + condition + " THEN",
        "    RAISE EXCEPTION USING MESSAGE = " + Sql.literal("stopped: " + message) + ";",
        "  END IF;");
  }

  /** What the script makes, each with what finds it. */
  private List<String> needed(List<SchemaObject> objects) {
    List<String> needed = new ArrayList<>();
    for (Table table : schema.tables()) {
      needed.add(needed(table.name().toString(), "to_regclass", Sql.quoted(table.name())));
    }
    for (SchemaObject object : objects) {
      String lookup = lookup(object.type());
      if (!lookup.isEmpty()) {
        needed.add(needed(object.type() + " " + object.name(), lookup, object.name()));
      }
    }
    needed.add(needed(MarkTable.NAME, "to_regclass", MarkTable.NAME));
    return needed;
  }

  private static String needed(String shown, String lookup, String name) {
    return "(" + Sql.literal(shown) + ", " + lookup + "(" + Sql.literal(name) + ")::oid)";
  }

  /** What finds an object that has a name of its own beside tables; empty for all others. */
  private static String lookup(Type type) {
    return switch (type) {
      case VIEW, MATERIALIZED_VIEW, SEQUENCE -> "to_regclass";
      case TYPE -> "to_regtype";
      case FUNCTION -> "to_regprocedure";
      default -> "";
    };
  }

  @Override
  protected CarefulWriter writer(Table table) {
    blank();
    lines("COPY " + Sql.quoted(table.name()) + Sql.list(table.written()) + " FROM STDIN;");
    return new CarefulWriter() {
      private CopyText.Block block = new CopyText.Block(BLOCK + BLOCK / 4);

      @Override
      protected void put(Object[] values) {
        block.row(values);
        if (block.length() >= BLOCK) {
          flush();
        }
      }

      private void flush() {
        bytes(block.bytes(), block.length());
        block = new CopyText.Block(BLOCK + BLOCK / 4);
      }

      @Override
      protected void complete() {
        flush();
        lines("\\.");
      }

      @Override
      protected void end() {
        // The file is given up as a whole.
      }
    };
  }

  @Override
  public void finish(Schema made, Counting source) {
    blank();
    after.forEach(object -> statement(object.definition()));
    if (source.sequences().isEmpty()) {
      after.stream().filter(object -> object.type() == Type.FOREIGN_KEY).forEach(this::validate);
    }
    for (String settings : Positions.continued(schema, source)) {
      lines("DO " + QUOTE + " BEGIN PERFORM " + settings + "; END " + QUOTE + ";");
    }
    schema.tables().forEach(table -> statement("ANALYZE " + Sql.quoted(table.name())));
  }

  /** Rows that refer to nothing leave a key as it is: it holds for those that come. */
  private void validate(SchemaObject key) {
    lines(
        "DO " + QUOTE + " BEGIN",
        "  " + MadeTables.validation(key) + ";",
        "EXCEPTION WHEN foreign_key_violation THEN NULL;",
        "END " + QUOTE + ";");
  }

  @Override
  public List<String> made() {
    List<String> made = new ArrayList<>();
    schema.tables().forEach(table -> made.addAll(spellings(table.name())));
    for (SchemaObject object : schema.objects()) {
      if (object.carried()) {
        switch (object.type()) {
          case VIEW, MATERIALIZED_VIEW, SEQUENCE -> made.add(object.name());
          case TYPE, FUNCTION, COLLATION -> made.add(object.type() + " " + object.name());
          default -> {
            // It belongs to one of these.
          }
        }
      }
    }
    return made;
  }

  /** The server quotes a name only if it must, and knows best which words are its own. */
  private static List<String> spellings(TableName name) {
    String quoted = Sql.quoted(name);
    String bare = quoted.replaceAll("\"([a-z_][a-z0-9_$]*)\"", "$1");
    return bare.equals(quoted) ? List.of(quoted) : List.of(bare, quoted);
  }

  @Override
  public void commit(Mark mark) {
    blank();
    comment("All rows must be in.");
    lines("DO " + QUOTE, "BEGIN");
    written()
        .forEach(
            (table, rows) ->
                stop(
                    "(SELECT count(*) FROM " + Sql.quoted(table.name()) + ") <> " + rows,
                    LOST + ": " + table.name()));
    lines("END " + QUOTE + ";");
    MarkTable.statements(mark).forEach(this::statement);
    lines("COMMIT;", "\\echo '" + done() + "'");
    complete();
  }
}
