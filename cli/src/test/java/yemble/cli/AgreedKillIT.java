package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Two projects that share a list of stand-ins and a token store: at work at the same time, with
 * somebody who fills the list; and killed at random moments, as often as {@code yemble.kills} says.
 */
class AgreedKillIT {
  private static final String WORDS =
      """
      pins:
        staff:
          file: ../shared/staff.csv
          by: person.national_id
          remember: true
          gives: { account.username: login, account.secret: { password: password } }
          patterns: { login: 'tester-[0-9]{6}' }
      stores: { cards: { url: 'jdbc:sqlite:../shared/cards.tokens', key: '${file:../shared/store.key}' } }
      columns: { payment.card_no: { token: { store: cards, like: '40[0-9]{14}' } } }
      """;

  @TempDir Path folder;
  private PeopleWorld one;
  private Sandbox other;

  @BeforeEach
  void twoProjects() throws Exception {
    one = new PeopleWorld("sqlite", Files.createDirectory(folder.resolve("one")));
    one.project(WORDS);
    Files.createDirectory(folder.resolve("shared"));
    one.yemble(0, "key", "new", "store", "../shared/store.key");
    one.yemble(0, "tokens", "begin", "cards");
    one.yemble(0, "pins", "fill", "staff", "--where", "id < 1");
    other = one.files.copy(Files.createDirectory(folder.resolve("two")));
  }

  private Process start(Sandbox project, String... words) throws Exception {
    List<String> command = new ArrayList<>(Program.command(words));
    return new ProcessBuilder(command)
        .directory(project.folder.toFile())
        .redirectErrorStream(true)
        .redirectOutput(project.folder.resolve(words[0] + ".out").toFile())
        .start();
  }

  private void ends(Process process, Sandbox project, String word) throws Exception {
    assertThat(process.waitFor(2, TimeUnit.MINUTES)).isTrue();
    assertThat(process.exitValue()).as(project.read(word + ".out")).isZero();
  }

  /** A line for each person, once, with all that it is to have. */
  private void isWhole(int people) throws Exception {
    List<String> lines = Files.readAllLines(folder.resolve("shared/staff.csv"));
    assertThat(lines.get(0)).isEqualTo("key,login,password");
    assertThat(lines.subList(1, lines.size()))
        .hasSize(people)
        .allMatch(line -> line.matches("k[0-9a-f]{32},tester-[0-9]{6},[a-z]+(-[a-z]+){3}-[0-9]{3}"))
        .extracting(line -> line.split(",")[0])
        .doesNotHaveDuplicates();
    assertThat(lines).extracting(line -> line.split(",")[1]).doesNotHaveDuplicates();
  }

  /** Every token of a target is led back by the store, to its own card. */
  private void leadsBack(Sandbox project) throws Exception {
    List<List<Object>> rows =
        project.query(
            "dev.db",
            "ATTACH '" + one.files.file("live.db") + "' AS l",
            "SELECT d.card_no, s.card_no FROM payment d JOIN l.payment s ON s.id = d.id");
    StringBuilder tokens = new StringBuilder();
    StringBuilder wanted = new StringBuilder();
    for (List<Object> row : rows) {
      tokens.append(row.get(0)).append('\n');
      wanted.append(row.get(0)).append('\t').append(row.get(1)).append('\n');
    }
    Program.Result back =
        project.reading(
            tokens.toString(), "tokens", "original", "cards", "-", "--reason", "a test");
    assertThat(back.out()).as(back.err()).isEqualTo(wanted.toString());
  }

  @Test
  void twoRunsAndOneWhoFillsTheList() throws Exception {
    Process first = start(one.files, "run", "--yes");
    Process second = start(other, "run", "--yes");
    Process third = start(other, "pins", "fill", "staff");
    ends(first, one.files, "run");
    ends(second, other, "run");
    ends(third, other, "pins");
    isWhole(PeopleWorld.PEOPLE);
    leadsBack(one.files);
    leadsBack(other);
    List<List<Object>> logins = one.files.query("dev.db", "SELECT * FROM account ORDER BY 1");
    assertThat(other.query("dev.db", "SELECT * FROM account ORDER BY 1")).isEqualTo(logins);
  }

  @Test
  void wheneverOneIsKilledListAndStoreAreWhole() throws Exception {
    int kills = Integer.getInteger("yemble.kills", 2);
    Random random = new Random(Long.getLong("yemble.seed", 1));
    long took = 2_500;
    Map<Integer, String[]> commands =
        Map.of(0, new String[] {"run", "--yes"}, 1, new String[] {"pins", "fill", "staff"});
    for (int i = 0; i < kills; i++) {
      one.add(100 + i, "Somebody New");
      String[] words = commands.get(i % 2);
      Process killed = start(other, words);
      Process beside = start(one.files, words);
      killed.waitFor((long) (random.nextDouble() * took), TimeUnit.MILLISECONDS);
      killed.destroyForcibly().waitFor();
      ends(beside, one.files, words[0]);
      isWhole(PeopleWorld.PEOPLE + i + 1);
      try (var files = Files.list(folder.resolve("shared"))) {
        assertThat(files.map(file -> file.getFileName().toString()))
            .allMatch(
                name ->
                    name.matches("staff.csv|\\.staff.csv..*(part|lock)|cards.tokens.*|store.key"));
      }
      Sandbox shared = new Sandbox(folder.resolve("shared"));
      assertThat(shared.one("cards.tokens", "PRAGMA integrity_check")).isEqualTo("ok");
    }
    Files.copy(
        one.files.file("live.db"),
        other.file("live.db"),
        java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    for (Sandbox each : List.of(one.files, other)) {
      Process run = start(each, "run", "--yes");
      ends(run, each, "run");
      leadsBack(each);
    }
    isWhole(PeopleWorld.PEOPLE + kills);
  }
}
