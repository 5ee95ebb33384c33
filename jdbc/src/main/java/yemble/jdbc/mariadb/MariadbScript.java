package yemble.jdbc.mariadb;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import yemble.core.mark.Mark;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.SchemaObject.Type;
import yemble.core.schema.Table;
import yemble.core.store.Counting;
import yemble.jdbc.rows.CarefulWriter;
import yemble.jdbc.rows.ScriptText;

/**
 * A script for {@code mariadb}: tables under other names first, which one RENAME TABLE gives their
 * own once all rows are in. Rows by INSERT, as any server takes them; those that are longer than a
 * statement may be lie in files beside, for LOAD DATA LOCAL.
 */
final class MariadbScript extends ScriptText {
  /** Statements of rows end at about this length. */
  private static final int STATEMENT = 1 << 19;

  /** A longer row may be longer than what a server takes at once, unless it is told otherwise. */
  private static final int LONG_ROW = 1 << 22;

  private static final String LONG_ROWS = "rows";
  private static final String WARNINGS = "@yemble_warnings";

  private final Path folder;
  private final Schema schema;
  private final Map<String, String> shadows = new LinkedHashMap<>();

  MariadbScript(Path folder, Schema schema, Head head) {
    super(folder);
    this.folder = folder;
    this.schema = schema;
    comment(head.title());
    comment("Load it with MariaDB's own client, from its folder: " + command("."));
    comment("Its tables appear once all rows are in; foreign keys, views and routines follow.");
    statement("SET NAMES utf8mb4");
    statement(Session.FORM);
    guard(head);
    statement("SET SESSION unique_checks = 0, foreign_key_checks = 0, " + WARNINGS + " = 0");
    for (SchemaObject object : schema.objects()) {
      if (object.type() == Type.TABLE) {
        shadows.put(object.name(), Swap.NEW + (shadows.size() + 1));
      }
    }
    blank();
    List<String> all = new ArrayList<>(shadows.values());
    all.add(Swap.NEW_MARK);
    statement("DROP TABLE IF EXISTS " + list(all)); // Of a script that was cut off.
    for (SchemaObject object : schema.objects()) {
      if (object.type() == Type.TABLE) {
        statement(MariadbLoad.created(object, shadows.get(object.name())));
      } else if (object.type() == Type.INDEX && object.carried()) {
        statement(MariadbLoad.indexed(object, shadows.get(object.table())));
      }
    }
  }

  @Override
  public String command(String folder) {
    return (folder.equals(".") ? "" : "cd " + folder + " && ") + "mariadb DATABASE < " + FILE;
  }

  /** Stops in the source, and where something is in the way. */
  private void guard(Head head) {
    blank();
    comment("Where this stops: the source, and where something is in the way.");
    compound(
        stop("database() IS NULL", "no database is chosen: mariadb DATABASE < " + FILE)
            + (head.origin().engine().equals(MariadbEngine.NAME)
                ? stop(
                    Identity.EXPRESSION
                        + " = "
                        + Sql.literal(head.origin().fact(Identity.IDENTITY)),
                    "this is " + head.from() + ", which the rows come from")
                : "")
            + stop(
                "EXISTS (SELECT 1 FROM information_schema.tables WHERE table_schema = database()"
                    + " AND "
                    + isOne("table_name", names(false))
                    + ")",
                "this database " + HERE)
            + stop(
                "EXISTS (SELECT 1 FROM information_schema.routines"
                    + " WHERE routine_schema = database() AND "
                    + isOne("concat(lower(routine_type), ' ', routine_name)", names(true))
                    + ")",
                "this database " + HERE));
    blank();
  }

  private List<String> names(boolean routines) {
    List<String> names = new ArrayList<>();
    for (SchemaObject object : schema.objects()) {
      boolean routine = object.type() == Type.FUNCTION;
      boolean named =
          switch (object.type()) {
            case TABLE, VIEW, SEQUENCE, FUNCTION -> object.carried();
            default -> false;
          };
      if (named && routine == routines) {
        names.add(Sql.literal(object.name()));
      }
    }
    names.add(Sql.literal(MarkTable.NAME));
    return names;
  }

  /** Whether a name is one of a list: by case where the server tells names by it. */
  private static String isOne(String name, List<String> of) {
    String text = "CONVERT(" + name + " USING utf8mb4)";
    List<String> folded = of.stream().map(literal -> "lower(" + literal + ")").toList();
    return "("
        + text
        + " COLLATE utf8mb4_bin IN ("
        + list(of)
        + ")"
        + "\n    OR @@lower_case_table_names <> 0 AND lower("
        + text
        + ") COLLATE utf8mb4_bin IN ("
        + list(folded)
        + "))";
  }

  private static String stop(String condition, String message) {
    String said = "stopped: " + message;
    return "  IF "
        + condition
        + " THEN\n    SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = "
        + Sql.literal(said.substring(0, Math.min(said.length(), 128)))
        + ";\n  END IF;\n";
  }

  private void compound(String statements) {
    whole("BEGIN NOT ATOMIC\n" + statements + "END");
  }

