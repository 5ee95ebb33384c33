package yemble.jdbc.rows;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import yemble.core.schema.Column;
import yemble.core.store.InPlace.Part;
import yemble.core.store.InPlace.Way;

/**
 * A rewrite as statements for the engine's own client: what waits is written out as updates by key,
 * in batches. Each begins with a check that stops the client where the rows of the batch are no
 * longer those that it was made for.
 */
public final class RewriteScript {
  private final MergeDialect sql;
  private final ScriptWords words;
  private final Overwriter overwriter;
  private final Appendable out;

  /** What an engine's client needs. */
  public interface ScriptWords {
    /** What comes first: settings under which the checks mean the same. */
    List<String> head() throws SQLException;

    /** What begins and ends a batch; nothing where all of it is one transaction. */
    List<String> begin();

    List<String> commit();

    /**
     * A statement that fails unless rows are what they are now.
     *
     * @param range a condition; empty for all rows
     */
    String check(Part part, String range) throws SQLException;

    /** What comes last: the mark. */
    List<String> end() throws SQLException;
  }

  public RewriteScript(MergeDialect sql, ScriptWords words, Appendable out) {
    this.sql = sql;
    this.words = words;
    this.overwriter = new Overwriter(sql);
    this.out = out;
  }

  /** Writes it. */
  public void write(List<Part> parts, int batch) throws SQLException {
    lines(words.head());
    for (Part part : parts) {
      Way way = overwriter.way(part);
      line("");
      line("-- " + part.table().name().toString().replaceAll("\\R", " ") + ": " + way.words());
      if (way == Way.BY_KEY) {
        byKey(part, batch);
      } else {
        lines(words.begin());
        line(words.check(part, ""));
        line("DELETE FROM " + name(part) + ";");
        if (way == Way.WHOLE) {
          rows(inserts(part));
        }
        lines(words.commit());
      }
    }
    line("");
    lines(words.end());
  }

  /** A table as clients name it. */
  private String name(Part part) {
    return sql.target(part.table().name());
  }

  private void byKey(Part part, int batch) throws SQLException {
    String after = "";
    String last = overwriter.next(part, after, batch);
    int number = 0;
    while (last != null) {
      line(String.format(Locale.ROOT, "-- batch %,d", ++number));
      lines(words.begin());
      String key = sql.quoted(part.table().primaryKey().get(0));
      line(
          words.check(
              part, (after.isEmpty() ? "" : key + " > " + after + " AND ") + key + " <= " + last));
      rows(updates(part, overwriter.range(part, "s", after, last)));
      lines(words.commit());
      after = last;
      last = overwriter.next(part, after, batch);
    }
  }

  /** A query that makes a statement of each row that changes. */
  private String updates(Part part, String range) {
    List<String> pieces = new ArrayList<>();
    String lead = "UPDATE " + name(part) + " SET ";
    for (Column column : part.changed()) {
      String name = sql.quoted(column.name());
      pieces.add(sql.literal(lead + name + " = "));
      pieces.add(sql.shownLiteral(column, "s." + name));
      lead = ", ";
    }
    lead = " WHERE ";
    for (String key : part.table().primaryKey()) {
      String name = sql.quoted(key);
      pieces.add(sql.literal(lead + name + " = "));
      pieces.add(sql.shownLiteral(part.table().column(key).orElseThrow(), "s." + name));
      lead = " AND ";
    }
    pieces.add(sql.literal(";"));
    String differs =
        part.changed().stream()
            .map(
                column ->
                    sql.differs(
                        column, "s." + sql.quoted(column.name()), "t." + sql.quoted(column.name())))
            .collect(Collectors.joining(") OR ("));
    return "SELECT "
        + joined(pieces)
        + " FROM "
        + sql.staged(part.table().name())
        + " s JOIN "
        + name(part)
        + " t ON "
        + overwriter.same(part, "s", "t")
        + " WHERE "
        + range
        + " AND (("
        + differs
        + ")) ORDER BY "
        + part.table().primaryKey().stream()
            .map(key -> "s." + sql.quoted(key))
            .collect(Collectors.joining(", "));
  }

  private String inserts(Part part) {
    List<Column> columns = part.table().written();
    List<String> pieces = new ArrayList<>();
    String lead =
        "INSERT INTO "
            + name(part)
            + " ("
            + columns.stream()
                .map(column -> sql.quoted(column.name()))
                .collect(Collectors.joining(", "))
            + ") "
            + sql.inserting()
            + "VALUES (";
    for (Column column : columns) {
      pieces.add(sql.literal(lead));
      pieces.add(sql.shownLiteral(column, "s." + sql.quoted(column.name())));
      lead = ", ";
    }
    pieces.add(sql.literal(");"));
    return "SELECT " + joined(pieces) + " FROM " + sql.staged(part.table().name()) + " s";
  }

  private String joined(List<String> pieces) {
    String text = pieces.get(0);
    for (String piece : pieces.subList(1, pieces.size())) {
      text = sql.concatenated(text, piece);
    }
    return text;
  }

  private void rows(String query) throws SQLException {
    sql.query(query, row -> line(row.getString(1)));
  }

  private void lines(List<String> lines) {
    lines.forEach(this::line);
  }

  private void line(String text) {
    try {
      out.append(text).append('\n');
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
