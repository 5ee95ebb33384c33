package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The script at the root, once the program is built. */
class LauncherIT {
  private static final Path SCRIPT = Path.of("../yemble").toAbsolutePath().normalize();
  @TempDir Path folder;

  private Program.Result call(Map<String, String> environment, String... command) {
    return Program.run(folder, environment, List.of(command));
  }

  @Test
  void itRunsFromAnyFolderAndThroughSymbolicLinks() throws Exception {
    Path bin = Files.createDirectory(folder.resolve("bin"));
    Files.createSymbolicLink(bin.resolve("one"), SCRIPT);
    Files.createSymbolicLink(bin.resolve("two"), Path.of("one"));
    for (String name : List.of(SCRIPT.toString(), bin.resolve("one").toString(), "bin/two")) {
      Program.Result result = call(Map.of(), name, "--version");
      assertThat(result.exitCode()).as(result.all()).isZero();
      assertThat(result.out()).startsWith("yemble ");
    }
  }

  @Test
  void exitCodesArePassedOn() {
    assertThat(call(Map.of(), SCRIPT.toString(), "run").exitCode()).isEqualTo(2);
    assertThat(call(Map.of(), SCRIPT.toString(), "demo", "/proc/x").exitCode()).isNotZero();
  }

  @Test
  void withoutAJavaItSaysSo() throws Exception {
    Path bin = Files.createDirectory(folder.resolve("nothing"));
    for (String tool :
        List.of("dirname", "readlink", "sh", "sed", "cut", "head", "find", "mktemp", "rm")) {
      for (String place : List.of("/usr/bin/", "/bin/")) {
        if (Files.exists(Path.of(place + tool)) && !Files.exists(bin.resolve(tool))) {
          Files.createSymbolicLink(bin.resolve(tool), Path.of(place + tool));
        }
      }
    }
    Program.Result result =
        call(
            Map.of("PATH", bin.toString(), "JAVA_HOME", ""),
            "/bin/sh",
            SCRIPT.toString(),
            "--version");
    assertThat(result.exitCode()).isEqualTo(4);
    assertThat(result.err()).contains("there is no Java here", "17");
  }
}
