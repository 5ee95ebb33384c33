package yemble.core.job;

import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import yemble.core.crossing.Crossing;
import yemble.core.mark.Comparison;
import yemble.core.mark.Loaded;
import yemble.core.mark.LoadedTable;
import yemble.core.mark.Mark;
import yemble.core.moment.Now;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.plan.Limits;
import yemble.core.plan.TablePlan;
import yemble.core.project.Database;
import yemble.core.schema.Schema;
import yemble.core.store.Engine;
import yemble.core.store.Load;
import yemble.core.store.Reader;
import yemble.core.store.Target;
import yemble.core.verify.Outcome;
import yemble.core.verify.Verifier;

/** Loads a prepared job into its target: all or nothing, verified before the commit. */
public final class Run implements AutoCloseable {
  private final Map<String, PinFilling.Filled> filled = new TreeMap<>();
  private Preparation job;
  private List<TokenStores.Kept> tokens = List.of();
  private final Database into;
  private final Target target;
  private final Stages stages;
  private final List<String> dropped;
  private final Limits.Report limits;
  private final OwnSteps steps;
  private final Function<Engine.Address, Engine> engines;
  private Merging merging;
  private long staging;

  private Run(
      Preparation job,
      Database into,
      Target target,
      Stages stages,
      List<String> dropped,
      Limits.Report limits,
      OwnSteps steps,
      Function<Engine.Address, Engine> engines) {
    this.steps = steps;
    this.engines = engines;
    this.limits = limits;
    this.stages = stages;
    this.job = job;
    this.into = into;
    this.target = target;
    this.dropped = dropped;
  }

  /**
   * Looks whether the job's target may be loaded, and whether it would take the masked values.
   *
   * @throws yemble.core.problem.Problem of type REFUSED if it may not, of type USAGE if masked
   *     values break a limit
   */
  public static Run into(
      Preparation job,
      OwnSteps steps,
      Map<String, String> environment,
      Function<Engine.Address, Engine> engines) {
    Database into = Guard.into(job.project(), job.job());
    Engine.Address address = Opened.address(job.project().directory(), into, environment);
    Engine engine = engines.apply(address);
    Guard.apart(job.project(), into, environment, engines);
    Target target = engine.target(address);
    try {
      Guard.check(job.from(), job.source().origin(), into, target);
      Stages stages = job.stages(engine);
      Schema schema = made(job, stages);
      List<String> dropped = Guard.replaceable(job.job(), job.from(), schema, into, target);
      Limits.Report limits = job.masked().limits(job.from().register());
      return new Run(job, into, target, stages, dropped, limits, steps, engines);
    } catch (RuntimeException e) {
      target.close();
      throw e;
    }
  }

  /** The target as the project has it. */
  public Database into() {
    return into;
  }

  public Target target() {
    return target;
  }

  /** What masked values must meet, as far as it was looked at. */
  public Limits.Report limits() {
    return limits;
  }

  /** The team's own steps. */
  public OwnSteps steps() {
    return steps;
  }

  /** The tables of the target that the load replaces. */
  public List<String> dropped() {
    return dropped;
  }

  /**
   * What came of a load.
   *
   * @param findings of the verification
   * @param rows loaded, by table
   * @param committed whether the target holds the load now; it does unless a check fails
   * @param loading how long copying and masking the rows and completing the structure took
   * @param verifying how long the proof took
   * @param steps of the team's own that were run
   */
  public record Result(
      List<Outcome> findings,
      Map<TableName, Long> rows,
      boolean committed,
      Duration loading,
      Duration verifying,
      List<StepRun> steps) {}

  /** What is made in the target; among its objects, what could not be carried. */
  public Schema schema() {
    return made(job, stages);
  }

  private static Schema made(Preparation job, Stages stages) {
    return job.part(stages.schema(job.plan().schema()), stages.comparison(Comparison.SAME));
  }

  /** The way to the target, if it is of another engine. */
  public Optional<Crossing> crossing() {
    return stages.crossing();
  }

  private Load begin() {
    return stages.into(target.load(schema(), into.structure(), into.grants(), dropped));
  }

  /**
   * Lets rows wait beside those of the target, if that is the job's way to load, and finds out what
   * would become of them; nothing of it is seen before the commit.
   *
   * @throws yemble.core.problem.Problem of type REFUSED if rows conflict, or keys cannot be given
   */
  public Optional<Merging> stage(Progress progress) {
    if (!job.job().loading().way().merges()) {
      return Optional.empty();
    }
    long start = System.nanoTime();
    merging =
        Merging.of(
            target,
            stages,
            job.job().loading(),
            job.source(),
            job.plan().schema(),
            job.plan().request(),
            job.from().title(),
            maskedColumns(),
            job.flows(),
            job.rows(),
            progress);
    staging = System.nanoTime() - start;
    return Optional.of(merging);
  }

