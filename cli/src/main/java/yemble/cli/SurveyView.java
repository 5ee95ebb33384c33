package yemble.cli;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import yemble.core.kind.Category;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.project.Database;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.survey.Definitions;
import yemble.core.survey.Finding;
import yemble.core.survey.Merge;
import yemble.core.survey.Survey;

/** Shows what a survey has found: first all of it, then column by column. */
final class SurveyView {
  private static final int BAR = 20;
  private static final int TABLES_NAMED = 5;
  private static final int LABEL = 10;

  /** Less likely kinds are not shown beside the one that is. */
  private static final double WORTH_SAYING = 0.2;

  private final Output output;
  private final Kinds kinds;
  private final RegisterView view;

  SurveyView(Output output, Kinds kinds, RegisterView view) {
    this.view = view;
    this.output = output;
    this.kinds = kinds;
  }

  static String moment(Instant at) {
    return DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm", Locale.ROOT)
        .withZone(ZoneId.systemDefault())
        .format(at);
  }

  void head(
      Database database,
      String description,
      List<Survey.TableResult> results,
      int rows,
      Duration took,
      int resumed) {
    output.line(
        "Survey of " + output.paint(Output.Tone.STRONG, database.title()) + "  " + description);
    long paths =
        results.stream()
            .flatMap(r -> r.findings().stream())
            .filter(f -> !f.path().isEmpty())
            .count();
    long columns = results.stream().mapToLong(r -> r.findings().size()).sum() - paths;
    output.line(
        "  "
            + Output.counted(columns, "column")
            + (paths > 0 ? " and " + Output.counted(paths, "JSON path") : "")
            + " in "
            + Output.counted(results.size(), "table")
            + ", "
            + (rows == Integer.MAX_VALUE ? "all" : "up to " + Output.number(rows) + " random")
            + " rows of each, in "
            + Output.duration(took));
    if (resumed > 0) {
      output.line(
          "  "
              + Output.counted(resumed, "table")
              + " taken over from a survey that was cut off before");
    }
    List<Survey.TableResult> cut = results.stream().filter(r -> !r.complete()).toList();
    if (!cut.isEmpty()) {
      List<String> names =
          cut.stream().map(r -> r.table() + " (" + Output.counted(r.rows(), "row") + ")").toList();
      output.line(
          output.paint(
              Output.Tone.WARNING,
              "  Took too long, so that fewer rows were looked at: " + String.join(", ", names)));
    }
  }

  void overview(List<Survey.TableResult> results) {
    Map<Category, Map<String, Integer>> found = new EnumMap<>(Category.class);
    Map<String, Integer> tables = new LinkedHashMap<>();
    for (Survey.TableResult result : results) {
      for (Finding finding : result.findings()) {
        Kind kind = kinds.of(finding.kind()).orElse(null);
        if (kind != null) {
          found
              .computeIfAbsent(kind.category(), c -> new TreeMap<>())
              .merge(kind.name(), 1, Integer::sum);
          tables.merge(result.table(), 1, Integer::sum);
        }
      }
    }
    output.line();
    int all = tables.values().stream().mapToInt(Integer::intValue).sum();
    output.line(
        output.paint(Output.Tone.STRONG, "Found: " + Output.counted(all, "personal column"))
            + " in "
            + tables.size()
            + " of "
            + Output.counted(results.size(), "table"));
    int most =
        found.values().stream()
            .mapToInt(k -> k.values().stream().mapToInt(Integer::intValue).sum())
            .max()
            .orElse(1);
    found.forEach((category, counts) -> category(category, counts, most));
    if (tables.size() > 1) {
      List<String> named =
          tables.entrySet().stream()
              .sorted(Map.Entry.<String, Integer>comparingByValue().reversed())
              .limit(TABLES_NAMED)
              .map(e -> e.getKey() + " " + e.getValue())
              .toList();
      output.line("  most of them in " + String.join(", ", named));
    }
  }

