package yemble.core.row;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.TreeSet;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Sets of rows against sets of numbers, which nobody here has written. */
class RowSetTest {
  private static final int ALL = 300;

  /** A set of rows, and what it ought to hold. */
  private record Pair(RowSet rows, TreeSet<Long> twin) {
    Pair copy() {
      return new Pair(rows.copy(), new TreeSet<>(twin));
    }
  }

  private static RowSet every() {
    RowSet rows = new RowSet();
    rows.addRange(0, ALL - 1);
    return rows;
  }

  /** All rows of a table, read only if somebody asks. */
  private static Pair unread() {
    TreeSet<Long> twin = new TreeSet<>();
    for (long row = 0; row < ALL; row++) {
      twin.add(row);
    }
    return new Pair(RowSet.all(ALL, RowSetTest::every), twin);
  }

  private static void same(Pair pair, String after) {
    assertThat(pair.rows().size()).as(after).isEqualTo(pair.twin().size());
    List<Long> found = new ArrayList<>();
    pair.rows().copy().forEach(found::add);
    assertThat(found).as(after).containsExactlyElementsOf(pair.twin());
    assertThat(pair.rows().isEmpty()).isEqualTo(pair.twin().isEmpty());
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
  void whateverIsDoneItHoldsWhatASetOfNumbersHolds(long seed) {
    Random random = new Random(seed);
    List<Pair> pairs = new ArrayList<>(List.of(new Pair(new RowSet(), new TreeSet<>()), unread()));
    for (int step = 0; step < 150; step++) {
      Pair one = pairs.get(random.nextInt(pairs.size()));
      Pair other = pairs.get(random.nextInt(pairs.size()));
      long row = random.nextInt(ALL);
      String did;
      switch (random.nextInt(6)) {
        case 0 -> {
          did = "add " + row;
          assertThat(one.rows().add(row)).as(did).isEqualTo(one.twin().add(row));
        }
        case 1 -> {
          long last = Math.min(ALL - 1, row + random.nextInt(20));
          did = "add " + row + " to " + last;
          one.rows().addRange(row, last);
          for (long each = row; each <= last; each++) {
            one.twin().add(each);
          }
        }
        case 2 -> {
          did = "add all";
          one.rows().addAll(other.rows());
          one.twin().addAll(other.twin());
        }
        case 3 -> {
          did = "remove all";
          RowSet removed = other.rows().copy();
          TreeSet<Long> twin = new TreeSet<>(other.twin());
          one.rows().removeAll(removed);
          one.twin().removeAll(twin);
        }
        case 4 -> {
          did = "copy";
          pairs.add(random.nextInt(4) == 0 ? unread() : one.copy());
          if (pairs.size() > 8) {
            pairs.remove(random.nextInt(pairs.size()));
          }
        }
        default -> {
          did = "ask for " + row;
          assertThat(one.rows().contains(row)).as(did).isEqualTo(one.twin().contains(row));
          assertThat(one.rows().copy().first().isPresent()).isEqualTo(!one.twin().isEmpty());
        }
      }
      pairs.forEach(pair -> same(pair, "seed " + seed + ": " + did));
    }
  }

  /** Numbers of servers' rows are spread over all 64 bits. */
  @Test
  void numbersMayBeLargeAndAreComparedUnsigned() {
    RowSet rows = new RowSet();
    for (long row : new long[] {Long.MAX_VALUE, 5, -1, 1L << 40, Long.MIN_VALUE}) {
      assertThat(rows.add(row)).isTrue();
    }
    List<Long> found = new ArrayList<>();
    rows.forEach(found::add);
    assertThat(found).containsExactly(5L, 1L << 40, Long.MAX_VALUE, Long.MIN_VALUE, -1L);
    assertThat(rows.first()).hasValue(5);
  }

  /** To know how many rows there are, and that one is in, nothing is read. */
  @Test
  void allRowsAreReadOnlyIfSomebodyAsksWhich() {
    AtomicInteger read = new AtomicInteger();
    RowSet all =
        RowSet.all(
            ALL,
            () -> {
              read.incrementAndGet();
              return every();
            });
    assertThat(all.size()).isEqualTo(ALL);
    assertThat(all.contains(7)).isTrue();
    assertThat(all.add(7)).isFalse();
    RowSet copy = all.copy();
    assertThat(copy.size()).isEqualTo(ALL);
    assertThat(read).hasValue(0);
    assertThat(all.first()).hasValue(0);
    all.forEach(row -> {});
    assertThat(read).hasValue(1);
    copy.removeAll(every());
    assertThat(copy.isEmpty()).isTrue();
    assertThat(all.size()).isEqualTo(ALL);
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 7, 100, 299, 300, 301})
  void batchesAreWholeAndInOrder(int size) {
    List<Long> found = new ArrayList<>();
    List<Integer> lengths = new ArrayList<>();
    every()
        .forEachBatch(
            size,
            (batch, length) -> {
              lengths.add(length);
              for (int i = 0; i < length; i++) {
                found.add(batch[i]);
              }
            });
    assertThat(found).hasSize(ALL).isSorted();
    assertThat(lengths.subList(0, lengths.size() - 1)).allMatch(length -> length == size);
    List<Long> inParts = new ArrayList<>();
    every().forEachPart(size, part -> part.forEach(inParts::add));
    assertThat(inParts).isEqualTo(found);
  }
}
