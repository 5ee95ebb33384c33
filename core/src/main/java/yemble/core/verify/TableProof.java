package yemble.core.verify;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import yemble.core.plan.Rewriter;
import yemble.core.plan.TablePlan;
import yemble.core.plan.Unchanged;
import yemble.core.schema.Column;
import yemble.core.store.Comparison;
import yemble.core.store.Digest;
import yemble.core.store.Reader;
import yemble.core.store.RowSet;

/**
 * Compares one table of the target with what the source's rows become.
 *
 * <p>First both are read once and reduced to sums of row digests, which are equal if and only if
 * the same rows are there, in whatever order: this takes no memory. Only where the sums differ are
 * the rows paired by their key, part by part, to say what differs.
 */
final class TableProof {
  private static final long ROWS_IN_A_PART = 500_000;

  private final Comparison comparison;
  private final TablePlan plan;
  private final RowSet rows;
  private final Rewriter rewriter;
  private final Digest digest;
  private final Map<String, Sample> scopes;
  private final List<Column> columns;
  private final int[] all;
  private final int[] identity;
  private final int[] masked;

  private final Absence absence;
  private final long[] cells;
  private final long[] same;

  private volatile boolean stopped;

  long expectedRows;
  long foundRows;
  long missing;
  long extra;
  long maskedCells;
  long fixedPoints;
  long coincidences;
  final Map<String, Unchanged> unchanged = new HashMap<>();
  final Map<String, Long> leaks = new HashMap<>();
  final Map<String, Long> altered = new HashMap<>();
  final Map<String, Long> unequal = new HashMap<>();

  /**
   * @param rows the rows of the source that are in the subset
   * @param scopes what equal values became, by scope, over all tables looked at so far
   * @param absence is shown every row
   */
  TableProof(
      TablePlan plan,
      RowSet rows,
      Rewriter rewriter,
      Digest digest,
      Map<String, Sample> scopes,
      Comparison comparison,
      Absence absence) {
    this.absence = absence;
    this.comparison = comparison;
    this.plan = plan;
    this.rows = rows;
    this.rewriter = rewriter;
    this.digest = digest;
    this.scopes = scopes;
    this.columns = plan.table().written();
    this.all = new int[columns.size()];
    Arrays.setAll(all, i -> i);
    this.identity =
        plan.table().identity().stream().mapToInt(c -> plan.position(c.name())).toArray();
    this.masked = plan.masked();
    this.cells = new long[masked.length];
    this.same = new long[masked.length];
  }

  /** Compares the table; {@code target} holds it. */
  void compare(Reader target) {
    Sample[] originals = samples();
    Sample[] present = samples();
    long[] expected = new long[2];
    long[] found = new long[2];
    bothSides(() -> expectedSum(originals, expected), () -> foundSum(target, present, found));
    for (int i = 0; i < masked.length; i++) {
      coincidences += present[i].countsOf(originals[i]);
    }
    coincidences = Math.max(0, coincidences - fixedPoints);
    for (int i = 0; i < masked.length; i++) {
      unchanged.put(
          name(masked[i]),
          new Unchanged(plan.columns().get(masked[i]), cells[i], same[i], originals[i].distinct()));
    }
    if (expected[0] != found[0] || expected[1] != found[1]) {
      int parts = (int) (Math.max(expectedRows, foundRows) / ROWS_IN_A_PART) + 1;
      for (int part = 0; part < parts; part++) {
        pair(target, part, parts);
      }
    }
  }

  private Sample[] samples() {
    Sample[] samples = new Sample[masked.length];
    Arrays.setAll(samples, i -> new Sample());
    return samples;
  }

  /**
   * Reads both databases at the same time, the target in a thread of its own, which nothing else
   * reads the target from meanwhile.
   */
  private void bothSides(Runnable expected, Runnable found) {
    RuntimeException[] failure = new RuntimeException[1];
    Thread reader =
        new Thread(
            () -> {
              try {
                found.run();
              } catch (RuntimeException e) {
                failure[0] = e;
              }
            },
            "yemble-verify");
    reader.setDaemon(true);
    reader.start();
    try {
      expected.run();
    } catch (RuntimeException e) {
      stopped = true;
      throw e;
    } finally {
      join(reader);
    }
    if (failure[0] != null) {
      throw failure[0];
    }
  }

