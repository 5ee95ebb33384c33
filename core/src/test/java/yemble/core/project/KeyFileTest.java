package yemble.core.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yemble.core.crypto.SecretKey;
import yemble.core.problem.Problem;

class KeyFileTest {
  @TempDir Path folder;

  @Test
  void aNewKeyIsReadableByItsOwnerAlone() throws Exception {
    SecretKey key = KeyFile.create(folder);
    Path file = folder.resolve(Project.KEY_FILE);
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
        .isEqualTo("rw-------");
    assertThat(KeyFile.read(folder, Map.of()).fingerprint()).isEqualTo(key.fingerprint());
    assertThat(Files.readString(file)).hasSize(44);
  }

  @Test
  void aKeyIsNeverOverwritten() {
    KeyFile.create(folder);
    Problem problem = catchThrowableOfType(Problem.class, () -> KeyFile.create(folder));
    assertThat(problem.exitCode()).isEqualTo(3);
  }

  @Test
  void theEnvironmentWins() {
    KeyFile.create(folder);
    SecretKey other = SecretKey.random();
    assertThat(KeyFile.read(folder, Map.of(KeyFile.VARIABLE, other.reveal())).fingerprint())
        .isEqualTo(other.fingerprint());
    Problem problem =
        catchThrowableOfType(
            Problem.class, () -> KeyFile.read(folder, Map.of(KeyFile.VARIABLE, "too short")));
    assertThat(problem.getMessage()).contains(KeyFile.VARIABLE).doesNotContain("too short");
  }

  @Test
  void aKeyThatOthersMayReadIsRefused() throws Exception {
    KeyFile.create(folder);
    Files.setPosixFilePermissions(
        folder.resolve(Project.KEY_FILE), PosixFilePermissions.fromString("rw-r-----"));
    Problem problem = catchThrowableOfType(Problem.class, () -> KeyFile.read(folder, Map.of()));
    assertThat(problem.exitCode()).isEqualTo(3);
    assertThat(problem.remedy()).contains("chmod 600");
  }

  @Test
  void aMissingKeyIsNamed() {
    Problem problem = catchThrowableOfType(Problem.class, () -> KeyFile.read(folder, Map.of()));
    assertThat(problem.getMessage()).contains("yemble.key", "yemble key new");
  }
}
