package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.core.file.HeldFile;
import yemble.core.job.Opened;
import yemble.core.parcel.ParcelReader;
import yemble.core.project.Database;
import yemble.core.project.Project;
import yemble.core.project.ProjectFile;
import yemble.core.project.Structure;
import yemble.core.store.Engine;
import yemble.core.store.Load;
import yemble.core.store.Target;
import yemble.core.yaml.Place;
import yemble.jdbc.Engines;

/** Two runs of one project, and two loads of one target: the second is refused at once. */
class TwoAtATimeIT {
  @TempDir Path folder;
  private Sandbox sandbox;

  private Captured yemble(String... args) {
    List<String> words = new ArrayList<>(List.of(args));
    words.addAll(List.of("--project", folder.toString()));
    return Captured.of(words.toArray(new String[0]));
  }

  @Test
  void theSecondRunOfAProject() throws Exception {
    sandbox = Sandbox.ready(folder);
    Files.createDirectories(folder.resolve(".yemble"));
    Path file = folder.resolve(".yemble/run.lock");
    try (HeldFile held = HeldFile.hold(file, "orla runs small, process 4711").held()) {
      assertThat(held).isNotNull();
      Program.Result second = sandbox.yemble("run", "--yes");
      assertThat(second.exitCode()).isEqualTo(3);
      assertThat(second.err())
          .contains("another run of this project", "orla runs small, process 4711", "another-run");
      assertThat(folder.resolve("dev.db")).doesNotExist();
      // What writes nothing needs not wait.
      assertThat(sandbox.yemble("run", "--dry").exitCode()).isZero();
      assertThat(sandbox.yemble("gauge").exitCode()).isZero();
    }
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
  }

  /** Whoever was killed holds nothing. */
  @Test
  void aDeadRunsLockIsTakenOver() throws Exception {
    sandbox = Sandbox.ready(folder);
    Path file = folder.resolve(".yemble/run.lock");
    boolean seen = false;
    for (int i = 0; i < 10 && !seen; i++) {
      Process process =
          new ProcessBuilder(Program.command("run", "--yes"))
              .directory(folder.toFile())
              .redirectErrorStream(true)
              .redirectOutput(folder.resolve("said.txt").toFile())
              .start();
      while (process.isAlive() && !seen) {
        seen = Files.exists(file) && Files.size(file) > 0;
        TimeUnit.MILLISECONDS.sleep(2);
      }
      process.destroyForcibly().waitFor();
    }
    assertThat(seen).isTrue();
    Program.Result next = sandbox.yemble("run", "--yes");
    assertThat(next.exitCode()).as(next.all()).isZero();
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void theSecondLoadOfATarget(String engine) throws Exception {
    sandbox = Sandbox.ready(folder);
    if (!engine.equals("sqlite")) {
      Client.renew(engine, "two_at_a_time");
      String url = Servers.of(engine).url("two_at_a_time");
      String user = Servers.of(engine).user();
      sandbox.write(
          "yemble.yaml",
          sandbox
              .read("yemble.yaml")
              .replace("\"jdbc:sqlite:dev.db\"", "'" + url + "', user: " + user));
    }
    Captured pack = yemble("pack");
    assertThat(pack.exitCode()).as(pack.err()).isZero();
    Project project = ProjectFile.read(folder);
    Database dev = project.database("dev", Place.of("here"));
    Engine.Address address = Opened.address(folder, dev, Map.of());
    Path parcel;
    try (var files = Files.list(folder.resolve(".yemble/shelf"))) {
      parcel = files.findFirst().orElseThrow();
    }
    String[][] calls = {{"run", "--yes"}, {"load", "--into", "dev", "--yes"}};
    try (ParcelReader reader = ParcelReader.open(parcel, Optional.empty());
        Target target = Engines.of(address).target(address);
        Load load =
            target.load(
                Engines.of(address)
                    .translated(
                        reader.outline(),
                        reader.schema().tables().stream()
                            .collect(
                                java.util.stream.Collectors.toMap(
                                    table -> table.name(), table -> table.name())))
                    .schema(),
                Structure.CREATE,
                false,
                List.of())) {
      assertThat(load).isNotNull();
      for (String[] call : calls) {
        Captured second = yemble(call);
        assertThat(second.exitCode()).as(second.err()).isEqualTo(3);
        assertThat(second.err())
            .contains("another run is loading dev (test)", "another-run")
            .containsPattern("why: +.* since \\d{4}-\\d\\d-\\d\\d");
      }
    }
    for (String[] call : calls) {
      Captured later = yemble(call);
      assertThat(later.exitCode()).as(later.err()).isZero();
    }
  }
}
