package yemble.jdbc.rows;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.IntFunction;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import yemble.core.merge.MergePlan;
import yemble.core.merge.MergePlan.Helper;
import yemble.core.merge.MergePlan.Part;
import yemble.core.schema.Column;

/**
 * Where a target keeps under which keys the rows of a table came: in a table beside ({@code o_1},
 * {@code n_1}, …: the keys in the source and here), or in a column of the rows themselves.
 */
public final class KeptKeys {
  private final MergeDialect sql;
  private final Part part;
  private final Optional<Helper> helper;

  /** The helper column as the table has it; empty if it has none. */
  private final Optional<Column> column;

  KeptKeys(MergeDialect sql, MergePlan plan, Part part) {
    this.sql = sql;
    this.part = part;
    this.helper = plan.helper();
    this.column =
        helper.flatMap(
            wanted ->
                part.table().columns().stream()
                    .filter(column -> column.name().equalsIgnoreCase(wanted.name()))
                    .findFirst());
  }

  /**
   * What makes the place where keys are kept.
   *
   * @param undo what removes it again
   */
  public record Making(List<String> statements, String undo) {}

  /**
   * What removes a helper column; where others keep keys in it, too, only the values of one source.
   *
   * @param table as statements name it
   * @param column quoted
   * @param prefix what the values of the source begin with
   * @param literal the same in quotes
   */
  public static String forgetting(
      String table, String column, String prefix, String literal, boolean alone) {
    return alone
        ? "ALTER TABLE " + table + " DROP COLUMN " + column
        : "UPDATE "
            + table
            + " SET "
            + column
            + " = NULL WHERE substr("
            + column
            + ", 1, "
            + prefix.codePointCount(0, prefix.length())
            + ") = "
            + literal;
  }

  private String each(String separator, IntFunction<String> of) {
    return IntStream.range(0, part.key().size())
        .mapToObj(of)
        .collect(Collectors.joining(separator));
  }

  private String beside() {
    return sql.memory(part.memory());
  }

  /** Whether keys of earlier loads may be kept. */
  boolean areThere() throws SQLException {
    return part.keeps() && (helper.isEmpty() ? sql.remembers(part.memory()) : column.isPresent());
  }

  /** Whether they are in a table beside, which may know more keys than there are rows. */
  boolean areBeside() throws SQLException {
    return helper.isEmpty() && areThere();
  }

  /** The table beside. */
  String table() {
    return beside();
  }

  /** Joins what is kept, as {@code r}, to rows that wait, {@code s}. */
  String join() {
    return helper.isEmpty()
        ? " LEFT JOIN "
            + beside()
            + " r ON "
            + each(" AND ", i -> sql.sameKey("r.o_" + (i + 1), waiting(i)))
        : " LEFT JOIN "
            + sql.target(part.name())
            + " r ON r."
            + sql.quoted(column.orElseThrow().name())
            + " = "
            + text(this::waiting);
  }

  private String waiting(int i) {
    return "s." + sql.quoted(part.key().get(i));
  }

  /** A column of the key under which a row {@code r} is here. */
  String now(int i) {
    return helper.isEmpty() ? "r.n_" + (i + 1) : "r." + sql.quoted(part.key().get(i));
  }

  /** What a helper column holds of a key. */
  private String text(IntFunction<String> values) {
    List<String> pieces = new ArrayList<>();
    for (int i = 0; i < part.key().size(); i++) {
      Column of = part.table().column(part.key().get(i)).orElseThrow();
      String text = sql.text(of, values.apply(i));
      if (part.key().size() > 1) {
        text = "replace(replace(" + text + ", '~', '~~'), ',', '~,')";
      }
      pieces.add(sql.joined(i == 0 ? helper.orElseThrow().prefix() : ",", text, ""));
    }
    String text = pieces.get(0);
    for (String piece : pieces.subList(1, pieces.size())) {
      text = sql.concatenated(text, piece);
    }
    return text;
  }

  /** What makes the place where keys are kept, if it is not there. */
  Optional<Making> making() throws SQLException {
    if (!part.keeps() || areThere()) {
      return Optional.empty();
    }
    String table = sql.target(part.name());
    if (helper.isPresent()) {
      String name = sql.quoted(helper.get().name());
      return Optional.of(
          new Making(sql.helper(table, name), "ALTER TABLE " + table + " DROP COLUMN " + name));
    }
    String columns =
        each(
            ", ",
            i -> {
              String name = sql.quoted(part.key().get(i));
              return name + " AS o_" + (i + 1) + ", " + name + " AS n_" + (i + 1);
            });
    return Optional.of(
        new Making(
            List.of(
                "CREATE TABLE "
                    + beside()
                    + " AS SELECT "
                    + columns
                    + " FROM "
                    + table
                    + " WHERE 1 = 0"),
            "DROP TABLE IF EXISTS " + beside()));
  }

  /**
   * Keeps the keys of rows that were inserted.
   *
   * @param decisions the table of decisions
   * @param keys the table of keys
   */
  void remember(String decisions, String keys) throws SQLException {
    if (helper.isPresent()) {
      String name = sql.quoted(column.map(Column::name).orElse(helper.get().name()));
      sql.execute(
          sql.update(
              sql.target(part.name()),
              List.of(name),
              "SELECT "
                  + each(", ", i -> "d.n_" + (i + 1) + " AS " + sql.quoted(part.key().get(i)))
                  + ", "
                  + text(i -> "d.o_" + (i + 1))
                  + " AS "
                  + name
                  + " FROM "
                  + decisions
                  + " d WHERE d.act = 'I'",
              each(
                  " AND ",
                  i -> {
                    String key = sql.quoted(part.key().get(i));
                    return sql.sameKey("t." + key, "x." + key);
                  })));
      return;
    }
    String into =
        "INSERT INTO "
            + beside()
            + " ("
            + each(", ", i -> "o_" + (i + 1) + ", n_" + (i + 1))
            + ") SELECT "
            + each(", ", i -> "k.o_" + (i + 1) + ", k.n_" + (i + 1));
    String fresh =
        " LEFT JOIN "
            + beside()
            + " r ON "
            + each(" AND ", i -> sql.sameKey("r.o_" + (i + 1), "k.o_" + (i + 1)))
            + " WHERE r.o_1 IS NULL AND ";
    sql.execute(into + " FROM " + decisions + " k" + fresh + "k.act = 'I'");
    sql.execute(into + " FROM " + keys + " k" + fresh + "k.known = 'N'");
  }
}
