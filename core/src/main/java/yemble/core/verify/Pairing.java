package yemble.core.verify;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.mark.BucketSums.Difference;
import yemble.core.mark.Digest;
import yemble.core.mark.RowDigest;
import yemble.core.mask.text.Mentions;
import yemble.core.store.Reader;

/**
 * Pairs the rows of buckets that differ by their key, part by part so that memory is bounded, and
 * counts what differs.
 */
final class Pairing {
  private static final long ROWS_IN_A_PART = 500_000;

  private final Sides sides;
  private final Digest digest;
  private final Buckets buckets;
  private final Absence absence;
  private final Differences differences;
  private final Masked cells;
  private final int[] identity;
  private final int[] masked;
  private final Attribution attribution = new Attribution();
  private final RowDigest row;
  private Map<Long, List<Wanted>> wanted = new HashMap<>();
  private int part;
  private int parts;

  /**
   * The buckets of a table.
   *
   * @param bits how many there are, as a power of two
   * @param differing in which the target holds other rows than the source's become
   * @param changed in which it holds others than were loaded; empty if that is not known
   * @param moved in which the source's rows become others than were loaded
   * @param known whether it is known what was loaded
   * @param changes by how much the sum of a bucket has changed since; null if that cannot be told
   */
  record Buckets(
      int bits,
      BitSet differing,
      BitSet changed,
      BitSet moved,
      boolean known,
      Attribution.Changes changes) {
    /** Whether rows of a bucket were changed and rows have moved, so that it is not clear which. */
    boolean isUnclear(int bucket) {
      return changes != null && changed.get(bucket) && moved.get(bucket);
    }
  }

  /** Is told what a masked cell holds where it should hold something else. */
  interface Masked {
    /**
     * @param before the digest of the cell's original
     * @param is the digest of what is there
     */
    void cell(int position, long before, long is);
  }

  /**
   * A row as it should be.
   *
   * @param cells digests of its cells, then of the originals of those that are masked
   * @param digest of the row
   * @param ownNames its names, which must not stand in its texts
   * @param name its key, to be shown
   */
  private record Wanted(
      long[] cells, int bucket, Difference digest, Set<String> ownNames, String name) {}

  /**
   * @param digest of values, for this proof alone
   * @param key of row digests
   * @param absence searches rows that were changed
   * @param cells is told of masked cells that are not what they should be
   */
  Pairing(
      Sides sides,
      Digest digest,
      byte[] key,
      Buckets buckets,
      Absence absence,
      Differences differences,
      Masked cells) {
    this.cells = cells;
    this.sides = sides;
    this.digest = digest;
    this.row = new RowDigest(key);
    this.buckets = buckets;
    this.absence = absence;
    this.differences = differences;
    this.identity = sides.identity();
    this.masked = sides.plan().masked();
  }

  /**
   * Reads both sides, once for each part.
   *
   * @param most how many rows either side has
   */
  void run(Reader target, long most) {
    long rows = most * buckets.differing().cardinality() >>> buckets.bits();
    parts = (int) (rows / ROWS_IN_A_PART) + 1;
    for (part = 0; part < parts; part++) {
      wanted = new HashMap<>();
      sides.expected(
          new Sides.Expected() {
            @Override
            void row(Object[] before, Object[] after, Object[] whole, Mentions mentions) {
              want(before, after, mentions);
            }
          });
      sides.found(target, this::have);
      wanted.values().forEach(rest -> rest.forEach(this::lacking));
      attribution.settle(buckets.changes());
    }
  }

  /** The bucket of a row, if it is to be looked at; else -1. */
  private int bucket(Object[] values) {
    row.take(values, identity);
    int bucket = row.bucket(buckets.bits());
    return buckets.differing().get(bucket) && bucket % parts == part ? bucket : -1;
  }

  private void want(Object[] before, Object[] after, Mentions mentions) {
    int bucket = bucket(after);
    if (bucket >= 0) {
      Wanted should =
          new Wanted(
              digests(before, after),
              bucket,
              Difference.of(row),
              absence.ownRow().namesOf(sides.plan(), before, after, mentions),
              name(after));
      wanted.computeIfAbsent(digest.of(after, identity), k -> new ArrayList<>(1)).add(should);
    }
  }

