package yemble.core.file;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class WrittenFolderTest {
  @TempDir Path around;

  private List<String> content(Path folder) throws IOException {
    try (Stream<Path> files = Files.walk(folder)) {
      return files.map(file -> folder.relativize(file).toString()).sorted().toList();
    }
  }

  private static void fill(WrittenFolder folder) throws IOException {
    Files.createDirectories(folder.beside().resolve("deep"));
    Files.writeString(folder.beside().resolve("deep/one.txt"), "one");
  }

  @Test
  void nothingIsThereBeforeItIsWhole() throws IOException {
    try (WrittenFolder folder = WrittenFolder.begin(around.resolve("sql"))) {
      fill(folder);
      assertThat(around.resolve("sql")).doesNotExist();
    }
    assertThat(content(around)).containsExactly("");
  }

  @Test
  void itTakesTheOldOnesPlaceWhole() throws IOException {
    Files.createDirectories(around.resolve("sql/old"));
    Files.writeString(around.resolve("sql/old/two.txt"), "two");
    try (WrittenFolder folder = WrittenFolder.begin(around.resolve("sql"))) {
      fill(folder);
      folder.commit();
    }
    assertThat(content(around)).containsExactly("", "sql", "sql/deep", "sql/deep/one.txt");
  }
}
