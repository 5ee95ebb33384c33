package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Every check of verify finds the fault that is planted for it, where nothing tells of the load.
 */
class VerifyIT {
  @TempDir static Path template;
  @TempDir Path folder;

  @BeforeAll
  static void load() throws IOException, SQLException {
    Program.Result run = Sandbox.ready(template).yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
  }

  private Sandbox loaded() throws IOException {
    return new Sandbox(template).copy(folder).quick();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "DELETE FROM reader WHERE rowid = 1 | rows | reader: 1 row of the plan missing",
        "INSERT INTO purchase VALUES (4, 9, NULL) | rows | purchase: 1 row too many",
        "DROP TABLE reader | rows | reader is missing",
        "DELETE FROM person WHERE id = 2 | references | purchase.person_id -> person.id: 1 row without a parent",
        "UPDATE person SET boss_id = 77 WHERE id = 3 | references | person.boss_id -> person.id: 1 row",
        "UPDATE purchase SET note = 'other' WHERE note = 'x' | kept values | purchase.note: 1 cell altered",
        "UPDATE person SET name = 'Orla Tidewick' WHERE id = 1 | no leak | person.name: 1 cell not what",
        "UPDATE person SET email = NULL WHERE id = 2 | no leak | person.email: 1 cell not what",
        "UPDATE person SET name = 'Somebody Else' WHERE id = 4 | equal stays equal | person.name: in 1 cell",
        "DROP TABLE reader; CREATE TABLE reader (email TEXT, x) | no leak | reader",
      })
  void aPlantedFaultIsFound(String fault, String check, String detail)
      throws IOException, SQLException {
    Sandbox sandbox = loaded();
    sandbox.sql("dev.db", (fault + "; DROP TABLE yemble_mark").split(";"));
    Program.Result result = sandbox.yemble("verify");
    assertThat(result.exitCode()).isEqualTo(1);
    if (!detail.equals("reader")) {
      assertThat(result.out()).containsPattern("fails +" + check).contains(detail);
    } else {
      assertThat(result.out()).contains("rows of the plan missing");
    }
    assertThat(result.all()).doesNotContain("Orla", "tidewick", "Somebody");
  }

  @Test
  void withoutAFaultEverythingHoldsThere() throws IOException, SQLException {
    Sandbox sandbox = loaded();
    sandbox.sql("dev.db", "DROP TABLE yemble_mark");
    Program.Result result = sandbox.yemble("verify");
    assertThat(result.exitCode()).as(result.all()).isZero();
    assertThat(result.out()).contains("Everything holds.", "remembers nothing of a load");
  }

  @Test
  void aDuplicateInAUniqueKeyIsFound() throws IOException, SQLException {
    Sandbox sandbox = loaded();
    sandbox.sql(
        "dev.db",
        "CREATE TABLE p2 AS SELECT * FROM person",
        "DROP TABLE person",
        "ALTER TABLE p2 RENAME TO person",
        "UPDATE person SET email = (SELECT email FROM person WHERE id = 2) WHERE id = 1",
        "DROP TABLE yemble_mark");
    Program.Result result = sandbox.yemble("verify");
    assertThat(result.exitCode()).isEqualTo(1);
    assertThat(result.out())
        .containsPattern("fails +unique stays unique")
        .contains("person (email): 1 value more than once");
  }

  /** A source that another program writes to during the run is noticed, and nothing is loaded. */
  @Test
  void aSourceThatChangesMeanwhileIsFound() throws IOException, SQLException {
    Sandbox sandbox = Sandbox.ready(folder);
    sandbox.sql("live.db", "PRAGMA journal_mode = WAL");
    String many =
        "INSERT INTO reader WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n"
            + " WHERE i < 300000) SELECT 'reader' || i || '@c.example' FROM n";
    sandbox.sql("live.db", many, "PRAGMA wal_checkpoint(TRUNCATE)");
    Thread meddler =
        new Thread(
            () -> {
              try {
                while (!Files.exists(sandbox.file("dev.db.yemble-part"))) {
                  Thread.sleep(5);
                }
                try (var out =
                    Files.newOutputStream(
                        sandbox.file("live.db"), java.nio.file.StandardOpenOption.APPEND)) {
                  out.write(new byte[4096]);
                }
              } catch (IOException | InterruptedException e) {
                throw new IllegalStateException(e);
              }
            });
    meddler.start();
    Program.Result result = sandbox.yemble("run", "--yes");
    assertThat(result.exitCode()).isEqualTo(1);
    assertThat(result.out()).containsPattern("fails +source untouched").contains("Not loaded");
    assertThat(sandbox.file("dev.db")).doesNotExist();
  }
}
