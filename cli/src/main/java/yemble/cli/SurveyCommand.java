package yemble.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.function.Predicate;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.file.WrittenFile.Readers;
import yemble.core.job.Phase;
import yemble.core.kind.TypeSort;
import yemble.core.moment.Now;
import yemble.core.plan.ColumnRules;
import yemble.core.plan.Gate;
import yemble.core.plan.RowAgreement;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.project.Conventions;
import yemble.core.project.Database;
import yemble.core.project.OutputFile;
import yemble.core.project.Project;
import yemble.core.project.ProjectLines;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.schema.Link;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.subset.Requests;
import yemble.core.subset.Rule;
import yemble.core.survey.Definitions;
import yemble.core.survey.Finding;
import yemble.core.survey.Merge;
import yemble.core.survey.SchemaDrift;
import yemble.core.survey.Survey;
import yemble.core.survey.SurveyState;
import yemble.core.survey.Various;
import yemble.core.wording.Sentence;

/** Finds personal data. */
@Command(
    name = "survey",
    description = {
      "Look for personal data: names of columns and a random sample of their values.",
      "Writes the register; what people decided in it stays. Prints no value of the data",
      "unless --show-values asks for it."
    },
    footer = {
      "%nExamples:",
      "  yemble survey                      all tables",
      "  yemble survey passenger            the evidence for one table's columns",
      "  yemble survey passenger.email      and for one column, as the last survey found it",
      "  yemble survey passenger.email --show-values",
      "  yemble survey --rows 5000          look at more rows of each table",
      "  yemble survey --page survey.html   a map of it all, for the browser"
    })
