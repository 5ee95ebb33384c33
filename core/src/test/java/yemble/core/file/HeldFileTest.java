package yemble.core.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class HeldFileTest {
  @TempDir Path folder;

  @Test
  void oneAtATimeAndTheOtherIsToldWhoItIs() throws IOException {
    Path file = folder.resolve("run.lock");
    HeldFile.Tried first = HeldFile.hold(file, "orla runs small");
    assertThat(first.held()).isNotNull();
    HeldFile.Tried second = HeldFile.hold(file, "tavin runs all of it");
    assertThat(second.held()).isNull();
    assertThat(second.holder()).isEqualTo("orla runs small");
    first.held().close();
    HeldFile.Tried third = HeldFile.hold(file, "tavin");
    assertThat(third.held()).isNotNull();
    assertThat(Files.readString(file)).isEqualTo("tavin\n");
    third.held().close();
    assertThat(file).isEmptyFile();
  }

  @Test
  void nothingIsWrittenThroughALink() throws IOException {
    Path other = Files.writeString(folder.resolve("other"), "mine");
    Path link = Files.createSymbolicLink(folder.resolve("link"), other);
    assertThatThrownBy(() -> HeldFile.hold(link, "orla")).isInstanceOf(IOException.class);
    assertThat(other).hasContent("mine");
  }
}
