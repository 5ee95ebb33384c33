package yemble.core.mark;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import yemble.core.name.TableName;
import yemble.core.schema.DataType;

class MarkTextTest {
  private static final byte[] KEY = RowDigest.newKey();

  private static LoadedTable table(String name, int rows) {
    RowDigest digest = new RowDigest(KEY);
    BucketSums sums = new BucketSums();
    for (long i = 0; i < rows; i++) {
      digest.take(new Object[] {i}, new int[] {0});
      sums.add(digest);
    }
    List<String> columns = IntStream.range(0, 300).mapToObj(i -> "column " + i).toList();
    List<Optional<DataType.Base>> types =
        new ArrayList<>(Collections.nCopies(300, Optional.empty()));
    types.set(7, Optional.of(DataType.Base.JSON));
    return new LoadedTable(
        new TableName("own", name), columns, types, List.of("column 0"), sums.worthKeeping());
  }

  private static Loaded load(String source, List<String> made, LoadedTable... tables) {
    return new Loaded(
        "yemble 1",
        Instant.parse("2026-11-29T09:10:00Z"),
        "me",
        "job",
        source,
        "0a0b0c0d",
        "rules",
        12,
        made,
        KEY,
        List.of(tables));
  }

  @Test
  void aMarkIsReadAsItWasWrittenInWhateverOrder() {
    Mark mark =
        new Mark(
            List.of(
                load("live", List.of("a", "b"), table("a", 40_000), table("b", 0)),
                load("crm", List.of("c"), table("c", 3))));
    List<MarkText.Line> lines = new ArrayList<>(MarkText.of(mark));
    assertThat(lines)
        .allSatisfy(
            line -> {
              assertThat(line.item()).hasSizeLessThanOrEqualTo(MarkText.ITEM);
              assertThat(line.value()).hasSizeLessThan(4000);
            });
    assertThat(lines.stream().map(MarkText.Line::item)).doesNotHaveDuplicates();
    Collections.shuffle(lines, new Random(1));
    Mark read = MarkText.read(lines);
    assertThat(read).usingRecursiveComparison().isEqualTo(mark);
  }

  @Test
  void aDamagedMarkProvesNothingButKnowsWhatItMade() {
    Mark mark = new Mark(List.of(load("live", List.of("a"), table("a", 40_000))));
    List<MarkText.Line> lines = new ArrayList<>(MarkText.of(mark));
    lines.removeIf(line -> line.item().startsWith("1 sums 00001 0001"));
    Loaded read = MarkText.read(lines).loads().get(0);
    assertThat(read.isDigested()).isFalse();
    assertThat(read.made()).containsExactly("a");
  }

  @Test
  void aMarkOfBeforeKnowsWhatItMade() {
    Mark read =
        MarkText.read(
            List.of(
                new MarkText.Line("job", "nightly"),
                new MarkText.Line("source", "live (production)"),
                new MarkText.Line("made", "a"),
                new MarkText.Line("made", "b")));
    assertThat(read.made()).containsExactly("a", "b");
    assertThat(read.of("nightly", "live (production)")).isPresent();
    assertThat(read.loads().get(0).isDigested()).isFalse();
  }

  @Test
  void aLoadTakesThePlaceOfWhatItReplaces() {
    Mark first =
        Mark.NONE.with(load("live", List.of("a", "b"), table("a", 1), table("b", 1)), List.of());
    Mark second =
        first.with(load("crm", List.of("b", "c"), table("b", 2), table("c", 1)), List.of("b"));
    assertThat(second.loads()).hasSize(2);
    assertThat(second.loads().get(0).made()).containsExactly("a");
    assertThat(second.loads().get(0).table(new TableName("own", "b"))).isEmpty();
    Mark third = second.with(load("live", List.of("a"), table("a", 1)), List.of("a"));
    assertThat(third.loads()).extracting(Loaded::source).containsExactly("crm", "live");
    assertThat(third.made()).containsExactly("b", "c", "a");
  }
}
