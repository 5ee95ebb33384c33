package yemble.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.file.WrittenFile.Readers;
import yemble.core.job.Preparation;
import yemble.core.plan.TablePlan;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.OutputFile;
import yemble.core.project.Project;
import yemble.core.row.RowSet;
import yemble.core.row.Values;
import yemble.core.schema.Lookup;
import yemble.core.schema.Table;
import yemble.jdbc.Engines;

/** Original beside masked. */
@Command(
    name = "preview",
    description = {
      "Show original beside masked for some rows of a table.",
      "Writes nothing but the file that --save asks for; the screen shows values of the source.",
      "With --check and no table: whether the masked values of all columns fit them."
    },
    footer = {
      "%nExamples:",
      "  yemble preview passenger                           three rows",
      "  yemble preview passenger --row 17                  one person",
      "  yemble preview leg --row 12,1                      a row whose key has two columns",
      "  yemble preview note --where \"body LIKE '%%mail%%'\" --rows 5",
      "  yemble preview passenger --all-columns",
      "  yemble preview passenger --rows 50 --save          into passenger.with-originals.csv",
      "  yemble preview --check                             all masks against all limits"
    })
final class PreviewCommand implements Callable<Integer> {
  private static final int LONG_TEXT = 40;
  private static final String SAVED = ".with-originals.csv";

  @Mixin CommonOptions common;

  @Parameters(paramLabel = "TABLE", arity = "0..1", description = "the table")
  String table = "";

  @Option(
      names = "--where",
      paramLabel = "SQL",
      description = "a condition in the source's SQL; - for standard input")
  String where = "";

  @Option(
      names = "--row",
      paramLabel = "ROW",
      description = "one row, by its primary key's values; - for standard input")
  String row = "";

  @Option(
      names = "--rows",
      paramLabel = "N",
      defaultValue = "3",
      description = "how many rows (default: ${DEFAULT-VALUE})")
  int rows;

  @Option(names = "--all-columns", description = "unmasked columns, too")
  boolean all;

  @Option(
      names = "--check",
      description = "mask a sample of everything, and look whether it fits its columns")
  boolean check;

  @Option(
      names = "--save",
      description = "into a file TABLE.with-originals.csv in the project's folder, not on screen")
  boolean save;

  @Option(names = "--overwrite", description = "the file of --save may take another one's place")
  boolean overwrite;

  @Option(names = "--job", paramLabel = "JOB", description = "the job, if not all mask alike")
  String job = "";

  @Override
  public Integer call() {
    if (rows < 1 || rows > 1_000) {
      throw Problem.of(Failure.OPTION, "--rows takes a number from 1 to 1000")
          .because("this goes to the screen");
    }
    if (table.isEmpty() != check) {
      throw Problem.of(
              Failure.CHOICE_MISSING,
              check ? "--check looks at all tables" : "which table? Or --check, for all of them")
          .remedy("yemble preview TABLE shows rows; yemble preview --check looks at limits");
    }
    row = StandardInput.or(row);
    where = StandardInput.or(where);
    Project project = common.read();
    if (save) {
      saved(project, table); // Refused before anything is read.
    }
    try (Preparation preparation =
        Preparation.of(
            project,
            project.anyJob(job),
            Preparation.Purpose.PREVIEW,
            common.environment(),
            Engines::of,
            ProgressView.of(common.output))) {
      if (check) {
        return new LimitsView(common).print(preparation, preparation.masked().look());
      }
      Table found = new Lookup(preparation.source().schema()).table(table, "the command line");
      TablePlan plan = preparation.plan().table(found.name());
      RowSet wanted = wanted(preparation, found);
      List<Object[][]> shown = new ArrayList<>();
      preparation
          .masked()
          .masker(plan)
          .rows(
              wanted,
              (number, before, after) ->
                  shown.add(new Object[][] {{number}, before.clone(), after.clone()}));
      if (save) {
        save(project, plan, shown);
      } else if (common.json) {
        json(preparation, plan, shown);
      } else {
        print(preparation, plan, shown);
      }
    }
    return 0;
  }

  /** Writes original and masked side by side, readable for the user alone. */
  private void save(Project project, TablePlan plan, List<Object[][]> shown) {
    List<List<Object>> lines = new ArrayList<>();
    List<Object> head = new ArrayList<>();
    List<Integer> positions = new ArrayList<>();
    for (int i = 0; i < plan.columns().size(); i++) {
      if (all || plan.columns().get(i).masked()) {
        positions.add(i);
        head.add(plan.columns().get(i).column().name() + " (original)");
        head.add(plan.columns().get(i).column().name() + " (masked)");
      }
    }
    lines.add(head);
    for (Object[][] one : shown) {
      List<Object> line = new ArrayList<>();
      for (int i : positions) {
        line.add(one[1][i] == null ? null : text(one[1][i]));
        line.add(one[2][i] == null ? null : text(one[2][i]));
      }
      lines.add(line);
    }
    OutputFile file = saved(project, plan.table().name().toString());
    file.write(ReviewFile.csv(lines), Readers.OWNER);
    common.output.line(
        Output.counted(shown.size(), "row")
            + " of "
            + plan.table().name()
            + ", original and masked, into "
            + file.path()
            + ", which only you can read. It holds originals: delete it when you have seen it.");
    common.output.flush();
  }