  private static void join(Thread thread) {
    try {
      thread.join();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  private void expectedSum(Sample[] originals, long[] sum) {
    rewriter.rows(
        rows,
        (row, source, target) -> {
          Object[] before = comparison.found(plan.table(), source);
          Object[] after = comparison.expected(plan.table(), target);
          for (int i = 0; i < masked.length; i++) {
            if (!isEmpty(before[masked[i]]) && after[masked[i]] != null) {
              long original = digest.of(before[masked[i]]);
              long masks = digest.of(after[masked[i]]);
              cells[i]++;
              same[i] += original == masks ? 1 : 0;
              count(originals[i], original, masks, masked[i]);
            }
          }
          absence.remembered().row(plan, before, after);
          add(sum, after);
          expectedRows++;
        });
  }

  private void count(Sample originals, long before, long after, int position) {
    maskedCells++;
    fixedPoints += before == after ? 1 : 0;
    originals.put(before, after);
    if (plan.columns().get(position).isText() || plan.columns().get(position).rule().readsRow()) {
      return;
    }
    if (scope(position).put(before, after) != after) {
      unequal.merge(name(position), 1L, Long::sum);
    }
  }

  private void foundSum(Reader target, Sample[] present, long[] sum) {
    target.rows(
        plan.table(),
        "",
        columns,
        (row, cells) -> {
          Object[] values = comparison.found(plan.table(), cells);
          for (int i = 0; i < masked.length; i++) {
            if (!isEmpty(values[masked[i]])) {
              present[i].count(digest.of(values[masked[i]]));
            }
          }
          add(sum, values);
          foundRows++;
          if (stopped) {
            throw new IllegalStateException("the other side has failed");
          }
        });
  }

  private void add(long[] sum, Object[] values) {
    long rowDigest = digest.of(values, all);
    sum[0] += rowDigest;
    sum[1] += rowDigest * rowDigest | 1;
  }

  private static boolean isEmpty(Object value) {
    return value == null || value.equals("");
  }

  private Sample scope(int position) {
    TablePlan.ColumnPlan column = plan.columns().get(position);
    String scope = column.isJson() ? name(position) : column.by();
    return scopes.computeIfAbsent(scope, s -> new Sample());
  }

  private String name(int position) {
    return plan.table().name(columns.get(position)).toString();
  }

  /** Pairs the rows of one part, and counts what differs. */
  private void pair(Reader target, int part, int parts) {
    Map<Long, List<long[]>> expected = new HashMap<>();
    rewriter.rows(
        rows,
        (row, source, masks) -> {
          Object[] before = comparison.found(plan.table(), source);
          Object[] after = comparison.expected(plan.table(), masks);
          long id = digest.of(after, identity);
          if (Long.remainderUnsigned(id, parts) == part) {
            long[] cells = Arrays.copyOf(digests(after), all.length + masked.length);
            for (int i = 0; i < masked.length; i++) {
              Object original = before[masked[i]];
              cells[all.length + i] = isEmpty(original) ? 0 : digest.of(original);
            }
            expected.computeIfAbsent(id, k -> new ArrayList<>(1)).add(cells);
          }
        });
    target.rows(
        plan.table(),
        "",
        columns,
        (row, found) -> {
          Object[] values = comparison.found(plan.table(), found);
          long id = digest.of(values, identity);
          if (Long.remainderUnsigned(id, parts) == part) {
            List<long[]> candidates = expected.get(id);
            if (candidates == null) {
              extra++;
            } else {
              differ(candidates.remove(candidates.size() - 1), values);
              if (candidates.isEmpty()) {
                expected.remove(id);
              }
            }
          }
        });
    expected.values().forEach(rest -> missing += rest.size());
  }

  private long[] digests(Object[] values) {
    long[] digests = new long[values.length];
    for (int i = 0; i < values.length; i++) {
      digests[i] = digest.of(values[i]);
    }
    return digests;
  }

  private void differ(long[] expected, Object[] found) {
    int maskedAt = 0;
    for (int i = 0; i < found.length; i++) {
      long value = digest.of(found[i]);
      boolean isMasked = maskedAt < masked.length && masked[maskedAt] == i;
      if (value != expected[i]) {
        (isMasked ? leaks : altered).merge(name(i), 1L, Long::sum);
      }
      if (isMasked) {
        long before = expected[all.length + maskedAt];
        if (before != 0
            && !plan.columns().get(i).isText()
            && !plan.columns().get(i).rule().readsRow()
            && scope(i).put(before, value) != value) {
          unequal.merge(name(i), 1L, Long::sum);
        }
        maskedAt++;
      }
    }
  }
}
