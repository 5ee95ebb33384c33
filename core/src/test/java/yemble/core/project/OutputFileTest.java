package yemble.core.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.core.crypto.SecretKey;
import yemble.core.file.WrittenFile.Readers;
import yemble.core.problem.Problem;

/** A result is written only where nothing is lost. */
class OutputFileTest {
  @TempDir Path folder;
  private Project project;

  @BeforeEach
  void make() throws IOException {
    write(
        "yemble.yaml",
        """
        version: 1
        use: [base.yaml]
        databases:
          live: { url: "jdbc:sqlite:live.db", password: "${file:pw.txt}", register: found.csv }
          away: { url: "${env:AWAY}", driver: lib/x.jar, environment: test }
        masks: { given-name: { list: names.txt } }
        """);
    write("base.yaml", "masks: {}\n");
    for (String name :
        new String[] {"pw.txt", "found.csv", "names.txt", "letter.html", ".gitignore"}) {
      write(name, "mine");
    }
    for (String name : new String[] {"live.db", "away.db", "stranger.db"}) {
      write(name, "SQLite format 3\0");
    }
    Files.createDirectories(folder.resolve(".yemble"));
    Files.createDirectories(folder.resolve("sub"));
    Files.createLink(folder.resolve("hard.html"), folder.resolve("live.db"));
    Files.createLink(folder.resolve("hard.txt"), folder.resolve("names.txt"));
    Files.createSymbolicLink(folder.resolve("soft.html"), folder.resolve("live.db"));
    Files.createSymbolicLink(folder.resolve("nowhere.html"), folder.resolve("new.html"));
    KeyFile.write(folder, SecretKey.random());
    project = ProjectFile.read(folder);
  }

  private void write(String name, String content) throws IOException {
    Files.writeString(folder.resolve(name), content);
  }

  private OutputFile of(String name, boolean overwrite) {
    return OutputFile.of(
        project, folder.resolve(name), overwrite, Map.of("AWAY", "jdbc:sqlite:away.db"));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "live.db",
        "LIVE.DB",
        "sub/../live.db",
        "hard.html",
        "soft.html",
        "nowhere.html",
        "live.db-wal",
        "live.db-shm",
        "live.db-journal",
        "live.db.yemble-part",
        "Live.db-WAL",
        "away.db",
        "away.db-wal",
        "stranger.db",
        "stranger.db-journal",
        "yemble.key",
        "YEMBLE.KEY",
        "yemble.yaml",
        "register.csv",
        "found.csv",
        "base.yaml",
        "names.txt",
        "hard.txt",
        "pw.txt",
        "lib/x.jar",
        ".gitignore",
        ".yemble/x.html",
        ".yemble/../.yemble/y",
        "sub",
        "."
      })
  void neverOverWhatTheProjectNamesOrADatabase(String name) {
    Problem problem = catchThrowableOfType(Problem.class, () -> of(name, true));
    assertThat(problem).as(name).isNotNull();
    assertThat(problem.remedy()).isNotEmpty();
    assertThat(folder.resolve("new.html")).doesNotExist();
  }

  @Test
  void overAnotherFileOnlyIfYembleWroteItOrTheUserSaysSo() throws IOException {
    Problem problem = catchThrowableOfType(Problem.class, () -> of("letter.html", false));
    assertThat(problem.exitCode()).isEqualTo(3);
    assertThat(problem.remedy()).contains("--overwrite");
    of("letter.html", true).write("ours", Readers.USUAL);
    of("letter.html", false).write("ours again", Readers.USUAL);
    of("new.csv", false).write("a", Readers.OWNER);
    of("new.csv", false).write("b", Readers.OWNER);
    assertThat(folder.resolve("letter.html")).hasContent("ours again");
    write("letter.html", "ours again, and a remark");
    assertThat(catchThrowableOfType(Problem.class, () -> of("letter.html", false))).isNotNull();
    assertThat(Files.readString(folder.resolve(".yemble/written.json")))
        .contains("new.csv")
        .doesNotContain("ours");
  }

  @Test
  void withoutTheKeyNothingIsKnownToBeOurs() throws IOException {
    of("new.csv", false).write("a", Readers.OWNER);
    Files.delete(folder.resolve("yemble.key"));
    assertThat(catchThrowableOfType(Problem.class, () -> of("new.csv", false))).isNotNull();
  }
}
