package yemble.core.verify;

import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import yemble.core.mark.BucketSums;
import yemble.core.mark.Comparison;
import yemble.core.mark.Digest;
import yemble.core.mark.LoadedTable;
import yemble.core.mark.RowDigest;
import yemble.core.mask.text.Mentions;
import yemble.core.plan.Agreement;
import yemble.core.plan.RowMasker;
import yemble.core.plan.TablePlan;
import yemble.core.plan.Unchanged;
import yemble.core.row.RowSet;
import yemble.core.store.Reader;

/**
 * Compares one table of the target with what the source's rows become.
 *
 * <p>First both are read once and reduced to sums of row digests by bucket, which are equal if and
 * only if the same rows are there, in whatever order: this takes no memory. Only the rows of
 * buckets that differ are paired, to say what differs. Where a mark knows the sums of what was
 * loaded, they tell rows that were changed in the target since from such as have moved on in the
 * source.
 */
final class TableProof {
  /** What follows in the name of a scope tells it from others, and is not shown. */
  static final char BEHIND = '\u0000';

  private final Sides sides;
  private final Comparison comparison;
  private final TablePlan plan;
  private final Digest digest;
  private final byte[] key;
  private final Optional<LoadedTable> loaded;
  private final Sample[] agreeing;
  private final Map<String, Sample> scopes;
  private final int[] identity;
  private final int[] masked;

  private final Absence absence;
  private final long[] cells;
  private final long[] same;

  private final BucketSums expected;
  private final BucketSums found;

  /** As found, but without what nobody can compute again; the same where everybody can. */
  private final BucketSums comparable;

  private Pairing.Buckets buckets;
  private volatile boolean stopped;

  long maskedCells;
  long fixedPoints;
  long coincidences;
  private final Agreement agreement;
  final Differences differences = new Differences();
  final Map<String, Unchanged> unchanged = new HashMap<>();
  final Map<String, Long> unequal = new HashMap<>();

  /**
   * @param rows the rows of the source that are in the subset
   * @param digest of values, for this proof alone
   * @param key under which rows are digested
   * @param loaded what is known of the table as it was loaded; empty during the load itself
   * @param scopes what equal values became, by scope, over all tables looked at so far
   * @param absence is shown every row
   * @param agreement the same
   */
  TableProof(
      TablePlan plan,
      RowSet rows,
      RowMasker masker,
      Digest digest,
      byte[] key,
      Optional<LoadedTable> loaded,
      Map<String, Sample> scopes,
      Comparison comparison,
      Absence absence,
      Agreement agreement) {
    this.agreement = agreement;
    this.sides = new Sides(plan, rows, masker, comparison);
    this.absence = absence;
    this.comparison = comparison;
    this.plan = plan;
    this.digest = digest;
    this.key = key;
    this.loaded = loaded;
    this.scopes = scopes;
    this.identity = sides.identity();
    this.masked = plan.masked();
    this.cells = new long[masked.length];
    this.same = new long[masked.length];
    this.agreeing = new Sample[plan.columns().size()];
    Arrays.setAll(agreeing, this::scope);
    this.expected = sums(rows.size());
    this.found = sums(rows.size());
    this.comparable = sides.isWhole() ? found : sums(rows.size());
  }

  /** In as many buckets as the mark has, or as are worth keeping. */
  private BucketSums sums(long rows) {
    return loaded
        .map(table -> BucketSums.of(table.sums().bits()))
        .orElseGet(() -> BucketSums.forRows(rows));
  }

  Sides sides() {
    return sides;
  }

  TablePlan plan() {
    return plan;
  }

  /** The rows of the source, as they would be loaded now. */
  long expectedRows() {
    return expected.rows();
  }

  long foundRows() {
    return found.rows();
  }

  /** How many rows of the target are not compared with the source's. */
  long left() {
    return differences.since.present() + differences.movedOn.lost();
  }

  /** What a mark may remember of the table. */
  LoadedTable remembered() {
    return LoadedTable.of(plan.table(), comparison, found);
  }

