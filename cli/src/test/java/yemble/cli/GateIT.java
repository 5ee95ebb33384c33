package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What changes in the source or the register stops a run, and the message says what to do. */
class GateIT {
  @TempDir Path folder;
  private Sandbox sandbox;

  @BeforeEach
  void ready() throws Exception {
    sandbox = Sandbox.ready(folder).quick();
  }

  private void refused(int code, String... said) {
    Program.Result result = sandbox.yemble("run", "--yes");
    assertThat(result.exitCode()).as(result.all()).isEqualTo(code);
    assertThat(result.err()).contains(said);
    assertThat(Files.exists(folder.resolve("dev.db"))).isFalse();
  }

  private void good(String... args) {
    Program.Result result = sandbox.yemble(args);
    assertThat(result.exitCode()).as(result.all()).isZero();
  }

  @Test
  void aNewColumn() throws SQLException {
    sandbox.sql("live.db", "ALTER TABLE person ADD COLUMN phone TEXT");
    refused(3, "person.phone is not in the register", "yemble survey");
    Program.Result check = sandbox.yemble("register", "--check");
    assertThat(check.exitCode()).isEqualTo(1);
    assertThat(check.out()).contains("person.phone is not in the register");
    Program.Result survey = sandbox.yemble("survey");
    assertThat(survey.out()).contains("New since the last survey: person.phone");
    good("register", "mask", "person.phone", "--as", "phone");
    good("run", "--yes");
  }

  @Test
  void aNewColumnOfATableThatWasSettledAsAWhole() throws Exception {
    good("register", "keep", "purchase", "--reason", "orders say nothing of people");
    sandbox.sql("live.db", "ALTER TABLE purchase ADD COLUMN courier TEXT");
    refused(3, "purchase.courier is not in the register");
    Files.deleteIfExists(folder.resolve(".yemble/schema-live.json"));
    good("register", "keep", "purchase", "--reason", "looked at again");
    assertThat(sandbox.read("register.csv")).contains("purchase.courier,TEXT,,keep");
    good("run", "--yes");
  }

  @Test
  void aNewTable() throws SQLException {
    sandbox.sql("live.db", "CREATE TABLE secret_diary (entry TEXT)");
    refused(3, "secret_diary.entry is not in the register");
  }

  @Test
  void aColumnOfAnotherType() throws Exception {
    sandbox.sql("live.db", "DROP TABLE reader", "CREATE TABLE reader (email BLOB)");
    refused(3, "reader.email was reviewed as TEXT and is now BLOB");
    Program.Result survey = sandbox.yemble("survey");
    assertThat(survey.out()).doesNotContain("Nothing is open");
    good("register", "mask", "reader.email", "--as", "email");
    good("run", "--yes");
  }

  @Test
  void aRenamedTable() throws SQLException {
    sandbox.sql("live.db", "ALTER TABLE reader RENAME TO listener");
    refused(2, "the source has no table reader", "register.csv:", "delete the line");
  }

  @Test
  void aLineThatIsGone() throws Exception {
    sandbox.write(
        "register.csv", sandbox.read("register.csv").replaceFirst("reader\\.email.*\n", ""));
    refused(3, "reader.email is not in the register");
  }

  @Test
  void anUnknownWord() throws Exception {
    String register = sandbox.read("register.csv");
    sandbox.write("register.csv", register.replace("email,mask", "emial,mask"));
    refused(2, "unknown kind \"emial\"", "register.csv:", "email");
    sandbox.write("register.csv", register.replaceFirst("keep", "kepe"));
    refused(2, "unknown decision \"kepe\"", "register.csv:", "keep");
  }

  @Test
  void aKindThatHasNoMaskYet() throws Exception {
    sandbox.write("yemble.yaml", Sandbox.PROJECT + "kinds:\n  loyalty: { category: identity }\n");
    good("register", "mask", "purchase.note", "--as", "loyalty");
    refused(3, "purchase.note is a loyalty, a kind that has no mask yet");
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT
            + "kinds:\n  loyalty: { category: identity }\nmasks:\n  loyalty: { as: shape }\n");
    good("run", "--yes");
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM purchase WHERE note IS NOT NULL"))
        .isEqualTo(3);
  }

  @Test
  void whatSurveyDecidedWherePeopleReview() throws Exception {
    Files.delete(folder.resolve("register.csv"));
    good("survey");
    String bySurvey = sandbox.read("register.csv");
    assertThat(bySurvey).contains("reader.email,TEXT,email,mask,");
    sandbox.write("yemble.yaml", Sandbox.PROJECT + "survey: { review: people }\n");
    refused(3, "reader.email was decided by survey, and \"review: people\" asks for a person");
    good("survey");
    assertThat(sandbox.read("register.csv")).contains("reader.email,TEXT,email,undecided,");
    good("register", "accept");
    good("register", "keep", "--open", "--reason", "looked at");
    good("run", "--yes");
  }

  @Test
  void whatTheDataNowContradictsIsWarnedAbout() throws SQLException {
    assertThat(sandbox.yemble("run", "--dry").out()).doesNotContain("warning");
    sandbox.sql(
        "live.db",
        "DELETE FROM reader",
        "INSERT INTO reader WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 50)"
            + " SELECT 'shelf ' || i FROM n");
    Program.Result result = sandbox.yemble("run", "--yes");
    assertThat(result.exitCode()).as(result.all()).isZero();
    assertThat(result.out())
        .contains("reader.email is masked as email, but only 0 of 50 sampled values look like one");
  }
}
