package yemble.cli;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.file.HeldFile;
import yemble.core.file.WrittenFile;
import yemble.core.job.Changes;
import yemble.core.job.OneRun;
import yemble.core.job.Progress;
import yemble.core.job.Rewriting;
import yemble.core.job.UndoFile;
import yemble.core.moment.Now;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Job;
import yemble.core.project.KeyFile;
import yemble.core.project.OutputFile;
import yemble.core.project.Pick;
import yemble.core.project.Project;
import yemble.core.schema.Column;
import yemble.core.store.InPlace;
import yemble.core.yaml.Place;
import yemble.jdbc.Engines;

/** Masks a copy where it stands. */
@Command(
    name = "rewrite",
    description = "Mask a restored copy where it stands.",
    footer = {
      "%nExamples:",
      "  yemble rewrite --dry        what would change, and how; nothing is written",
      "  yemble rewrite --to FILE    the statements, to be read and run another day",
      "  yemble rewrite nightly      asks for the copy's name, and proves it before it writes",
      "%nThe job's from: is rewritten: a database of environment: copy, and no other. What was cut",
      "off is gone on with by the same command. Unattended it needs rewrite: true under the copy.",
      "%nExit codes: 0 done, 1 a check fails, 2 wrong project, 3 refused for safety,",
      "4 a database or file failed."
    })
final class RewriteCommand implements Callable<Integer> {
  /** How often as long as counting what changes a rewrite took, where it was measured. */
  private static final int LEAST_PASSES = 4;

  private static final int MOST_PASSES = 8;
  private static final int FEW_SECONDS = 10;
  private static final Pattern AGE = Pattern.compile("([1-9][0-9]{0,4}) ?([mhd])");

  @Mixin CommonOptions common;

  @Parameters(arity = "0..1", paramLabel = "JOB", description = "the job, if there are several")
  String job = "";

  @Option(names = "--dry", description = "show what would change, and how; write nothing")
  boolean dry;

  @Option(
      names = "--with-others",
      description = "go ahead though other sessions are at work in the copy")
  boolean withOthers;

  @Option(
      names = "--to",
      paramLabel = "FILE",
      description = "write statements for the database's own client, and change nothing")
  Path to;

  @Option(names = "--overwrite", description = "the file of --to may take another one's place")
  boolean overwrite;

  @Option(
      names = "--undo",
      paramLabel = "AGE",
      description = "keep the originals, sealed with undo.key, for so long: 3d, 12h")
  String undo = "";

  @Option(
      names = "--rows",
      paramLabel = "\"TABLE: CONDITION\"",
      description = {
        "in a copy rewritten before: which rows are new, where no key tells;",
        "once for each table"
      })
  List<String> rows = new ArrayList<>();

  @Option(
      names = "--batch",
      paramLabel = "ROWS",
      defaultValue = "20000",
      description = "rows between two commits (20000)")
  int batch;

  @Override
  public Integer call() {
    Instant start = Now.moment();
    if (!undo.isEmpty()) {
      age();
    }
    if (batch < 1) {
      throw Problem.of(Failure.OPTION, "--batch is a number of rows, 1 or more").at("--batch");
    }
    Progress progress = ProgressView.of(common.output);
    Project project = common.read();
    Job asked = project.job(job);
    HeldFile held = dry ? null : OneRun.of(project, "rewrites " + asked.name());
    try (Rewriting rewriting =
        Rewriting.of(
            project, asked, withOthers, said(), common.environment(), Engines::of, progress)) {
      if (rewriting.isNothingNew()) {
        if (!dry) {
          rewriting.mend();
        }
        nothingNew(rewriting);
        return 0;
      }
      if (dry) {
        dry(rewriting, progress);
        return 0;
      }
      return to == null
          ? rewrite(rewriting, asked, progress, start)
          : script(project, rewriting, asked, progress);
    } finally {
      if (held != null) {
        held.close();
      }
    }
  }

  private List<Pick> said() {
    List<Pick> said = new ArrayList<>();
    for (String line : rows) {
      said.add(Pick.said(line, Place.of("--rows number " + (said.size() + 1))));
    }
    return said;
  }

  private void nothingNew(Rewriting rewriting) {
    if (common.json) {
      Map<String, Object> json = json(rewriting);
      json.put("written", false);
      json.put("checks", Findings.list(rewriting.untouched()));
      common.output.json(json);
      return;
    }
    describe(rewriting, rewriting.job().job());
    Findings.print(common.output, rewriting.untouched());
    common.output.line(
        "Nothing is new: no row came, and no column was decided to be masked since.");
    common.output.flush();
  }

