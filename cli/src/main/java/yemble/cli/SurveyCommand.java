package yemble.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.mask.Category;
import yemble.core.mask.Kind;
import yemble.core.mask.Kinds;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.store.Reader;
import yemble.core.survey.Definitions;
import yemble.core.survey.Finding;
import yemble.core.survey.Merge;
import yemble.core.survey.Survey;

/** Finds personal data. */
@Command(
    name = "survey",
    description = {
      "Look for personal data: names of columns and a random sample of their values.",
      "Writes the register; what people decided in it stays. Prints no value of the data."
    },
    footer = {
      "%nExamples:",
      "  yemble survey                      all tables",
      "  yemble survey passenger            the evidence for one table's columns",
      "  yemble survey passenger.email      and for one column",
      "  yemble survey --rows 5000          look at more rows of each table"
    })
final class SurveyCommand implements Callable<Integer> {
  private static final int BAR = 24;
  @Mixin CommonOptions common;

  @Parameters(
      arity = "0..1",
      paramLabel = "TABLE[.COLUMN]",
      description = "show the evidence for these columns")
  String subject = "";

  @Option(
      names = "--from",
      paramLabel = "NAME",
      description = "the database, if several are read from")
  String from = "";

  @Option(
      names = "--rows",
      paramLabel = "N",
      defaultValue = "1000",
      description = "rows sampled of each table (default: ${DEFAULT-VALUE})")
  int rows;

  @Override
  public Integer call() {
    if (rows < 1) {
      throw Problem.usage("--rows takes a number of 1 or more").because("a sample needs rows");
    }
    Instant start = Instant.now();
    Project project = common.read();
    Database database = Source.of(project, from);
    Path file = project.directory().resolve(database.register());
    Register before = Files.exists(file) ? Register.read(file, database.register()) : null;
    List<Finding> findings;
    List<Definitions.Found> definitions;
    int tables;
    String description;
    try (Reader reader = Source.open(common, project, database)) {
      var progress = ProgressView.of(common.output);
      tables = reader.schema().tables().size();
      description = reader.description();
      progress.begin("surveying", tables);
      findings = Survey.of(reader, rows, table -> progress.advance(1));
      progress.end();
      definitions = Definitions.of(reader.schema());
      Source.keep(project, database, reader.schema());
    }
    Merge merge = Merge.of(before, findings, definitions, LocalDate.now().toString());
    merge.register().write(file);
    if (common.json) {
      json(database, findings, merge);
    } else if (subject.isEmpty()) {
      head(database, description, findings, tables, Duration.between(start, Instant.now()));
      overview(findings);
      changes(before, merge);
      undecided(findings, definitions, merge, database);
    } else {
      details(database, findings);
    }
    common.output.flush();
    return 0;
  }

  private void head(
      Database database, String description, List<Finding> findings, int tables, Duration took) {
    Output output = common.output;
    output.line(
        "Survey of " + output.paint(Output.Tone.STRONG, database.title()) + "  " + description);
    long columns = findings.stream().filter(f -> f.path().isEmpty()).count();
    long paths = findings.size() - columns;
    output.line(
        "  "
            + Output.counted(columns, "column")
            + (paths > 0 ? " and " + Output.counted(paths, "JSON path") : "")
            + " in "
            + Output.counted(tables, "table")
            + ", up to "
            + Output.number(rows)
            + " random rows of each, in "
            + Output.duration(took));
  }

  private void overview(List<Finding> findings) {
    Output output = common.output;
    Map<Category, Map<String, Integer>> found = new EnumMap<>(Category.class);
    for (Finding finding : findings) {
      Kind kind = Kinds.of(finding.kind()).orElse(null);
      if (kind != null) {
        found
            .computeIfAbsent(kind.category(), c -> new TreeMap<>())
            .merge(kind.name(), 1, Integer::sum);
      }
    }
    output.line();
    output.line(output.paint(Output.Tone.STRONG, "Found, by category and kind"));
    int most =
        found.values().stream()
            .mapToInt(k -> k.values().stream().mapToInt(Integer::intValue).sum())
            .max()
            .orElse(1);
    found.forEach(
        (category, kinds) -> {
          int sum = kinds.values().stream().mapToInt(Integer::intValue).sum();
          String bar = "█".repeat(Math.max(1, sum * BAR / most));
          List<String> named = new ArrayList<>();
          kinds.forEach((kind, count) -> named.add(count + " " + kind));
          output.line(
              String.format(
                  Locale.ROOT,
                  "  %-12s %3d  %-" + BAR + "s  %s",
                  category,
                  sum,
                  bar,
                  String.join(", ", named)));
        });
    long holding =
        findings.stream()
            .filter(f -> !f.kind().isEmpty())
            .map(f -> f.column().table())
            .distinct()
            .count();
    output.line("  in " + Output.counted(holding, "table"));
  }

