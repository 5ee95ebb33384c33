package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.security.MessageDigest;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What {@code run} promises, by the built program on files. */
class RunIT {
  @TempDir Path folder;

  private static byte[] digest(Path file) throws Exception {
    return MessageDigest.getInstance("SHA-256").digest(Files.readAllBytes(file));
  }

  private static String project(String pick) {
    return Sandbox.PROJECT + "    pick: " + pick + "\n";
  }

  @Test
  void onePersonComesWithEverythingTheyNeedAndEverythingOfTheirs() throws Exception {
    Sandbox sandbox = Sandbox.ready(folder);
    sandbox.write("yemble.yaml", project("{ person: { where: 'id = 2' } }"));
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
    assertThat(sandbox.query("dev.db", "SELECT id FROM person ORDER BY id"))
        .as("the person, the boss, and whom the person is the boss of")
        .containsExactly(List.of(1), List.of(2), List.of(3));
    assertThat(sandbox.query("dev.db", "SELECT person_id, no FROM purchase ORDER BY 1, 2"))
        .as("of those chosen, not of the boss who is only needed")
        .containsExactly(List.of(2, 1), List.of(3, 1));
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM reader")).isEqualTo(0);
    assertThat(sandbox.query("dev.db", "PRAGMA foreign_key_check")).isEmpty();
  }

  /** The target but for its mark, which says when it was loaded, and has a key of its own. */
  private static byte[] withoutMark(Sandbox sandbox) throws Exception {
    Files.copy(
        sandbox.file("dev.db"), sandbox.file("same.db"), StandardCopyOption.REPLACE_EXISTING);
    sandbox.sql("same.db", "DROP TABLE yemble_mark", "VACUUM");
    return digest(sandbox.file("same.db"));
  }

  @Test
  void twoRunsGiveTheSameFileAndLeaveTheSourceAlone() throws Exception {
    Sandbox sandbox = Sandbox.ready(folder);
    byte[] source = digest(sandbox.file("live.db"));
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
    byte[] first = withoutMark(sandbox);
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
    assertThat(withoutMark(sandbox)).isEqualTo(first);
    assertThat(digest(sandbox.file("live.db"))).isEqualTo(source);
    Files.delete(sandbox.file("dev.db"));
    sandbox.yemble("run", "--yes");
    assertThat(withoutMark(sandbox)).isEqualTo(first);
  }

  @Test
  void theSameAddressBecomesTheSameInTablesThatShareNoKey() throws Exception {
    Sandbox sandbox = Sandbox.ready(folder);
    sandbox.yemble("run", "--yes");
    assertThat(
            sandbox.one(
                "dev.db", "SELECT count(*) FROM reader r JOIN person p ON p.email = r.email"))
        .isEqualTo(2);
    assertThat(sandbox.query("dev.db", "SELECT name FROM person WHERE id IN (1, 4)"))
        .as("one name, two people")
        .hasSize(2)
        .satisfies(rows -> assertThat(rows.get(0)).isEqualTo(rows.get(1)));
    assertThat(sandbox.query("dev.db", "SELECT name, email FROM person WHERE id = 5"))
        .containsExactly(List.of("", ""));
  }

  @Test
  void anotherKeyGivesOtherMasks() throws Exception {
    Sandbox sandbox = Sandbox.ready(folder);
    sandbox.yemble("run", "--yes");
    List<List<Object>> one = sandbox.query("dev.db", "SELECT name, email FROM person WHERE id < 5");
    sandbox.key("AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA");
    sandbox.yemble("run", "--yes");
    assertThat(sandbox.query("dev.db", "SELECT name, email FROM person WHERE id < 5"))
        .isNotEqualTo(one);
  }

  @Test
  void linksIntoAnEmptyTableBecomeNull() throws Exception {
    Sandbox sandbox = Sandbox.ready(folder);
    sandbox.sql(
        "live.db",
        "CREATE TABLE session (id INTEGER PRIMARY KEY)",
        "INSERT INTO session VALUES (8)",
        "ALTER TABLE person ADD COLUMN session_id INTEGER REFERENCES session (id)",
        "UPDATE person SET session_id = 8");
    sandbox.register("live.db", Map.of());
    sandbox.write("yemble.yaml", Sandbox.PROJECT + "    empty: [session]\n");
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM person WHERE session_id IS NULL"))
        .isEqualTo(5);
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM session")).isEqualTo(0);
  }

