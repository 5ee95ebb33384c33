package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.core.mask.step.StepSort;
import yemble.core.mask.step.Steps;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;

/**
 * The schemas of what people write; with {@code -Dyemble.golden=write} they are written to the
 * docs, without it they are compared. That all projects of the tests are valid {@link Sandbox}
 * holds.
 */
class ProjectSchemaTest {
  private static final Pattern BLOCK = Pattern.compile("(?ms)^```yaml\\n(.*?)^```");

  private static final Map<String, String> MADE =
      Map.of(
          "yemble", ProjectSchema.text(ProjectSchema.ofProject()),
          "register-line", ProjectSchema.text(ProjectSchema.ofRegisterLine()));

  /** First of all, since the other tests read them. */
  @BeforeAll
  static void write() throws Exception {
    if ("write".equals(System.getProperty("yemble.golden"))) {
      for (Map.Entry<String, String> schema : MADE.entrySet()) {
        Files.writeString(file(schema.getKey()), schema.getValue());
      }
    }
  }

  private static Path file(String name) {
    return Schemas.FOLDER.resolve(name + ".schema.json");
  }

  @Test
  void theDocsHaveTheSchemas() {
    MADE.forEach(
        (name, text) ->
            assertThat(file(name)).as("write it with -Dyemble.golden=write").hasContent(text));
  }

  /** Blocks of the docs that are a project, or sections of one. */
  @Test
  void everyExampleOfTheDocsIsValid() throws Exception {
    List<String> sections = new ArrayList<>();
    ProjectSchema.ofProject().get("properties").fieldNames().forEachRemaining(sections::add);
    int seen = 0;
    try (Stream<Path> docs =
        Stream.concat(Files.list(Path.of("../docs")), Stream.of(Path.of("../README.md")))) {
      for (Path doc : docs.filter(file -> file.toString().endsWith(".md")).toList()) {
        Matcher block = BLOCK.matcher(Files.readString(doc));
        while (block.find()) {
          JsonNode project = Schemas.yaml(block.group(1));
          if (project instanceof ObjectNode top && sections.contains(top.fieldNames().next())) {
            top.put("version", 1);
            assertThat(Schemas.faults("yemble", top)).as(doc + ":\n" + block.group(1)).isEmpty();
            seen++;
          }
        }
      }
    }
    assertThat(seen).isGreaterThan(10);
  }

  @Test
  void whatInitWritesNamesItsSchema(@TempDir Path folder) throws Exception {
    Sandbox made = new Sandbox(folder).quick();
    made.sql("live.db", "CREATE TABLE person (id INTEGER PRIMARY KEY, email TEXT)");
    assertThat(made.yemble("init", folder.resolve("live.db").toString()).exitCode()).isZero();
    String first = made.read("yemble.yaml").lines().findFirst().orElseThrow();
    assertThat(first).isEqualTo("# yaml-language-server: $schema=" + ProjectSchema.FILE);
    assertThat(made.read(ProjectSchema.FILE))
        .isEqualTo(Files.readString(Schemas.FOLDER.resolve("yemble.schema.json")));
    assertThat(Schemas.faults("yemble", Schemas.yaml(made.read("yemble.yaml")))).isEmpty();
  }

  /** All of a project's files, or none. */
  @Test
  void whatInitCannotFinishLeavesNothing(@TempDir Path folder) throws Exception {
    Sandbox made = new Sandbox(folder).quick();
    made.sql("live.db", "CREATE TABLE person (id INTEGER PRIMARY KEY, email TEXT)");
    Files.createDirectory(folder.resolve(".gitignore"));
    Program.Result result = made.yemble("init", folder.resolve("live.db").toString());
    assertThat(result.exitCode()).as(result.all()).isEqualTo(4);
    assertThat(result.err()).contains("code:  file-unwritable");
    try (Stream<Path> left = Files.list(folder)) {
      assertThat(left.map(file -> file.getFileName().toString()))
          .containsExactlyInAnyOrder("live.db", ".gitignore");
    }
  }

  /** What may stand behind each step is valid, alone and among others. */
  @Test
  void everySampleOfAStepIsValid() throws Exception {
    for (StepSort step : Steps.ALL) {
      assertThat(step.samples()).as(step.word()).isNotEmpty();
      for (String sample : step.samples()) {
        String written = step.word() + ": " + sample;
        for (String rule : List.of("{ " + written + " }", "{ steps: [{ " + written + " }] }")) {
          assertThat(Schemas.faults("yemble", rule(rule))).as(rule).isEmpty();
        }
      }
    }
  }

  private static JsonNode rule(String rule) throws Exception {
    return Schemas.yaml("version: 1\ncolumns:\n  person.name: " + rule + "\n");
  }

  /** What an editor underlines. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "version: 2",
        "version: 1\ndatabase: {}",
        "version: 1\ndatabases: { live: { environment: test } }",
        "version: 1\ndatabases: { live: { url: x, environment: prod } }",
        "version: 1\njobs: { small: { from: live, pick: { person: { were: 'id < 4' } } } }",
        "version: 1\njobs: { small: { from: live, load: overwrite } }",
        "version: 1\nlinks: { a.b: { follow: sometimes } }",
        "version: 1\ncolumns: { a.b: { noize: 10% } }",
        "version: 1\ncolumns: { a.b: { digest: 3 } }",
        "version: 1\ncolumns: { a.b: { shift: { days: 3, hours: 2 } } }",
        "version: 1\ncolumns: { a.b: { hidden: { first: 3 } } }",
        "version: 1\ncolumns: { a.b: { steps: [{ digest: 8, clear: true }] } }",
        "version: 1\nkinds: { locker: { category: things } }",
        "version: 1\nplugins: { a.jar: md5:0 }",
      })
  void whatIsWrongIsFound(String yaml) throws Exception {
    assertThat(Schemas.faults("yemble", Schemas.yaml(yaml))).isNotEmpty();
  }

  @Test
  void aLineOfTheRegisterIsValid() throws Exception {
    ObjectMapper mapper = new ObjectMapper();
    ObjectNode line = mapper.createObjectNode();
    for (String heading : Register.HEADER) {
      line.put(heading, "");
    }
    assertThat(Schemas.faults("register-line", line)).isNotEmpty();
    line.put("decision", RegisterLine.Decision.UNDECIDED.toString());
    assertThat(Schemas.faults("register-line", line)).isEmpty();
    line.remove("column");
    assertThat(Schemas.faults("register-line", line)).isNotEmpty();
  }
}
