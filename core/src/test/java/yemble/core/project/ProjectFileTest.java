package yemble.core.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.IOException;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.problem.Problem;
import yemble.core.yaml.Place;

class ProjectFileTest {
  private static final String HEAD =
      "version: 1\ndatabases:\n  live: { url: 'jdbc:sqlite:live.db' }\n  dev: { url: x, environment: test }\n";

  @TempDir Path folder;

  private Project read(String text) throws IOException {
    Files.writeString(folder.resolve(Project.FILE), text);
    return ProjectFile.read(folder);
  }

  @Test
  void everyWordIsRead() throws IOException {
    Project project =
        read(
            HEAD
                + """
                as-of: 2025-06-30
                links:
                  a.b -> c.d: {}
                  'ticket.(booking_id, leg) -> leg.(booking_id, no)': { follow: always, at-most: 5 }
                  '"Odd name".x': { cut: true, where: "v > 1", if: "s = 'P'", broken: leave-out }
                jobs:
                  nightly:
                    from: live
                    into: dev
                    load: replace
                    pick:
                      booking: { where: "x > 1", share: 3%, rows: 200 }
                      incident:
                    whole: [port, route]
                    empty:
                      - web_session
                """);
    assertThat(project.asOf()).hasToString("2025-06-30");
    assertThat(project.databases().get("live").environment()).isEqualTo(Environment.PRODUCTION);
    assertThat(project.links()).hasSize(3);
    assertThat(project.links().get(1).atMost()).isEqualTo(5);
    assertThat(project.links().get(2).link().child().table()).hasToString("\"Odd name\"");
    Job job = project.job("");
    assertThat(job.picks().get(0).share()).isEqualByComparingTo(new BigDecimal("0.03"));

    assertThat(job.empty().get(0).name()).isEqualTo("web_session");
  }

  @Test
  void wordsAndNumbersAreReadAsTheyAreWritten() throws IOException {
    Project project =
        read(HEAD + "jobs:\n  no: { from: live, whole: [no, 010, 1e3, null, off] }\n");
    assertThat(project.job("no").whole().stream().map(Job.Named::name))
        .containsExactly("no", "010", "1e3", "null", "off");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "jobz: {}\\n | unknown word \"jobz\" | :5:1 | did you mean \"jobs\"?",
        "jobs:\\n  a: { from: live, form: x }\\n | unknown word \"form\" | :6:20 | \"from\"",
        "jobs:\\n  a: { from: lve }\\n | there is no database \"lve\" | :6:14 | \"live\"",
        "jobs:\\n  a: { from: live, into: live }\\n | reads from and writes into the same | :6:26 | another",
        "jobs:\\n  a: { into: dev }\\n | does not say where from | :6:3 | from:",
        "jobs:\\n  a: { from: live, load: replaec }\\n | unknown word \"replaec\" | :6:26 | replace",
        "jobs:\\n  a: { from: live, pick: { p: { share: 0% } } }\\n | above 0 | :6:40 | ''",
        "jobs:\\n  a: { from: live, pick: { p: { share: much } } }\\n | expected a share | :6:40 | 3%",
        "jobs:\\n  a: { from: live, pick: { p: { rows: -1 } } }\\n | whole number | :6:39 | ''",
        "jobs:\\n  a: { from: live, pick: { p: { rows: 0 } } }\\n | at least 1 | :6:39 | ''",
        "links:\\n  a: {}\\n | this is not a link | :6:3 | child.column",
        "links:\\n  a.b -> c.(d, e): {}\\n | this is not a link | :6:3 | child.column",
        "links:\\n  a.b: { cut: yes }\\n | neither true nor false | :6:15 | write true or false",
        "as-of: tomorrow\\n | expected a day | :5:8 | 2026-01-01",
        "jobs: [a]\\n | expected words with values | :5:7 | ''",
        "jobs:\\n  a: { from: [live] }\\n | expected a single value | :6:14 | ''",
        "jobs:\\n  a: { from: }\\n | a value is missing | :6:13 | ''",
        "as-of: 2025-01-01\\nas-of: 2025-01-01\\n | a second time | :6:1 | keep one",
        "jobs:\\n  a: [\\n | this is not YAML | :7:1 | indentation",
        "jobs: x\\n | expected words with values | :5:7 | ''",
      })
  void aMistakeIsNamedWithItsPlace(String added, String what, String where, String remedy)
      throws IOException {
    Files.writeString(folder.resolve(Project.FILE), HEAD + added.replace("\\n", "\n"));
    Problem problem = catchThrowableOfType(Problem.class, () -> ProjectFile.read(folder));
    assertThat(problem.what()).contains(what);
    assertThat(problem.where()).isEqualTo("yemble.yaml" + where);
    assertThat(problem.remedy()).contains(remedy);
    assertThat(problem.exitCode()).isEqualTo(2);
  }

  @Test
  void settingsReferToTheirSurroundings() throws IOException {
    Files.writeString(folder.resolve("pw"), "secret\n");
    Place place = new Place("yemble.yaml", 3, 4);
    Setting setting = new Setting("a-${env:NAME}-${file:pw}", place, false);
    assertThat(setting.value(folder, java.util.Map.of("NAME", "x$1"))).isEqualTo("a-x$1-secret");
    Problem missing =
        catchThrowableOfType(Problem.class, () -> setting.value(folder, java.util.Map.of()));
    assertThat(missing.getMessage()).contains("NAME is not set", "yemble.yaml:3:4");
  }
}
