package yemble.core.parcel;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ShelfTest {
  private static final Instant NIGHT = Instant.parse("2026-11-29T02:03:04Z");
  @TempDir Path folder;

  /** Whatever a job is called, its parcels lie on the shelf and nowhere else. */
  @ParameterizedTest
  @CsvSource({
    "nightly, nightly-20261129-020304.parcel",
    "a/b, a_b-20261129-020304.parcel",
    "../../etc, _.-.-20261129",
    "CON, CON-20261129-020304.parcel",
    ".hidden, _hidden-20261129-020304.parcel",
    "nächtlich 日, nächtlich_日-20261129-020304.parcel",
  })
  void aFileForEveryJob(String job, String name) {
    Path file = new Shelf(folder.resolve("shelf")).place(job, NIGHT);
    assertThat(file.getParent()).isEqualTo(folder.resolve("shelf"));
    assertThat(file.normalize()).isEqualTo(file);
    if (!job.startsWith("..")) {
      assertThat(file.getFileName()).hasToString(name);
    }
  }

  @Test
  void twoOfOneSecondHaveTwoNames() throws Exception {
    Shelf shelf = new Shelf(folder);
    Path first = Files.createFile(shelf.place("nightly", NIGHT));
    Path second = Files.createFile(shelf.place("nightly", NIGHT));
    assertThat(second).isNotEqualTo(first);
    assertThat(shelf.place("nightly", NIGHT)).isNotIn(first, second);
  }

  @Test
  void whatAPackHasLeftGoesAfterADay() throws Exception {
    Path old = Files.createFile(folder.resolve(".nightly-1.parcel.x.part"));
    Path young = Files.createFile(folder.resolve(".nightly-2.parcel.y.part"));
    Path other = Files.createFile(folder.resolve("letter.part"));
    Files.setLastModifiedTime(old, FileTime.from(NIGHT.minus(Duration.ofDays(2))));
    Files.setLastModifiedTime(other, FileTime.from(NIGHT.minus(Duration.ofDays(2))));
    Files.setLastModifiedTime(young, FileTime.from(NIGHT.minus(Duration.ofHours(2))));
    new Shelf(folder).place("nightly", NIGHT);
    assertThat(old).doesNotExist();
    assertThat(young).exists();
    assertThat(other).exists();
  }

  @Test
  void anEmptyShelf() {
    Shelf shelf = new Shelf(folder.resolve("nowhere"));
    assertThat(shelf.items()).isEmpty();
    assertThatThrownBy(() -> shelf.newest("")).hasMessageContaining("the shelf is empty");
    assertThatThrownBy(() -> shelf.newest("nightly")).hasMessageContaining("no parcel of the job");
  }

  @Test
  void whatIsNoParcelIsListedAsThat() throws Exception {
    Files.writeString(folder.resolve("letter.parcel"), "mine");
    Files.writeString(folder.resolve("letter.txt"), "mine");
    assertThat(new Shelf(folder).items())
        .singleElement()
        .satisfies(
            item -> {
              assertThat(item.manifest()).isEmpty();
              assertThat(item.problem().what()).isEqualTo("this is no parcel");
            });
  }
}
