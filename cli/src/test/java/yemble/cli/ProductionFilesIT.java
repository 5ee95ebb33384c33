package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * By file names and conditions nobody gets the program to touch a source, the key or a register.
 */
class ProductionFilesIT {
  private static final int REFUSED = 3;
  @TempDir Path folder;
  private Sandbox sandbox;

  @BeforeEach
  void ready() throws Exception {
    sandbox = Sandbox.ready(folder);
  }

  /** Everything in the folder but Yemble's own state, by its content. */
  private Map<String, String> files() throws Exception {
    Map<String, String> files = new TreeMap<>();
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path path : all.toList()) {
        boolean own = path.toString().contains("/.yemble");
        if (Files.isRegularFile(path, LinkOption.NOFOLLOW_LINKS) && !own) {
          files.put(
              folder.relativize(path).toString(),
              new String(Files.readAllBytes(path), "ISO-8859-1"));
        }
      }
    }
    return files;
  }

  private void refused(Map<String, String> before, String... command) throws Exception {
    Program.Result result = sandbox.yemble(command);
    assertThat(result.exitCode()).as(List.of(command) + result.all()).isEqualTo(REFUSED);
    assertThat(result.err()).contains("do:    ");
    assertThat(files()).as(List.of(command).toString()).isEqualTo(before);
  }

  @Test
  void aPageIsNeverWrittenOverWhatIsNotOurs() throws Exception {
    sandbox.write("letter.html", "mine");
    Files.createLink(sandbox.file("hard.html"), sandbox.file("live.db"));
    Map<String, String> before = files();
    for (String name : List.of("live.db", "hard.html", "yemble.key")) {
      refused(before, "survey", "--page", name, "--overwrite");
    }
    refused(before, "survey", "--page", "letter.html");
    refused(before, "gauge", "--page", "letter.html");
    refused(before, "gauge", "--page", "live.db", "--overwrite");
    assertThat(sandbox.yemble("survey", "--page", "letter.html", "--overwrite").exitCode())
        .isZero();
    assertThat(sandbox.read("letter.html")).startsWith("<!");
    assertThat(sandbox.yemble("survey", "--page", "letter.html").exitCode())
        .as("it is ours now")
        .isZero();
    sandbox.write("letter.html", sandbox.read("letter.html") + "<!-- a remark of mine -->");
    before = files();
    refused(before, "survey", "--page", "letter.html");
  }

  @Test
  void savedOriginalsAreForTheUserAloneAndHoldNoFormula() throws Exception {
    assertThat(Files.exists(sandbox.file(".gitignore"))).isFalse();
    sandbox.sql("live.db", "UPDATE person SET name = '=HYPERLINK(1)' WHERE id = 1");
    Program.Result saved = sandbox.yemble("preview", "person", "--rows", "5", "--save");
    assertThat(saved.exitCode()).as(saved.all()).isZero();
    Path file = sandbox.file("person.with-originals.csv");
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
        .isEqualTo("rw-------");
    assertThat(Files.readString(file)).contains("'=HYPERLINK(1)").doesNotContain(",=H", "\n=H");
    assertThat(sandbox.yemble("preview", "person", "--rows", "5", "--save").exitCode()).isZero();
    Files.writeString(file, "mine");
    Map<String, String> before = files();
    refused(before, "preview", "person", "--save");
    assertThat(sandbox.yemble("preview", "person", "--save", "--overwrite").exitCode()).isZero();
    assertThat(Files.readString(sandbox.file(".yemble/written.json")))
        .doesNotContain("Orla", "=HYP");
  }

  @Test
  void aTargetWhoseFilesBelongToAnotherDatabaseIsRefused() throws Exception {
    for (String name : List.of("live.db-wal", "LIVE.DB")) {
      sandbox.write(
          "yemble.yaml", Sandbox.PROJECT.replace("jdbc:sqlite:dev.db", "jdbc:sqlite:" + name));
      Map<String, String> before = files();
      refused(before, "run", "--yes");
      Program.Result doctor = sandbox.yemble("doctor", "--mend");
      assertThat(doctor.exitCode()).as(name + doctor.all()).isEqualTo(1);
      assertThat(files()).as(name).isEqualTo(before);
    }
    // The other way round: production lies where a load would be built.
    Files.move(sandbox.file("live.db"), sandbox.file("dev.db.yemble-part"));
    sandbox.write(
        "yemble.yaml", Sandbox.PROJECT.replace("sqlite:live.db", "sqlite:dev.db.yemble-part"));
    Map<String, String> before = files();
    refused(before, "run", "--yes");
    assertThat(sandbox.yemble("doctor", "--mend").exitCode()).isEqualTo(1);
    assertThat(files()).isEqualTo(before);
  }

  @Test
  void aPartFileThatIsALinkIsNotWrittenThrough() throws Exception {
    Files.createSymbolicLink(sandbox.file("dev.db.yemble-part"), sandbox.file("victim"));
    refused(files(), "run", "--yes");
    sandbox.write("victim", "mine");
    Map<String, String> before = files();
    refused(before, "run", "--yes");
    sandbox.yemble("doctor", "--mend");
    assertThat(files()).isEqualTo(before);
    assertThat(Files.isSymbolicLink(sandbox.file("dev.db.yemble-part"))).isTrue();
  }

  @Test
  void aSourceInWalModeIsReadByEveryCommandAndNothingLiesBesideIt() throws Exception {
    sandbox.sql("live.db", "PRAGMA journal_mode = WAL");
    Map<String, String> before = files();
    assertThat(before).doesNotContainKey("live.db-wal");
    for (String[] command : new String[][] {{"doctor"}, {"survey"}, {"run", "--yes"}, {"verify"}}) {
      Program.Result result = sandbox.yemble(command);
      assertThat(result.exitCode()).as(command[0] + result.all()).isZero();
      assertThat(files().keySet().stream().filter(name -> name.startsWith("live.db")))
          .as(command[0])
          .containsExactly("live.db");
      assertThat(files().get("live.db")).isEqualTo(before.get("live.db"));
    }
    // With an application at work all it has written so far comes along, and it goes on.
    try (Connection application =
            DriverManager.getConnection("jdbc:sqlite:" + sandbox.file("live.db"));
        Statement statement = application.createStatement()) {
      statement.execute("INSERT INTO reader VALUES ('new@a.example')");
      assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
      statement.execute("INSERT INTO reader VALUES ('newer@a.example')");
    }
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM reader")).isEqualTo(5);
  }

  @Test
  void aConditionThatWouldWriteIsRefusedWhereverItStands() throws Exception {
    refusedEverywhere(List.of("1)); DELETE FROM person; --"));
  }

  @Test
  @Tag("thorough")
  void soAreOthers() throws Exception {
    refusedEverywhere(List.of("load_extension('x')", "1)) AS x FROM (SELECT 1 WHERE (1"));
  }

  private void refusedEverywhere(List<String> hostile) throws Exception {
    List<String> projects = new ArrayList<>();
    for (String condition : hostile) {
      String quoted = "\"" + condition + "\"";
      projects.add(Sandbox.PROJECT + "    pick: { person: { where: " + quoted + " } }\n");
      projects.add(Sandbox.PROJECT + "links:\n  person.boss_id: { where: " + quoted + " }\n");
      projects.add(
          Sandbox.PROJECT + "links:\n  reader.email -> person.email: { if: " + quoted + " }\n");
      projects.add(
          Sandbox.PROJECT + "columns:\n  person.name: { fixed: x, when: " + quoted + " }\n");
    }
    String before = files().get("live.db");
    for (String project : projects) {
      sandbox.write("yemble.yaml", project);
      Program.Result run = sandbox.yemble("run", "--yes");
      assertThat(run.exitCode()).as(project + run.all()).isIn(2, 3);
      assertThat(run.err()).contains("Yemble refuses this condition", "yemble.yaml:", "do:");
      assertThat(sandbox.file("dev.db")).doesNotExist();
    }
    sandbox.write("yemble.yaml", Sandbox.PROJECT);
    for (String condition : hostile) {
      Program.Result preview = sandbox.yemble("preview", "person", "--where", condition);
      assertThat(preview.exitCode()).as(preview.all()).isIn(2, 3);
    }
    assertThat(files().get("live.db")).isEqualTo(before);
  }
}
