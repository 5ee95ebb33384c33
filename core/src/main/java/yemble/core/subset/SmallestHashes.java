package yemble.core.subset;

import java.util.Comparator;
import java.util.PriorityQueue;
import yemble.core.row.RowSet;

/** Keeps the rows of the smallest hashes, at most so many; equal hashes by the row's number. */
final class SmallestHashes {
  private static final Comparator<long[]> ORDER =
      Comparator.<long[], Long>comparing(e -> e[0], Long::compareUnsigned)
          .thenComparing(e -> e[1], Long::compareUnsigned);

  private final long most;
  private final PriorityQueue<long[]> heap = new PriorityQueue<>(ORDER.reversed());

  SmallestHashes(long most) {
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
