package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
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
    return review(new Output(new Terminal(true, true, true, 100, false)), pressed);
  }

  private Register review(Output output, String... pressed) {
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
          public Optional<String> line(String question, Collection<String> known) {
            return Optional.ofNullable(keys.poll());
          }

          @Override
          public void close() {}
        },
        output);
    return Register.read(folder.resolve("register.csv"), "register.csv");
  }

  private static void is(Register register, String column, Decision decision, String kind) {
    RegisterLine line = register.line(column);
    assertThat(line.decision()).as(column).isEqualTo(decision);
    assertThat(line.kind()).as(column).isEqualTo(kind);
  }

  @Test
  void everyAnswerDecidesOneColumn() {
    Register after = review("a", "k", "a pet is no person", "o", "given-name", "a");
    is(after, "person.email", Decision.MASK, "email");
    is(after, "pet.name", Decision.KEEP, "full-name");
    assertThat(after.line("pet.name").reason()).isEqualTo("a pet is no person");
    is(after, "person.nick", Decision.MASK, "given-name");
    is(after, "pet.sort", Decision.KEEP, "");
    assertThat(after.line("person.nick").by()).isEqualTo(System.getProperty("user.name"));
  }

  @Test
  void coloursAreColoursOnTheScreen() {
    ByteArrayOutputStream screen = new ByteArrayOutputStream();
    PrintStream before = System.out;
    System.setOut(new PrintStream(screen, true, StandardCharsets.UTF_8));
    try {
      review(new Output(new Terminal(true, true, true, 100, true)), "m", "t", "m", "q");
    } finally {
      System.setOut(before);
    }
    assertThat(screen.toString(StandardCharsets.UTF_8))
        .contains(
            "\u001b[32mmask person.email as email\u001b[0m", "\u001b[32mmask pet.sort\u001b[0m")
        .doesNotContain("\\u");
  }

  @Test
  void anAnswerIsTakenBack() {
    Register after = review("m", "m", "u", "k", "made up", "q");
    is(after, "person.email", Decision.MASK, "email");
    is(after, "pet.name", Decision.KEEP, "full-name");
    is(after, "person.nick", Decision.UNDECIDED, "");
  }

  @Test
  void whatWasSkippedIsTakenBackToo() {
    Register after = review("s", "u", "m", "u", "u", "q");
    is(after, "person.email", Decision.UNDECIDED, "email");
    after = review("s", "s", "u", "m", "q");
    is(after, "person.email", Decision.UNDECIDED, "email");
    is(after, "pet.name", Decision.MASK, "full-name");
  }

  @Test
  void whoLeavesGoesOnLater() {
    is(review("s", "a", "q"), "person.email", Decision.UNDECIDED, "email");
    Register after = review("m", "q");
    is(after, "pet.name", Decision.MASK, "full-name");
    is(after, "person.email", Decision.MASK, "email");
  }

  @Test
  void theRestOfATableIsKeptAtOnce() {
    Register after = review("s", "t", "k", "pets are no people");
    is(after, "pet.name", Decision.KEEP, "full-name");
    is(after, "pet.sort", Decision.KEEP, "");
    assertThat(after.line("pet.sort").reason()).isEqualTo("pets are no people");
  }

  @Test
  void ofTheRestOfATableTheSuggestionsAreTakenOrNothing() {
    is(review("t", "x", "q"), "person.email", Decision.UNDECIDED, "email");
    Register after = review("t", "a", "q");
    is(after, "person.email", Decision.MASK, "email");
    is(after, "person.nick", Decision.UNDECIDED, "");
  }

  @Test
  void keepingWhatLooksPersonalNeedsAReason() {
    is(review("k", "", "q"), "person.email", Decision.UNDECIDED, "email");
  }

  @Test
  void askingForValuesDecidesNothing() throws Exception {
    sandbox.sql("live.db", "INSERT INTO person VALUES (1, 'Moss', NULL)");
    is(review("s", "s", "v", "v", "m", "q"), "person.nick", Decision.MASK, "");
  }

  @Test
  void anUnknownKindIsAskedForAgainAndAnEmptyOneGoesBack() {
    is(review("o", "gvn-name", "?", "", "m", "q"), "person.email", Decision.MASK, "email");
    is(review("o", "gvn-name", "company", "q"), "pet.name", Decision.MASK, "company");
  }

  @Test
  void theEndOfTheInputLeavesTheRest() {
    is(review(), "person.nick", Decision.UNDECIDED, "");
    is(review("k"), "person.email", Decision.UNDECIDED, "email");
  }

  /** A source with columns of which survey knows the sort alone. */
  private void surveyed() throws Exception {
    List<String> sql = new ArrayList<>();
    sql.add("CREATE TABLE passenger (id INTEGER PRIMARY KEY, email TEXT, hold TEXT, grip INTEGER)");
    sql.add("CREATE TABLE crate (id INTEGER PRIMARY KEY, hold TEXT, seal TEXT, remark TEXT)");
    sql.add("CREATE TABLE pallet (id INTEGER PRIMARY KEY, wood TEXT, remark TEXT, email TEXT)");
    for (int i = 0; i < 60; i++) {
      String hold = List.of("fore", "mid", "aft").get(i % 3);
      String seal = List.of("wax", "tin").get(i % 2);
      sql.add(
          "INSERT INTO passenger VALUES (%d, 'a%d.moss@site.example', '%s', %d)"
              .formatted(i, i, hold, i % 9));
      sql.add("INSERT INTO crate VALUES (%d, '%s', '%s', NULL)".formatted(i, hold, seal));
      sql.add("INSERT INTO pallet VALUES (%d, '%s', NULL, NULL)".formatted(i, seal));
    }
    sandbox.sql("live.db", "DROP TABLE pet", "DROP TABLE person");
    sandbox.sql("live.db", sql.toArray(String[]::new));
    Files.delete(folder.resolve("register.csv"));
    assertThat(sandbox.quick().yemble("survey").exitCode()).isZero();
  }

  @Test
  void columnsThatAreAlikeAreOneQuestion() throws Exception {
    surveyed();
    Register after = review("k", "of cargo", "k", "", "s", "e", "m", "k", "sorts of wax", "q");
    is(after, "crate.remark", Decision.KEEP, "");
    is(after, "pallet.remark", Decision.KEEP, "");
    assertThat(after.line("pallet.remark").reason()).isEqualTo("of cargo");
    is(after, "pallet.wood", Decision.KEEP, "");
    is(after, "passenger.hold", Decision.KEEP, "");
    assertThat(after.line("passenger.hold").reason()).isEqualTo("a few fixed words");
    is(after, "passenger.grip", Decision.UNDECIDED, "");
    is(after, "crate.hold", Decision.MASK, "");
    is(after, "crate.seal", Decision.KEEP, "");
  }

  @Test
  void someColumnsAreTakenOutOfAGroup() throws Exception {
    surveyed();
    Register after = review("x", "", "x", "2", "k", "of cargo", "m", "q");
    is(after, "crate.remark", Decision.KEEP, "");
    is(after, "pallet.remark", Decision.MASK, "");
  }

  @Test
  void aGroupThatWasOpenedIsClosedAgain() throws Exception {
    surveyed();
    Register after = review("e", "u", "m", "q");
    is(after, "crate.remark", Decision.MASK, "");
    is(after, "pallet.remark", Decision.MASK, "");
  }

  @Test
  void manyLinkedColumnsAreDecidedAlikeOnlyIfSomebodySaysSo() throws Exception {
    StringBuilder lines = new StringBuilder();
    for (int i = 1; i <= 5; i++) {
      sandbox.sql("live.db", "CREATE TABLE log%d (who TEXT REFERENCES person (nick))".formatted(i));
      lines.append("log%d.who,TEXT,,undecided,,text,,,\n".formatted(i));
    }
    String before = sandbox.read("register.csv") + lines;
    sandbox.write("register.csv", before);
    Register after = review("s", "s", "m", "n", "q");
    is(after, "person.nick", Decision.MASK, "");
    is(after, "log1.who", Decision.UNDECIDED, "");
    sandbox.write("register.csv", before);
    after = review("s", "s", "m", "y", "q");
    is(after, "log5.who", Decision.MASK, "");
  }
}
