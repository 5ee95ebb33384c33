package yemble.cli;

import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.file.HeldFile;
import yemble.core.job.OneRun;
import yemble.core.job.Progress;
import yemble.core.job.UndoFile;
import yemble.core.job.Undoing;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Job;
import yemble.core.project.Project;
import yemble.core.store.InPlace;
import yemble.jdbc.Engines;

/** Takes a rewrite back. */
@Command(
    name = "undo",
    description = "Put back the originals of a rewritten copy, if they were kept.",
    footer = {
      "%nExamples:",
      "  yemble undo --list       of which copies originals are kept, and until when",
      "  yemble undo nightly      puts them back; rows that were changed since stay as they are",
      "  yemble undo --forget     removes what is kept: nothing leads back from then on",
      "%nExit codes: 0 done, 1 a check fails, 2 nothing is kept or wrong project,",
      "3 refused for safety, 4 a database or file failed."
    })
final class UndoCommand implements Callable<Integer> {
  private static final int SHOWN = 10;

  @Mixin CommonOptions common;

  @Parameters(arity = "0..1", paramLabel = "JOB", description = "the job, if there are several")
  String job = "";

  @Option(names = "--list", description = "show what can be taken back, and until when")
  boolean list;

  @Option(names = "--forget", description = "remove the originals that are kept, of all copies")
  boolean forget;

  @Option(names = "--yes", description = "with --forget: without a question")
  boolean yes;

  @Option(
      names = "--show-values",
      description = "show the keys of some rows that were changed since, on screen alone")
  boolean showValues;

  @Option(
      names = "--with-others",
      description = "go ahead though other sessions are at work in the copy")
  boolean withOthers;

  @Option(
      names = "--batch",
      paramLabel = "ROWS",
      defaultValue = "20000",
      description = "rows between two commits (20000)")
  int batch;

  @Override
  public Integer call() {
    Project project = common.read();
    if (list) {
      list(project);
      return 0;
    }
    if (forget) {
      forget(project);
      return 0;
    }
    if (batch < 1) {
      throw Problem.of(Failure.OPTION, "--batch is a number of rows, 1 or more").at("--batch");
    }
    Job asked = project.job(job);
    try (HeldFile held = OneRun.of(project, "undoes " + asked.name());
        Undoing undoing =
            Undoing.of(project, asked, withOthers, common.environment(), Engines::of)) {
      return undo(undoing, asked, held);
    }
  }

  private static Object json(UndoFile file) {
    return Json.object(
        "database",
        file.database(),
        "until",
        file.until().toString(),
        "file",
        file.file().toString());
  }

  private void list(Project project) {
    Output output = common.output;
    if (common.json) {
      output.json(Json.object("kept", Json.list(UndoFile.all(project), UndoCommand::json)));
      return;
    }
    if (UndoFile.all(project).isEmpty()) {
      output.line("No originals are kept: nothing can be taken back.");
    } else {
      TextTable table = new TextTable("database", "until", "file");
      UndoFile.all(project)
          .forEach(
              file ->
                  table.row(
                      file.database(),
                      file.when(),
                      project.directory().relativize(file.file()).toString()));
      output.table(table);
      output.line();
      output.line("Each of these files is a way back to originals, for whoever has undo.key.");
    }
    output.flush();
  }

  private void forget(Project project) {
    var files = UndoFile.all(project);
    if (files.isEmpty()) {
      throw Problem.of(Failure.NOTHING_FOUND, "no originals are kept");
    }
    Question.confirm(
        common.output,
        "Remove the originals of " + Output.counted(files.size(), "rewrite") + " that are kept?",
        yes);
    files.forEach(UndoFile::remove);
    if (common.json) {
      common.output.json(Json.object("forgotten", Json.list(files, UndoCommand::json)));
      return;
    }
    common.output.line(
        common.output.paint(Output.Tone.GOOD, "Done: ")
            + "removed "
            + Output.counted(files.size(), "file")
            + ". Nothing leads back any more.");
    common.output.flush();
  }

  private int undo(Undoing undoing, Job asked, HeldFile held) {
    Output output = common.output;
    String copy = undoing.from().title();
    if (!common.json) {
      output.line(output.paint(Output.Tone.STRONG, "Job " + asked.name()));
      output.line(
          "  in  "
              + output.paint(Output.Tone.STRONG, copy)
              + "  "
              + undoing.target().description());
      output.line();
      output.line("Rewritten by " + undoing.rewrite().by() + ", " + undoing.rewrite().when() + ".");
      for (Map.Entry<TableName, Long> left : undoing.left().entrySet()) {
        output.line(
            output.paint(Output.Tone.WARNING, "warning: ")
                + left.getKey()
                + " was changed since, and its rows cannot be told apart: it stays as it is ("
                + Output.counted(left.getValue(), "row")
                + " kept)");
      }
      output.line();
    }
    RewriteCommand.confirm(
        common,
        undoing.from(),
        "Put back "
            + Output.counted(undoing.rows(), "row")
            + " of "
            + copy
            + "? Originals are there again then. Type its name");
    Stop.finds(
        "originals of " + copy + " may be back, or not",
        "yemble undo " + asked.name() + " goes on where this stopped");
    Progress progress = held == null ? Progress.SILENT : ProgressView.of(output);
    Undoing.Result result = undoing.undo(batch, showValues ? SHOWN : 0, progress);
    Stop.finds(copy + " holds its originals", "yemble doctor");
    report(undoing, asked, result);
    return result.holds() ? 0 : 1;
  }

  private void report(Undoing undoing, Job asked, Undoing.Result result) {
    Output output = common.output;
    long edited = result.edited().values().stream().mapToLong(InPlace.Edited::rows).sum();
    if (common.json) {
      output.json(
          Json.object(
              "job",
              asked.name(),
              "from",
              Json.database(undoing.from()),
              "rows",
              result.rows(),
              "edited",
              Json.list(
                  result.edited().entrySet(),
                  entry ->
                      Json.object(
                          "table",
                          entry.getKey().toString(),
                          "rows",
                          entry.getValue().rows(),
                          "whole_table_left",
                          entry.getValue().whole())),
              "tables_left",
              Json.list(undoing.left().keySet(), Object::toString),
              "checks",
              Findings.list(result.findings())));
      return;
    }
    Findings.print(output, result.findings());
    output.line();
    if (edited > 0) {
      TextTable table = new TextTable("changed since, and left as they are", ">rows", "");
      result
          .edited()
          .forEach(
              (name, rows) ->
                  table.row(
                      name,
                      Output.number(rows.rows()),
                      (rows.whole() ? "so the whole table  " : "")
                          + Visible.of(String.join("  ", rows.keys()))));
      output.table(table);
      output.line();
    }
    output.line(
        result.holds()
            ? output.paint(Output.Tone.GOOD, "Done: ")
                + Output.counted(result.rows(), "row")
                + " of "
                + undoing.from().title()
                + " are originals again; what was kept of them is removed."
            : output.paint(Output.Tone.BAD, "Not done: ")
                + "not all rows are what they were; what is kept is still there.");
    output.flush();
  }
}
