package yemble.cli;

import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.crypto.SecretKey;
import yemble.core.job.Opened;
import yemble.core.job.Staleness;
import yemble.core.mark.Loaded;
import yemble.core.mark.Mark;
import yemble.core.moment.Now;
import yemble.core.parcel.Manifest;
import yemble.core.parcel.ParcelReader;
import yemble.core.parcel.Shelf;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Environment;
import yemble.core.project.Project;
import yemble.core.store.Engine;
import yemble.core.store.Target;
import yemble.jdbc.Engines;

/** The parcels of a project. */
@Command(
    name = "shelf",
    description =
        "List the parcels on the shelf, the newest first: .yemble/shelf, or where the project says.",
    subcommands = {ShelfCommand.Check.class, ShelfCommand.Remove.class},
    footer = {
      "%nExamples:",
      "  yemble shelf",
      "  yemble shelf check                           every digest of every parcel",
      "  yemble shelf remove nightly-20260101-020000.parcel"
    })
final class ShelfCommand implements Callable<Integer> {
  private static final String FOLDER = "shelf";

  @Mixin CommonOptions common;

  /** The shelf of a project. */
  static Shelf shelf(Project project) {
    String shared = project.parcels().shelf();
    return new Shelf(
        shared.isEmpty()
            ? project.directory().resolve(Project.STATE).resolve(FOLDER)
            : project.directory().resolve(shared));
  }

  @Override
  public Integer call() {
    Project project = common.read();
    List<Shelf.Item> items = shelf(project).items();
    List<String> unseen = new ArrayList<>();
    Map<String, List<String>> holders = items.isEmpty() ? Map.of() : holders(project, unseen);
    if (common.json) {
      common.output.json(Json.list(items, item -> object(project, item, holders)));
      return 0;
    }
    Output output = common.output;
    TextTable table =
        new TextTable(
            "parcel", "job", "from", "packed", ">rows", ">size", "by", "rules", "", "lies in");
    for (Shelf.Item item : items) {
      String name = item.file().getFileName().toString();
      if (item.manifest().isEmpty()) {
        table.row(
            Output.Tone.BAD,
            name,
            "",
            item.problem().what(),
            "",
            "",
            Output.bytes(item.bytes()),
            "",
            "",
            "",
            "");
        continue;
      }
      Manifest manifest = item.manifest().get();
      table.row(
          name,
          manifest.load().job(),
          manifest.title(),
          age(manifest.load().at()),
          Output.number(manifest.load().rows()),
          Output.bytes(item.bytes()),
          manifest.load().by(),
          rules(project, item),
          manifest.sealed().isPresent() ? "sealed" : "",
          String.join(", ", holders.getOrDefault(name, List.of())));
    }
    if (items.isEmpty()) {
      output.line("The shelf is empty. Next: yemble pack JOB");
    } else {
      output.table(table);
      if (!unseen.isEmpty()) {
        output.line("  Not looked into, as they cannot be reached: " + String.join(", ", unseen));
      }
      output.line();
      output.line("Next: yemble load JOB --into NAME takes the newest of a job");
    }
    output.flush();
    return 0;
  }

  /** How many checks held when it was packed; none failed, or there would be no parcel. */
  private static long held(Manifest manifest) {
    return manifest.proof().stream().filter(proof -> proof.result().equals("holds")).count();
  }

  private static String age(Instant at) {
    Duration age = Duration.between(at, Now.moment());
    if (age.toHours() < 1) {
      return Output.counted(Math.max(0, age.toMinutes()), "minute") + " ago";
    }
    return age.toDays() < 2
        ? Output.counted(age.toHours(), "hour") + " ago"
        : Output.counted(age.toDays(), "day") + " ago";
  }

  /** Whether a parcel's rules are today's, in a word; nothing where that cannot be told. */
  private String rules(Project project, Shelf.Item item) {
    return changed(project, item).map(other -> other ? "changed since" : "as now").orElse("");
  }

  private Optional<Boolean> changed(Project project, Shelf.Item item) {
    return item.manifest()
        .flatMap(
            manifest ->
                manifest.sealed().isPresent() && key(project).isEmpty()
                    ? Optional.empty()
                    : Staleness.changed(
                        project,
                        manifest,
                        ParcelReader.schema(item.file(), key(project)),
                        common.environment()));
  }