final class SurveyCommand implements Callable<Integer> {
  private static final int MOST_EXAMPLES = 3;
  private static final String USUAL_ROWS = "1000";

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
      paramLabel = "N|all",
      description = "rows sampled of each table (default: " + USUAL_ROWS + ")")
  String rows = "";

  @Option(
      names = "--time",
      paramLabel = "SECONDS",
      defaultValue = "60",
      description = "the longest that one table's sample may take (default: ${DEFAULT-VALUE})")
  int seconds;

  @Option(
      names = "--page",
      paramLabel = "FILE.html",
      description = "write a map of what was found, in all surveyed databases of the project")
  Path page;

  @Option(names = "--overwrite", description = "the file of --page may take another one's place")
  boolean overwrite;

  @Option(
      names = "--show-values",
      description = "show some values of the columns that are named, on screen alone")
  boolean showValues;

  @Override
  public Integer call() {
    int most = rows();
    if (seconds < 1) {
      throw Problem.of(Failure.OPTION, "--time takes a number of seconds, 1 or more")
          .because("a sample needs time");
    }
    if (showValues && subject.isEmpty()) {
      throw Problem.of(Failure.CHOICE_MISSING, "--show-values needs a table or column")
          .because("values are shown of what somebody asks for, never of everything")
          .remedy("yemble survey passenger.email --show-values");
    }
    Project project = common.read();
    Database database = Source.of(project, from);
    Path state = project.directory().resolve(Project.STATE);
    if (!subject.isEmpty()) {
      details(project, database, state, most);
      return 0;
    }
    everything(project, database, state, most);
    return 0;
  }

  private int rows() {
    if (rows.isEmpty()) {
      return Integer.parseInt(USUAL_ROWS);
    }
    if (rows.equals("all")) {
      return Integer.MAX_VALUE;
    }
    String digits = rows.replaceAll("[_,]", "");
    if (!digits.matches("[1-9][0-9]{0,8}")) {
      throw Problem.of(Failure.OPTION, "--rows takes a number of 1 or more, or all")
          .because("a sample needs rows");
    }
    return Integer.parseInt(digits);
  }

  private void everything(Project project, Database database, Path state, int most) {
    Instant start = Now.moment();
    Optional<OutputFile> output =
        Optional.ofNullable(page)
            .map(named -> OutputFile.of(project, named, overwrite, common.environment()));
    Path file = project.directory().resolve(database.register());
    Register before = Files.exists(file) ? Register.read(file, database.register()) : null;
    Conventions conventions = project.conventions();
    SurveyState kept =
        SurveyState.of(
            state,
            database.name(),
            "rows " + most + "\nas of " + project.asOf() + "\n" + conventions.print());
    List<Survey.TableResult> results;
    List<Definitions.Found> definitions;
    String description;
    Schema schema;
    try (Reader reader = Source.open(common, project, database)) {
      compareShapes(project, database, before, reader.schema());
      description = reader.description();
      results = survey(project, database, reader, most, kept, 0, table -> true);
      schema = reader.schema();
      definitions = Definitions.of(schema);
      Source.keep(project, database, reader.schema());
    }
    List<Finding> findings = results.stream().flatMap(r -> r.findings().stream()).toList();
    Merge merge =
        Merge.of(
            before,
            findings,
            definitions,
            Now.day().toString(),
            conventions.people(),
            conventions.kinds());
    merge.register().write(file);
    List<String> rules = new ArrayList<>(agreeing(project, database, schema, merge.register()));
    rules.addAll(sorted(project, schema, merge.register(), findings));
    String unwritten = "";
    try {
      ProjectLines.add(project.directory(), ProjectLines.COLUMNS, rules);
    } catch (Problem notThere) {
      unwritten = notThere.what();
    }
    ProjectSchema.write(common.project);
    kept.finish(results);
    SurveyView view =
        new SurveyView(common.output, conventions.kinds(), new RegisterView(project, database));
    if (common.json) {
      view.json(database, results, merge, rules);
    } else {
      view.head(
          database,
          description,
          results,
          most,
          Duration.between(start, Now.moment()),
          kept.resumed());
      view.overview(results);
      view.changes(before, merge);
      view.agreeing(rules, unwritten);
      view.undecided(findings, definitions, merge, database);
    }
    if (output.isPresent()) {
      output.get().write(SurveyPage.of(project, state), Readers.USUAL);
      common.output.message(
          "Wrote " + page + (common.json ? "" : ": open it in a browser; it needs no network."));
    }
    common.output.flush();
  }

  /**
   * Lines of the project file by which the columns of a row agree, where it has none of them. None
   * if several databases of other shapes are read from, which would not know each other's columns.
   */
  private static List<String> agreeing(
      Project project, Database database, Schema schema, Register register) {
    boolean several =
        project.jobs().values().stream()
            .map(job -> project.databases().get(job.from()))
            .anyMatch(from -> from != null && !from.register().equals(database.register()));
    if (several) {
      return List.of();
    }
    try {
      List<Link> links = Requests.links(project, schema).stream().map(Rule::link).toList();
      return RowAgreement.of(
              schema,
              links,
              Gate.read(schema, register, Gate.Terms.of(project, database)),
              ColumnRules.of(schema, project.conventions()))
          .stream()
          .map(one -> ProjectLines.column(one.column().toString(), rule(one)))
          .toList();
    } catch (Problem ofTheProject) {
      return List.of(); // What is wrong with its links and rules is said where they are needed.
    }
  }

  /** Lines for masked columns that hold another thing in each row, where the project has none. */
  private static List<String> sorted(
      Project project, Schema schema, Register register, List<Finding> findings) {
    List<String> lines = new ArrayList<>();
    ColumnRules rules;
    try {
      rules = ColumnRules.of(schema, project.conventions());
    } catch (Problem ofTheProject) {
      return List.of();
    }
    for (Finding finding : findings) {
      Optional<Various.Sorts> sorts = Various.Sorts.of(finding);
      boolean wanted =
          sorts.isPresent()
              && !rules.speakOf(finding.column())
              && register.lines().stream()
                  .anyMatch(
                      line ->
                          line.column().equals(finding.name())
                              && line.decision() == RegisterLine.Decision.MASK
                              && line.kind().equals(finding.kind()));
      if (wanted) {
        String selector = sorts.get().selector();
        boolean numbers =
            schema
                .table(finding.column().table())
                .column(selector)
                .filter(column -> TypeSort.of(column.type()) == TypeSort.NUMBER)
                .isPresent();
        lines.add(
            ProjectLines.column(
                finding.column().toString(),
                ProjectLines.cases(selector, numbers, sorts.get().kinds())));
      }
    }
    return lines;
  }

  /** A proposed rule, as the project file has it between its braces. */
  private static String rule(RowAgreement.Proposed proposed) {
    if (proposed instanceof RowAgreement.KeyedBy keyed) {
      return "keyed-by: " + keyed.by();
    }
    return proposed instanceof RowAgreement.Together together
        ? "shift: { days: 30, together: ["
            + together.column().column()
            + ", "
            + together.other()
            + "] }"
        : "follow-names: true";
  }

  private List<Survey.TableResult> survey(
      Project project,
      Database database,
      Reader reader,
      int most,
      SurveyState kept,
      int examples,
      Predicate<Table> tables) {
    var progress = ProgressView.of(common.output);
    progress.begin(Phase.SURVEYING, reader.schema().tables().stream().filter(tables).count());
    try {
      return Survey.of(
          reader,
          () -> Source.open(common, project, database),
          database.name(),
          project.conventions(),
          new Survey.Options(
              most,
              Duration.ofSeconds(seconds),
              Math.max(1, Math.min(8, Runtime.getRuntime().availableProcessors())),
              examples,
              project.asOf(),
              tables),
          kept,
          new Survey.Progress() {
            @Override
            public void table(Table table) {
              progress.advance(1);
            }

            @Override
            public void unread(Table table, Problem why) {
              common.output.message(
                  common.output.paint(Output.Tone.WARNING, "warning: ")
                      + table.name()
                      + " cannot be read, and its columns stay undecided: "
                      + why.why()
                      + "; "
                      + why.remedy());
            }
          });
    } finally {
      progress.end();
    }
  }

  /** A register that several databases share belongs to the first; the others must be like it. */
  private static void compareShapes(
      Project project, Database database, Register register, Schema schema) {
    Optional<Database> owner =
        project.databases().values().stream()
            .filter(d -> d.register().equals(database.register()))
            .findFirst();
    if (register == null || owner.isEmpty() || owner.get().equals(database)) {
      return;
    }
    boolean reads =
        project.jobs().values().stream().anyMatch(j -> j.from().equals(owner.get().name()));
    List<Sentence> differences = SchemaDrift.differences(schema, register);
    if (reads && !differences.isEmpty()) {
      throw Problem.of(
              Failure.SCHEMA_OTHER,
              database.title() + " has another shape than " + owner.get().title())
          .at(database.register())
          .because(differences)
          .remedy("give it a register of its own in " + Project.FILE + ": register: FILE.csv");
    }
  }

  private void details(Project project, Database database, Path state, int most) {
    Optional<SurveyState.Kept> last =
        showValues || !rows.isEmpty() ? Optional.empty() : SurveyState.last(state, database.name());
    SurveyView view =
        new SurveyView(
            common.output, project.conventions().kinds(), new RegisterView(project, database));
    List<Survey.TableResult> results;
    String when;
    if (last.isPresent()) {
      results = last.get().tables();
      when = "as surveyed on " + SurveyView.moment(last.get().at());
    } else {
      try (Reader reader = Source.open(common, project, database)) {
        String table = table(reader.schema(), database);
        results =
            survey(
                project,
                database,
                reader,
                most,
                SurveyState.none(),
                showValues ? MOST_EXAMPLES : 0,
                t -> t.name().toString().equals(table));
      }
      when = "looked at just now";
    }
    List<Finding> all = results.stream().flatMap(r -> r.findings().stream()).toList();
    List<Finding> wanted = all.stream().filter(this::isWanted).toList();
    if (wanted.isEmpty()) {
      throw unknown(
          database,
          all.stream()
              .map(
                  f ->
                      subject.contains(".") ? f.column().toString() : f.column().table().toString())
              .distinct()
              .toList());
    }
    Path file = project.directory().resolve(database.register());
    Register register = Files.exists(file) ? Register.read(file, database.register()) : null;
    if (common.json) {
      view.json(database, wanted, register);
    } else {
      view.evidence(database, wanted, all, register, when);
    }
    common.output.flush();
  }

  private String table(Schema schema, Database database) {
    String lower = subject.toLowerCase(Locale.ROOT);
    return schema.tables().stream()
        .map(t -> t.name().toString())
        .filter(
            t ->
                lower.equals(t.toLowerCase(Locale.ROOT))
                    || lower.startsWith(t.toLowerCase(Locale.ROOT) + "."))
        .reduce((first, second) -> second.length() > first.length() ? second : first)
        .orElseThrow(
            () ->
                unknown(database, schema.tables().stream().map(t -> t.name().toString()).toList()));
  }

  private Problem unknown(Database database, List<String> known) {
    return Problem.of(
            Failure.NOTHING_FOUND,
            "there is no table or column " + subject + " in " + database.title())
        .remedy(Nearest.hint(subject, known));
  }

  private boolean isWanted(Finding finding) {
    return finding.name().equalsIgnoreCase(subject)
        || finding.column().toString().equalsIgnoreCase(subject)
        || finding.column().table().toString().equalsIgnoreCase(subject);
  }
}
