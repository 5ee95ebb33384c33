package yemble.core.row;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What becomes of a cell, whatever it holds: NULL, the empty text, no bytes, a value. */
class CellChangeTest {
  private static final byte[] NO_BYTES = {};
  private static final CellChange MASK = CellChange.by((row, value) -> "m", Blanks.STAY);

  private static List<Object> of(CellChange change) {
    return Arrays.asList(
        change.apply(1, null),
        change.apply(1, ""),
        change.apply(1, NO_BYTES),
        change.apply(1, "v"),
        change.apply(2, "v"));
  }

  @Test
  void eachWayOfChanging() {
    RowSet second = new RowSet();
    second.add(2);
    assertThat(of(CellChange.KEEP)).containsExactly(null, "", NO_BYTES, "v", "v");
    assertThat(of(MASK)).containsExactly(null, "", NO_BYTES, "m", "m");
    assertThat(of(CellChange.by((row, value) -> "m", Blanks.of(Set.of(Empty.NULL)))))
        .containsExactly("m", "", NO_BYTES, "m", "m");
    assertThat(of(CellChange.by((row, value) -> "m", Blanks.of(Set.of(Empty.EMPTY)))))
        .containsExactly(null, "m", NO_BYTES, "m", "m");
    assertThat(of(MASK.clearedIn(second))).containsExactly(null, "", NO_BYTES, "m", null);
    assertThat(of(CellChange.KEEP.clearedIn(second)))
        .containsExactly(null, "", NO_BYTES, "v", null);
    assertThat(of(MASK.cleared())).containsOnlyNulls();
  }

  @Test
  void whatBlocksAskBeforeTheyDecode() {
    RowSet second = new RowSet();
    second.add(2);
    assertThat(CellChange.KEEP.keeps()).isTrue();
    assertThat(CellChange.KEEP.clearedIn(new RowSet()).keeps()).isTrue();
    assertThat(CellChange.KEEP.clearedIn(second).keeps()).isFalse();
    assertThat(CellChange.KEEP.clearedIn(second).needsRows()).isTrue();
    assertThat(MASK.needsRows()).isFalse();
    assertThat(MASK.clearedIn(second).cleared().needsRows()).isFalse();
    assertThat(MASK.clearedIn(second).clears(2)).isTrue();
    assertThat(MASK.clearedIn(second).clears(1)).isFalse();
  }
}
