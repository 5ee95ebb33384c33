package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What only the program itself shows of parcels. */
class ParcelIT {
  @TempDir Path folder;

  /** From one program into another, and nothing is left behind. */
  @Test
  void throughAPipe() throws Exception {
    Sandbox sandbox = Sandbox.ready(folder);
    Process process =
        new ProcessBuilder(
                "bash",
                "-c",
                String.join(" ", Program.command("pack", "--to", "-"))
                    + " | "
                    + String.join(" ", Program.command("load", "-", "--into", "dev", "--yes"))
                    + " > said.txt")
            .directory(folder.toFile())
            .redirectErrorStream(true)
            .redirectOutput(folder.resolve("pipe.txt").toFile())
            .start();
    assertThat(process.waitFor()).as(sandbox.read("pipe.txt")).isZero();
    assertThat(sandbox.read("said.txt")).contains("13 rows in 3 tables are what was packed");
    try (Stream<Path> left = Files.walk(folder.resolve(".yemble"))) {
      assertThat(left.map(Path::toString)).noneMatch(name -> name.endsWith(".part"));
    }
  }
}
