package yemble.cli;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import yemble.core.job.Guard;
import yemble.core.job.Opened;
import yemble.core.job.Passes;
import yemble.core.job.Preparation;
import yemble.core.job.Progress;
import yemble.core.job.TokenStores;
import yemble.core.job.UndoFile;
import yemble.core.plan.Gate;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Environment;
import yemble.core.project.Job;
import yemble.core.project.KeyFile;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.project.StoreSettings;
import yemble.core.store.Engine;
import yemble.core.store.Reader;
import yemble.core.store.Remark;
import yemble.core.store.TokenTables;
import yemble.core.token.TokenStore;
import yemble.jdbc.Engines;

/** Is everything in order? */
@Command(
    name = "doctor",
    description = {
      "Look whether the project and its databases are in order.",
      "Changes nothing: can each be reached, read, loaded; is the key there; is the register settled."
    },
    footer = {
      "%nExamples:",
      "  yemble doctor",
      "  yemble doctor --mend      also remove what a stopped run has left behind",
      "  yemble doctor --server jdbc:postgresql://localhost/ --user me    which databases has it?",
      "%nExit codes: 0 no problem (warnings may be), 1 a problem."
    })
final class DoctorCommand implements Callable<Integer> {
  @Mixin CommonOptions common;

  @Option(names = "--mend", description = "remove what a stopped run has left behind")
  boolean mend;

  @Option(
      names = "--server",
      paramLabel = "URL",
      description = "list a server's databases; a password is taken from $YEMBLE_PASSWORD")
  String server = "";

  @Option(
      names = "--user",
      paramLabel = "USER",
      description = "who signs in at --server (default: as the server's own ways say)")
  String user = "";

  @Override
  public Integer call() {
    if (!server.isEmpty()) {
      return databases();
    }
    Project project = common.read();
    Map<String, List<Remark>> remarks = new LinkedHashMap<>();
    remarks.put("project", project(project));
    for (Database database : project.databases().values()) {
      remarks.put(database.title(), database(project, database));
    }
    for (StoreSettings store : project.stores().values()) {
      remarks.put("token store " + store.name(), List.of(store(project, store)));
    }
    for (Job job : project.jobs().values()) {
      job(project, job).ifPresent(remark -> remarks.put("job " + job.name(), List.of(remark)));
    }
    if (common.json) {
      json(remarks);
    } else {
      print(remarks);
    }
    boolean problem =
        remarks.values().stream()
            .flatMap(List::stream)
            .anyMatch(r -> r.level() == Remark.Level.PROBLEM);
    return problem ? 1 : 0;
  }

  private int databases() {
    Engine.Address address =
        new Engine.Address(
            "the server",
            server,
            common.project,
            user,
            common.environment().getOrDefault(CommonOptions.PASSWORD, ""));
    Map<String, String> databases = Engines.of(address).databases(address);
    if (common.json) {
      common.output.json(
          Json.object(
              "databases",
              Json.list(
                  databases.entrySet(),
                  entry -> Json.object("name", entry.getKey(), "about", entry.getValue()))));
      return 0;
    }
    TextTable table = new TextTable("database", "size, encoding, owner");
    databases.forEach(table::row);
    common.output.table(table);
    common.output.line();
    common.output.line(
        "Next: yemble init URL, with the url of one of these"
            + (databases.isEmpty() ? "" : ", like …/" + databases.keySet().iterator().next()));
    common.output.flush();
    return 0;
  }

  private List<Remark> project(Project project) {
    List<Remark> remarks = new ArrayList<>();
    remarks.add(
        Remark.ok(
            "project file",
            Output.counted(project.databases().size(), "database")
                + ", "
                + Output.counted(project.links().size(), "link rule")
                + ", "
                + Output.counted(project.jobs().size(), "job")));
    try {
      String print = KeyFile.read(project.directory(), common.environment()).fingerprint();
      remarks.add(Remark.ok("key", "fingerprint " + print));
    } catch (Problem problem) {
      remarks.add(Remark.problem("key", said(problem)));
    }
    return remarks;
  }

  /** Whether a token store can be opened, and to what it leads back until when. */
  private Remark store(Project project, StoreSettings settings) {
    try (TokenStore store =
        new TokenStores(project, common.environment(), Engines::of)
            .open(settings, KeyFile.read(project.directory(), common.environment()))) {
      TokenTables.Content content = store.content();
      if (content.tokens() == 0) {
        return Remark.ok("token store", "opens with its key; it holds nothing yet");
      }
      return Remark.warning(
          "way back",
          "from "
              + Output.counted(content.tokens(), "token")
              + " of "
              + String.join(", ", content.columns().stream().map(TokenTables.Used::column).toList())
              + " for whoever has its key, "
              + settings
                  .keep()
                  .map(keep -> "until " + content.newest().plusDays(keep.toDays()))
                  .orElse("without an end: say keep: 90d, or yemble tokens expire"));
    } catch (Problem problem) {
      return Remark.problem("token store", said(problem));
    }
  }

  private static String said(Problem problem) {
    return problem.what()
        + (problem.why().isEmpty() ? "" : ": " + problem.why())
        + (problem.remedy().isEmpty() ? "" : "; " + problem.remedy());
  }

