package yemble.core.verify;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import yemble.core.plan.Rewriter;
import yemble.core.plan.TablePlan;
import yemble.core.plan.Unchanged;
import yemble.core.schema.Column;
import yemble.core.store.BucketSums;
import yemble.core.store.Comparison;
import yemble.core.store.Digest;
import yemble.core.store.LoadedTable;
import yemble.core.store.Reader;
import yemble.core.store.RowDigest;
import yemble.core.store.RowSet;

/**
 * Compares one table of the target with what the source's rows become.
 *
 * <p>First both are read once and reduced to sums of row digests by bucket, which are equal if and
 * only if the same rows are there, in whatever order: this takes no memory. Only the rows of
 * buckets that differ are paired by their key, part by part, to say what differs. Where a mark
 * knows the sums of what was loaded, they tell rows that were changed in the target since from such
 * as have moved on in the source.
 */
final class TableProof {
  private static final long ROWS_IN_A_PART = 500_000;

  private final Comparison comparison;
  private final Optional<Unrepeatable> unrepeatable;
  private final TablePlan plan;
  private final RowSet rows;
  private final Rewriter rewriter;
  private final Digest digest;
  private final byte[] key;
  private final Optional<LoadedTable> loaded;
  private final Map<String, Sample> scopes;
  private final List<Column> columns;
  private final int[] identity;
  private final int[] masked;

  private final Absence absence;
  private final long[] cells;
  private final long[] same;

  private final BucketSums expected = new BucketSums();
  private final BucketSums found = new BucketSums();

  /** As found, but without what nobody can compute again; the same where everybody can. */
  private final BucketSums comparable;

  private BitSet differing = new BitSet();
  private BitSet changed = new BitSet();
  private BitSet moved = new BitSet();
  private volatile boolean stopped;

  long missing;
  long extra;
  long maskedCells;
  long fixedPoints;
  long coincidences;
  long uncompared;
  final Since since = new Since();
  final Since movedOn = new Since();
  final Map<String, Unchanged> unchanged = new HashMap<>();
  final Map<String, Long> leaks = new HashMap<>();
  final Map<String, Long> altered = new HashMap<>();
  final Map<String, Long> unequal = new HashMap<>();

  /** Cells that hold their own original where a mask belongs, by position; see {@link #held}. */
  private final long[] restored;

  private final long[] perhapsRestored;
  private final long[] looked;

  /**
   * @param rows the rows of the source that are in the subset
   * @param key under which rows are digested
   * @param loaded what is known of the table as it was loaded; empty during the load itself
   * @param scopes what equal values became, by scope, over all tables looked at so far
   * @param absence is shown every row
   */
  TableProof(
      TablePlan plan,
      RowSet rows,
      Rewriter rewriter,
      Digest digest,
      byte[] key,
      Optional<LoadedTable> loaded,
      Map<String, Sample> scopes,
      Comparison comparison,
      Absence absence) {
    this.absence = absence;
    this.unrepeatable =
        comparison instanceof Unrepeatable less && less.leavesOut(plan.table())
            ? Optional.of(less)
            : Optional.empty();
    this.comparison = comparison;
    this.plan = plan;
    this.rows = rows;
    this.rewriter = rewriter;
    this.digest = digest;
    this.key = key;
    this.loaded = loaded;
    this.scopes = scopes;
    this.columns = plan.table().written();
    this.identity =
        plan.table().identity().stream().mapToInt(c -> plan.position(c.name())).toArray();
    this.masked = plan.masked();
    this.cells = new long[masked.length];
    this.same = new long[masked.length];
    this.restored = new long[masked.length];
    this.perhapsRestored = new long[masked.length];
    this.looked = new long[masked.length];
    this.comparable = unrepeatable.isPresent() ? new BucketSums() : found;
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
    return since.present() + movedOn.lost();
  }

  /** What a mark may remember of the table. */
  LoadedTable remembered() {
    return LoadedTable.of(plan.table(), comparison, found);
  }