  private void category(Category category, Map<String, Integer> counts, int most) {
    int sum = counts.values().stream().mapToInt(Integer::intValue).sum();
    List<String> named = new ArrayList<>();
    counts.entrySet().stream()
        .sorted(Map.Entry.<String, Integer>comparingByValue().reversed())
        .forEach(e -> named.add(e.getValue() + " " + e.getKey()));
    String head =
        String.format(
            Locale.ROOT,
            "  %-12s %4d  %-" + BAR + "s  ",
            category,
            sum,
            "█".repeat(Math.max(1, sum * BAR / most)));
    boolean first = true;
    for (String line : output.wrapped(String.join(", ", named), head.length())) {
      output.line((first ? head : " ".repeat(head.length())) + line);
      first = false;
    }
  }

  void changes(Register before, Merge merge) {
    if (before == null) {
      return;
    }
    list("New since the last survey: ", merge.added(), Output.Tone.PLAIN);
    list("Gone, and taken out of the register: ", merge.removed(), Output.Tone.PLAIN);
    list("Of another type than when it was decided: ", merge.retyped(), Output.Tone.WARNING);
    list("Decided otherwise than the data says now: ", merge.contradicted(), Output.Tone.WARNING);
  }

  /**
   * Which lines were written into the project file, so that rows agree.
   *
   * @param unwritten why they were not; empty if they were
   */
  void agreeing(List<String> rules, String unwritten) {
    if (rules.isEmpty()) {
      return;
    }
    output.line();
    output.line(
        (unwritten.isEmpty()
                ? "Written into " + Project.FILE
                : "Worth a line each below columns: in " + Project.FILE + " (" + unwritten + ")")
            + ", so that what belongs together in a row agrees:");
    rules.forEach(rule -> output.line("  " + rule));
  }

  private void list(String title, List<String> columns, Output.Tone tone) {
    if (columns.isEmpty()) {
      return;
    }
    output.line();
    for (String line : output.wrapped(title + String.join(", ", columns), 2)) {
      output.line(output.paint(tone, line));
    }
  }