  private List<Remark> database(Project project, Database database) {
    boolean written =
        database.environment() == Environment.TEST
            && project.jobs().values().stream().noneMatch(j -> j.from().equals(database.name()));
    try {
      Engine.Address address = Opened.address(project.directory(), database, common.environment());
      Engine engine = Engines.of(address);
      List<Remark> remarks = new ArrayList<>();
      if (written) {
        Guard.apart(project, database, common.environment(), Engines::of);
      }
      if (mend && (written || database.environment() == Environment.COPY)) {
        engine.mend(address).forEach(done -> remarks.add(Remark.ok("mended", done)));
      }
      remarks.addAll(engine.examine(address, written));
      for (Job job : project.jobs().values()) {
        if (job.from().equals(database.name())) {
          remarks.add(register(project, database, engine, address));
          rewrite(engine, address).ifPresent(remarks::add);
          for (UndoFile file : UndoFile.all(project)) {
            if (file.database().equals(database.name())) {
              remarks.add(
                  Remark.warning(
                      "undo",
                      "its originals are kept until "
                          + file.when()
                          + ": a way back for whoever has undo.key"));
            }
          }
          break;
        }
      }
      return remarks;
    } catch (Problem problem) {
      return List.of(Remark.problem("reachable", said(problem)));
    }
  }

  /** Whether the database was rewritten where it stands, or is only half of it. */
  private static Optional<Remark> rewrite(Engine engine, Engine.Address address) {
    try (Reader reader = engine.open(address)) {
      return Passes.of(reader)
          .last()
          .map(
              load ->
                  load.way().equals(Passes.DONE)
                      ? Remark.ok("rewrite", "rewritten by " + load.by() + ", " + load.when())
                      : Remark.warning(
                          "rewrite",
                          "job "
                              + load.job()
                              + " began to rewrite it, and was cut off: some rows are masked, some"
                              + " are not; yemble rewrite "
                              + load.job()
                              + " goes on"));
    } catch (Problem problem) {
      return Optional.empty();
    }
  }

  private static Remark register(
      Project project, Database database, Engine engine, Engine.Address address) {
    try (Reader reader = engine.open(address)) {
      Register register =
          Register.read(project.directory().resolve(database.register()), database.register());
      int open = Gate.open(reader.schema(), register, Gate.Terms.of(project, database)).size();
      return open == 0
          ? Remark.ok("register", "every column is settled")
          : Remark.warning(
              "register", Output.counted(open, "column") + " open; see yemble register --check");
    } catch (Problem problem) {
      return Remark.warning("register", said(problem));
    }
  }

  /**
   * Whether a job's rules hold for the schema; nothing where it cannot be looked at, or as long as
   * columns are open.
   */
  private Optional<Remark> job(Project project, Job job) {
    try (Preparation ready =
        Preparation.of(
            project,
            job,
            Preparation.Purpose.RULES,
            common.environment(),
            Engines::of,
            Progress.SILENT)) {
      ready.accepted();
      return Optional.of(
          Remark.ok(
              "rules",
              "its picks, links and masks fit the schema; rows and values: yemble run "
                  + job.name()
                  + " --dry"));
    } catch (Problem problem) {
      return problem.type() == Failure.Type.USAGE && problem.failure() != Failure.KEY_MISSING
          ? Optional.of(
              Remark.problem(
                  "rules",
                  (problem.where().isEmpty() ? "" : problem.where() + ": ") + said(problem)))
          : Optional.empty();
    }
  }

  private void print(Map<String, List<Remark>> remarks) {
    Output output = common.output;
    remarks.forEach(
        (title, list) -> {
          output.line(output.paint(Output.Tone.STRONG, title));
          for (Remark remark : list) {
            Output.Tone tone =
                switch (remark.level()) {
                  case OK -> Output.Tone.GOOD;
                  case WARNING -> Output.Tone.WARNING;
                  case PROBLEM -> Output.Tone.BAD;
                };
            output.line(
                "  "
                    + output.paint(tone, String.format("%-8s", remark.level()))
                    + String.format("  %-12s  ", remark.subject())
                    + remark.text());
          }
          output.line();
        });
    long problems = count(remarks, Remark.Level.PROBLEM);
    long warnings = count(remarks, Remark.Level.WARNING);
    output.line(
        problems + warnings == 0
            ? output.paint(Output.Tone.GOOD, "All that was looked at is in order.")
            : Output.counted(problems, "problem")
                + ", "
                + Output.counted(warnings, "warning")
                + ".");
    output.flush();
  }

  private static long count(Map<String, List<Remark>> remarks, Remark.Level level) {
    return remarks.values().stream().flatMap(List::stream).filter(r -> r.level() == level).count();
  }

  private void json(Map<String, List<Remark>> remarks) {
    common.output.json(
        Json.object(
            "problems",
            count(remarks, Remark.Level.PROBLEM),
            "warnings",
            count(remarks, Remark.Level.WARNING),
            "looked_at",
            Json.list(
                remarks.entrySet(),
                entry ->
                    Json.object(
                        "what",
                        entry.getKey(),
                        "remarks",
                        Json.list(
                            entry.getValue(),
                            remark ->
                                Json.object(
                                    "level", remark.level().toString(),
                                    "subject", remark.subject(),
                                    "says", remark.text()))))));
  }
}
