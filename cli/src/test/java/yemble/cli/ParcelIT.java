package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.sql.Connection;
import java.sql.ResultSet;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yemble.demo.DemoServer;

/** What only the program itself shows of parcels. */
class ParcelIT {
  @TempDir Path folder;

  /** From one program into another, and nothing is left behind. */
  @Test
  void throughAPipe() throws Exception {
    Sandbox sandbox = Sandbox.ready(folder);
    Path abandoned = Files.createDirectories(folder.resolve(".yemble")).resolve("parcel1.part");
    Files.writeString(abandoned, "of a killed program");
    Files.setLastModifiedTime(abandoned, FileTime.from(Instant.now().minus(Duration.ofHours(25))));
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

  @Test
  void fiveAtATimeIntoOneServer() throws Exception {
    Sandbox sandbox = Sandbox.ready(folder).quick();
    Program.Result pack = sandbox.yemble("pack");
    assertThat(pack.exitCode()).as(pack.all()).isZero();
    DemoServer server = Servers.of("postgresql");
    StringBuilder project = new StringBuilder("version: 1\ndatabases:\n");
    for (int i = 0; i < 5; i++) {
      server.create("parcel" + i);
      project.append(
          "  d"
              + i
              + ": { url: '"
              + server.url("parcel" + i)
              + "', user: "
              + server.user()
              + ", environment: test }\n");
    }
    sandbox.write("yemble.yaml", project.toString());
    List<Process> loads = new ArrayList<>();
    for (int i = 0; i < 5; i++) {
      loads.add(
          new ProcessBuilder(
                  Program.commandWithServers("load", "small", "--into", "d" + i, "--yes"))
              .directory(folder.toFile())
              .redirectErrorStream(true)
              .redirectOutput(folder.resolve("load" + i + ".txt").toFile())
              .start());
    }
    for (int i = 0; i < 5; i++) {
      assertThat(loads.get(i).waitFor()).as(sandbox.read("load" + i + ".txt")).isZero();
      try (Connection connection = server.connect("parcel" + i);
          ResultSet row =
              connection
                  .createStatement()
                  .executeQuery(
                      "SELECT (SELECT count(*) FROM person), (SELECT count(*) FROM purchase)")) {
        row.next();
        assertThat(List.of(row.getInt(1), row.getInt(2))).containsExactly(5, 4);
      }
    }
  }

  /** A value that nobody is to see in a list of processes. */
  @Test
  void aValueOfARecipeFromStandardInput() throws Exception {
    Sandbox sandbox = Sandbox.ready(folder);
    sandbox.write(
        "recipes/one.yaml", "parameters: [name]\npick: { person: { where: 'name = :name' } }\n");
    Process process =
        new ProcessBuilder(
                Program.command(
                    "gauge", "--recipe", "one", "--set", "name=-", "--expect", "person=4"))
            .directory(folder.toFile())
            .redirectErrorStream(true)
            .redirectOutput(folder.resolve("said.txt").toFile())
            .start();
    process.getOutputStream().write("Orla Tidewick\n".getBytes(StandardCharsets.UTF_8));
    process.getOutputStream().close();
    assertThat(process.waitFor()).as(sandbox.read("said.txt")).isZero();
    assertThat(sandbox.read("said.txt")).contains("name = :name").doesNotContain("Tidewick");
  }
}
