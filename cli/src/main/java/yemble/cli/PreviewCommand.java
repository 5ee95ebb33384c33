package yemble.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.job.Preparation;
import yemble.core.plan.TablePlan;
import yemble.core.problem.Problem;
import yemble.core.project.Project;
import yemble.core.schema.Lookup;
import yemble.core.schema.Table;
import yemble.core.store.RowSet;
import yemble.core.store.Values;
import yemble.jdbc.Engines;

/** Original beside masked. */
@Command(
    name = "preview",
    description = {
      "Show original beside masked for some rows of a table.",
      "Writes nothing; the screen shows values of the source."
    },
    footer = {
      "%nExamples:",
      "  yemble preview passenger                           three rows",
      "  yemble preview passenger --row 17                  one person",
      "  yemble preview note --where \"body LIKE '%%mail%%'\" --rows 5",
      "  yemble preview passenger --all-columns"
    })
final class PreviewCommand implements Callable<Integer> {
  private static final int LONG_TEXT = 40;
  @Mixin CommonOptions common;

  @Parameters(paramLabel = "TABLE", description = "the table")
  String table;

  @Option(names = "--where", paramLabel = "SQL", description = "a condition in the source's SQL")
  String where = "";

  @Option(names = "--row", paramLabel = "ROW", description = "one row, by its primary key's values")
  String row = "";

  @Option(
      names = "--rows",
      paramLabel = "N",
      defaultValue = "3",
      description = "how many rows (default: ${DEFAULT-VALUE})")
  int rows;

  @Option(names = "--all-columns", description = "unmasked columns, too")
  boolean all;

  @Option(names = "--job", paramLabel = "JOB", description = "the job, if there are several")
  String job = "";

  @Override
  public Integer call() {
    if (rows < 1 || rows > 1_000) {
      throw Problem.usage("--rows takes a number from 1 to 1000")
          .because("this goes to the screen");
    }
    Project project = common.read();
    try (Preparation preparation =
        Preparation.of(
            project,
            project.job(job),
            Preparation.Purpose.PREVIEW,
            common.environment(),
            Engines::of,
            ProgressView.of(common.output))) {
      Table found = new Lookup(preparation.source().schema()).table(table, "the command line");
      TablePlan plan = preparation.plan().table(found.name());
      RowSet wanted = wanted(preparation, found);
      List<Object[][]> shown = new ArrayList<>();
      preparation
          .rewriter(plan)
          .rows(
              wanted,
              (number, before, after) ->
                  shown.add(new Object[][] {{number}, before.clone(), after.clone()}));
      if (common.json) {
        json(preparation, plan, shown);
      } else {
        print(preparation, plan, shown);
      }
    }
    return 0;
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
    return text.isEmpty() ? "''" : text.replace('\n', ' ');
  }

  private void json(Preparation job, TablePlan plan, List<Object[][]> shown) {
    common.output.json(
        json -> {
          json.writeStartObject();
          RunJson.database(json, "from", job.from().name(), job.from().environment().toString());
          json.writeStringField("table", plan.table().name().toString());
          json.writeArrayFieldStart("rows");
          for (Object[][] one : shown) {
            json.writeStartObject();
            for (int i = 0; i < plan.columns().size(); i++) {
              TablePlan.ColumnPlan column = plan.columns().get(i);
              if (all || column.masked()) {
                json.writeObjectFieldStart(column.column().name());
                json.writeStringField("original", text(one[1][i]));
                json.writeStringField("becomes", text(one[2][i]));
                json.writeStringField("by", column.masked() ? column.by() : "kept");
                json.writeEndObject();
              }
            }
            json.writeEndObject();
          }
          json.writeEndArray();
          json.writeEndObject();
        });
  }
}