  private Optional<SecretKey> key(Project project) {
    return project.parcels().key(project.directory(), common.environment());
  }

  /**
   * The project's test databases by the parcels that they were loaded from.
   *
   * @param unseen gets those that cannot be looked into
   */
  private Map<String, List<String>> holders(Project project, List<String> unseen) {
    Map<String, List<String>> holders = new TreeMap<>();
    for (Database database : project.databases().values()) {
      if (database.environment() != Environment.TEST) {
        continue;
      }
      try {
        Engine.Address address =
            Opened.address(project.directory(), database, common.environment());
        try (Target target = Engines.of(address).target(address)) {
          for (Loaded load : target.mark().orElse(Mark.NONE).loads()) {
            if (!load.parcel().isEmpty()) {
              holders.computeIfAbsent(load.parcel(), p -> new ArrayList<>()).add(database.name());
            }
          }
        }
      } catch (Problem problem) {
        unseen.add(database.name());
      }
    }
    return holders;
  }

  private Object object(Project project, Shelf.Item item, Map<String, List<String>> holders) {
    Manifest manifest = item.manifest().orElse(null);
    return Json.object(
        "file", item.file().toString(),
        "bytes", item.bytes(),
        "job", manifest == null ? null : manifest.load().job(),
        "source", manifest == null ? null : manifest.title(),
        "packed_at", manifest == null ? null : manifest.load().at().toString(),
        "rows", manifest == null ? null : manifest.load().rows(),
        "tables", manifest == null ? null : (long) manifest.tables().size(),
        "by", manifest == null ? null : manifest.load().by(),
        "checks", manifest == null ? null : (long) manifest.proof().size(),
        "checks_hold", manifest == null ? null : held(manifest),
        "sealed", manifest == null ? null : manifest.sealed().isPresent(),
        "rules_changed", changed(project, item).orElse(null),
        "lies_in", holders.getOrDefault(item.file().getFileName().toString(), List.of()),
        "problem", item.problem() == null ? null : item.problem().what());
  }

  /** Whether every parcel is what its manifest says. */
  @Command(name = "check", description = "Read all digests; exit code 1 where one does not hold.")
  static final class Check implements Callable<Integer> {
    @Mixin CommonOptions common;

    @Override
    public Integer call() {
      int exitCode = 0;
      Project project = common.read();
      Optional<SecretKey> key = project.parcels().key(project.directory(), common.environment());
      for (Shelf.Item item : shelf(project).items()) {
        String name = item.file().getFileName().toString();
        try (ParcelReader parcel = ParcelReader.open(item.file(), key)) {
          common.output.line(
              "  "
                  + common.output.paint(Output.Tone.GOOD, "holds")
                  + "  "
                  + name
                  + "  "
                  + Output.counted(parcel.manifest().parts().size(), "part"));
        } catch (Problem problem) {
          exitCode = 1;
          common.output.line(
              "  "
                  + common.output.paint(Output.Tone.BAD, "fails")
                  + "  "
                  + name
                  + "  "
                  + problem.what()
                  + (problem.why().isEmpty() ? "" : ": " + problem.why()));
        }
      }
      common.output.flush();
      return exitCode;
    }
  }

  /** Takes a parcel away. */
  @Command(name = "remove", description = "Remove a parcel from the shelf.")
  static final class Remove implements Callable<Integer> {
    @Mixin CommonOptions common;

    @Parameters(paramLabel = "PARCEL", description = "its name, as shelf lists it")
    String name;

    @Option(names = "--yes", description = "remove it without a question")
    boolean yes;

    @Override
    public Integer call() {
      List<Shelf.Item> items = shelf(common.read()).items();
      Path file =
          items.stream()
              .map(Shelf.Item::file)
              .filter(path -> path.getFileName().toString().equals(name))
              .findFirst()
              .orElseThrow(
                  () ->
                      Problem.of(Failure.NOTHING_FOUND, "no parcel of this name is on the shelf")
                          .remedy(
                              Nearest.hint(
                                  name,
                                  items.stream()
                                      .map(item -> item.file().getFileName().toString())
                                      .toList())));
      Question.confirm(common.output, "Remove " + name + " for good?", yes);
      Shelf.remove(file);
      common.output.message("Removed " + name + ".");
      return 0;
    }
  }
}
