package yemble.core.store;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.function.LongSupplier;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Table;

/**
 * Rows drawn at random: by their numbers, or by reading a whole table once, for tables that are
 * small, or cannot be jumped into.
 */
public final class RandomSample {
  private RandomSample() {}

  /**
   * Adds rows that were drawn to those of a sample, until it is full: of more than there is room
   * for, any, and not those that lie first.
   */
  static void fill(RowSet sample, RowSet drawn, int most, Random random) {
    List<Long> fresh = new ArrayList<>();
    drawn.forEach(
        row -> {
          if (!sample.contains(row)) {
            fresh.add(row);
          }
        });
    Collections.shuffle(fresh, random);
    fresh.stream().limit(Math.max(0, most - sample.size())).forEach(sample::add);
  }

  /**
   * Rows whose numbers were drawn among those that rows may have: fewer than asked for, if too many
   * numbers are no row's.
   *
   * @param tries how often as many numbers as rows are asked for are drawn
   * @param number draws one
   */
  public static RowSet drawn(
      Reader reader, Table table, int most, int tries, Random random, LongSupplier number) {
    RowSet rows = new RowSet();
    for (int i = 0; i < tries && rows.size() < most; i++) {
      RowSet drawn = new RowSet();
      for (int j = 0; j < most; j++) {
        drawn.add(number.getAsLong());
      }
      RowSet there = new RowSet();
      reader.rows(table, drawn, List.of(), (row, values) -> there.add(row));
      fill(rows, there, most, random);
    }
    return rows;
  }

  /**
   * Shows rows drawn at random, each with the same chance, and the same ones each time as long as
   * the table is the same. Which rows it takes is decided while they pass.
   *
   * @param most how many at the most
   */
  public static void scanned(
      Reader reader, Table table, List<Column> columns, int most, Reader.RowVisitor visitor) {
    long count = reader.count(table);
    Random random = new Random(count);
    long[] left = {count, Math.min(most, count)};
    RowSet rows = new RowSet();
    reader.rows(
        table,
        "",
        List.of(),
        (row, values) -> {
          if (random.nextDouble() * left[0]-- < left[1]) {
            rows.add(row);
            left[1]--;
          }
        });
    reader.rows(table, rows, columns, visitor);
  }
}