  /** Adds up both sides; {@code target} holds the table. */
  void sum(Reader target) {
    Sample[] originals = samples();
    Sample[] present = samples();
    bothSides(() -> sumExpected(originals), () -> sumFound(target, present));
    for (int i = 0; i < masked.length; i++) {
      coincidences += present[i].countsOf(originals[i]);
    }
    coincidences = Math.max(0, coincidences - fixedPoints);
    for (int i = 0; i < masked.length; i++) {
      unchanged.put(
          sides.name(masked[i]),
          new Unchanged(plan.columns().get(masked[i]), cells[i], same[i], originals[i].distinct()));
    }
    BitSet differing = comparable.differing(expected);
    BitSet none = new BitSet();
    buckets =
        new Pairing.Buckets(
            found.bits(),
            differing,
            loaded.map(table -> found.differing(table.sums())).orElse(none),
            // What nobody can compute again is not in what is expected: that may have moved, too.
            sides.isWhole()
                ? loaded.map(table -> expected.differing(table.sums())).orElse(none)
                : differing,
            loaded.isPresent(),
            sides.isWhole() ? loaded.map(table -> changes(table.sums())).orElse(null) : null);
  }

  private Attribution.Changes changes(BucketSums load) {
    return bucket -> found.sum(bucket).minus(load.sum(bucket));
  }

  /** Pairs the rows of buckets that differ, and counts what does; once all tables are summed. */
  void pair(Reader target) {
    if (!buckets.differing().isEmpty()) {
      new Pairing(sides, digest, key, buckets, absence, differences, this::equal)
          .run(target, Math.max(expected.rows(), found.rows()));
    }
    BitSet unseen = (BitSet) buckets.changed().clone();
    unseen.andNot(buckets.differing());
    differences.since.buckets = unseen.cardinality();
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
    Throwable[] failure = new Throwable[1];
    Thread reader =
        new Thread(
            () -> {
              try {
                found.run();
              } catch (RuntimeException | Error e) {
                failure[0] = e;
              }
            },
            "yemble-verify");
    reader.setDaemon(true);
    reader.start();
    try {
      expected.run();
    } catch (RuntimeException | Error e) {
      stopped = true;
      throw e;
    } finally {
      join(reader);
    }
    if (failure[0] instanceof RuntimeException e) {
      throw e;
    }
    if (failure[0] instanceof Error e) {
      throw e;
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

  private void sumExpected(Sample[] originals) {
    RowDigest row = new RowDigest(key);
    sides.expected(
        new Sides.Expected() {
          @Override
          void row(Object[] before, Object[] after, Object[] whole, Mentions mentions) {
            for (int i = 0; i < masked.length; i++) {
              if (!isEmpty(before[masked[i]]) && after[masked[i]] != null) {
                long original = digest.of(before[masked[i]]);
                long masks = digest.of(after[masked[i]]);
                cells[i]++;
                same[i] += original == masks ? 1 : 0;
                count(originals[i], original, masks);
                if (!hasStandIn(masked[i])) {
                  equal(masked[i], original, masks);
                }
              }
            }
            agreement.row(plan, before, whole);
            absence.remembered().row(plan, before, whole);
            absence.ownRow().row(plan, before, whole, mentions);
            row.take(after, identity);
            expected.add(row);
          }
        });
  }

  private void count(Sample originals, long before, long after) {
    maskedCells++;
    fixedPoints += before == after ? 1 : 0;
    originals.put(before, after);
  }

  /** Whether equal values are still equal, where a mask is of the value alone. */
  private void equal(int position, long before, long after) {
    if (agreeing[position] != null && agreeing[position].put(before, after) != after) {
      unequal.merge(sides.name(position), 1L, Long::sum);
    }
  }

  private void sumFound(Reader target, Sample[] present) {
    RowDigest row = new RowDigest(key);
    sides.found(
        target,
        (values, whole) -> {
          for (int i = 0; i < masked.length; i++) {
            if (!isEmpty(values[masked[i]])) {
              present[i].count(digest.of(values[masked[i]]));
            }
          }
          row.take(whole, identity);
          found.add(row);
          if (!sides.isWhole()) {
            row.take(values, identity);
            comparable.add(row);
          }
          if (stopped) {
            throw new IllegalStateException("the other side has failed");
          }
        });
  }

  static boolean isEmpty(Object value) {
    return value == null || value.equals("");
  }

  /** What equal values of a column became; null where a mask is of more than the value. */
  private Sample scope(int position) {
    TablePlan.ColumnPlan column = plan.columns().get(position);
    if (!column.masked() || column.isText() || column.readsRow()) {
      return null;
    }
    String scope =
        column.isJson() ? sides.name(position) : column.by() + BEHIND + column.agreement();
    return scopes.computeIfAbsent(scope, s -> new Sample());
  }
}