  @Test
  void structureAndCountersComeAlong() throws Exception {
    Sandbox sandbox = new Sandbox(folder);
    sandbox.sql(
        "live.db",
        "PRAGMA user_version = 41",
        "CREATE TABLE \"Odd name\" (id INTEGER PRIMARY KEY AUTOINCREMENT, \"a b\" TEXT DEFAULT 'x',"
            + " double INTEGER GENERATED ALWAYS AS (id * 2) STORED, c BLOB, CHECK (id > 0))",
        "CREATE UNIQUE INDEX one ON \"Odd name\" (\"a b\") WHERE c IS NULL",
        "INSERT INTO \"Odd name\" (id, \"a b\", c) VALUES (3, 'p', x'00ff'), (7, 1.5, 12)",
        "DELETE FROM \"Odd name\" WHERE id = 0",
        "UPDATE sqlite_sequence SET seq = 90");
    sandbox.write("yemble.yaml", Sandbox.PROJECT);
    sandbox.key(Sandbox.KEY);
    sandbox.write(
        "register.csv",
        "column,decision\n\"\"\"Odd name\"\".id\",keep\n\"\"\"Odd name\"\".\"\"a b\"\"\",keep\n"
            + "\"\"\"Odd name\"\".double\",keep\n\"\"\"Odd name\"\".c\",keep\n");
    Program.Result result = sandbox.yemble("run", "--yes");
    assertThat(result.exitCode()).as(result.all()).isZero();
    assertThat(sandbox.query("dev.db", "SELECT sql FROM sqlite_master WHERE name <> 'yemble_mark'"))
        .isEqualTo(sandbox.query("live.db", "SELECT sql FROM sqlite_master"));
    String all = "SELECT id, \"a b\", double, typeof(\"a b\"), hex(c), typeof(c) FROM \"Odd name\"";
    assertThat(sandbox.query("dev.db", all)).isEqualTo(sandbox.query("live.db", all));
    assertThat(sandbox.one("dev.db", "PRAGMA user_version")).isEqualTo(41);
    sandbox.sql("dev.db", "INSERT INTO \"Odd name\" (\"a b\") VALUES ('next')");
    assertThat(sandbox.one("dev.db", "SELECT max(id) FROM \"Odd name\"")).isEqualTo(91);
  }

  @Test
  void aDryRunWritesNothing() throws Exception {
    Sandbox sandbox = Sandbox.ready(folder);
    Program.Result result = sandbox.yemble("run", "--dry");
    assertThat(result.exitCode()).isZero();
    assertThat(result.out())
        .contains("live (production)", "dev (test)", "Dry: nothing was written")
        .containsPattern("person\\.name +full-name +4");
    assertThat(sandbox.file("dev.db")).doesNotExist();
  }

  @Test
  void withoutATerminalNothingIsWrittenUnlessYesIsSaid() throws Exception {
    Sandbox sandbox = Sandbox.ready(folder);
    Program.Result result = sandbox.yemble("run");
    assertThat(result.exitCode()).isEqualTo(3);
    assertThat(result.err()).contains("no terminal to ask on", "--yes");
    assertThat(sandbox.file("dev.db")).doesNotExist();
  }

  @Test
  void aTargetThatIsNotEmptyIsRefusedUnlessItIsToBeReplaced() throws Exception {
    Sandbox sandbox = Sandbox.ready(folder);
    sandbox.write("yemble.yaml", Sandbox.PROJECT.replace("    load: replace\n", ""));
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
    byte[] before = digest(sandbox.file("dev.db"));
    Program.Result again = sandbox.yemble("run", "--yes");
    assertThat(again.exitCode()).isEqualTo(3);
    assertThat(again.err()).contains("not empty", "load: replace");
    assertThat(digest(sandbox.file("dev.db"))).isEqualTo(before);
  }

  @Test
  void replaceKeepsWhatYembleDidNotMake() throws Exception {
    Sandbox sandbox = Sandbox.ready(folder);
    sandbox.yemble("run", "--yes");
    sandbox.sql("dev.db", "CREATE TABLE mine (x)", "INSERT INTO mine VALUES (5)");
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
    assertThat(sandbox.one("dev.db", "SELECT x FROM mine")).isEqualTo(5);
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM person")).isEqualTo(5);

    sandbox.sql("dev.db", "DELETE FROM yemble_mark WHERE value = 'person'");
    Program.Result refused = sandbox.yemble("run", "--yes");
    assertThat(refused.exitCode()).isEqualTo(3);
    assertThat(refused.err()).contains("did not make", "person");
  }

