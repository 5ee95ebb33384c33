package yemble.core.subset;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.problem.Problem;
import yemble.core.row.Values;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.store.Reader;

/**
 * What a pick's condition comes to, so that who wrote it sees whether it is what was meant: between
 * which values the columns lie that it names, and how many rows lie exactly on a border of it.
 *
 * @param spreads of the columns that the pick names, over the rows that it matches
 * @param borders the comparisons in its condition, with the rows that are equal
 */
public record PickFacts(List<Spread> spreads, List<Border> borders) {
  /** A text in quotes; or a comparison of a name with a literal. */
  private static final Pattern COMPARISON =
      Pattern.compile(
          "(\"[^\"]+\"|`[^`]+`|\\b[\\p{L}_][\\p{L}\\p{N}_]*)\\s*(<=|>=|<|>)\\s*"
              + "('(?:[^']|'')*'|-?[0-9]+(?:\\.[0-9]+)?)(?![\\p{L}\\p{N}_.(])"
              + "|'(?:[^']|'')*'");

  private static final Pattern TEXT = Pattern.compile("'(?:[^']|'')*'");

  /**
   * Between which values a column lies.
   *
   * @param least null if every value is NULL, or is none that can be shown
   */
  public record Spread(Column column, String least, String greatest) {}

  /**
   * A comparison, as it is written.
   *
   * @param rows of the whole table that are equal to what it compares with
   */
  public record Border(String comparison, long rows) {
    /** Whether equal rows are among those that it matches. */
    public boolean included() {
      return comparison.contains("<=") || comparison.contains(">=");
    }
  }

  /** The columns that a pick names: in its condition, or to find the newest rows by. */
  public static List<Column> named(Request.Start start) {
    String code = TEXT.matcher(start.where().sql()).replaceAll("''").toLowerCase(Locale.ROOT);
    List<Column> named = new ArrayList<>();
    for (Column column : start.table().columns()) {
      String name = Pattern.quote(column.name().toLowerCase(Locale.ROOT));
      boolean newest = start.newest().filter(by -> by.column().equals(column)).isPresent();
      Pattern word = Pattern.compile("(?<![\\p{L}\\p{N}_:])" + name + "(?![\\p{L}\\p{N}_(])");
      if (newest || word.matcher(code).find()) {
        named.add(column);
      }
    }
    return named;
  }

  /** Looks at a pick's rows; reads those that its condition matches once. */
  public static PickFacts of(Reader source, Request.Start start) {
    List<Column> named = named(start);
    List<Border> borders = new ArrayList<>();
    if (start.where().isEmpty() && start.newest().isEmpty()) {
      return new PickFacts(List.of(), borders);
    }
    List<Object> least = new ArrayList<>(Collections.nCopies(named.size(), null));
    List<Object> greatest = new ArrayList<>(least);
    new RowwiseKin(source, null)
        .rows(
            start.table(),
            start.where(),
            named,
            (row, values) -> {
              for (int i = 0; i < values.length; i++) {
                if (values[i] != null && !(values[i] instanceof byte[])) {
                  least.set(i, lesser(least.get(i), values[i], -1));
                  greatest.set(i, lesser(greatest.get(i), values[i], 1));
                }
              }
            });
    List<Spread> spreads = new ArrayList<>();
    for (int i = 0; i < named.size(); i++) {
      Object low = least.get(i);
      Object high = greatest.get(i);
      spreads.add(
          new Spread(
              named.get(i),
              low == null ? null : Values.text(low),
              high == null ? null : Values.text(high)));
    }
    if (!start.where().isBound()) {
      borders(source, start, borders);
    }
    return new PickFacts(spreads, borders);
  }

  private static Object lesser(Object known, Object value, int sign) {
    return known == null || NewestRows.compare(value, known) * sign > 0 ? value : known;
  }

  private static void borders(Reader source, Request.Start start, List<Border> borders) {
    Table table = start.table();
    Matcher found = COMPARISON.matcher(start.where().sql());
    while (found.find()) {
      if (found.group(1) == null || !isColumn(table, found.group(1))) {
        continue;
      }
      try {
        long[] rows = new long[1];
        source.rows(
            table, found.group(1) + " = " + found.group(3), List.of(), (row, values) -> rows[0]++);
        borders.add(new Border(found.group(), rows[0]));
      } catch (Problem notAsSimple) {
        continue; // What the comparison is part of made sense of it in another way.
      }
    }
  }

  private static boolean isColumn(Table table, String written) {
    String name = written.replaceAll("^[\"`]|[\"`]$", "");
    return table.columns().stream().anyMatch(column -> column.name().equalsIgnoreCase(name));
  }
}