  void undecided(
      List<Finding> findings, List<Definitions.Found> definitions, Merge merge, Database database) {
    List<String> retyped =
        merge.retyped().stream().filter(name -> !view.isOpen(merge.register().line(name))).toList();
    long open = view.open(merge.register()) + retyped.size();
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
            + "  (the rest is decided, in "
            + database.register()
            + ")");
    TextTable table = new TextTable("column", "might be", ">sure", "~evidence", "suggested");
    for (Finding finding : findings) {
      RegisterLine line = merge.register().line(finding.name());
      if (retyped.contains(finding.name())) {
        table.row(
            finding.name(),
            line.kind(),
            "",
            "decided as " + line.type() + ", now " + finding.type(),
            line.decision() + "?");
      } else if (view.isOpen(line)) {
        table.row(
            finding.name(),
            finding.kind(),
            finding.kind().isEmpty() ? "" : percent(finding.confidence()),
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
        "Next: yemble register review asks for each of them; yemble register accept takes the"
            + " suggestions.");
  }

  private static String percent(double share) {
    return String.format(Locale.ROOT, "%.0f%%", 100 * share);
  }

  /** The evidence for some columns. */
  void evidence(
      Database database, List<Finding> wanted, List<Finding> all, Register register, String when) {
    output.line("Evidence in " + output.paint(Output.Tone.STRONG, database.title()) + ", " + when);
    for (Finding finding : wanted) {
      output.line();
      output.line(
          "  "
              + output.paint(Output.Tone.STRONG, finding.name())
              + (finding.type().isEmpty() ? "" : "  " + finding.type()));
      evidence(finding, register == null ? null : register.line(finding.name()));
      if (wanted.size() == 1) {
        neighbours(finding, all);
      }
    }
  }

  /** The evidence for one column; {@code line} is the register's, or null. */
  void evidence(Finding finding, RegisterLine line) {
    String verdict =
        finding.isPersonal()
            ? finding.kind() + ", " + percent(finding.confidence()) + " sure"
            : finding.confidence() > 0
                ? "nothing personal, " + percent(finding.confidence()) + " sure"
                : "nobody knows";
    field("looks like", verdict);
    field(
        "because",
        finding.reasons().stream().map(Object::toString).collect(Collectors.joining("; ")));
    for (Finding.Refusal refusal : finding.refusals()) {
      field("refused", Output.number(refusal.values()) + ": " + refusal.why());
    }
    kinds
        .of(finding.kind())
        .ifPresent(kind -> field("mask", kind.mask().isEmpty() ? "none yet" : kind.becomes()));
    List<String> others = new ArrayList<>();
    finding.others().stream()
        .filter(other -> other.confidence() >= WORTH_SAYING)
        .forEach(other -> others.add(other.kind() + " " + percent(other.confidence())));
    if (!others.isEmpty()) {
      field("else", String.join(", ", others));
    }
    if (!finding.examples().accepted().isEmpty()) {
      field("such as", String.join(" · ", clipped(finding.examples().accepted())));
    }
    if (!finding.examples().refused().isEmpty()) {
      field("but not", String.join(" · ", clipped(finding.examples().refused())));
    }
    field("decided", decided(finding, line));
  }

  private static List<String> clipped(List<String> values) {
    return values.stream().map(v -> Width.cut(v, 60)).toList();
  }

  private static String decided(Finding finding, RegisterLine line) {
    if (line != null && line.decision() != Decision.UNDECIDED) {
      return line.decision()
          + (line.kind().isEmpty() || line.kind().equals(finding.kind())
              ? ""
              : " as " + line.kind())
          + " by "
          + line.by()
          + " on "
          + line.on()
          + (line.reason().isEmpty() ? "" : ": " + line.reason());
    }
    return finding.suggested() == Decision.UNDECIDED
        ? "not yet; somebody has to look at it"
        : (finding.sure() && line == null ? "" : "not yet; suggested: ") + finding.suggested();
  }

  private void field(String label, String text) {
    boolean first = true;
    for (String line : output.wrapped(text, LABEL + 6)) {
      output.line(
          "    "
              + output.paint(
                  Output.Tone.FAINT,
                  String.format(Locale.ROOT, "%-" + LABEL + "s", first ? label : ""))
              + "  "
              + line);
      first = false;
    }
  }

  private void neighbours(Finding finding, List<Finding> all) {
    List<String> beside =
        all.stream()
            .filter(f -> f.column().table().equals(finding.column().table()))
            .filter(f -> f.path().isEmpty() && f.isPersonal() && !f.name().equals(finding.name()))
            .map(f -> f.column().column() + " (" + f.kind() + ")")
            .toList();
    if (!beside.isEmpty()) {
      field("beside", String.join(", ", beside));
    }
  }

  void json(Database database, List<Survey.TableResult> results, Merge merge, List<String> rules) {
    List<Object> columns = new ArrayList<>();
    for (Survey.TableResult result : results) {
      for (Finding finding : result.findings()) {
        columns.add(column(finding, merge.register().line(finding.name())));
      }
    }
    output.json(
        Json.object(
            "from",
            Json.database(database),
            "open",
            view.open(merge.register()),
            "added",
            merge.added(),
            "removed",
            merge.removed(),
            "retyped",
            merge.retyped(),
            "contradicted",
            merge.contradicted(),
            "rules",
            rules,
            "tables",
            Json.list(
                results,
                result ->
                    Json.object(
                        "table", result.table(),
                        "rows", result.rows(),
                        "complete", result.complete(),
                        "sampling_ms", result.sampling().toMillis())),
            "columns",
            columns));
  }

  void json(Database database, List<Finding> findings, Register register) {
    output.json(
        Json.object(
            "from",
            Json.database(database),
            "columns",
            Json.list(
                findings,
                finding ->
                    column(finding, register == null ? null : register.line(finding.name())))));
  }

  private static Object column(Finding finding, RegisterLine line) {
    return Json.object(
        "column",
        finding.name(),
        "type",
        Json.text(finding.type()),
        "kind",
        Json.text(finding.kind()),
        "confidence",
        Json.share(finding.confidence()),
        "decision",
        (line == null ? finding.decision() : line.decision()).toString(),
        "evidence",
        finding.evidence(),
        "sampled",
        finding.sampled(),
        "hits",
        finding.hits(),
        "refused",
        Json.list(
            finding.refusals(),
            refusal -> Json.object("why", refusal.why(), "values", refusal.values())),
        "others",
        Json.list(
            finding.others(),
            other ->
                Json.object("kind", other.kind(), "confidence", Json.share(other.confidence()))));
  }
}
