package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Whatever way a secret is written where it does not belong, it is never shown or kept. */
class SecretsIT {
  private static final String SECRET = "hunter2Quillevan";
  @TempDir Path folder;

  private static final Path WRITTEN =
      Path.of("../jdbc/src/test/resources/yemble/jdbc/urls-with-secrets.txt");

  /** Urls that hold a secret, those of the tests of urls; and what init takes for one. */
  private static List<String> urls() throws Exception {
    List<String> urls = new ArrayList<>(Files.readAllLines(WRITTEN));
    urls.removeIf(line -> line.startsWith("#") || line.equals("§"));
    urls.addAll(List.of("postgresql://u:§@h/x", "mysql://u:§@h/x", "u:§@h/x", "§://x"));
    urls.replaceAll(url -> url.replace("§", SECRET));
    return urls;
  }

  private Sandbox project(String url) throws Exception {
    Sandbox sandbox = new Sandbox(folder);
    sandbox.key(Sandbox.KEY);
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT.replace("\"jdbc:sqlite:live.db\"", "'" + url.replace("'", "''") + "'"));
    sandbox.write("register.csv", "column,type,kind,decision\n");
    return sandbox;
  }

  private void assertSilent(String what, Program.Result result) throws Exception {
    assertThat(result.exitCode()).as(what + result.all()).isIn(1, 2, 3, 4);
    assertThat(result.all()).as(what).doesNotContain(SECRET).doesNotContain("hunter2");
    assertThat(result.err() + result.out()).as(what).doesNotContain("Exception in", "WARNING");
  }

  /** Nothing but the project file, which the user wrote, holds it. */
  private void assertNotKept() throws Exception {
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path path : all.filter(Files::isRegularFile).toList()) {
        if (!path.endsWith("yemble.yaml") || path.getParent().endsWith("new")) {
          assertThat(new String(Files.readAllBytes(path), "ISO-8859-1")).doesNotContain(SECRET);
        }
      }
    }
  }

  private void tried(List<String> urls, List<String[]> commands) throws Exception {
    for (String url : urls) {
      Sandbox sandbox = project(url);
      for (String[] command : commands) {
        List<String> filled = new ArrayList<>();
        for (String word : command) {
          filled.add(word.equals("URL") ? url : word);
        }
        String[] words = filled.toArray(String[]::new);
        assertSilent(String.join(" ", words), sandbox.yemble(words));
      }
      assertNotKept();
    }
  }

  @Test
  void noUrlShowsItsSecretAndInitWritesNone() throws Exception {
    List<String> urls = urls();
    assertThat(urls).hasSizeGreaterThanOrEqualTo(40);
    List<String> some = new ArrayList<>();
    for (int i = 0; i < urls.size(); i += 8) {
      some.add(urls.get(i));
    }
    tried(some, List.<String[]>of(new String[] {"init", "URL", "--project", "new", "--debug"}));
    assertThat(folder.resolve("new")).doesNotExist();
    assertThat(
            project("x").yemble("init", "live.db", "--project", "new", "--into", urls.get(0)).all())
        .doesNotContain(SECRET);
  }

  @Test
  void theProcessListShowsNoPassword() throws Exception {
    Sandbox sandbox = project("jdbc:postgresql://localhost:1/x");
    sandbox.write(
        "yemble.yaml",
        sandbox
            .read("yemble.yaml")
            .replace("environment: production }", "password: \"${env:LIVE_PASSWORD}\" }"));
    ProcessBuilder builder =
        new ProcessBuilder(Program.command("doctor", "--debug"))
            .directory(folder.toFile())
            .redirectErrorStream(true)
            .redirectOutput(folder.resolve("out").toFile());
    builder.environment().put("LIVE_PASSWORD", SECRET);
    Process process = builder.start();
    int looks = 0;
    while (process.isAlive()) {
      try (Stream<Path> all = Files.list(Path.of("/proc"))) {
        for (Path line : all.map(p -> p.resolve("cmdline")).filter(Files::isReadable).toList()) {
          try {
            assertThat(new String(Files.readAllBytes(line), "ISO-8859-1")).doesNotContain(SECRET);
          } catch (java.io.IOException gone) {
            continue; // It ended meanwhile.
          }
        }
      }
      looks++;
    }
    assertThat(looks).isPositive();
    assertThat(Files.readString(folder.resolve("out"))).contains("cannot be reached");
    assertNotKept();
  }

  /** All commands on all of them: some hundred processes. */
  @Test
  @Tag("thorough")
  void noCommandShowsASecretOfAUrl() throws Exception {
    tried(
        urls(),
        List.of(
            new String[] {"doctor"},
            new String[] {"doctor", "--debug"},
            new String[] {"doctor", "--server", "URL"},
            new String[] {"survey", "--debug"},
            new String[] {"gauge", "--json"},
            new String[] {"preview", "person"},
            new String[] {"run", "--yes"},
            new String[] {"verify", "--debug"},
            new String[] {"init", "URL", "--project", "new"}));
  }

  @Test
  void whatIsWrittenInASecretsPlaceIsNotQuoted() throws Exception {
    notQuoted(List.of("*§", "${vault:§}", "${file:§}"));
  }

  @Test
  @Tag("thorough")
  void norInAnyOtherForm() throws Exception {
    notQuoted(
        List.of(
            "${env:§}", "!§ x", "&§", "'§", "\"\\§\"", "[§", "{§: 1}", "@ §", "§: x", "|§", "%§"));
  }

  private void notQuoted(List<String> all) throws Exception {
    for (String written : all) {
      Sandbox sandbox = project("jdbc:postgresql://localhost:1/x");
      String password = written.replace("§", SECRET);
      sandbox.write(
          "yemble.yaml",
          sandbox
              .read("yemble.yaml")
              .replace(
                  "  live: { url: 'jdbc:postgresql://localhost:1/x', environment: production }",
                  "  live:\n    url: jdbc:postgresql://localhost:1/x\n    password: " + password));
      assertThat(sandbox.read("yemble.yaml")).contains(password);
      assertSilent(written, sandbox.yemble("gauge", "--debug"));
    }
  }

  @Test
  void aKeyThatIsTakenForARegisterOrAProjectIsNotQuoted() throws Exception {
    Sandbox sandbox = Sandbox.ready(folder);
    sandbox.key(SECRET + "-other,secret");
    for (String[] replaced :
        new String[][] {
          {"environment: production }", "environment: production, register: yemble.key }"},
          {"version: 1", "version: 1\nuse: [yemble.key]"},
        }) {
      sandbox.write("yemble.yaml", Sandbox.PROJECT.replace(replaced[0], replaced[1]));
      for (String[] command :
          new String[][] {{"register"}, {"survey"}, {"run", "--yes"}, {"doctor"}}) {
        assertThat(sandbox.yemble(command).all()).doesNotContain(SECRET);
      }
      assertThat(sandbox.read("yemble.key")).contains(SECRET);
    }
  }
}