  @ParameterizedTest
  @ValueSource(strings = {"same", "symbolic", "hard", "dotted"})
  void theSourceIsNeverATarget(String how) throws Exception {
    Sandbox sandbox = Sandbox.ready(folder);
    Path other = sandbox.file("other.db");
    switch (how) {
      case "symbolic" -> Files.createSymbolicLink(other, sandbox.file("live.db"));
      case "hard" -> Files.createLink(other, sandbox.file("live.db"));
      default -> {}
    }
    String url =
        how.equals("same") ? "live.db" : how.equals("dotted") ? "./x/../live.db" : "other.db";
    sandbox.write("yemble.yaml", Sandbox.PROJECT.replace("sqlite:dev.db", "sqlite:" + url));
    byte[] before = digest(sandbox.file("live.db"));
    Program.Result result = sandbox.yemble("run", "--yes");
    assertThat(result.exitCode()).isEqualTo(3);
    assertThat(result.err()).contains("is the same database as live (production)");
    assertThat(digest(sandbox.file("live.db"))).isEqualTo(before);
  }

  @Test
  void aTargetBehindASymbolicLinkIsReplacedWhereItLies() throws Exception {
    Sandbox sandbox = Sandbox.ready(folder);
    Files.createDirectory(sandbox.file("elsewhere"));
    sandbox.sql("elsewhere/real.db", "CREATE TABLE x (y)", "DROP TABLE x");
    Files.createSymbolicLink(sandbox.file("dev.db"), sandbox.file("elsewhere/real.db"));
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
    assertThat(sandbox.file("dev.db")).isSymbolicLink();
    assertThat(sandbox.one("elsewhere/real.db", "SELECT count(*) FROM person")).isEqualTo(5);
  }

  /** Killed at random moments: the target is the old one or the new one, and the next run works. */
  @Test
  void aKilledRunLeavesTheOldTargetOrTheNewOne() throws Exception {
    Sandbox sandbox = Sandbox.ready(folder);
    sandbox.yemble("run", "--yes");
    sandbox.sql(
        "live.db",
        "INSERT INTO reader WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE"
            + " i < 30000) SELECT 'r' || i || '@c.example' FROM n");
    byte[] source = digest(sandbox.file("live.db"));
    Random random = new Random(7);
    for (int i = 0; i < 5; i++) {
      Process process =
          new ProcessBuilder(Program.command("run", "--yes"))
              .directory(folder.toFile())
              .redirectOutput(ProcessBuilder.Redirect.DISCARD)
              .redirectError(ProcessBuilder.Redirect.DISCARD)
              .start();
      Thread.sleep(300 + random.nextInt(1_200));
      process.destroyForcibly().waitFor(10, TimeUnit.SECONDS);
      assertThat(sandbox.one("dev.db", "SELECT count(*) FROM reader")).isIn(4, 30_004);
      assertThat(sandbox.one("dev.db", "PRAGMA integrity_check")).isEqualTo("ok");
    }
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM reader")).isEqualTo(30_004);
    assertThat(sandbox.file("dev.db.yemble-part")).doesNotExist();
    assertThat(digest(sandbox.file("live.db"))).isEqualTo(source);
  }

  @Test
  void aFullDiskLeavesTheOldTarget() throws IOException, SQLException {
    Sandbox sandbox = Sandbox.ready(folder);
    sandbox.yemble("run", "--yes");
    sandbox.sql(
        "live.db",
        "INSERT INTO reader WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE"
            + " i < 200000) SELECT 'r' || i || '@c.example' FROM n");
    String command = String.join(" ", Program.command("run", "--yes"));
    Program.Result result =
        Program.run(folder, Map.of(), List.of("bash", "-c", "ulimit -f 4000; exec " + command));
    assertThat(result.exitCode()).as(result.all()).isEqualTo(4);
    assertThat(result.err()).contains("where:", "dev.db", "disk").doesNotContain("Exception");
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM reader")).isEqualTo(4);
    assertThat(sandbox.file("dev.db.yemble-part")).doesNotExist();
  }
}