  /** A statement that holds ends of statements. */
  private void whole(String sql) {
    if (!sql.contains(";")) {
      statement(sql);
      return;
    }
    String end = "//";
    while (sql.contains(end)) {
      end += "/"; // It stands in a line of its own, so only what is within can be mistaken.
    }
    lines("DELIMITER " + end, sql, end, "DELIMITER ;");
  }

  @Override
  protected CarefulWriter writer(Table table) {
    List<Column> columns = table.written();
    String shadow = shadows.get(table.name().name());
    ColumnForm[] forms = columns.stream().map(MariadbScript::form).toArray(ColumnForm[]::new);
    blank();
    comment(table.name().name());
    statement("START TRANSACTION");
    return new Rows(shadow, columns, forms);
  }

  private static ColumnForm form(Column column) {
    String word = column.type().toLowerCase(Locale.ROOT).replaceFirst("[^a-z0-9].*", "");
    return ColumnForm.of(word, "", ""); // What texts are written in there is the server's business.
  }

  /** Rows of one table. */
  private final class Rows extends CarefulWriter {
    private final String table;
    private final List<Column> columns;
    private final ColumnForm[] forms;
    private final String lead;
    private final StringBuilder sql = new StringBuilder();
    private final String longFile;
    private OutputStream longRows;

    Rows(String table, List<Column> columns, ColumnForm[] forms) {
      this.table = table;
      this.columns = columns;
      this.forms = forms;
      this.lead = Sql.insert(table, columns);
      this.longFile = LONG_ROWS + "/" + table.substring(Swap.NEW.length()) + ".tsv";
    }

    @Override
    protected void put(Object[] values) {
      int before = sql.length();
      sql.append(before == 0 ? lead : ",\n");
      Sql.row(sql, forms, values);
      if (sql.length() - before > LONG_ROW) {
        sql.setLength(before);
        putLong(values);
      } else if (sql.length() > STATEMENT) {
        flush();
      }
    }

    private void putLong(Object[] values) {
      LoadText.Block block = new LoadText.Block(LONG_ROW);
      block.row(values, forms);
      try {
        if (longRows == null) {
          Files.createDirectories(folder.resolve(LONG_ROWS));
          longRows = Files.newOutputStream(folder.resolve(longFile));
        }
        longRows.write(block.bytes(), 0, block.length());
      } catch (IOException e) {
        throw failed(folder.resolve(longFile), e);
      }
    }

    private void flush() {
      if (sql.length() > 0) {
        statement(sql.toString());
        sql.setLength(0);
      }
    }

    @Override
    protected void complete() {
      flush();
      if (longRows != null) {
        statement("COMMIT");
        statement(LoadWriter.CHECKED);
        statement(LoadText.statement(longFile, table, columns, forms, new boolean[columns.size()]));
        statement("SET " + WARNINGS + " = " + WARNINGS + " + @@warning_count");
        statement(LoadWriter.UNCHECKED);
      }
      statement("COMMIT");
    }

    @Override
    protected void end() {
      try {
        if (longRows != null) {
          longRows.close();
        }
      } catch (IOException e) {
        throw failed(folder.resolve(longFile), e);
      }
    }
  }

  @Override
  public void finish(Schema made, Counting source) {
    blank();
    source
        .counters()
        .forEach(
            (table, at) -> {
              String shadow = shadows.get(table.name());
              if (shadow != null) {
                statement(
                    "ALTER TABLE " + shadow + " AUTO_INCREMENT = " + Long.toUnsignedString(at + 1));
              }
            });
  }

  @Override
  public List<String> made() {
    return MariadbLoad.made(schema);
  }

  @Override
  public void commit(Mark mark) {
    blank();
    comment("All rows must be in.");
    StringBuilder checks = new StringBuilder();
    checks.append(stop(WARNINGS + " <> 0", "the server did not take all values as they are"));
    written()
        .forEach(
            (table, rows) ->
                checks.append(
                    stop(
                        "(SELECT count(*) FROM "
                            + shadows.get(table.name().name())
                            + ") <> "
                            + rows,
                        LOST + ": " + table.name())));
    compound(checks.toString());
    blank();
    MarkTable.statements(Swap.NEW_MARK, mark).forEach(this::statement);
    List<String> moves = new ArrayList<>();
    shadows.forEach((name, shadow) -> moves.add(shadow + " TO " + Sql.quoted(name)));
    moves.add(Swap.NEW_MARK + " TO " + MarkTable.NAME);
    statement("RENAME TABLE " + list(moves));
    blank();
    Step.keys(schema).forEach(this::step);
    Step.others(schema).forEach(this::step);
    statement("SELECT " + Sql.literal(done()) + " AS yemble");
    complete();
  }

  private void step(Step step) {
    if (step.mode().isEmpty()) {
      whole(step.statement());
      return;
    }
    statement("SET @yemble_mode = @@sql_mode, SESSION sql_mode = " + Sql.literal(step.mode()));
    whole(step.statement());
    statement("SET SESSION sql_mode = @yemble_mode");
  }
}