  private void changes(Register before, Merge merge) {
    Output output = common.output;
    if (before == null) {
      return;
    }
    if (!merge.added().isEmpty()) {
      output.line();
      output.line("New since the last survey: " + String.join(", ", merge.added()));
    }
    if (!merge.removed().isEmpty()) {
      output.line();
      output.line("Gone, and taken out of the register: " + String.join(", ", merge.removed()));
    }
    if (!merge.contradicted().isEmpty()) {
      output.line();
      output.line(
          output.paint(
              Output.Tone.WARNING,
              "Decided otherwise than the data says: " + String.join(", ", merge.contradicted())));
    }
  }

  private void undecided(
      List<Finding> findings, List<Definitions.Found> definitions, Merge merge, Database database) {
    Output output = common.output;
    long open = RegisterView.open(merge.register());
    long all = merge.register().lines().size();
    output.line();
    if (open == 0) {
      output.line(output.paint(Output.Tone.GOOD, "Nothing is open.") + " Next: yemble run --dry");
      return;
    }
    output.line(
        output.paint(
                Output.Tone.STRONG,
                "Undecided: " + Output.number(open) + " of " + Output.number(all))
            + "  (the rest survey has decided, in "
            + database.register()
            + ")");
    TextTable table = new TextTable("column", "might be", ">sure", "evidence", "suggested");
    for (Finding finding : findings) {
      if (merge.register().line(finding.name()).decision() == Decision.UNDECIDED) {
        table.row(
            finding.name(),
            finding.kind(),
            finding.kind().isEmpty()
                ? ""
                : String.format(Locale.ROOT, "%.0f%%", 100 * finding.confidence()),
            finding.evidence(),
            finding.suggested() == Decision.UNDECIDED ? "?" : finding.suggested());
      }
    }
    for (Definitions.Found definition : definitions) {
      RegisterLine line = merge.register().line(definition.name());
      if (line.decision() == Decision.UNDECIDED) {
        table.row(definition.name(), definition.kind(), "", line.evidence(), "?");
      }
    }
    output.table(table);
    output.line();
    output.line(
        "Next: yemble register accept takes these suggestions; then, for each ?: yemble register mask|keep COLUMN");
  }

  private void details(Database database, List<Finding> findings) {
    Output output = common.output;
    List<Finding> wanted =
        findings.stream()
            .filter(
                f ->
                    f.name().equalsIgnoreCase(subject)
                        || f.column().toString().equalsIgnoreCase(subject)
                        || f.column().table().toString().equalsIgnoreCase(subject))
            .toList();
    if (wanted.isEmpty()) {
      throw Problem.usage("there is no table or column " + subject + " in " + database.title())
          .remedy(
              yemble.core.problem.Nearest.hint(
                  subject,
                  findings.stream()
                      .map(
                          f ->
                              subject.contains(".")
                                  ? f.column().toString()
                                  : f.column().table().toString())
                      .distinct()
                      .toList()));
    }
    output.line("Evidence in " + output.paint(Output.Tone.STRONG, database.title()));
    for (Finding finding : wanted) {
      output.line();
      output.line(
          "  "
              + output.paint(Output.Tone.STRONG, finding.name())
              + (finding.type().isEmpty() ? "" : "  " + finding.type()));
      String verdict =
          finding.kind().isEmpty()
              ? "no kind"
              : finding.kind()
                  + String.format(Locale.ROOT, ", %.0f%% sure", 100 * finding.confidence());
      output.line("    " + verdict + ": " + finding.evidence());
      finding.refusals().forEach(refusal -> output.line("    " + refusal));
      Kinds.of(finding.kind()).ifPresent(kind -> output.line("    mask: " + kind.becomes()));
      if (!finding.others().isEmpty()) {
        List<String> others = new ArrayList<>();
        finding
            .others()
            .forEach(
                o ->
                    others.add(
                        String.format(Locale.ROOT, "%s %.0f%%", o.kind(), 100 * o.confidence())));
        output.line("    might also be: " + String.join(", ", others));
      }
      output.line(
          "    "
              + (finding.sure() ? "survey decides: " : "undecided, suggested: ")
              + finding.suggested());
    }
  }

  private void json(Database database, List<Finding> findings, Merge merge) {
    common.output.json(
        json -> {
          json.writeStartObject();
          RunJson.database(json, "from", database.name(), database.environment().toString());
          json.writeNumberField("open", RegisterView.open(merge.register()));
          json.writeArrayFieldStart("columns");
          for (Finding finding : findings) {
            json.writeStartObject();
            json.writeStringField("column", finding.name());
            json.writeStringField("type", finding.type());
            json.writeStringField("kind", finding.kind());
            json.writeNumberField("confidence", Math.round(finding.confidence() * 1000) / 1000.0);
            json.writeStringField(
                "decision", merge.register().line(finding.name()).decision().toString());
            json.writeStringField("evidence", finding.evidence());
            json.writeNumberField("sampled", finding.sampled());
            json.writeNumberField("hits", finding.hits());
            json.writeEndObject();
          }
          json.writeEndArray();
          json.writeEndObject();
        });
  }
}
