package yemble.core.subset;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.Comparator;
import java.util.List;
import java.util.PriorityQueue;
import yemble.core.crypto.SecretKey;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Pick;
import yemble.core.schema.Column;
import yemble.core.store.Reader;
import yemble.core.store.RowSet;

/** Picks the rows that a subset starts with. */
final class Picker {
  private static final BigInteger ALL_HASHES = BigInteger.ONE.shiftLeft(64);

  private final Reader source;
  private final SecretKey key;
  private long matched;

  Picker(Reader source, SecretKey key) {
    this.source = source;
    this.key = key;
  }

  /**
   * The rows of a pick, those in {@code leftOut} as if they were not there.
   *
   * @throws Problem if there are none
   */
  RowSet pick(Request.Start start, RowSet leftOut) {
    matched = 0;
    RowSet rows;
    try {
      rows = start.hashed() ? hashed(start, leftOut) : all(start, leftOut);
    } catch (Problem problem) {
      // A condition that the database cannot work out stands in the project.
      throw problem.type() == Failure.Type.USAGE ? problem.at(start.whereAt()) : problem;
    }
    if (rows.isEmpty()) {
      throw Problem.of(Failure.PICK_EMPTY, "this pick matches no row of " + start.table().name())
          .at(start.place())
          .remedy("look at its condition, or raise its share");
    }
    return rows;
  }

  /** How many rows the condition of the last pick matched. */
  long matched() {
    return matched;
  }

  private RowSet all(Request.Start start, RowSet leftOut) {
    RowSet rows = new RowSet();
    source.rows(
        start.table(),
        start.where(),
        List.of(),
        (row, values) -> {
          if (!leftOut.contains(row)) {
            matched++;
            rows.add(row);
          }
        });
    return rows;
  }

  private RowSet hashed(Request.Start start, RowSet leftOut) {
    RowHash hash = new RowHash(key, "pick/" + start.table().name().scope());
    List<Column> identity = start.table().identity();
    long threshold = threshold(start.share());
    boolean everyShare = start.share().compareTo(BigDecimal.ONE) == 0;
    Smallest smallest = new Smallest(start.rows());
    RowSet rows = new RowSet();
    source.rows(
        start.table(),
        start.where(),
        identity,
        (row, values) -> {
          if (leftOut.contains(row)) {
            return;
          }
          matched++;
          long h = hash.of(values);
          if (everyShare || Long.compareUnsigned(h, threshold) < 0) {
            if (start.rows() == Pick.ALL) {
              rows.add(row);
            } else {
              smallest.offer(h, row);
            }
          }
        });
    smallest.drain(rows);
    return rows;
  }

  /** The unsigned number that the hash of a row must lie below: share times 2^64. */
  static long threshold(BigDecimal share) {
    return share.multiply(new BigDecimal(ALL_HASHES)).toBigInteger().longValue();
  }

  /** Keeps the rows of the smallest hashes, at most so many; equal hashes by the row's number. */
  static final class Smallest {
    private static final Comparator<long[]> ORDER =
        Comparator.<long[], Long>comparing(e -> e[0], Long::compareUnsigned)
            .thenComparing(e -> e[1], Long::compareUnsigned);

    private final long most;
    private final PriorityQueue<long[]> heap = new PriorityQueue<>(ORDER.reversed());

    Smallest(long most) {
      this.most = most;
    }

    void offer(long hash, long row) {
      if (heap.size() < most) {
        heap.add(new long[] {hash, row});
      } else if (Long.compareUnsigned(hash, heap.peek()[0]) <= 0) {
        heap.add(new long[] {hash, row});
        heap.poll();
      }
    }

    void drain(RowSet into) {
      heap.forEach(entry -> into.add(entry[1]));
      heap.clear();
    }
  }
}