  TablePlan plan() {
    return plan;
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
          name(masked[i]),
          new Unchanged(plan.columns().get(masked[i]), cells[i], same[i], originals[i].distinct()));
    }
    int bits = loaded.map(table -> table.sums().bits()).orElse(found.bits());
    BucketSums wanted = expected.folded(bits);
    differing = comparable.differing(wanted);
    if (loaded.isPresent()) {
      changed = found.differing(loaded.get().sums());
      // What nobody can compute again is not in what is expected: so that may have moved, too.
      moved = unrepeatable.isPresent() ? differing : expected.differing(loaded.get().sums());
    }
  }

  /** Whether the target holds what the source's rows become now. */
  boolean isEqual() {
    return differing.isEmpty() && changed.isEmpty();
  }

  /** Pairs the rows of buckets that differ, and counts what does. */
  void pair(Reader target) {
    if (!differing.isEmpty()) {
      int bits = loaded.map(table -> table.sums().bits()).orElse(found.bits());
      long most = Math.max(expected.rows(), found.rows());
      int parts = (int) ((most * differing.cardinality() >>> bits) / ROWS_IN_A_PART) + 1;
      for (int part = 0; part < parts; part++) {
        new Pairing(bits, part, parts).run(target);
      }
    }
    BitSet unseen = (BitSet) changed.clone();
    unseen.andNot(differing);
    since.buckets = unseen.cardinality();
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
    rewriter.rows(
        rows,
        (number, source, target) -> {
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
          absence
              .remembered()
              .row(
                  plan,
                  unrepeatable.isPresent() ? whole().found(plan.table(), source) : before,
                  unrepeatable.isPresent() ? whole().expected(plan.table(), target) : after);
          row.take(after, identity);
          expected.add(row);
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

  private void sumFound(Reader target, Sample[] present) {
    RowDigest row = new RowDigest(key);
    target.rows(
        plan.table(),
        "",
        columns,
        (number, cells) -> {
          Object[] values = comparison.found(plan.table(), cells);
          for (int i = 0; i < masked.length; i++) {
            if (!isEmpty(values[masked[i]])) {
              present[i].count(digest.of(values[masked[i]]));
            }
          }
          if (unrepeatable.isPresent()) {
            row.take(values, identity);
            comparable.add(row);
            values = whole().found(plan.table(), cells);
          }
          row.take(values, identity);
          found.add(row);
          if (stopped) {
            throw new IllegalStateException("the other side has failed");
          }
        });
  }

  /** The comparison that leaves nothing out. */
  private Comparison whole() {
    return unrepeatable.isPresent() ? unrepeatable.get().whole() : comparison;
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

  /**
   * How many cells of masked columns hold their own original again, in rows that are not what the
   * source's rows become now: those that chance does not explain.
   *
   * @param among how many different values the mask of a column chooses from
   */
  Map<String, Long> held(java.util.function.ToLongFunction<TablePlan.ColumnPlan> among) {
    Map<String, Long> held = new HashMap<>();
    for (int i = 0; i < masked.length; i++) {
      double chance =
          (double) looked[i] / Math.max(1, among.applyAsLong(plan.columns().get(masked[i])));
      long explained = (long) (chance + 3 * Math.sqrt(chance) + 1);
      long count = restored[i] + (perhapsRestored[i] > explained ? perhapsRestored[i] : 0);
      if (count > 0) {
        held.put(name(masked[i]), count);
      }
    }
    return held;
  }

  /**
   * A row as it should be.
   *
   * @param cells digests of its cells, then of the originals of those that are masked
   * @param ownNames its names, which must not stand in its texts
   * @param name its key, to be shown
   */
  private record Wanted(long[] cells, int bucket, Set<String> ownNames, String name) {}

  /** Rows of the buckets of one part that differ, paired by their key. */
  private final class Pairing {
    private final int bits;
    private final int part;
    private final int parts;
    private final RowDigest row = new RowDigest(key);
    private final Map<Long, List<Wanted>> wanted = new HashMap<>();

    Pairing(int bits, int part, int parts) {
      this.bits = bits;
      this.part = part;
      this.parts = parts;
    }

    /** The bucket of a row, if it is to be looked at; else -1. */
    private int bucket(Object[] values) {
      row.take(values, identity);
      int bucket = row.bucket() >>> (found.bits() - bits);
      return differing.get(bucket) && bucket % parts == part ? bucket : -1;
    }

    void run(Reader target) {
      rewriter.rows(
          rows,
          (number, source, masks) -> {
            Object[] before = whole().found(plan.table(), source);
            Object[] after = comparison.expected(plan.table(), masks);
            int bucket = bucket(after);
            if (bucket >= 0) {
              wanted
                  .computeIfAbsent(digest.of(after, identity), k -> new ArrayList<>(1))
                  .add(
                      new Wanted(
                          digests(before, after),
                          bucket,
                          absence.remembered().ownNames(plan, before, after),
                          rowName(after)));
            }
          });
      target.rows(
          plan.table(),
          "",
          columns,
          (number, cells) -> {
            Object[] values = comparison.found(plan.table(), cells);
            int bucket = bucket(values);
            if (bucket < 0) {
              return;
            }
            List<Wanted> candidates = wanted.get(digest.of(values, identity));
            if (candidates == null) {
              surplus(bucket, whole().found(plan.table(), cells));
              return;
            }
            differ(
                candidates.remove(candidates.size() - 1),
                values,
                whole().found(plan.table(), cells));
            if (candidates.isEmpty()) {
              wanted.remove(digest.of(values, identity));
            }
          });
      wanted.values().forEach(rest -> rest.forEach(this::lacking));
    }

    private long[] digests(Object[] before, Object[] after) {
      long[] digests = new long[after.length + masked.length];
      for (int i = 0; i < after.length; i++) {
        digests[i] = digest.of(after[i]);
      }
      for (int i = 0; i < masked.length; i++) {
        Object original = before[masked[i]];
        digests[after.length + i] = isEmpty(original) ? 0 : digest.of(original);
      }
      return digests;
    }

    private String rowName(Object[] values) {
      return absence.keepsExamples() ? Since.name(values, identity) : "";
    }

    /** A row of the target that the source knows nothing of. */
    private void surplus(int bucket, Object[] values) {
      if (loaded.isEmpty()) {
        extra++;
      } else if (changed.get(bucket)) {
        since.added(rowName(values));
        absence.changed(plan, values);
      } else {
        movedOn.gone("");
      }
    }

    /** A row of the source that the target lacks. */
    private void lacking(Wanted row) {
      if (loaded.isEmpty()) {
        missing++;
      } else {
        uncompared += values(row);
        if (changed.get(row.bucket())) {
          since.gone(row.name());
        } else {
          movedOn.added("");
        }
      }
    }

    /** How many masked cells of a row hold a value. */
    private long values(Wanted row) {
      int at = row.cells().length - masked.length;
      return Arrays.stream(row.cells(), at, row.cells().length).filter(cell -> cell != 0).count();
    }

    /**
     * @param whole the same with what nobody can compute again
     */
    private void differ(Wanted row, Object[] values, Object[] whole) {
      long[] is = new long[values.length];
      boolean differs = false;
      for (int i = 0; i < values.length; i++) {
        is[i] = digest.of(values[i]);
        differs |= is[i] != row.cells()[i];
      }
      if (!differs) {
        return;
      }
      if (loaded.isEmpty()) {
        faults(row, is);
        return;
      }
      uncompared += values(row);
      for (int i = 0; i < masked.length; i++) {
        long before = row.cells()[values.length + i];
        looked[i]++;
        boolean original = before != 0 && digest.of(whole[masked[i]]) == before;
        if (original && row.cells()[masked[i]] != before) {
          boolean certain = changed.get(row.bucket()) && !moved.get(row.bucket());
          (certain ? restored : perhapsRestored)[i]++;
        }
      }
      if (changed.get(row.bucket())) {
        since.changed(rowName(values));
        absence.changed(plan, whole);
        absence.remembered().ownNamesIn(plan, row.ownNames(), whole);
      } else {
        movedOn.changed("");
      }
    }

    private void faults(Wanted row, long[] is) {
      int maskedAt = 0;
      for (int i = 0; i < is.length; i++) {
        boolean isMasked = maskedAt < masked.length && masked[maskedAt] == i;
        if (is[i] != row.cells()[i]) {
          (isMasked ? leaks : altered).merge(name(i), 1L, Long::sum);
        }
        if (isMasked) {
          long before = row.cells()[is.length + maskedAt];
          boolean ofValueAlone =
              !plan.columns().get(i).isText() && !plan.columns().get(i).rule().readsRow();
          if (before != 0 && ofValueAlone && scope(i).put(before, is[i]) != is[i]) {
            unequal.merge(name(i), 1L, Long::sum);
          }
          maskedAt++;
        }
      }
    }
  }
}