  private void have(Object[] values, Object[] whole) {
    int bucket = bucket(values);
    if (bucket < 0) {
      return;
    }
    long id = digest.of(values, identity);
    List<Wanted> candidates = wanted.get(id);
    if (candidates == null) {
      surplus(bucket, whole);
      return;
    }
    differ(candidates.remove(candidates.size() - 1), values, whole);
    if (candidates.isEmpty()) {
      wanted.remove(id);
    }
  }

  private long[] digests(Object[] before, Object[] after) {
    long[] digests = new long[after.length + masked.length];
    for (int i = 0; i < after.length; i++) {
      digests[i] = digest.of(after[i]);
    }
    for (int i = 0; i < masked.length; i++) {
      Object original = before[masked[i]];
      digests[after.length + i] = TableProof.isEmpty(original) ? 0 : digest.of(original);
    }
    return digests;
  }

  private String name(Object[] values) {
    return absence.keepsExamples() ? Since.name(values, identity) : "";
  }

  /** A row of the target that the source knows nothing of. */
  private void surplus(int bucket, Object[] values) {
    if (!buckets.known()) {
      differences.extra++;
      return;
    }
    Object[] copy = values.clone();
    settle(
        bucket,
        Difference.of(row),
        certain -> {
          differences.since.added(name(copy));
          absence.changed(sides.plan(), copy);
        },
        () -> differences.movedOn.gone(""));
  }

  /** A row of the source that the target lacks. */
  private void lacking(Wanted should) {
    if (!buckets.known()) {
      differences.missing++;
      return;
    }
    differences.uncompared += values(should);
    settle(
        should.bucket(),
        Difference.NONE.minus(should.digest()),
        certain -> differences.since.gone(should.name()),
        () -> differences.movedOn.added(""));
  }

  /** Says at once whether a row was changed or has moved, or waits for the others of its bucket. */
  private void settle(
      int bucket, Difference difference, Attribution.Changed changed, Runnable moved) {
    if (buckets.isUnclear(bucket)) {
      attribution.add(bucket, difference, changed, moved);
    } else if (buckets.changed().get(bucket)) {
      changed.row(!buckets.moved().get(bucket));
    } else {
      moved.run();
    }
  }

  /** How many masked cells of a row hold a value. */
  private long values(Wanted row) {
    int at = row.cells().length - masked.length;
    return Arrays.stream(row.cells(), at, row.cells().length).filter(cell -> cell != 0).count();
  }

  private void differ(Wanted should, Object[] values, Object[] whole) {
    long[] is = new long[values.length];
    boolean differs = false;
    for (int i = 0; i < values.length; i++) {
      is[i] = digest.of(values[i]);
      differs |= is[i] != should.cells()[i];
    }
    if (differs && buckets.known()) {
      others(should, whole);
    } else if (differs) {
      faults(should, is);
    }
  }

  /** A row that is another one than it should be, where it is known what was loaded. */
  private void others(Wanted should, Object[] whole) {
    differences.uncompared += values(should);
    Object[] copy = whole.clone();
    settle(
        should.bucket(),
        Difference.of(row).minus(should.digest()),
        certain -> {
          restored(should, copy, certain);
          differences.since.changed(name(copy));
          absence.changed(sides.plan(), copy);
          absence.ownRow().changed(sides.plan(), should.ownNames(), copy);
        },
        () -> {
          restored(should, copy, false);
          differences.movedOn.changed("");
        });
  }

  /** Counts the masked cells of a row that hold their own original again. */
  private void restored(Wanted should, Object[] values, boolean certain) {
    for (int i = 0; i < masked.length; i++) {
      long before = should.cells()[values.length + i];
      differences.looked(masked[i]);
      boolean original = before != 0 && digest.of(values[masked[i]]) == before;
      if (original && should.cells()[masked[i]] != before) {
        differences.restored(masked[i], certain);
      }
    }
  }

  private void faults(Wanted row, long[] is) {
    int maskedAt = 0;
    for (int i = 0; i < is.length; i++) {
      boolean isMasked = maskedAt < masked.length && masked[maskedAt] == i;
      if (is[i] != row.cells()[i]) {
        (isMasked ? differences.leaks : differences.altered).merge(sides.name(i), 1L, Long::sum);
        long before = isMasked ? row.cells()[is.length + maskedAt] : 0;
        if (before != 0) {
          cells.cell(i, before, is[i]);
        }
      }
      maskedAt += isMasked ? 1 : 0;
    }
  }
}
