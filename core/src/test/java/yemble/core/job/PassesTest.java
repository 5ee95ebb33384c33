package yemble.core.job;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import yemble.core.mark.BucketSums;
import yemble.core.mark.Loaded;
import yemble.core.mark.LoadedTable;
import yemble.core.mark.Mark;
import yemble.core.mark.MarkText;
import yemble.core.mark.Rewritten;
import yemble.core.mark.RowDigest;
import yemble.core.name.TableName;

class PassesTest {
  private static final TableName GUEST = TableName.of("guest");

  private static Loaded pass(String upto) {
    LoadedTable guest =
        new LoadedTable(GUEST, List.of("id"), List.of(), List.of("id"), new BucketSums())
            .with(new BucketSums(), new Rewritten(Map.of("name", "a1"), upto, "id > 7"));
    return new Loaded(
            "yemble 1",
            Instant.parse("2026-11-30T09:10:00Z"),
            "me",
            "nightly",
            "copy",
            "0a0b",
            "rules",
            1,
            List.of(),
            RowDigest.newKey(),
            List.of(guest))
        .beside(Passes.UNDER_WAY);
  }

  /** As another process reads the mark out of a database. */
  private static Passes read(Mark mark) {
    return new Passes(MarkText.read(MarkText.of(mark)));
  }

  private static String upto(Passes passes) {
    return passes.before(GUEST).orElseThrow().rewritten().orElseThrow().upto();
  }

  /** Whatever becomes of a second rewrite, what the first one masked is not masked once more. */
  @Test
  void theFirstIsRememberedWhateverBecomesOfTheSecond() {
    Loaded first = pass("10");
    Loaded second = pass("20");
    Passes begun = read(read(Mark.NONE).with(first));
    assertThat(begun.before(GUEST)).isEmpty();
    Passes done = read(begun.with(first.beside(Passes.DONE)));
    assertThat(upto(done)).isEqualTo("10");

    Passes twice = read(done.with(second));
    assertThat(upto(twice)).isEqualTo("10");
    assertThat(twice.last()).get().extracting(Loaded::way).isEqualTo(Passes.UNDER_WAY);
    twice = read(twice.with(second.beside(Passes.DONE)));
    assertThat(twice.done()).hasSize(2);
    assertThat(upto(twice)).isEqualTo("20");

    Loaded newest = twice.newest().orElseThrow();
    Passes undoing = read(twice.undoing(newest));
    assertThat(upto(undoing)).isEqualTo("10");
    assertThat(undoing.last()).get().extracting(Loaded::way).isEqualTo(Passes.UNDOING);
    Passes undone = read(undoing.without(undoing.last().orElseThrow()));
    assertThat(undone.done()).hasSize(1);
    assertThat(upto(undone)).isEqualTo("10");
  }
}
