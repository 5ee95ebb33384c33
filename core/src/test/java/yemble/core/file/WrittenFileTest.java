package yemble.core.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yemble.core.file.WrittenFile.Readers;
import yemble.core.problem.Problem;

/** Files are written whole, into no other one, and never over a database. */
class WrittenFileTest {
  @TempDir Path folder;

  private Path file(String name, String content) throws IOException {
    return Files.writeString(folder.resolve(name), content);
  }

  @Test
  void whatHoldsOriginalsIsForItsOwnerAlone() throws IOException {
    Path file = folder.resolve("a.csv");
    WrittenFile.replace(file, "x", Readers.OWNER);
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
        .isEqualTo("rw-------");
    Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-rw-r--"));
    WrittenFile.replace(file, "y", Readers.OWNER);
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
        .as("whatever the file before it was")
        .isEqualTo("rw-------");
    assertThat(folder).isDirectoryNotContaining("glob:**.part");
  }

  @Test
  void aFileKeepsTheRightsOfTheOneWhosePlaceItTakes() throws IOException {
    Path file = file("register.csv", "old");
    Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-rw----"));
    WrittenFile.replace(file, "new", Readers.USUAL);
    assertThat(file).hasContent("new");
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
        .isEqualTo("rw-rw----");
  }

  @Test
  void aFileThatIsThereIsNotMadeAgainAndALinkIsThere() throws IOException {
    Path file = file("yemble.key", "old");
    assertThatThrownBy(() -> WrittenFile.create(file, "new", Readers.OWNER))
        .isInstanceOf(FileAlreadyExistsException.class);
    assertThat(file).hasContent("old");
    Path link = Files.createSymbolicLink(folder.resolve("link"), folder.resolve("nowhere"));
    assertThatThrownBy(() -> WrittenFile.create(link, "new", Readers.OWNER))
        .isInstanceOf(FileAlreadyExistsException.class);
    assertThat(folder.resolve("nowhere")).doesNotExist();
  }

  @Test
  void noDatabaseAndNothingThatIsNoFileIsWrittenOver() throws IOException {
    Path sqlite = file("a.html", "SQLite format 3\0…");
    file("live.db", "");
    Path log = folder.resolve("live.db-wal");
    Path duck = file("d.txt", "12345678DUCK");
    Path directory = Files.createDirectory(folder.resolve("d"));
    for (Path path : new Path[] {sqlite, log, duck, directory, Path.of("/dev/null")}) {
      assertThatThrownBy(() -> WrittenFile.replace(path, "x", Readers.USUAL))
          .as(path.toString())
          .isInstanceOf(Problem.class);
    }
    Path link = Files.createSymbolicLink(folder.resolve("page.html"), sqlite);
    assertThatThrownBy(() -> WrittenFile.replace(link, "x", Readers.USUAL))
        .isInstanceOf(Problem.class);
    assertThat(sqlite).hasContent("SQLite format 3\0…");
    assertThat(log).doesNotExist();
  }

  @Test
  void namesOfOneFileAreKnownHoweverTheyAreWritten() throws IOException {
    Path file = file("live.db", "x");
    Files.createDirectory(folder.resolve("sub"));
    Path hard = Files.createLink(folder.resolve("hard.db"), file);
    Path soft = Files.createSymbolicLink(folder.resolve("soft.db"), file);
    Path away = Files.createSymbolicLink(folder.resolve("away"), folder);
    for (Path same :
        new Path[] {
          hard,
          soft,
          away.resolve("live.db"),
          folder.resolve("sub/../live.db"),
          folder.resolve("LIVE.db")
        }) {
      assertThat(SameFile.are(same, file)).as(same.toString()).isTrue();
    }
    assertThat(SameFile.are(folder.resolve("other.db"), file)).isFalse();
    Path dangling = Files.createSymbolicLink(folder.resolve("d.db"), folder.resolve("new.db"));
    assertThat(SameFile.are(dangling, folder.resolve("new.db"))).isTrue();
  }
}
