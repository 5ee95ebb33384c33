package yemble.core.pin;

/**
 * Lines of a list by numbers of rows, in sixteen bytes or so a row: only those that are about
 * somebody on the list. Once it is made, several threads may ask it.
 */
final class PinnedLines {
  private static final int FEWEST = 16;

  /** Numbers of rows, one more than they are, so that 0 is none. */
  private long[] rows = new long[FEWEST];

  private int[] lines = new int[FEWEST];
  private int size;

  void put(long row, int line) {
    if (2 * size >= rows.length) {
      grow();
    }
    int at = slot(row);
    size += rows[at] == 0 ? 1 : 0;
    rows[at] = row + 1;
    lines[at] = line;
  }

  /**
   * The line of a row.
   *
   * @return -1 if it has none
   */
  int get(long row) {
    int at = slot(row);
    return rows[at] == 0 ? -1 : lines[at];
  }

  /** Where a row lies, or would lie. */
  private int slot(long row) {
    int mask = rows.length - 1;
    long mixed = (row + 1) * 0x9E3779B97F4A7C15L;
    int at = (int) (mixed >>> 32) & mask;
    while (rows[at] != 0 && rows[at] != row + 1) {
      at = at + 1 & mask;
    }
    return at;
  }

  private void grow() {
    long[] before = rows;
    int[] linesBefore = lines;
    rows = new long[before.length * 2];
    lines = new int[before.length * 2];
    for (int i = 0; i < before.length; i++) {
      if (before[i] != 0) {
        int at = slot(before[i] - 1);
        rows[at] = before[i];
        lines[at] = linesBefore[i];
      }
    }
  }
}
