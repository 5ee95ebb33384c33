package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Arrays;
import java.util.Deque;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import picocli.CommandLine;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;

/**
 * The review at the terminal, pressed key by key; the register is a file, the source a database.
 */
class ReviewTest {
  @TempDir Path folder;
  private Sandbox sandbox;

  @BeforeEach
  void ready() throws Exception {
    sandbox = new Sandbox(folder);
    sandbox.sql(
        "live.db",
        "CREATE TABLE person (id INTEGER PRIMARY KEY, nick TEXT, email TEXT)",
        "CREATE TABLE pet (name TEXT, sort TEXT, owner INTEGER REFERENCES person (id))");
    sandbox.write("yemble.yaml", Sandbox.PROJECT);
    sandbox.write(
        "register.csv",
        """
        column,type,kind,decision,confidence,evidence,by,on,reason
        person.id,INTEGER,,keep,0.95,,survey,2026-01-01,
        person.nick,TEXT,,undecided,,text,,,
        person.email,TEXT,email,undecided,0.60,called so,,,
        pet.name,TEXT,full-name,undecided,0.55,called so,,,
        pet.sort,TEXT,,undecided,0.70,3 short values,,,
        pet.owner,INTEGER,,keep,0.95,,survey,2026-01-01,
        """);
  }

  /** Presses keys; a word among them is what is typed after a question. */
  private Register review(String... pressed) {
    Deque<String> keys = new ArrayDeque<>(Arrays.asList(pressed));
    RegisterReview command = new RegisterReview();
    new CommandLine(command).parseArgs("--project", folder.toString());
    Project project = command.common.read();
    command.review(
        project,
        project.databases().get("live"),
        new Keys() {
          @Override
          public int key() {
            return keys.isEmpty() ? -1 : keys.poll().charAt(0);
          }

          @Override
          public String line(String question) {
            return keys.isEmpty() ? "" : keys.poll();
          }

          @Override
          public void close() {}
        });
    return Register.read(folder.resolve("register.csv"), "register.csv");
  }

  private static void is(Register register, String column, Decision decision, String kind) {
    RegisterLine line = register.line(column);
    assertThat(line.decision()).as(column).isEqualTo(decision);
    assertThat(line.kind()).as(column).isEqualTo(kind);
  }

  @Test
  void everyAnswerDecidesOneColumn() {
    Register after = review("o", "given-name", "a", "k", "a pet is no person", "a");
    is(after, "person.nick", Decision.MASK, "given-name");
    is(after, "person.email", Decision.MASK, "email");
    is(after, "pet.name", Decision.KEEP, "full-name");
    assertThat(after.line("pet.name").reason()).isEqualTo("a pet is no person");
    is(after, "pet.sort", Decision.KEEP, "");
    assertThat(after.line("person.nick").by()).isEqualTo(System.getProperty("user.name"));
  }

  @Test
  void anAnswerIsTakenBack() {
    Register after = review("m", "m", "u", "k", "made up", "q");
    is(after, "person.nick", Decision.MASK, "");
    is(after, "person.email", Decision.KEEP, "email");
    is(after, "pet.name", Decision.UNDECIDED, "full-name");
  }

  @Test
  void whoLeavesGoesOnLater() {
    is(review("s", "a", "q"), "person.nick", Decision.UNDECIDED, "");
    Register after = review("m", "q");
    is(after, "person.nick", Decision.MASK, "");
    is(after, "person.email", Decision.MASK, "email");
  }

  @Test
  void theRestOfATableIsSettledAtOnce() {
    Register after = review("s", "s", "t", "pets are no people");
    is(after, "pet.name", Decision.KEEP, "full-name");
    is(after, "pet.sort", Decision.KEEP, "");
    assertThat(after.line("pet.sort").reason()).isEqualTo("pets are no people");
  }

  @Test
  void keepingWhatLooksPersonalNeedsAReason() {
    is(review("s", "k", "", "q"), "person.email", Decision.UNDECIDED, "email");
  }

  @Test
  void askingForValuesDecidesNothing() throws Exception {
    sandbox.sql("live.db", "INSERT INTO person VALUES (1, 'Moss', NULL)");
    is(review("v", "v", "m", "q"), "person.nick", Decision.MASK, "");
  }

  @Test
  void anUnknownKindIsAskedForAgain() {
    is(review("o", "gvn-name", "m", "q"), "person.nick", Decision.MASK, "");
  }

  @Test
  void theEndOfTheInputLeavesTheRest() {
    is(review(), "person.nick", Decision.UNDECIDED, "");
  }
}
