package yemble.jdbc.postgresql;

import java.util.ArrayList;
import java.util.List;
import yemble.core.row.RowSet;

/**
 * The numbers of a table's rows: where each row lies, its partition in the upper 16 bits, then its
 * block, then its place in the block. A block of {@code n} bytes has room for {@code n / 28} rows
 * at the most (a tuple header and a line pointer each), so few bits hold the place, and the numbers
 * of rows that lie together are close together: cheap in a {@link RowSet}.
 */
final class RowNumbers {
  private static final int LEAF_BITS = 16;
  private static final int SMALLEST_ROW = 28;

  private final Storage storage;
  private final int placeBits;
  private final List<Storage.Leaf> leaves;

  /**
   * @param blockSize of the server, in bytes
   */
  RowNumbers(Storage storage, int blockSize) {
    this.storage = storage;
    this.placeBits = 32 - Integer.numberOfLeadingZeros(blockSize / SMALLEST_ROW);
    this.leaves = storage.leaves();
  }

  /** How many fields of a row tell its number. */
  int width() {
    return storage.partitioned() ? 2 : 1;
  }

  /** The fields that tell the number of the row of {@code alias}. */
  String columns(String alias) {
    String ctid = alias + ".yemble_ctid";
    return storage.partitioned() ? alias + ".yemble_leaf, " + ctid : ctid;
  }

  /** All rows that satisfy some conditions, the columns of {@link #columns} among theirs. */
  String from(String alias, List<String> conditions) {
    return from(
        alias,
        storage.partitioned() ? storage.relation() : "ONLY " + storage.relation(),
        conditions);
  }

  private String from(String alias, String relation, List<String> conditions) {
    String name = Sql.quoted(storage.table().name().name());
    StringBuilder sql = new StringBuilder("(SELECT ");
    if (storage.partitioned()) {
      sql.append(name).append(".tableoid::oid AS yemble_leaf, ");
    }
    sql.append(name).append(".ctid AS yemble_ctid, ").append(name).append(".* FROM ");
    sql.append(relation).append(" AS ").append(name);
    String lead = " WHERE ";
    for (String condition : conditions) {
      if (!condition.isEmpty()) {
        sql.append(lead).append("(\n").append(condition).append("\n)");
        lead = " AND ";
      }
    }
    return sql.append(") ").append(alias).toString();
  }

  /** Takes the FROM clause of some rows. */
  interface Batches {
    void accept(String from);
  }

  /** The rows of a set, so many at a time; partitions one after the other. */
  void batches(String alias, RowSet rows, int size, List<String> conditions, Batches batches) {
    rows.forEachBatch(
        size,
        (batch, length) -> {
          int start = 0;
          while (start < length) {
            int leaf = leaf(batch[start]);
            int end = start + 1;
            while (end < length && leaf(batch[end]) == leaf) {
              end++;
            }
            batches.accept(batch(alias, leaf, batch, start, end, conditions));
            start = end;
          }
        });
  }

  private String batch(
      String alias, int leaf, long[] rows, int start, int end, List<String> conditions) {
    String name = Sql.quoted(storage.table().name().name());
    StringBuilder list = new StringBuilder((end - start) * 14 + 60);
    list.append(name).append(".ctid = ANY('{");
    for (int i = start; i < end; i++) {
      list.append(i == start ? "\"(" : ",\"(")
          .append(block(rows[i]))
          .append(',')
          .append(place(rows[i]))
          .append(")\"");
    }
    list.append("}'::tid[])");
    List<String> all = new ArrayList<>(conditions);
    all.add(0, list.toString());
    String relation =
        "ONLY " + (storage.partitioned() ? leaves.get(leaf).relation() : storage.relation());
    return from(alias, relation, all);
  }

  private static int leaf(long number) {
    return (int) (number >>> (Long.SIZE - LEAF_BITS));
  }

  private long block(long number) {
    return (number << LEAF_BITS >>> LEAF_BITS) >>> placeBits;
  }

  private long place(long number) {
    return number & ((1L << placeBits) - 1);
  }

  /** The number of a row of some block and place of a table that is not partitioned. */
  long number(long block, long place) {
    return block << placeBits | place;
  }

  /** How many places of a block have a number. */
  int places() {
    return 1 << placeBits;
  }

  /**
   * The number of the row whose {@link #columns} begin with a field of a line.
   *
   * @param ends of the line's fields
   */
  long number(byte[] line, int[] ends, int field) {
    int from = field == 0 ? 0 : ends[field - 1] + 1;
    long leaf = 0;
    if (storage.partitioned()) {
      leaf = leafOf(CopyText.number(line, from, ends[field]));
      from = ends[field] + 1;
    }
    // (block,place)
    int at = from + 1;
    long block = 0;
    while (line[at] != ',') {
      block = block * 10 + (line[at++] - '0');
    }
    long place = 0;
    at++;
    while (line[at] != ')') {
      place = place * 10 + (line[at++] - '0');
    }
    return leaf << (Long.SIZE - LEAF_BITS) | number(block, place);
  }

  private long leafOf(long oid) {
    int low = 0;
    int high = leaves.size() - 1;
    while (low < high) {
      int middle = (low + high) >>> 1;
      if (leaves.get(middle).oid() < oid) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    return low;
  }
}
