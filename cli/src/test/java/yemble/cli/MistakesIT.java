package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvFileSource;
import yemble.core.problem.Failure;

/**
 * Wrong input, case by case, as {@code mistakes.txt} lists it: one failure with its code, its place
 * and what to do; no value of the data, no stack trace, nothing written.
 */
class MistakesIT {
  private static final Pattern WORD = Pattern.compile("\"([^\"]*)\"|\\S+");

  @TempDir static Path folder;
  private static Sandbox good;
  private static int number;

  @BeforeAll
  static void aGoodProject() throws Exception {
    good = Sandbox.ready(Files.createDirectory(folder.resolve("good")));
  }

  @ParameterizedTest(name = "{0}")
  @CsvFileSource(
      resources = "mistakes.txt",
      delimiter = '|',
      quoteCharacter = '`',
      maxCharsPerColumn = 20_000)
  void aMistake(String name, String spoilt, String call, String code, String where, String says)
      throws Exception {
    Sandbox sandbox = good.copy(folder.resolve("case" + ++number));
    for (String spoil : parts(spoilt)) {
      spoil(sandbox, spoil.strip());
    }
    Map<String, String> before = files(sandbox.folder);
    Captured told = Captured.of(words(call, sandbox));
    String prose = told.err();
    String object = told.out();
    JsonNode error = Schemas.valid("error", object).path("error");
    assertThat(error.path("code").asText()).as(prose).isEqualTo(code);
    assertThat(told.exitCode())
        .isEqualTo(error.path("exit").asInt())
        .isEqualTo(failure(code).type().exitCode());
    assertThat(error.path("what").asText()).isNotBlank();
    assertThat(error.path("do").asText()).as("what to do").isNotBlank();
    assertThat(error.path("where").asText()).as(prose).contains(where == null ? "" : where);
    assertThat(prose).startsWith("yemble: ").contains("\n  do:    ", "\n  code:  " + code);
    for (String said : parts(says)) {
      assertThat(prose).contains(said.strip());
    }
    assertThat(prose + object)
        .doesNotContain("Exception", "\tat ", "Orla", "Tidewick", "tavin@", Sandbox.KEY, "hunter2");
    assertThat(files(sandbox.folder)).isEqualTo(before);
  }

  private static Failure failure(String code) {
    return Stream.of(Failure.values())
        .filter(failure -> failure.code().equals(code))
        .findFirst()
        .orElseThrow(() -> new AssertionError("no failure has the code " + code));
  }

  private static String[] parts(String list) {
    return list == null ? new String[0] : list.split(" ;; ");
  }

  /** What is called, in the folder of the case. */
  private static String[] words(String call, Sandbox sandbox) {
    List<String> words = new ArrayList<>();
    Matcher word = WORD.matcher(call.replace("{folder}", sandbox.folder.toString()));
    while (word.find()) {
      words.add(word.group(1) == null ? word.group() : word.group(1));
    }
    if (!words.contains("--project")) {
      words.addAll(List.of("--project", sandbox.folder.toString()));
    }
    words.add("--json");
    return words.toArray(new String[0]);
  }

  /**
   * Makes the good project a bad one. {@code FILE: A => B} puts B in A's place, {@code FILE + TEXT}
   * adds, {@code FILE = TEXT} writes the whole, {@code FILE ! SQL} runs a statement in a database;
   * {@code job + TEXT} adds to the job.
   */
  private static void spoil(Sandbox sandbox, String spoil) throws Exception {
    String text = spoil.replace("\\n", "\n").replace("\\t", "\t").replace("\\_", " ");
    Matcher done =
        Pattern.compile("(?s)(\\S+)(?:: (.+?) =>| ([+=!]|gone|pipe|folder|open)(?= |$)) ?(.*)")
            .matcher(text);
    assertThat(done.matches()).as(spoil).isTrue();
    String name = done.group(1);
    if (done.group(2) != null) {
      String old = sandbox.read(name);
      assertThat(old).contains(done.group(2));
      sandbox.write(name, old.replace(done.group(2), done.group(4)));
      return;
    }
    switch (done.group(3)) {
      case "+" -> {
        String file = name.equals("job") ? "yemble.yaml" : name;
        String indent = name.equals("job") ? "    " : "";
        sandbox.write(file, sandbox.read(file) + indent + done.group(4) + "\n");
      }
      case "=" -> {
        if (name.equals("yemble.key")) {
          sandbox.key(done.group(4));
        } else {
          Files.createDirectories(sandbox.file(name).getParent());
          Files.write(
              sandbox.file(name),
              done.group(4).replace("\\ff", "\u00ff").getBytes(StandardCharsets.ISO_8859_1));
        }
      }
      case "!" -> sandbox.sql(name, done.group(4));
      case "gone" -> Files.delete(sandbox.file(name));
      case "open" ->
          Files.setPosixFilePermissions(
              sandbox.file(name), PosixFilePermissions.fromString("rw-r--r--"));
      case "folder" -> {
        Files.deleteIfExists(sandbox.file(name));
        Files.createDirectory(sandbox.file(name));
      }
      default -> {
        Files.deleteIfExists(sandbox.file(name));
        assertThat(new ProcessBuilder("mkfifo", sandbox.file(name).toString()).start().waitFor())
            .isZero();
      }
    }
  }

  /** Every file with its content, but for the project's state. */
  private static Map<String, String> files(Path folder) throws Exception {
    Map<String, String> files = new TreeMap<>();
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path file : all.filter(Files::isRegularFile).toList()) {
        String name = folder.relativize(file).toString();
        if (!name.startsWith(".yemble")) {
          files.put(name, Files.readString(file, StandardCharsets.ISO_8859_1));
        }
      }
    }
    return files;
  }
}
