package yemble.core.job;

import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import yemble.core.crossing.Crossing;
import yemble.core.crypto.SecretKey;
import yemble.core.mask.Masks;
import yemble.core.name.ColumnName;
import yemble.core.plan.ColumnRules;
import yemble.core.plan.Decisions;
import yemble.core.plan.Gate;
import yemble.core.plan.Limits;
import yemble.core.plan.Plan;
import yemble.core.plan.Rewriter;
import yemble.core.plan.TablePlan;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Job;
import yemble.core.project.KeyFile;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.project.Unfit;
import yemble.core.schema.Column;
import yemble.core.schema.Lookup;
import yemble.core.schema.Table;
import yemble.core.store.Engine;
import yemble.core.store.Reader;
import yemble.core.subset.Request;
import yemble.core.subset.Requests;
import yemble.core.subset.Selection;

/**
 * A job made ready: the source open, the register passed, the plan made, the rows selected. What
 * every command that looks at a job's rows begins with.
 */
public final class Preparation implements AutoCloseable {
  private final Project project;
  private final Job job;
  private final Database from;
  private final SecretKey key;
  private final Engine engine;
  private final Engine.Witness witness;
  private final Reader source;
  private Plan plan;
  private String rules = "";
  private Selection selection;
  private Duration selectionTime = Duration.ZERO;

  private final Masks.Terms terms;
  private final Masks masks;
  private final List<Masks> furtherMasks = new ArrayList<>();

  private Preparation(
      Project project,
      Job job,
      SecretKey key,
      Engine engine,
      Engine.Witness witness,
      Reader source) {
    this.engine = engine;
    this.project = project;
    this.job = job;
    this.from = project.database(job.from(), job.fromAt());
    this.key = key;
    this.witness = witness;
    this.source = source;
    this.terms =
        new Masks.Terms(
            key,
            SecretKey.random(),
            project.asOf(),
            project.conventions().kinds(),
            project.conventions().masks(),
            project.conventions().countries());
    this.masks = new Masks(terms);
  }

  /** What a job is prepared for. */
  public enum Purpose {
    /** To see which rows it would take: no register is needed. */
    SELECT,
    /** To look at rows one by one, original and masked; what is open is kept as it is. */
    PREVIEW,
    /** To look whether its rules hold: nothing may be open; no row is selected. */
    RULES,
    /** To mask its rows: nothing may be open. */
    MASK,
    /** To load it: the source is remembered as it is before it is opened, too. */
    LOAD
  }

  /**
   * Prepares a job.
   *
   * @param engines finds the engine of an address
   */
  public static Preparation of(
      Project project,
      Job job,
      Purpose purpose,
      Map<String, String> environment,
      Function<Engine.Address, Engine> engines,
      Progress progress) {
    SecretKey key = KeyFile.read(project.directory(), environment);
    Database from = project.database(job.from(), job.fromAt());
    Engine.Address address = address(project.directory(), from, environment);
    Engine engine = engines.apply(address);
    Register register =
        purpose == Purpose.SELECT
            ? new Register(List.of())
            : Register.read(project.directory().resolve(from.register()), from.register());
    Engine.Witness witness = purpose == Purpose.LOAD ? engine.witness(address) : null;
    Preparation preparation =
        new Preparation(project, job, key, engine, witness, engine.open(address));
    try {
      preparation.prepare(register, purpose, progress);
      return preparation;
    } catch (RuntimeException e) {
      preparation.close();
      throw e;
    }
  }

  /** Where a database of the project is. */
  public static Engine.Address address(
      Path directory, Database database, Map<String, String> environment) {
    return new Engine.Address(
        database.title(),
        database.url().value(directory, environment),
        directory,
        database.user().value(directory, environment),
        database.password().value(directory, environment),
        database.driver(),
        database.functions());
  }

  private void prepare(Register register, Purpose purpose, Progress progress) {
    Request request = Requests.of(project, job, source);
    Lookup lookup = new Lookup(source.schema());
    job.unfit().keySet().forEach(named -> lookup.column(named.name(), named.place().toString()));
    ColumnRules columnRules = ColumnRules.of(source.schema(), project.conventions());
    boolean strict = purpose != Purpose.SELECT && purpose != Purpose.PREVIEW;
    Gate.Terms terms = Gate.Terms.of(project, from);
    Decisions decisions =
        strict
            ? Gate.pass(source.schema(), register, terms)
            : Gate.read(source.schema(), register, terms);
    plan =
        strict
            ? Plan.of(source.schema(), request, decisions, columnRules)
            : Plan.loose(source.schema(), request, decisions, columnRules);
    rules = RulesDigest.of(this); // Before the source's values come into the plan.
    if (purpose != Purpose.SELECT) {
      plan.tables().forEach(this::checkConditions);
      plan = plan.withValues(source);
    }
    if (purpose == Purpose.PREVIEW || purpose == Purpose.RULES) {
      selection = Selection.none(request);
      return;
    }
    progress.begin("selecting rows", 0);
    long start = System.nanoTime();
    selection = Selection.of(source, request, key);
    selectionTime = Duration.ofNanos(System.nanoTime() - start);
    progress.end();
  }

