package yemble.core.mark;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.HexFormat;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** The vectors of {@code docs/proof.md}, which were made with another program; and the sums. */
class RowDigestTest {
  private static final byte[] KEY = HexFormat.of().parseHex("000102030405060708090a0b0c0d0e0f");
  private static final int[] FIRST = {0};
  private static final Object[][] ROWS = {
    {7L, "Orla", null}, {8L, "Zoë", 2.5}, {9L, "", new byte[] {0, -1}},
  };
  private static final String[] DIGESTS = {
    "e20554ca8af38ce4ec042b5c1d15f36d",
    "8988b8c440e417bfcdcb1d0b2853c75c",
    "a70dc9a2d1a3dd6604eb0ac0d05f972d",
  };
  private static final int[] BUCKETS = {0xae05, 0x7c92, 0x690e};

  @Test
  void agreesWithTheVectorsThatAreWrittenDown() {
    RowDigest digest = new RowDigest(KEY);
    BucketSums sums = new BucketSums();
    for (int i = 0; i < ROWS.length; i++) {
      digest.take(ROWS[i], FIRST);
      assertThat(String.format("%016x%016x", digest.high(), digest.low())).isEqualTo(DIGESTS[i]);
      assertThat(digest.bucket()).isEqualTo(BUCKETS[i]);
      sums.add(digest);
    }
    assertThat(sums.total()).isEqualTo("129bd7319d7b820abeba532815c951f6");
    assertThat(sums.rows()).isEqualTo(3);
  }

  @Test
  void everyValueTellsFromEveryOther() {
    Object[] values = {
      null,
      "",
      "1",
      1L,
      1.0,
      -1L,
      "\u0000",
      new byte[0],
      new byte[] {'1'},
      "é",
      "e\u0301",
      "x".repeat(5000),
    };
    List<String> seen = new ArrayList<>();
    RowDigest digest = new RowDigest(KEY);
    for (Object value : values) {
      digest.take(new Object[] {value}, FIRST);
      seen.add(digest.high() + " " + digest.low());
    }
    digest.take(new Object[] {"a", "b"}, FIRST);
    seen.add(digest.high() + " " + digest.low());
    digest.take(new Object[] {"ab", ""}, FIRST);
    seen.add(digest.high() + " " + digest.low());
    assertThat(seen).doesNotHaveDuplicates();
  }

  private static BucketSums sums(List<Object[]> rows) {
    RowDigest digest = new RowDigest(KEY);
    BucketSums sums = new BucketSums();
    rows.forEach(
        row -> {
          digest.take(row, FIRST);
          sums.add(digest);
        });
    return sums;
  }

  private static List<Object[]> rows(int count) {
    List<Object[]> rows = new ArrayList<>();
    for (long i = 0; i < count; i++) {
      rows.add(new Object[] {i, "row " + i});
    }
    return rows;
  }

  @Test
  void theOrderOfRowsDoesNotCountAndEachRowDoes() {
    List<Object[]> rows = rows(5_000);
    BucketSums sums = sums(rows);
    Collections.shuffle(rows, new Random(3));
    assertThat(sums(rows)).isEqualTo(sums);
    rows.get(17)[1] = "another";
    BucketSums other = sums(rows);
    assertThat(other.differing(sums).cardinality()).isEqualTo(1);
    RowDigest digest = new RowDigest(KEY);
    digest.take(rows.get(17), FIRST);
    assertThat(other.differing(sums).get(digest.bucket())).isTrue();
  }

  @Test
  void whatIsKeptTellsTheSameInFewerBuckets() {
    List<Object[]> rows = rows(20_000);
    BucketSums kept = sums(rows).worthKeeping();
    assertThat(kept.bits()).isEqualTo(13);
    assertThat(kept.total()).isEqualTo(sums(rows).total());
    BucketSums read = BucketSums.unpacked(kept.bits(), kept.rows(), kept.packed());
    assertThat(read).isEqualTo(kept);
    assertThat(sums(rows).differing(read).isEmpty()).isTrue();
    rows.remove(4711);
    assertThat(sums(rows).differing(read).cardinality()).isEqualTo(1);
    byte[] cut = Arrays.copyOf(kept.packed(), 100);
    assertThatThrownBy(() -> BucketSums.unpacked(kept.bits(), kept.rows(), cut))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
