package yemble.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import yemble.core.file.WrittenFolder;
import yemble.core.job.Transcript;
import yemble.core.parcel.Manifest;
import yemble.core.parcel.ParcelReader;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Job;
import yemble.core.project.OutputFolder;
import yemble.core.project.Project;
import yemble.core.store.Engine;
import yemble.core.store.Script;
import yemble.jdbc.Engines;

/** A parcel as SQL. */
@Command(
    name = "script",
    description = {
      "Write a parcel as a script that the database's own client loads, for who has no Yemble.",
      "The script stops in the source and where something is in the way, and shows its tables only",
      "once all rows are in."
    },
    footer = {
      "%nExamples:",
      "  yemble script nightly --to nightly-sql        for the engine that the job loads into",
      "  yemble script nightly.parcel --to sql --engine mariadb",
      "%nLoaded by:",
      "  psql -d DATABASE -f nightly-sql/load.sql",
      "  cd nightly-sql && mariadb DATABASE < load.sql",
      "  sqlite3 NEW-FILE < nightly-sql/load.sql",
      "%nExit codes: 0 done, 1 a check fails (there is no script), 2 wrong project,",
      "3 refused for safety, 4 the parcel or a file failed."
    })
final class ScriptCommand implements Callable<Integer> {
  @Mixin CommonOptions common;
  @Mixin ParcelArgument given;

  @Option(
      names = "--to",
      required = true,
      paramLabel = "DIR",
      description = "a new folder for the script")
  Path to;

  @Option(
      names = "--engine",
      paramLabel = "ENGINE",
      description = "postgresql, mariadb or sqlite; else that of the job's into:")
  String engine = "";

  @Option(names = "--overwrite", description = "a script that is in the folder may go")
  boolean overwrite;

  @Override
  public Integer call() {
    Project project = common.read();
    OutputFolder folder =
        OutputFolder.of(project, to, Script.FILE, overwrite, common.environment());
    try (ParcelArgument.Opened opened = given.open(project, common, "Write it")) {
      ParcelReader parcel = opened.parcel();
      Engine into = engine(project, parcel.manifest());
      Transcript transcript = Transcript.of(parcel, project, into);
      if (!common.json) {
        common.output.line(
            "  for   "
                + common.output.paint(Output.Tone.STRONG, into.family().name())
                + "  "
                + folder.path());
        NotCarried.print(common.output, transcript.schema(), transcript.crossing().isPresent());
        common.output.line();
      }
      Stop.finds("there is no script", "run the same command again");
      try (WrittenFolder begun = folder.begin()) {
        Transcript.Result result =
            transcript.into(
                begun.beside(),
                to.toString(),
                "yemble " + Main.Version.number(),
                System.getProperty("user.name"),
                ProgressView.of(common.output));
        long bytes = bytes(begun.beside());
        if (result.holds()) {
          folder.commit(begun);
        }
        report(parcel.manifest(), into, transcript, result, bytes);
        return result.holds() ? 0 : 1;
      }
    }
  }

  /** The engine that is named, or that of the database which the job loads into. */
  private Engine engine(Project project, Manifest manifest) {
    Map<String, Engine> engines = Engines.named();
    if (!engine.isEmpty()) {
      if (!engines.containsKey(engine)) {
        throw Problem.of(Failure.ENGINE_UNKNOWN, "unknown engine \"" + engine + "\"")
            .remedy(Nearest.hint(engine, engines.keySet()));
      }
      return engines.get(engine);
    }
    Job job = project.jobs().get(manifest.load().job());
    if (job != null && !job.into().isEmpty()) {
      Database into = project.database(job.into(), job.intoAt());
      return Engines.of(
          new Engine.Address(
              into.title(),
              into.url().value(project.directory(), common.environment()),
              project.directory(),
              "",
              ""));
    }
    return engines.values().stream()
        .filter(known -> known.family().equals(manifest.family()))
        .findFirst()
        .orElseThrow(
            () ->
                Problem.of(Failure.ENGINE_UNKNOWN, "nobody says for which engine the script is")
                    .because("the project has no job of this parcel's name that says where into")
                    .remedy("say it: --engine " + Engines.names()));
  }

  private void report(
      Manifest manifest, Engine into, Transcript transcript, Transcript.Result result, long bytes) {
    Output output = common.output;
    if (common.json) {
      output.json(
          Json.object(
              "job", manifest.load().job(),
              "source", manifest.title(),
              "packed_at", manifest.load().at().toString(),
              "engine", into.family().name(),
              "rows", manifest.load().rows(),
              "written", result.holds(),
              "folder", result.holds() ? to.toAbsolutePath().normalize().toString() : null,
              "bytes", result.holds() ? bytes : null,
              "command", result.holds() ? result.command() : null,
              "not_carried", RunJson.notCarried(transcript.schema()),
              "took_ms", result.took().toMillis(),
              "checks", Findings.list(result.findings())));
      output.flush();
      return;
    }
    Findings.print(output, result.findings());
    output.line();
    if (result.holds()) {
      output.line(
          output.paint(Output.Tone.GOOD, "Written: ")
              + Output.counted(manifest.load().rows(), "row")
              + " in "
              + Output.counted(result.rows().size(), "table")
              + ", "
              + Output.bytes(bytes)
              + ", in "
              + Output.duration(result.took())
              + ".");
      output.line("Next: " + result.command());
    } else {
      output.line(
          output.paint(Output.Tone.BAD, "Not written: ")
              + "a check fails, and there is no script.");
    }
    output.flush();
  }

  private static long bytes(Path folder) {
    try (Stream<Path> files = Files.walk(folder)) {
      long bytes = 0;
      for (Path file : files.filter(Files::isRegularFile).toList()) {
        bytes += Files.size(file);
      }
      return bytes;
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNREADABLE, "the script cannot be read").at(folder.toString());
    }
  }
}