  private Set<ColumnName> maskedColumns() {
    Set<ColumnName> masked = new HashSet<>();
    for (TablePlan table : job.plan().tables()) {
      for (TablePlan.ColumnPlan column : table.columns()) {
        if (column.masked()) {
          masked.add(table.table().name(column.column()));
        }
      }
    }
    return masked;
  }

  /** Merges what waits, verifies, and commits if everything holds. */
  private Result merge(String tool, String user, Progress progress) {
    long start = System.nanoTime();
    steps.commands();
    List<Outcome> findings = new ArrayList<>(merging.put(steps, progress));
    long merged = System.nanoTime();
    Reader waiting = merging.staged();
    Verifier verifier = job.verifier(waiting, stages.comparison(waiting), progress);
    findings.addAll(verify(verifier, progress));
    boolean holds = findings.stream().noneMatch(Outcome::fails);
    if (holds) {
      progress.begin(Phase.COMMIT, 0);
      List<LoadedTable> tables = merging.tables(verifier.digestKey());
      Loaded load = loaded(List.of(), verifier.digestKey(), tables, tool, user);
      String way = job.job().loading().way().toString();
      merging.commit(target.mark().orElse(Mark.NONE).with(load.beside(way), List.of()), steps);
      progress.end();
      steps.afterCommit(merging.load(), engines);
    }
    return new Result(
        findings,
        merging.rows(),
        holds,
        Duration.ofNanos(staging + merged - start),
        Duration.ofNanos(System.nanoTime() - merged),
        steps.ran());
  }

  /** Loads, verifies, and commits if everything holds. */
  public Result load(String tool, String user, Progress progress) {
    job = job.remembering(filled);
    tokens = job.keepTokens(progress);
    if (job.job().loading().way().merges()) {
      if (merging == null) {
        stage(progress);
      }
      return merge(tool, user, progress);
    }
    steps.commands();
    if (steps.hasBefore()) {
      target.before(steps::before);
    }
    try (Load load = begin()) {
      long start = System.nanoTime();
      Map<TableName, Long> rows = copy(load, progress);
      load.finish(schema(), job.source());
      long loaded = System.nanoTime();
      Verifier verifier = verifier(load, progress);
      List<Outcome> findings = verify(verifier, progress);
      long verified = System.nanoTime();
      boolean holds = findings.stream().noneMatch(Outcome::fails);
      if (holds) {
        Mark mark = mark(load, verifier, tool, user);
        steps.afterWithin(load);
        progress.begin(Phase.COMMIT, 0);
        load.commit(mark);
        progress.end();
        steps.afterCommit(load, engines);
      }
      return new Result(
          findings,
          rows,
          holds,
          Duration.ofNanos(loaded - start),
          Duration.ofNanos(verified - loaded),
          steps.ran());
    }
  }

  private Map<TableName, Long> copy(Load load, Progress progress) {
    progress.begin(Phase.LOADING, job.rows());
    Map<TableName, Long> rows = Pipe.pour(job.source(), job.flows(), load, progress::advance);
    progress.end();
    return rows;
  }

  /** What the target remembers: the load, and what of earlier ones it leaves there. */
  private Mark mark(Load load, Verifier verifier, String tool, String user) {
    return target
        .mark()
        .orElse(Mark.NONE)
        .with(
            loaded(load.made(), verifier.digestKey(), verifier.loadedTables(), tool, user),
            dropped);
  }

  private Loaded loaded(
      List<String> made, byte[] digestKey, List<LoadedTable> tables, String tool, String user) {
    return new Loaded(
            tool,
            Now.second(),
            user,
            job.job().name(),
            job.from().title(),
            job.key().fingerprint(),
            job.planned().rules(),
            job.rows(),
            made,
            digestKey,
            tables)
        .part(job.part());
  }

  private Verifier verifier(Load load, Progress progress) {
    Reader loaded = load.reader();
    return job.verifier(loaded, stages.comparison(loaded), progress);
  }

  private List<Outcome> verify(Verifier verifier, Progress progress) {
    progress.begin(Phase.VERIFYING, job.rows());
    List<Outcome> findings = new ArrayList<>(verifier.findings());
    job.sourceUntouched().ifPresent(findings::add);
    progress.end();
    return findings;
  }

  /** What was kept to lead back from tokens. */
  public List<TokenStores.Kept> tokens() {
    return tokens;
  }

  /** Who of the rows has an agreed stand-in, once they are loaded. */
  public List<PinCounts> pins() {
    return job.pinCounts(filled, table -> 0L);
  }

  @Override
  public void close() {
    if (merging != null) {
      merging.close();
    }
    target.close();
  }
}
