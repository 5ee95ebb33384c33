package yemble.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Programs are run from a folder that nobody else could have put them into. */
class ServerProgramsTest {
  @TempDir Path folder;

  @Test
  void aNewFolderIsForItsOwnerAlone() throws IOException {
    Path made = ServerPrograms.checked(folder.resolve("servers"));
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(made)))
        .isEqualTo("rwx------");
    assertThat(ServerPrograms.checked(made)).isEqualTo(made);
  }

  @Test
  void oneThatOthersMayWriteToOrThatIsALinkIsRefused() throws IOException {
    Path open = Files.createDirectory(folder.resolve("open"));
    Files.setPosixFilePermissions(open, PosixFilePermissions.fromString("rwxrwxrwx"));
    assertThatThrownBy(() -> ServerPrograms.checked(open)).hasMessageContaining("chmod 700");
    Path target = Files.createDirectory(folder.resolve("target"));
    Path link = Files.createSymbolicLink(folder.resolve("link"), target);
    assertThatThrownBy(() -> ServerPrograms.checked(link)).hasMessageContaining("remove it");
  }
}