  /** Asks the source whether it understands the conditions of masks. */
  private void checkConditions(TablePlan table) {
    for (TablePlan.ColumnPlan column : table.columns()) {
      if (column.masked() && !column.rule().when().isEmpty()) {
        try {
          source.check(table.table(), column.rule().when());
        } catch (Problem refused) {
          throw refused.atIfUnknown(column.rule().place().toString());
        }
      }
    }
  }

  /**
   * The columns in which a person accepts originals.
   *
   * @throws Problem of type USAGE if the project file names one that is not there
   */
  public Set<String> accepted() {
    Lookup lookup = new Lookup(source.schema());
    return project.accepted().stream()
        .map(named -> lookup.column(named.name(), named.place().toString()).toString())
        .collect(Collectors.toSet());
  }

  public Project project() {
    return project;
  }

  public Job job() {
    return job;
  }

  /** The source as the project has it. */
  public Database from() {
    return from;
  }

  public Reader source() {
    return source;
  }

  public Plan plan() {
    return plan;
  }

  public Selection selection() {
    return selection;
  }

  public SecretKey key() {
    return key;
  }

  /** Looks whether masked values meet the limits of their columns. */
  public Limits.Report look() {
    return Limits.of(source, plan, selection, masks);
  }

  /**
   * Whether masked values meet the limits of their columns.
   *
   * @throws Problem of type USAGE if they do not
   */
  Limits.Report limits() {
    Limits.Report report = look();
    if (!report.broken().isEmpty()) {
      throw Problem.of(
              Failure.MASKED_UNFIT,
              report.broken().size() == 1
                  ? "masked values would not fit their column"
                  : "masked values would not fit " + report.broken().size() + " columns")
          .at(Project.FILE)
          .because(report.broken())
          .remedy(
              "give the column a mask that fits, under columns: (for a key one that keeps values"
                  + " different: shape, pattern, digest); yemble preview --check looks again");
    }
    if (!report.unmasked().isEmpty()) {
      throw Problem.of(
              Failure.MASK_WITHOUT_EFFECT,
              report.unmasked().size() == 1
                  ? "a mask does not do what it is for"
                  : report.unmasked().size() + " masks do not do what they are for")
          .at(from.register())
          .because(report.unmasked())
          .remedy(
              "give the column another mask under columns:, like filler, fixed or clear, or, if"
                  + " nothing in it is personal, keep it with a reason");
    }
    return report;
  }

  /** What turns the rows of a table into those of the target; for one thread. */
  public Rewriter rewriter(TablePlan table) {
    return new Rewriter(source, plan, table, selection, masks);
  }

  /**
   * The same for one of several threads that work on a table at the same time.
   *
   * @param thread its number, from 0; 0 shares its masks with {@link #rewriter(TablePlan)}
   */
  public Rewriter rewriter(TablePlan table, int thread) {
    while (furtherMasks.size() < thread) {
      furtherMasks.add(new Masks(terms));
    }
    return new Rewriter(
        source, plan, table, selection, thread == 0 ? masks : furtherMasks.get(thread - 1));
  }

  /**
   * The way to a database of another engine; empty if it is of the source's own.
   *
   * @throws yemble.core.problem.Problem of type USAGE if a rule names no column
   */
  public Optional<Crossing> crossing(Engine into) {
    if (engine.family().equals(into.family()) && into.family().statements()) {
      return Optional.empty();
    }
    Lookup lookup = new Lookup(source.schema());
    Map<ColumnName, Unfit> rules = new HashMap<>();
    job.unfit()
        .forEach(
            (named, rule) -> {
              ColumnName name = lookup.column(named.name(), named.place().toString());
              rules.put(name, rule);
            });
    Crossing crossing = Crossing.of(source.outlineByValues(), into, rules);
    job.unfit()
        .forEach(
            (named, rule) -> {
              ColumnName name = lookup.column(named.name(), named.place().toString());
              Table table = source.schema().table(name.table());
              Column column = table.column(name.column()).orElseThrow();
              if (rule.rule() == Unfit.Rule.CLEAR
                  && !column.generated()
                  && (!column.nullable() || crossing.mustHold(table, column))) {
                throw named
                    .place()
                    .problem(Failure.RULE_UNFIT, name + " cannot become NULL")
                    .because("the column must hold a value in every row")
                    .remedy("write another value: " + name + ": { value: … }");
              }
              String misfit =
                  rule.rule() == Unfit.Rule.REPLACE ? crossing.misfit(name, rule.value()) : "";
              if (!misfit.isEmpty()) {
                throw named
                    .place()
                    .problem(
                        Failure.RULE_UNFIT, "the value for " + name + " does not fit it either")
                    .because(misfit)
                    .remedy("write one that the target's column can hold");
              }
            });
    return Optional.of(crossing);
  }

  /** What project, register and key ask for, as a digest: see {@link RulesDigest}. */
  public String rules() {
    return rules;
  }

  /** What the source was before it was opened; null if nobody asked for it. */
  public Engine.Witness witness() {
    return witness;
  }

  /** How long the selection took. */
  public Duration selectionTime() {
    return selectionTime;
  }

  /** The masks of the thread that works on this job; always the same ones. */
  public Masks masks() {
    return masks;
  }

  @Override
  public void close() {
    source.close();
  }
}
