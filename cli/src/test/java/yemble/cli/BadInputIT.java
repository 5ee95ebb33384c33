package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;
import static org.junit.jupiter.api.DynamicTest.dynamicTest;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestFactory;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is wrong around the program: {@link MistakesIT} has what is wrong with what it is given. */
class BadInputIT {
  private static final int DATABASE = 4;
  private static final String[] RUN = {"run", "--yes"};

  @TempDir Path folder;

  private Sandbox sandbox() throws Exception {
    return Sandbox.ready(Files.createTempDirectory(folder, "case"));
  }

  /** The built program itself ends with the code that its failures have. */
  @ParameterizedTest
  @CsvSource({
    "run smal --yes, 2, job-unknown",
    "run, 3, not-confirmed",
    "verify, 4, database-missing"
  })
  void theExitCodeIsTheFailures(String call, int exit, String code) throws Exception {
    Program.Result result = sandbox().yemble(call.split(" "));
    assertThat(result.exitCode()).as(result.all()).isEqualTo(exit);
    assertThat(result.err()).startsWith("yemble: ").contains("do:", "code:  " + code);
    assertThat(result.all()).doesNotContain("Exception", "\tat ");
  }

  @Test
  void aFolderForTemporaryFilesThatIsMissingIsNamed() throws Exception {
    Sandbox sandbox = sandbox();
    List<String> command = Program.command("gauge");
    command.removeIf(word -> word.startsWith("-Dorg.sqlite.lib.path"));
    command.add(1, "-Djava.io.tmpdir=" + sandbox.file("gone"));
    Program.Result result = Program.run(sandbox.folder, Map.of(), command);
    assertThat(result.exitCode()).as(result.all()).isEqualTo(DATABASE);
    assertThat(result.err()).contains("temporary files", "java.io.tmpdir", "driver-failed");
  }

  @Test
  void aPathThatTheLocaleCannotSpellIsNamed() throws Exception {
    Sandbox sandbox = sandbox();
    Program.Result result =
        Program.run(
            sandbox.folder, Map.of("LC_ALL", "C"), Program.command("gauge", "--project", "\u00f6"));
    assertThat(result.exitCode()).as(result.all()).isEqualTo(2);
    assertThat(result.all()).doesNotContain("Exception");
  }

  /** A result that cannot be written is no success. */
  @Test
  void aFullDiskBehindStandardOutputIsReported() throws Exception {
    Path full = Path.of("/dev/full");
    assumeTrue(Files.exists(full));
    Sandbox sandbox = Sandbox.ready(Files.createTempDirectory(folder, "case"));
    Process process =
        new ProcessBuilder(Program.command("register"))
            .directory(sandbox.folder.toFile())
            .redirectOutput(full.toFile())
            .start();
    String said = new String(process.getErrorStream().readAllBytes());
    assertThat(process.waitFor()).isEqualTo(DATABASE);
    assertThat(said).contains("cannot be written to standard output", "do:");
  }

  /** A lock that another program holds; apart, since the program must wait for it first. */
  @TestFactory
  Collection<DynamicTest> aLockedDatabaseIsReported() {
    return List.of(
        dynamicTest("the source is locked", () -> locked("live.db")),
        dynamicTest("the target is locked", () -> locked("dev.db")));
  }

  private void locked(String file) throws Exception {
    Sandbox sandbox = Sandbox.ready(Files.createTempDirectory(folder, "case"));
    assertThat(sandbox.yemble(RUN).exitCode()).isZero();
    try (Connection other = DriverManager.getConnection("jdbc:sqlite:" + sandbox.file(file))) {
      other.createStatement().execute("BEGIN EXCLUSIVE");
      Program.Result result = sandbox.yemble(RUN);
      assertThat(result.exitCode()).as(result.all()).isEqualTo(DATABASE);
      assertThat(result.err()).contains("locked by another program", file);
      other.createStatement().execute("ROLLBACK");
    }
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM person")).isEqualTo(5);
    assertThat(sandbox.file("dev.db.yemble-part")).doesNotExist();
  }
}
