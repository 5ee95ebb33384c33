package yemble.jdbc.sqlite;

import java.math.BigDecimal;
import java.math.MathContext;
import java.math.RoundingMode;
import java.nio.file.Path;
import java.util.HexFormat;
import java.util.List;
import yemble.core.mark.Comparison;
import yemble.core.mark.Mark;
import yemble.core.mark.MarkText;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.SchemaObject.Type;
import yemble.core.schema.Table;
import yemble.core.store.Counting;
import yemble.jdbc.rows.CarefulWriter;
import yemble.jdbc.rows.ScriptText;

/** A script for {@code sqlite3}: one transaction into a new file, rows by INSERT. */
final class SqliteScript extends ScriptText {
  private static final int STATEMENT = 1 << 16;

  /**
   * Before SQLite 3.43 the last bits of reading a number's digits are not sure. So many digits tell
   * it from its neighbours all the same, up to a power of two; beyond, it is written as a whole
   * number times a power of two, which both are far from what could be mistaken.
   */
  private static final MathContext DIGITS = new MathContext(19, RoundingMode.HALF_EVEN);

  private static final int SURE = 60;
  private static final int MANTISSA = 52;

  private final Schema schema;

  SqliteScript(Path folder, Schema schema, Head head) {
    super(folder);
    this.schema = schema;
    comment(head.title());
    comment(
        "Load it with SQLite's own client into a new file: " + command(".") + "; all or nothing.");
    lines(".bail on");
    pragma("encoding"); // Nothing in a file that is there; later than any table it comes too late.
    comment("Where this stops: what is no new file, the source among all others.");
    String rule = "stopped: this file holds something already; load it into a new one";
    statement(
        "CREATE TEMP TABLE yemble_guard (found INTEGER CONSTRAINT "
            + Sql.quoted(rule)
            + " CHECK (found = 0), missing INTEGER CONSTRAINT "
            + Sql.quoted("stopped: " + LOST)
            + " CHECK (missing = 0))");
    statement("INSERT INTO yemble_guard (found) SELECT count(*) FROM main.sqlite_master");
    blank();
    for (String setting : List.of("page_size", "auto_vacuum")) {
      pragma(setting);
    }
    lines("PRAGMA foreign_keys = OFF;", "BEGIN EXCLUSIVE;");
    pragma("user_version");
    pragma("application_id");
    schema.tables().forEach(table -> statement(table.handle()));
  }

  private void pragma(String name) {
    String value = schema.settings().get(name);
    if (value != null) {
      statement("PRAGMA " + name + " = " + (name.equals("encoding") ? Sql.quoted(value) : value));
    }
  }

  @Override
  public String command(String folder) {
    return "sqlite3 NEW-FILE < " + folder + "/" + FILE;
  }

  @Override
  public Comparison comparison() {
    return new StoredForm();
  }

  @Override
  protected CarefulWriter writer(Table table) {
    List<Column> columns = table.written();
    String lead =
        "INSERT INTO "
            + Sql.quoted(table.name())
            + " ("
            + list(columns.stream().map(column -> Sql.quoted(column.name())).toList())
            + ") VALUES\n";
    blank();
    return new CarefulWriter() {
      private final StringBuilder sql = new StringBuilder();

      @Override
      protected void put(Object[] values) {
        sql.append(sql.length() == 0 ? lead : ",\n").append('(');
        for (int i = 0; i < values.length; i++) {
          literal(sql.append(i == 0 ? "" : ","), values[i]);
        }
        sql.append(')');
        if (sql.length() > STATEMENT) {
          complete();
        }
      }

      @Override
      protected void complete() {
        if (sql.length() > 0) {
          statement(sql.toString());
          sql.setLength(0);
        }
      }

      @Override
      protected void end() {
        // The file is given up as a whole.
      }
    };
  }