  /** Keeps the originals, if somebody asked for it beforehand. */
  private Optional<UndoFile> wayBack(Rewriting rewriting) {
    if (undo.isEmpty() || rewriting.begun().isPresent()) {
      return Optional.empty();
    }
    return Optional.of(
        rewriting.keepingOriginals(
            age(), KeyFile.readForUndo(common.directory(), common.environment())));
  }

  private Duration age() {
    Matcher said = AGE.matcher(undo);
    if (!said.matches()) {
      throw Problem.of(Failure.OPTION, "--undo is for how long originals are kept")
          .at("--undo")
          .remedy("write it as 3d, 12h or 90m");
    }
    long number = Long.parseLong(said.group(1));
    return switch (said.group(2)) {
      case "d" -> Duration.ofDays(number);
      case "h" -> Duration.ofHours(number);
      default -> Duration.ofMinutes(number);
    };
  }

  /** The statements, to be read, approved and run another day. */
  private int script(Project project, Rewriting rewriting, Job asked, Progress progress) {
    OutputFile file = OutputFile.of(project, to, overwrite, common.environment());
    if (!common.json) {
      describe(rewriting, asked);
      common.output.line();
    }
    Rewriting.Result result;
    try (WrittenFile.Stream stream = WrittenFile.stream(file.path());
        Writer out =
            new BufferedWriter(new OutputStreamWriter(stream.out(), StandardCharsets.UTF_8))) {
      out.append("-- Made by yemble ").append(Main.Version.number()).append(": job ");
      out.append(asked.name().replaceAll("\\R", " ")).append(" in ");
      out.append(rewriting.from().title()).append(".\n");
      result =
          rewriting.script(
              out,
              batch,
              "yemble " + Main.Version.number(),
              System.getProperty("user.name"),
              progress);
      if (result.written()) {
        out.flush();
        stream.commit();
        file.taken();
      }
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "the script cannot be written")
          .at(file.path().toString())
          .causedBy(e);
    }
    if (common.json) {
      Map<String, Object> json = json(rewriting);
      json.put("written", false);
      json.put("proving_ms", result.proving().toMillis());
      json.put("writing_ms", result.writing().toMillis());
      json.put("checks", Findings.list(result.findings()));
      json.put("file", result.written() ? file.path().toString() : null);
      common.output.json(json);
      return result.written() ? 0 : 1;
    }
    Findings.print(common.output, result.findings());
    common.output.line();
    common.output.line(
        result.written()
            ? common.output.paint(Output.Tone.GOOD, "Written: ")
                + file.path()
                + ". "
                + rewriting.from().title()
                + " is as it was; the database's own client runs it, and stops where rows have"
                + " changed since."
            : common.output.paint(Output.Tone.BAD, "Not written: ") + "a check fails.");
    common.output.flush();
    return result.written() ? 0 : 1;
  }

  private int rewrite(Rewriting rewriting, Job asked, Progress progress, Instant start) {
    Output output = common.output;
    String copy = rewriting.from().title();
    if (!common.json) {
      describe(rewriting, asked);
      output.line();
    }
    confirm(
        common,
        rewriting.from(),
        (rewriting.begun().isPresent() ? "Go on rewriting " : "Rewrite ")
            + Output.counted(rewriting.rows(), "row")
            + " of "
            + copy
            + " where they stand? "
            + (undo.isEmpty() ? "What they were is gone then." : "")
            + " Type its name");
    Optional<UndoFile> wayBack = wayBack(rewriting);
    Stop.finds(
        "rows of " + copy + " may be rewritten, or none",
        "yemble rewrite " + asked.name() + " goes on where this stopped");
    Rewriting.Result result =
        rewriting.rewrite(
            batch, "yemble " + Main.Version.number(), System.getProperty("user.name"), progress);
    Stop.finds(copy + " is rewritten", "yemble verify " + asked.name());
    boolean holds =
        result.written() && result.findings().stream().noneMatch(finding -> finding.fails());
    report(rewriting, asked, result, holds, wayBack, Duration.between(start, Now.moment()));
    return holds ? 0 : 1;
  }

  /** The name is typed; where nobody can type, the project must say that it may be done. */
  static void confirm(CommonOptions common, Database copy, String question) {
    if (common.output.terminal().input() && !common.json) {
      Question.typed(common.output, question, copy.name());
      return;
    }
    if (!copy.rewrite()) {
      throw Problem.of(Failure.NOT_CONFIRMED, "nothing was written: there is no terminal to ask on")
          .at(copy.place().toString())
          .because("rows of " + copy.title() + " would be changed where they stand")
          .remedy(
              "if nobody needs to be asked, write this line to its others in the project file:"
                  + " rewrite: true");
    }
  }

  private void describe(Rewriting rewriting, Job asked) {
    Output output = common.output;
    output.line(output.paint(Output.Tone.STRONG, "Job " + asked.name()));
    output.line(
        "  in  "
            + output.paint(Output.Tone.STRONG, rewriting.from().title())
            + "  "
            + rewriting.target().description());
    output.line();
    rewriting
        .begun()
        .ifPresent(
            load -> {
              output.line(
                  "Begun by "
                      + load.by()
                      + ", "
                      + load.when()
                      + ", and proved then; it is gone on with where it was cut off.");
              output.line();
            });
    if (rewriting.begun().isEmpty()) {
      rewriting
          .before()
          .ifPresent(
              load ->
                  output.line(
                      "Rewritten before by "
                          + load.by()
                          + ", "
                          + load.when()
                          + "; now what is new since.\n"));
    }
    if (rewriting.parts().isEmpty()) {
      return;
    }
    TextTable table =
        rewriting.before().isEmpty()
            ? new TextTable("table", ">rows", "how", "columns that change")
            : new TextTable("table", "which rows", ">rows", "how", "columns that change");
    for (InPlace.Part part : rewriting.parts()) {
      List<Object> row = new ArrayList<>(List.of(part.table().name()));
      if (rewriting.before().isPresent()) {
        row.add(rewriting.narrowed().getOrDefault(part.table().name(), "all"));
      }
      row.addAll(
          List.of(
              rewriting.begun().isPresent()
                  ? ""
                  : Output.number(
                      part.way() == InPlace.Way.EMPTIED
                          ? rewriting.job().source().count(part.table())
                          : rewriting.job().selection().part(part.table().name()).size()),
              how(part),
              part.changed().stream().map(Column::name).collect(Collectors.joining(", "))));
      table.row(row.toArray());
    }
    output.table(table);
    if (rewriting.parts().stream().anyMatch(part -> !part.unique().isEmpty())) {
      output.line();
      output
          .wrapped(
              "By key: in batches, each row found by its key. Whole: all rows go and come back at"
                  + " once, also where new values of a unique key meet old ones.",
              0)
          .forEach(output::line);
    }
    for (InPlace.Part part : rewriting.parts()) {
      if (rewriting.target().histories().contains(part.table().name())) {
        output.line();
        output.line(
            output.paint(Output.Tone.WARNING, "warning: ")
                + "what rows of "
                + part.table().name()
                + " were before (system versioning) is deleted");
      }
    }
    for (Map.Entry<TableName, Long> left : rewriting.left().entrySet()) {
      output.line();
      output.line(
          output.paint(Output.Tone.WARNING, "warning: ")
              + Output.counted(left.getValue(), "row")
              + " of "
              + left.getKey()
              + " are not of the job, and stay as they are, unmasked");
    }
  }

  private static String how(InPlace.Part part) {
    return part.way().words()
        + (part.way() == InPlace.Way.WHOLE
            ? part.table().primaryKey().isEmpty() ? ": no key" : ": key masked"
            : part.unique().isEmpty() ? "" : " (or whole)");
  }

  private void dry(Rewriting rewriting, Progress progress) {
    Output output = common.output;
    if (rewriting.begun().isPresent()) {
      if (common.json) {
        output.json(json(rewriting));
        return;
      }
      describe(rewriting, rewriting.job().job());
      output.line();
      output.line("Dry: nothing was written.");
      output.flush();
      return;
    }
    Instant start = Now.moment();
    Changes changes = Changes.of(rewriting.job(), progress);
    Duration counting = Duration.between(start, Now.moment());
    if (common.json) {
      Map<String, Object> json = json(rewriting);
      json.put("written", false);
      json.put("least_ms", counting.multipliedBy(LEAST_PASSES).toMillis());
      json.put("most_ms", counting.multipliedBy(MOST_PASSES).toMillis());
      json.putAll(RunJson.changes(changes));
      output.json(json);
      return;
    }
    describe(rewriting, rewriting.job().job());
    output.line();
    if (!rewriting.untouched().isEmpty()) {
      Findings.print(output, rewriting.untouched());
      output.line();
    }
    ChangesView.print(output, rewriting.job(), changes);
    output.line();
    String said =
        "Dry: nothing was written. "
            + Output.counted(changes.totalCells(), "cell")
            + " in "
            + Output.counted(changes.rows(), "row")
            + " of "
            + rewriting.from().title()
            + " would change. Until they do, what "
            + Output.counted(rewriting.rows(), "row")
            + " become waits beside them, about "
            + Output.bytes(rewriting.bytes())
            + " without indexes. It takes "
            + roughly(counting)
            + ".";
    output.wrapped(said, 0).forEach(output::line);
    output.flush();
  }

  private static String roughly(Duration counting) {
    Duration most = counting.multipliedBy(MOST_PASSES);
    return most.toSeconds() < FEW_SECONDS
        ? "some seconds"
        : "roughly "
            + Output.duration(counting.multipliedBy(LEAST_PASSES))
            + " to "
            + Output.duration(most);
  }

  private static Map<String, Object> json(Rewriting rewriting) {
    return Json.object(
        "job",
        rewriting.job().job().name(),
        "from",
        Json.database(rewriting.from()),
        "rows",
        rewriting.rows(),
        "begun",
        rewriting.begun().isPresent(),
        "rewritten_before",
        rewriting.before().isPresent(),
        "tables",
        Json.list(
            rewriting.parts(),
            (InPlace.Part part) ->
                Json.object(
                    "table",
                    part.table().name().toString(),
                    "way",
                    part.way().name().toLowerCase(java.util.Locale.ROOT).replace('_', '-'),
                    "rows",
                    rewriting.narrowed().getOrDefault(part.table().name(), ""),
                    "columns",
                    Json.list(part.changed(), Column::name))),
        "rows_left",
        Json.list(
            rewriting.left().entrySet(),
            entry -> Json.object("table", entry.getKey().toString(), "rows", entry.getValue())));
  }

  private void report(
      Rewriting rewriting,
      Job asked,
      Rewriting.Result result,
      boolean holds,
      Optional<UndoFile> wayBack,
      Duration took) {
    Output output = common.output;
    if (common.json) {
      Map<String, Object> json = json(rewriting);
      json.put("written", result.written());
      json.put("took_ms", took.toMillis());
      json.put("proving_ms", result.proving().toMillis());
      json.put("keeping_ms", result.keeping().toMillis());
      json.put("writing_ms", result.writing().toMillis());
      json.put("tidying_ms", result.tidying().toMillis());
      json.put("pins", PinsView.json(rewriting.pins()));
      json.put("tokens", TokensView.json(rewriting.tokens()));
      json.put("checks", Findings.list(result.findings()));
      json.put(
          "traces",
          Json.list(
              result.traces(),
              (InPlace.Trace trace) ->
                  Json.object(
                      "place", trace.place(),
                      "removed", trace.cleaned(),
                      "words", trace.words())));
      output.json(json);
      return;
    }
    Findings.print(output, result.findings());
    output.line();
    PinsView.print(output, rewriting.pins());
    TokensView.print(output, rewriting.tokens());
    if (!result.traces().isEmpty()) {
      output.line("Where originals may be left:");
      output.line();
      for (InPlace.Trace trace : result.traces()) {
        String lead =
            trace.cleaned() ? "  removed  " : output.paint(Output.Tone.WARNING, "  yours    ");
        for (String line : output.wrapped(trace.place() + ": " + trace.words(), 11)) {
          output.line(lead + line);
          lead = " ".repeat(11);
        }
      }
      output.line();
    }
    String copy = rewriting.from().title();
    if (holds) {
      output.line(
          output.paint(Output.Tone.GOOD, "Done: ")
              + Output.counted(rewriting.rows(), "row")
              + " of "
              + copy
              + " rewritten in "
              + Output.duration(took)
              + ".");
      wayBack.ifPresent(
          file ->
              output.line(
                  output.paint(Output.Tone.WARNING, "Until " + file.when())
                      + " originals can be put back: yemble undo "
                      + asked.name()
                      + "; or removed before: yemble undo --forget"));
      output.line(
          "Next: what is marked yours above; then say environment: test, if it is to be one.");
    } else if (result.written()) {
      output.line(
          output.paint(Output.Tone.BAD, "Not done: ")
              + "rows of "
              + copy
              + " are not what was proved; what waited is still there. Next: yemble rewrite "
              + asked.name());
    } else {
      output.line(
          output.paint(Output.Tone.BAD, "Not written: ")
              + "a check fails, and "
              + copy
              + " is as it was.");
    }
    output.flush();
  }
}