  private OutputFile saved(Project project, String name) {
    Path path = project.directory().resolve(name.replaceAll("[^\\p{L}\\p{N}._$ -]", "_") + SAVED);
    return OutputFile.of(project, path, overwrite, common.environment());
  }

  private RowSet wanted(Preparation job, Table found) {
    RowSet wanted = new RowSet();
    if (!row.isEmpty()) {
      wanted.add(Rows.find(job.source(), found, List.of(row)));
    } else if (where.isEmpty()) {
      job.source().sample(found, List.of(), rows, (number, values) -> wanted.add(number));
    } else {
      job.source().check(found, where);
      job.source()
          .rows(
              found,
              where,
              List.of(),
              (number, values) -> {
                if (wanted.size() < rows) {
                  wanted.add(number);
                }
              });
    }
    return wanted;
  }

  private void print(Preparation job, TablePlan plan, List<Object[][]> shown) {
    Output output = common.output;
    output.line(
        "Preview of "
            + output.paint(Output.Tone.STRONG, plan.table().name().toString())
            + " in "
            + output.paint(Output.Tone.STRONG, job.from().title())
            + ": original, and what it becomes");
    if (shown.isEmpty()) {
      output.line("  no row");
    }
    for (Object[][] one : shown) {
      output.line();
      row(job, plan, one);
    }
    output.line();
    output.line("Nothing was written. The originals above are the source's own.");
    output.flush();
  }

  /** A row's columns: short ones in a table, long ones below it in full. */
  private void row(Preparation job, TablePlan plan, Object[][] one) {
    Output output = common.output;
    TextTable table =
        new TextTable(
            "row " + Rows.name(job.source(), plan.table(), (Long) one[0][0]),
            "original",
            "becomes",
            "by");
    List<Runnable> below = new ArrayList<>();
    for (int i = 0; i < plan.columns().size(); i++) {
      TablePlan.ColumnPlan column = plan.columns().get(i);
      boolean changed = !Objects.deepEquals(one[1][i], one[2][i]);
      if (!all && !column.masked() && !changed) {
        continue;
      }
      String original = text(one[1][i]);
      String becomes = changed ? text(one[2][i]) : column.masked() ? "(the same)" : "";
      String by = column.masked() ? column.by() : "kept";
      if (original.length() > LONG_TEXT) {
        below.add(() -> longText(column.column().name(), by, original, becomes));
      } else {
        Output.Tone tone = changed || !column.masked() ? Output.Tone.PLAIN : Output.Tone.FAINT;
        table.row(tone, column.column().name(), original, becomes, by);
      }
    }
    if (table.isEmpty() && below.isEmpty()) {
      output.line("  no column of it is masked; see all with --all-columns");
    }
    output.table(table);
    below.forEach(Runnable::run);
  }

  private void longText(String column, String by, String original, String becomes) {
    Output output = common.output;
    output.line("  " + column + "  (" + by + ")");
    block("original", original);
    block("becomes", becomes);
  }

  private void block(String word, String text) {
    List<String> lines = common.output.wrapped(text, 14);
    common.output.line(String.format("    %-8s  %s", word, lines.get(0)));
    lines.stream().skip(1).forEach(line -> common.output.line(" ".repeat(14) + line));
  }

  private static String text(Object value) {
    if (value == null) {
      return "NULL";
    }
    String text = value instanceof byte[] blob ? blob.length + " bytes" : Values.text(value);
    return text.isEmpty() ? "''" : text;
  }

  private void json(Preparation job, TablePlan plan, List<Object[][]> shown) {
    common.output.json(
        Json.object(
            "from",
            Json.database(job.from()),
            "table",
            plan.table().name().toString(),
            "rows",
            Json.list(shown, one -> row(plan, one))));
  }

  private List<Object> row(TablePlan plan, Object[][] one) {
    List<Object> columns = new ArrayList<>();
    for (int i = 0; i < plan.columns().size(); i++) {
      TablePlan.ColumnPlan column = plan.columns().get(i);
      if (all || column.masked()) {
        columns.add(
            Json.object(
                "column", column.column().name(),
                "original", Json.value(one[1][i]),
                "becomes", Json.value(one[2][i]),
                "by", column.masked() ? column.by() : null));
      }
    }
    return columns;
  }
}