  /** A value as SQL. */
  static void literal(StringBuilder sql, Object value) {
    if (value == null) {
      sql.append("NULL");
    } else if (value instanceof byte[] blob) {
      sql.append("x'").append(HexFormat.of().formatHex(blob)).append('\'');
    } else if (value instanceof Double number) {
      sql.append(real(number));
    } else if (value instanceof Long) {
      sql.append(value);
    } else {
      text(sql, value.toString());
    }
  }

  private static String real(double number) {
    if (Double.isInfinite(number)) {
      return number > 0 ? "9e999" : "-9e999";
    }
    String digits = Double.toString(number);
    if (digits.length() < 12 && digits.indexOf('E') < 0) {
      return digits;
    }
    int exponent = Math.getExponent(number);
    if (Math.abs(exponent) > SURE) {
      int power = Math.max(exponent, Double.MIN_EXPONENT) - MANTISSA;
      // In two steps: SQLite takes digits of what is nearly nothing for 0.
      return digits(Math.scalb(number, -power))
          + "*"
          + digits(Math.scalb(1.0, power / 2))
          + "*"
          + digits(Math.scalb(1.0, power - power / 2));
    }
    return digits(number);
  }

  private static String digits(double number) {
    String exact = new BigDecimal(number).round(DIGITS).toString();
    return exact.matches("-?[0-9]+") ? exact + ".0" : exact; // Else it would be a whole number.
  }

  /** The client takes a CR before a line's end away, and ends what it reads at a NUL. */
  private static void text(StringBuilder sql, String text) {
    String quoted = "'" + text.replace("'", "''") + "'";
    quoted = replaced(quoted, text, '\r', '\u240d');
    sql.append(replaced(quoted, text, '\0', '\u2400'));
  }

  /**
   * An expression without a character, which another one stands for.
   *
   * @param first to be tried, as it looks like the one that is meant
   */
  private static String replaced(String expression, String text, char without, char first) {
    if (text.indexOf(without) < 0) {
      return expression;
    }
    char standIn = first;
    for (char next = '\ue000'; expression.indexOf(standIn) >= 0; next++) {
      standIn = next;
    }
    return "replace("
        + expression.replace(without, standIn)
        + ",'"
        + standIn
        + "',char("
        + (int) without
        + "))";
  }

  @Override
  public void finish(Schema made, Counting source) {
    blank();
    for (Type type : List.of(Type.INDEX, Type.VIEW, Type.TRIGGER)) {
      for (SchemaObject object : schema.objects()) {
        if (object.type() == type && object.carried()) {
          statement(object.definition());
        }
      }
    }
    source
        .counters()
        .forEach(
            (table, at) -> {
              String name = Sql.literal(table.name());
              statement(
                  "UPDATE sqlite_sequence SET seq = max(seq, " + at + ") WHERE name = " + name);
              statement(
                  "INSERT INTO sqlite_sequence (name, seq) SELECT "
                      + name
                      + ", "
                      + at
                      + " WHERE NOT EXISTS (SELECT 1 FROM sqlite_sequence WHERE name = "
                      + name
                      + ")");
            });
    if (schema.settings().containsKey("analyzed")) {
      statement("ANALYZE main");
    }
  }

  @Override
  public List<String> made() {
    return SqliteLoad.made(schema);
  }

  @Override
  public void commit(Mark mark) {
    blank();
    comment("All rows must be in.");
    written()
        .forEach(
            (table, rows) ->
                statement(
                    "INSERT INTO yemble_guard (missing) SELECT count(*) - "
                        + rows
                        + " FROM main."
                        + Sql.quoted(table.name())));
    statement(MarkTable.CREATE);
    for (MarkText.Line line : MarkText.of(mark)) {
      statement(
          "INSERT INTO "
              + SqliteCatalog.MARK_TABLE
              + " VALUES ("
              + Sql.literal(line.item())
              + ", "
              + Sql.literal(line.value())
              + ")");
    }
    lines("COMMIT;", ".print '" + done() + "'");
    complete();
  }
}
